import { expect, test } from "vitest";
import type { Item } from "../src/api/client";
import { changedParts, itemOf, partsInWords, valuesOf, withMine } from "../src/rooms/buy/itemValues";

const LEEK = {
  id: "leek",
  name: "Leeks",
  kind: "vegetable",
  measures: { stick: "180 g" },
  preparations: [],
  cooking: [],
  allergens: [],
  origin: [],
  composition: {},
} as unknown as Item;

test("an untouched form has changed nothing", () => {
  expect(changedParts(LEEK, itemOf(LEEK, valuesOf(LEEK)))).toEqual([]);
});

test("two hands on different parts keep both", () => {
  const theirs = { ...LEEK, density: "0.6" };
  const mine = itemOf(LEEK, { ...valuesOf(LEEK), allergens: "celery, mustard" });
  const changed = changedParts(LEEK, mine);
  expect(changed).toEqual(["allergens"]);
  const both = withMine(theirs, mine, changed);
  expect([both.density, both.allergens]).toEqual(["0.6", ["celery", "mustard"]]);
});

test("a label that was read meanwhile is something they changed", () => {
  const read = { ...LEEK, allergen_check: { on: "2026-11-26", by: "the kitchen" } } as unknown as Item;
  expect(changedParts(LEEK, read)).toEqual(["allergen_check"]);
  const mine = itemOf(LEEK, { ...valuesOf(LEEK), density: "0.6" });
  const both = withMine(read, mine, changedParts(LEEK, mine));
  expect([both.density, both.allergen_check?.on]).toEqual(["0.6", "2026-11-26"]);
});

test("what was changed is named as a person would", () => {
  expect(partsInWords(["measures", "density", "cooking"])).toBe(
    "its weights, its density and its ways of cooking",
  );
});
