import { describe, expect, test } from "vitest";
import {
  day,
  dayOf,
  idFor,
  inUnit,
  kilos,
  mass,
  minutes,
  money,
  percent,
  rounded,
  signed,
  thickness,
  trimmed,
  volume,
} from "../src/parts/format";

/** Half up by whole numbers alone: what any rounding of a decimal text has to agree with. */
function halfUp(text: string, places: number): string {
  const negative = text.startsWith("-");
  const [whole = "0", part = ""] = text.replace("-", "").split(".");
  const digits = BigInt(whole + part.padEnd(places + 1, "0").slice(0, places + 1));
  const scaled = ((digits + 5n) / 10n).toString().padStart(places + 1, "0");
  const out = places ? `${scaled.slice(0, -places)}.${scaled.slice(-places)}` : scaled;
  return negative && /[1-9]/.test(out) ? `−${out}` : out;
}

describe("figures as they are shown", () => {
  test("halves go away from nothing, on the digits themselves", () => {
    expect(rounded("2.105", 2)).toBe("2.11");
    expect(rounded("-2.105", 2)).toBe("−2.11");
    expect(rounded("1.005", 2)).toBe("1.01");
    expect(rounded("123456789012.345", 2)).toBe("123456789012.35");
    expect(rounded("-0.001", 2)).toBe("0.00");
    expect(trimmed("4.500", 3)).toBe("4.5");
  });

  test("every text of five places agrees with whole numbers", () => {
    let seed = 7;
    const dice = (most: number) => {
      seed = (seed * 1103515245 + 12345) % 2147483648;
      return seed % most;
    };
    for (let turn = 0; turn < 5000; turn++) {
      const text = `${dice(2) ? "-" : ""}${dice(100000)}.${String(dice(100000)).padStart(5, "0")}`;
      const places = dice(5);
      expect(rounded(text, places), text).toBe(halfUp(text, places));
    }
  });

  test("a share is 28.5%, and never 28.4 by a float", () => {
    expect(percent("0.285", 1)).toBe("28.5%");
    // 0.285 * 100 is 28.499999999999996 for a float.
    expect(percent("0.285")).toBe("29%");
    expect(percent("0.145")).toBe("15%");
    expect(percent("-0.0375", 1)).toBe("−3.8%");
    expect(percent(null)).toBe("—");
  });

  test("money has the places of its currency", () => {
    expect(money("2.675", "EUR")).toBe("2.68");
    expect(money("1234.5", "JPY")).toBe("1235");
    expect(money("1.2345", "KWD")).toBe("1.235");
    expect(money("1", "no such")).toBe("1.00");
    expect(signed("0.10")).toBe("+0.10");
    expect(signed("-0.10")).toBe("−0.10");
  });

  test("masses and volumes as a cook reads them", () => {
    expect(mass("7.25")).toBe("7.3 g");
    expect(mass("999.4")).toBe("999 g");
    expect(mass("1025")).toBe("1.03 kg");
    expect(mass("-1500")).toBe("−1.50 kg");
    expect(kilos("0.25")).toBe("250 g");
    expect(kilos("12.005")).toBe("12.01 kg");
    expect(volume("350")).toBe("350 ml");
    expect(volume("12550")).toBe("12.6 l");
    expect(minutes("4.5")).toBe("5 min");
  });

  test("a working names the unit of each number", () => {
    expect(inUnit("4.6667", "kg", "EUR")).toBe("4.667 kg");
    expect(inUnit("30", "s", "EUR")).toBe("30 s");
    expect(inUnit("1.25", "kWh", "EUR")).toBe("1.25 kWh");
    expect(inUnit("18", "money/h", "EUR")).toBe("18.00 an hour");
    expect(inUnit("0.3", "money/kWh", "EUR")).toBe("0.30 a kWh");
    expect(inUnit("0.0042", "money", "EUR")).toBe("0.0042");
    expect(inUnit("0.285", "share", "EUR")).toBe("28.5%");
    expect(inUnit("39.5", "", "EUR")).toBe("39.5");
    expect(inUnit(null, "kg", "EUR")).toBe("—");
  });

  test("days", () => {
    expect(day("2026-11-24")).toBe("24 Nov");
    expect(dayOf("2025-11-24", "2026-11-24")).toBe("24 Nov 2025");
    expect(dayOf("2026-01-02", "2026-11-24")).toBe("2 Jan");
  });
});

test("a thickness of which something is missing says at least", () => {
  expect([thickness("34.4", false), thickness("34.4", true), thickness(null, true)]).toEqual([
    "34 g/l",
    "at least 34 g/l",
    "—",
  ]);
});

test("an id is made of a name, unlike those in use", () => {
  expect(idFor("Crème fraîche, 30%", () => false)).toBe("creme-fraiche-30");
  expect(idFor("Leek", (id) => id === "leek")).toBe("leek-2");
  expect(idFor("汤", () => false)).toBe("new");
});
