import { afterEach, describe, expect, test } from "vitest";
import {
  aKilo,
  aLitre,
  day,
  dayOf,
  inUnit,
  kilos,
  mass,
  money,
  percent,
  perKilo,
  perLitre,
  volume,
} from "../src/parts/format";
import { eachText, inField, outOfField, readDay, takeWay, type Way, writtenDay } from "../src/parts/way";
import { storage } from "./storage";

const USUAL: Way = { date_style: "day_first", decimal_sign: "point", shown_units: "metric" };
afterEach(() => {
  takeWay(USUAL);
  storage.clear();
});

// NIST Handbook 44, appendix C: a pound is 453.59237 g, an ounce a sixteenth of it, a US quart 946.352946 ml.
describe("in the US", () => {
  test("mass is in ounces and pounds, volume in fluid ounces and quarts", () => {
    takeWay({ ...USUAL, shown_units: "us" });
    expect([mass("28.349523125"), mass("453.59237"), mass("1000"), mass("7")]).toEqual([
      "1 oz",
      "1.00 lb",
      "2.20 lb",
      "0.25 oz",
    ]);
    expect([kilos("22.6796185"), mass("-453.59237")]).toEqual(["50.00 lb", "−1.00 lb"]);
    expect([volume("946.352946"), volume("29.5735295625"), volume("3785.411784")]).toEqual([
      "1.0 qt",
      "1 fl oz",
      "4.0 qt",
    ]);
  });

  test("what a kilo costs is said of a pound, and no cent is lost on the way", () => {
    takeWay({ ...USUAL, shown_units: "us" });
    expect([aKilo(), aLitre()]).toEqual(["a pound", "a quart"]);
    // 2.2046226218487757 kg in a pound's price: one of 1.00 a pound.
    expect(money(perKilo("2.204622621848775807"))).toBe("1.00");
    expect(money(perKilo("11.40"))).toBe("5.17");
    expect(money(perLitre("2.09"))).toBe("1.98");
    expect(inUnit("11.40", "money/kg", "USD")).toBe("5.17 a pound");
    expect(inUnit("2.5", "kg", "USD")).toBe("5.51 lb");
    expect([perKilo(null), perLitre(undefined)]).toEqual([null, undefined]);
  });
});

describe("the kitchen's way", () => {
  test("decimals and days", () => {
    takeWay({ date_style: "year_first", decimal_sign: "comma", shown_units: "metric" });
    expect([money("11.4"), percent("0.305", 1), mass("2500")]).toEqual(["11,40", "30,5%", "2,50 kg"]);
    expect([day("2026-11-24"), dayOf("2025-11-24", "2026-01-01")]).toEqual(["11-24", "2025-11-24"]);
    takeWay({ ...USUAL, date_style: "month_first" });
    expect([day("2026-11-24"), writtenDay("2026-11-04", true)]).toEqual(["Nov 24", "Nov 4, 2026"]);
  });

  test("fields show the kitchen's sign, and what is typed in them is taken as such", () => {
    expect([inField("3.80"), outOfField("3,80")]).toEqual(["3.80", "3,80"]);
    takeWay({ ...USUAL, decimal_sign: "comma" });
    expect([inField("3.80"), inField("2.5 kg"), inField("-0.5")]).toEqual(["3,80", "2.5 kg", "-0,5"]);
    expect([outOfField("3,80"), outOfField("3."), outOfField("1.234,50"), outOfField("28 %")]).toEqual([
      "3.80",
      "3.",
      "1.234,50",
      "28 %",
    ]);
    const form = { name: "Leeks", yields: [{ yield: "0.44", low: null, note: "2,5 or so" }] };
    const shown = eachText(form, inField);
    expect(shown.yields[0]).toEqual({ yield: "0,44", low: null, note: "2,5 or so" });
    expect(eachText(shown, outOfField)).toEqual(form);
  });

  test("it is remembered for the next time, before the kitchen has said it", () => {
    expect(takeWay(undefined)).toBe("day_first point metric");
    takeWay({ ...USUAL, shown_units: "us" });
    expect(JSON.parse(storage.getItem("potrel:way") ?? "")).toEqual({ ...USUAL, shown_units: "us" });
  });
});

describe("a day that is typed", () => {
  const TODAY = "2026-11-26";
  test.each<[Way["date_style"], string, string | null]>([
    ["day_first", "24.11.", "2026-11-24"],
    ["day_first", "3/4/26", "2026-04-03"],
    ["day_first", "24 nov", "2026-11-24"],
    ["day_first", "24 November 2025", "2025-11-24"],
    ["day_first", "2026-11-04", "2026-11-04"],
    ["day_first", "2026/11/4", "2026-11-04"],
    ["month_first", "3/4/26", "2026-03-04"],
    ["month_first", "Nov 4, 2026", "2026-11-04"],
    ["month_first", "11/24", "2026-11-24"],
    ["year_first", "26-11-04", "2026-11-04"],
    ["year_first", "11-24", "2026-11-24"],
    ["day_first", "11/24/2026", null],
    ["day_first", "31.11.2026", null],
    ["day_first", "tomorrow", null],
    ["day_first", "24", null],
  ])("%s: %s", (date_style, typed, day) => {
    takeWay({ ...USUAL, date_style });
    expect(readDay(typed, TODAY)).toBe(day);
  });

  test("without a year it is the one that is near", () => {
    expect(readDay("28 Dec", "2027-01-05")).toBe("2026-12-28");
    expect(readDay("5 Jan", "2026-12-28")).toBe("2026-01-05");
  });
});
