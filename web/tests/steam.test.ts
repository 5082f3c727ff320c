// A stage cooked in liquid steams once it is said how long; what somebody said of it stays.

import { describe, expect, it } from "vitest";
import { KEEP, newStage } from "../src/parts/blank";
import { withMinutes } from "../src/rooms/cook/steam";

const pot = newStage("pot", undefined);

describe("minutes of a stage", () => {
  it("begin what goes up, by the vessel, as hot as it is cooked", () => {
    const found = withMinutes(pot, "30");
    expect([found.minutes, found.heat, found.change.rule, found.change.by]).toEqual([
      "30",
      "simmer",
      "evaporate",
      "vessel",
    ]);
    expect(withMinutes({ ...pot, method: "poach" }, "10").heat).toBe("hold");
  });
  it("change nothing that was said before, nor of what is no pot", () => {
    const said = { ...pot, change: { ...KEEP, rule: "yield" as const, yield: "0.9" } };
    expect(withMinutes(said, "30").change).toEqual(said.change);
    expect(withMinutes({ ...pot, minutes: "20" }, "30").change).toEqual(KEEP);
    expect(withMinutes({ ...pot, method: "roast" }, "30").change).toEqual(KEEP);
    expect(withMinutes({ ...pot, method: "pressure" }, "30").change).toEqual(KEEP);
    expect(withMinutes(pot, "").change).toEqual(KEEP);
    expect(withMinutes({ ...pot, temperature_c: "80" }, "30").heat).toBeNull();
  });
});
