import { expect, test } from "vitest";
import { inUnitOf } from "../src/parts/QuantityInput";

test("a bare number means the unit that the field showed", () => {
  for (const [text, shown, meant] of [
    ["650", "300 ml", "650 ml"],
    ["4,5", "3 kg", "4,5 kg"],
    ["1 1/2", "2 bunch", "1 1/2 bunch"],
    ["½", "2 tsp", "½ tsp"],
    ["2 l", "300 ml", "2 l"],
    ["650", "", "650"],
    ["", "300 ml", ""],
    ["a few", "300 ml", "a few"],
    ["12", "10 lb 8 oz", "12"],
  ] as const)
    expect(inUnitOf(text, shown)).toBe(meant);
});
