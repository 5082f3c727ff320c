import { beforeEach, expect, test } from "vitest";
import { finder } from "../src/parts/find";
import { blankSheet, draftOf, passed, SHEETS_HERE, sheetFrom, stopped } from "../src/rooms/trim/sheet";
import { storage } from "./storage";

beforeEach(() => storage.clear());

test("the watch adds to what was typed, and stops at a tenth of a minute", () => {
  const sheet = { ...blankSheet("trim", "leek", "sliced", "2026-11-24"), minutes: "1,5", started: 0 };
  expect(passed(sheet, 90_000)).toBe(3);
  expect([stopped(sheet, 92_000).minutes, stopped(sheet, 92_000).started]).toEqual(["3", null]);
  expect(stopped({ ...sheet, started: null }, 5)).toMatchObject({ minutes: "1,5" });
  expect("started" in draftOf(sheet)).toBe(false);
});

test("a sheet that was kept is read with what is odd in it left out", () => {
  const blank = blankSheet("trim", "leek", "sliced", "2026-11-24");
  const kept = { before: "2 kg", after: 7, parts: [{ name: "green" }], started: "now" };
  expect(sheetFrom(kept, blank)).toEqual({
    ...blank,
    before: "2 kg",
    parts: [{ name: "green", mass: "", value_per_kg: "", use: "" }],
  });
  expect(sheetFrom("nothing", blank)).toBe(blank);
});

test("its copy in the browser carries its version, and one of before is read", () => {
  SHEETS_HERE.keep("a", { sheet: { before: "2 kg" }, seen: null, sent: false });
  expect(SHEETS_HERE.kept("a")).toEqual({ sheet: { before: "2 kg" }, seen: null, sent: false });
  storage.setItem("potrel:sheet:b", JSON.stringify({ sheet: {}, seen: "then", sent: true }));
  expect(SHEETS_HERE.kept("b")?.seen).toBe("then");
  storage.setItem("potrel:sheet:c", JSON.stringify({ sheet: 7, seen: "then", sent: true }));
  expect(SHEETS_HERE.kept("c")).toBeNull();
  SHEETS_HERE.forget("a");
  expect(SHEETS_HERE.kept("a")).toBeNull();
});

test("a filter finds all its words in any order and case", () => {
  const found = finder("  SOUP leek ");
  expect([found("Leek and potato soup"), found("Leek"), finder("")("anything")]).toEqual([true, false, true]);
});
