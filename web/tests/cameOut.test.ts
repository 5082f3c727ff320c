// What came out, as cooks of any kitchen type it: a mass, litres, or a depth in centimetres or inches.

import { afterEach, expect, test } from "vitest";
import { depth } from "../src/parts/format";
import { takeWay, type Way } from "../src/parts/way";
import { cameOutOf, cameOutText } from "../src/rooms/cook/cameOut";

const METRIC: Way = { date_style: "day_first", decimal_sign: "point", shown_units: "metric" };
const ON = "2026-11-24";
afterEach(() => void takeWay(METRIC));

test("a depth is centimetres, whatever it is typed in, and anything else a quantity", () => {
  takeWay(METRIC);
  for (const [typed, depth_cm] of [
    ["6.4 cm", "6.4"],
    ["6,4 cm", "6.4"],
    ["64 mm", "6.4"],
    ["2.5 in", "6.35"],
    ['3"', "7.62"],
  ] as const)
    expect(cameOutOf(typed, ON)).toEqual({ on: ON, quantity: null, depth_cm });
  for (const typed of ["9.1 l", "9 kg", "6 c", "1,234 cm", "1.2.3 cm", ". cm"])
    expect(cameOutOf(typed, ON)).toEqual({ on: ON, quantity: typed, depth_cm: null });
  expect(cameOutOf("  ", ON)).toBeNull();
});

test("it stands in the field as the kitchen writes it", () => {
  takeWay({ ...METRIC, decimal_sign: "comma" });
  expect(cameOutText(cameOutOf("6,45 cm", ON))).toBe("6,45 cm");
  takeWay({ ...METRIC, shown_units: "us" });
  expect(cameOutText(cameOutOf("2.25 in", ON))).toBe("2.25 in");
  expect(depth("16.26")).toBe("6.4 in");
  expect(cameOutText(cameOutOf("9.5 qt", ON))).toBe("9.5 qt");
  expect(cameOutText(null)).toBe("");
});
