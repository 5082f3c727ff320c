import { beforeEach, describe, expect, test } from "vitest";
import type { Recipe } from "../src/api/client";
import { newLine, newRecipe } from "../src/parts/blank";
import { tabName } from "../src/parts/tab";
import {
  addLine,
  addStage,
  changeLine,
  type DraftState,
  draftReducer,
  dropDraft,
  isChanged,
  keepDraft,
  keptDraft,
  type LinePlace,
  moveLine,
  moveStage,
  moveStageUp,
  otherDrafts,
  removeLine,
  removeStage,
  startOf,
  stepped,
} from "../src/rooms/cook/draft";
import { storage } from "./storage";

const MINE = `potrel:draft:soup@${tabName()}`;
const SOUP = newRecipe("soup", "Soup");
const rename = (name: string) => ({
  type: "edit" as const,
  change: (recipe: typeof SOUP) => ({ ...recipe, name }),
  field: "name",
});
const names = (state: DraftState) => [state.recipe.name, state.past.length, state.future.length];

describe("a draft", () => {
  test("typing on in one field is one step to undo", () => {
    let state = startOf(SOUP, 3);
    state = draftReducer(draftReducer(state, rename("Soup o")), rename("Soup of peas"));
    expect(names(state)).toEqual(["Soup of peas", 1, 0]);
    state = draftReducer(state, { type: "undo" });
    expect(names(state)).toEqual(["Soup", 0, 1]);
    expect(isChanged(state)).toBe(false);
    expect(draftReducer(state, { type: "undo" })).toBe(state);
    state = draftReducer(state, { type: "redo" });
    expect(names(state)).toEqual(["Soup of peas", 1, 0]);
    expect(draftReducer(state, { type: "redo" })).toBe(state);
  });

  test("another field is another step, and forgets what was undone", () => {
    let state = draftReducer(startOf(SOUP, 1), rename("A"));
    state = draftReducer(state, { type: "undo" });
    state = draftReducer(state, { type: "edit", change: addStage });
    expect(names(state)).toEqual(["Soup", 1, 0]);
    expect(draftReducer(state, { type: "edit", change: (recipe) => recipe })).toBe(state);
  });

  test("what is typed while a save is under way stays a change over it", () => {
    const sent = draftReducer(startOf(SOUP, 1), rename("Sent"));
    const typed = draftReducer(sent, rename("Sent and more"));
    const saved = draftReducer(typed, { type: "saved", recipe: sent.recipe, revision: 2 });
    expect([saved.recipe.name, saved.base.name, saved.revision, isChanged(saved)]).toEqual([
      "Sent and more",
      "Sent",
      2,
      true,
    ]);
  });

  test("theirs is taken with a way back; mine goes on over theirs", () => {
    const mine = draftReducer(startOf(SOUP, 1), rename("Mine"));
    const theirs = { ...SOUP, name: "Theirs" };
    const taken = draftReducer(mine, { type: "take", recipe: theirs, revision: 2 });
    expect(draftReducer(taken, { type: "undo" }).recipe.name).toBe("Mine");
    const over = draftReducer(mine, { type: "rebase", base: theirs, revision: 2 });
    expect([over.recipe.name, over.revision, isChanged(over)]).toEqual(["Mine", 2, true]);
  });
});

describe("stages and lines", () => {
  const three = addStage(addStage(SOUP));

  test("a new stage takes all of the last", () => {
    expect(three.stages.map((one) => one.id)).toEqual(["pot", "stage-2", "stage-3"]);
    expect(three.stages[2]?.from).toEqual([{ stage: "stage-2", share: "1" }]);
  });

  test("what took from a stage that goes takes from where that took", () => {
    const two = removeStage(1)(three);
    expect(two.stages.map((one) => [one.id, one.from])).toEqual([
      ["pot", []],
      ["stage-3", [{ stage: "pot", share: "1" }]],
    ]);
    expect(removeStage(9)(three)).toBe(three);
  });

  test("a stage that moves up takes its place in the run of the pot", () => {
    const moved = moveStageUp(2)(three);
    expect(moved.stages.map((one) => [one.id, one.from[0]?.stage])).toEqual([
      ["pot", undefined],
      ["stage-3", "pot"],
      ["stage-2", "stage-3"],
    ]);
    expect(moveStageUp(0)(three)).toBe(three);
  });

  test("lines are added, changed, moved and taken off", () => {
    const both = addLine(
      0,
      newLine("2 kg", { item: "leek" }),
    )(addLine(0, newLine("1 l", { item: "water" }))(SOUP));
    const items = (recipe: typeof SOUP) =>
      recipe.stages[0]?.lines.map((line) => `${line.quantity} ${line.item}`);
    expect(items(both)).toEqual(["1 l water", "2 kg leek"]);
    const [first, second] = [0, 1].map((line) => ({ stage: 0, line })) as [LinePlace, LinePlace];
    expect(items(moveLine(second, first)(both))).toEqual(["2 kg leek", "1 l water"]);
    expect(items(moveLine({ stage: 0, line: 7 }, first)(both))).toEqual(items(both));
    expect(items(changeLine(0, 0, { quantity: "3 l" })(both))).toEqual(["3 l water", "2 kg leek"]);
    expect(items(removeLine(0, 0)(both))).toEqual(["2 kg leek"]);
  });
});

describe("over the edge of a stage", () => {
  const three = addStage(addStage(SOUP));
  const told = (recipe: Recipe) => recipe.stages.map((stage) => stage.lines.map((line) => line.item));
  const full = addLine(
    1,
    newLine("1 kg", { item: "c" }),
  )(addLine(0, newLine("1 kg", { item: "b" }))(addLine(0, newLine("1 kg", { item: "a" }))(three)));

  test("a line steps into the stage beside it, and nowhere past the first and the last", () => {
    expect(stepped(full, { stage: 0, line: 0 }, 1)).toEqual({ stage: 0, line: 1 });
    expect(stepped(full, { stage: 0, line: 1 }, 1)).toEqual({ stage: 1, line: 0 });
    expect(stepped(full, { stage: 1, line: 0 }, -1)).toEqual({ stage: 0, line: 2 });
    expect(stepped(full, { stage: 0, line: 0 }, -1)).toBeNull();
    expect(stepped(full, { stage: 2, line: 0 }, 1)).toBeNull();
  });

  test("it is taken from one and put into the other, under a name that nobody has there", () => {
    expect(told(moveLine({ stage: 0, line: 1 }, { stage: 1, line: 0 })(full))).toEqual([
      ["a"],
      ["b", "c"],
      [],
    ]);
    const named = changeLine(1, 0, { id: "x" })(changeLine(0, 0, { id: "x" })(full));
    const moved = moveLine({ stage: 0, line: 0 }, { stage: 1, line: 1 })(named);
    expect(moved.stages[1]?.lines.map((line) => [line.item, line.id])).toEqual([
      ["c", "x"],
      ["a", null],
    ]);
  });

  test("a stage goes to any place, by steps", () => {
    const ids = (recipe: Recipe) => recipe.stages.map((one) => [one.id, one.from[0]?.stage]);
    expect(ids(moveStage(2, 0)(three))).toEqual([
      ["stage-3", undefined],
      ["pot", "stage-3"],
      ["stage-2", "pot"],
    ]);
    expect(moveStage(0, 2)(moveStage(2, 0)(three))).toEqual(three);
    expect(moveStage(1, 1)(three)).toBe(three);
  });
});

describe("a draft that is kept", () => {
  beforeEach(() => storage.clear());
  const typed = draftReducer(startOf(SOUP, 4), rename("Half typed"));

  test("comes back after a reload, and goes when nothing is changed any more", () => {
    keepDraft(typed);
    const kept = keptDraft("soup");
    expect([kept?.recipe.name, kept?.base.name, kept?.revision, kept?.past.length]).toEqual([
      "Half typed",
      "Soup",
      4,
      1,
    ]);
    keepDraft(startOf(SOUP, 4));
    expect(keptDraft("soup")).toBeNull();
  });

  test("carries the version of its form, and one from before there were versions is read", () => {
    keepDraft(typed);
    expect(JSON.parse(storage.getItem(MINE) ?? "").version).toBe(2);
    const { recipe, base, revision } = typed;
    storage.setItem(MINE, JSON.stringify({ recipe, base, revision }));
    expect(keptDraft("soup")?.recipe.name).toBe("Half typed");
  });

  test("of before a flame could be unsaid, has no flame turned up on purpose", () => {
    const full = (power_share: string) => ({
      ...SOUP,
      name: "Half typed",
      stages: SOUP.stages.map((stage) => ({ ...stage, power_share })),
    });
    const put = (version: number, power_share: string) =>
      storage.setItem(
        MINE,
        JSON.stringify({ version, value: { recipe: full(power_share), base: SOUP, revision: 4 } }),
      );
    const flame = () => keptDraft("soup")?.recipe.stages[0]?.power_share;
    put(1, "1");
    expect(flame()).toBeNull();
    put(1, "0.5");
    expect(flame()).toBe("0.5");
    put(2, "1");
    expect(flame()).toBe("1");
  });

  test("is this tab's own: those of others, and one of before there were tabs, are told apart", () => {
    keepDraft(typed);
    const { recipe, base, revision } = typed;
    storage.setItem("potrel:draft:soup", JSON.stringify({ recipe, base, revision }));
    storage.setItem(
      "potrel:draft:soup@other",
      JSON.stringify({ version: 1, value: { recipe, base, revision } }),
    );
    storage.setItem(
      "potrel:draft:soup-2@other",
      JSON.stringify({ version: 1, value: { recipe, base, revision } }),
    );
    expect(otherDrafts("soup").map(([name]) => name)).toEqual(["soup", "soup@other"]);
    dropDraft("soup@other");
    expect(otherDrafts("soup").map(([name]) => name)).toEqual(["soup"]);
    expect(keptDraft("soup")?.recipe.name).toBe("Half typed");
  });

  test("is put aside, not thrown away, where it cannot be read", () => {
    const broken = [
      "{",
      "null",
      JSON.stringify({ version: 1, value: { recipe: { id: "soup" }, base: SOUP, revision: 1 } }),
      JSON.stringify({ version: 1, value: { recipe: { ...SOUP, stages: [{}] }, base: SOUP, revision: 1 } }),
      JSON.stringify({ version: 3, value: { recipe: SOUP, base: SOUP, revision: 1 } }),
    ];
    for (const text of broken) {
      storage.setItem(MINE, text);
      expect(keptDraft("soup"), text).toBeNull();
      const aside = [...Array(storage.length).keys()].map((at) => storage.key(at) ?? "");
      const name = aside.filter((key) => key.startsWith("potrel:aside:")).pop() ?? "";
      expect(name).toMatch(/^potrel:aside:\d+:draft:soup/);
      expect(storage.getItem(name)).toBe(text);
      storage.removeItem(name);
      expect(storage.getItem(MINE)).toBeNull();
    }
  });
});
