import { expect, test } from "vitest";
import { newLine, newRecipe, newServing, newTakeOut } from "../src/parts/blank";
import { addLine, changeStage } from "../src/rooms/cook/draft";
import { changeTakeOuts, isKeptForGarnish, keepForGarnish, underId } from "../src/rooms/cook/garnish";

const BITS = { ...newTakeOut(), name: "crisp bits", value_per_kg: "3" };
const POT = changeStage(0, (stage) => ({ ...stage, take_out: [BITS] }))({
  ...addLine(0, newLine("1 kg", { item: "bacon" }))(newRecipe("chowder", "Chowder")),
  servings: [newServing("bowl", "Bowl", "300 ml"), newServing("cup", "Cup", "180 ml")],
});
const KEPT = keepForGarnish(0, 0, "12 g")(POT);
const garnish = (recipe: typeof POT) =>
  recipe.servings.map((one) => one.garnish.map((line) => line.byproduct));

test("what is kept goes onto every serving, at what it cost", () => {
  expect(KEPT.servings[0]?.garnish[0]).toMatchObject({
    quantity: "12 g",
    recipe: "chowder",
    byproduct: "crisp bits",
  });
  expect(KEPT.stages[0]?.take_out[0]).toMatchObject({ value_per_kg: "0", use: "garnish" });
  expect([isKeptForGarnish(POT, "crisp bits"), isKeptForGarnish(KEPT, "crisp bits")]).toEqual([false, true]);
});

test("its lines take its new name, and go with it", () => {
  expect(garnish(changeTakeOuts(0, [{ ...BITS, name: "lardons" }])(KEPT))).toEqual([
    ["lardons"],
    ["lardons"],
  ]);
  expect(garnish(changeTakeOuts(0, [])(KEPT))).toEqual([[], []]);
  expect(garnish(changeTakeOuts(0, [newTakeOut(), BITS])(KEPT))).toEqual([["crisp bits"], ["crisp bits"]]);
});

test("a pot that is duplicated keeps its own", () => {
  expect(underId(KEPT, "another").servings[0]?.garnish[0]?.recipe).toBe("another");
});
