// Numbers moved on a pot: how they stand in a field, in the units of the kitchen, and as they are sent.

import { beforeEach, describe, expect, it } from "vitest";
import "./storage";
import type { Movable, Settings } from "../src/api/client";
import { takeWay } from "../src/parts/way";
import { inItsField, inWordsOf, movesOf, sentValue, slide, unitOf } from "../src/rooms/cook/tried";

const PRICE: Movable = {
  sort: "price",
  of: "leek",
  part: "",
  name: "price of Leeks",
  unit: "money/kg",
  stated: "1.92",
  low: "0",
  high: "19.2",
  owner: "kitchen",
};
const YIELD: Movable = {
  ...PRICE,
  sort: "yield",
  part: "cut",
  name: "yield of Leeks",
  unit: "share",
  stated: "0.44",
  high: "1",
};
const metric = { date_style: "day_first", decimal_sign: "point", shown_units: "metric" } as Settings;

describe("a number moved", () => {
  beforeEach(() => void takeWay(metric));

  it("stands in its field as cooks say it, and is sent as it is reckoned", () => {
    expect(inItsField("1.92", PRICE)).toBe("1.92");
    expect(inItsField("0.44", YIELD)).toBe("44");
    expect(sentValue({ of: YIELD, text: "50" })).toBe("0.5");
    expect(unitOf(YIELD)).toBe("%");
  });

  it("is a price of a pound where pounds are shown", () => {
    takeWay({ ...metric, shown_units: "us" });
    expect(inItsField("1.92", PRICE)).toBe("0.870897");
    expect(Number(sentValue({ of: PRICE, text: "1" }))).toBeCloseTo(2.20462, 5);
    expect(unitOf(PRICE)).toBe("a pound");
  });

  it("takes a comma where the kitchen writes one", () => {
    takeWay({ ...metric, decimal_sign: "comma" });
    expect(inItsField("1.92", PRICE)).toBe("1,92");
    expect(sentValue({ of: PRICE, text: "2,40" })).toBe("2.4");
  });

  it("is not sent while it is no number", () => {
    expect(sentValue({ of: PRICE, text: "a lot" })).toBeNull();
    expect(movesOf([{ of: PRICE, text: "" }])).toEqual([]);
    expect(movesOf([{ of: PRICE, text: "2" }])).toEqual([
      { sort: "price", of: "leek", part: "", value: "2" },
    ]);
  });

  it("slides from half to twice what it is, within what can be", () => {
    expect(slide(PRICE)).toMatchObject({ min: 0.96, max: 3.84 });
    expect(slide(YIELD)).toMatchObject({ min: 0.22, max: 0.88 });
    expect(slide({ ...YIELD, stated: "0.8" }).max).toBe(1);
  });

  it("is told in words", () => {
    expect(inWordsOf([{ of: PRICE, text: "2.4" }], "EUR")).toBe(
      "price of Leeks 2.40 a kilo instead of 1.92 a kilo",
    );
  });
});
