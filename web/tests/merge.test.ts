import { expect, test } from "vitest";
import { newLine, newRecipe, newStage } from "../src/parts/blank";
import { addLine, changeLine, changeServing, changeStage, removeLine } from "../src/rooms/cook/draft";
import { threeWay } from "../src/rooms/cook/merge";

const line = (item: string, quantity: string) => newLine(quantity, { item });
const BASE = [line("leek", "2 kg"), line("onion", "1 kg"), line("water", "5 l")].reduce(
  (recipe, one) => addLine(0, one)(recipe),
  newRecipe("soup", "Soup"),
);
const lines = (recipe: typeof BASE) => recipe.stages[0]?.lines.map((one) => `${one.quantity} ${one.item}`);

test("lines that only one of us changed both hold", () => {
  const mine = changeLine(0, 0, { quantity: "3 kg" })(BASE);
  const theirs = addLine(0, line("bay", "2 leaf"))(removeLine(0, 1)(BASE));
  const { recipe, both, taken } = threeWay(BASE, mine, theirs);
  expect(lines(recipe)).toEqual(["3 kg leek", "5 l water", "2 leaf bay"]);
  expect(both).toEqual([]);
  expect(taken).toHaveLength(2);
});

test("what both changed is mine, and told", () => {
  const mine = changeLine(0, 0, { quantity: "3 kg" })(BASE);
  const theirs = changeLine(0, 0, { quantity: "4 kg" })(BASE);
  const { recipe, both } = threeWay(BASE, mine, theirs);
  expect(lines(recipe)?.[0]).toBe("3 kg leek");
  expect(both).toEqual(["pot: 4 kg leek"]);
});

test("what one took out and the other changed is told", () => {
  const gone = removeLine(0, 0)(BASE);
  const changed = changeLine(0, 0, { quantity: "4 kg" })(BASE);
  expect(lines(threeWay(BASE, gone, changed).recipe)).toEqual(["1 kg onion", "5 l water"]);
  expect(threeWay(BASE, gone, changed).both).toHaveLength(1);
  expect(lines(threeWay(BASE, changed, gone).recipe)?.[0]).toBe("4 kg leek");
  expect(threeWay(BASE, changed, gone).both).toHaveLength(1);
});

test("stages and servings by their parts", () => {
  const mine = changeStage(0, (one) => ({ ...one, minutes: "40" }))(BASE);
  const theirs = changeServing(0, { price: "4.20" })(changeStage(0, (one) => ({ ...one, lid: "on" }))(BASE));
  const { recipe, both } = threeWay(BASE, mine, theirs);
  expect([recipe.stages[0]?.minutes, recipe.stages[0]?.lid, recipe.servings[0]?.price]).toEqual([
    "40",
    "on",
    "4.20",
  ]);
  expect(both).toEqual([]);
});

test("what both added under one name is mine, and theirs is told", () => {
  const add = (quantity: string, minutes: string) => (recipe: typeof BASE) => ({
    ...addLine(0, line("bay", quantity))(recipe),
    stages: [
      ...addLine(0, line("bay", quantity))(recipe).stages,
      { ...newStage("finish", undefined), minutes },
    ],
  });
  const { recipe, both } = threeWay(BASE, add("2 leaf", "5")(BASE), add("4 leaf", "10")(BASE));
  expect([lines(recipe)?.at(-1), recipe.stages[1]?.minutes]).toEqual(["2 leaf bay", "5"]);
  expect(both).toEqual(["pot: 4 leaf bay", "finish: minutes"]);
  const alike = threeWay(BASE, add("2 leaf", "5")(BASE), add("2 leaf", "5")(BASE));
  expect([alike.both, alike.taken]).toEqual([[], []]);
});
