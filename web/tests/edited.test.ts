// An edit of a whole thing that the server has: kept as text, over what is there now.

import { expect, test } from "vitest";
import "./storage";
import { editOf, keptAs } from "../src/parts/useEdited";

const BASE = { rate: "0.20", days: ["Mon"] };
const MINE = { ...BASE, rate: "0.25" };
const THEIRS = { ...BASE, days: ["Mon", "Tue"] };

test("nothing edited is what the server has", () => {
  const found = editOf("", BASE);
  expect([found.value, found.base, found.changed, found.stale, found.done]).toEqual([
    BASE,
    BASE,
    false,
    false,
    false,
  ]);
});

test("an edit comes back as it was kept, and one that changes nothing is none", () => {
  const found = editOf(keptAs(MINE, BASE), BASE);
  expect([found.value, found.changed, found.stale]).toEqual([MINE, true, false]);
  expect(keptAs(BASE, { ...BASE })).toBe("");
});

test("another's save makes it stale, and what it began with stays what it began with", () => {
  const found = editOf(keptAs(MINE, BASE), THEIRS);
  expect([found.value, found.base, found.changed, found.stale]).toEqual([MINE, BASE, true, true]);
});

test("what stands there as it was edited is done, whoever saved it", () => {
  const found = editOf(keptAs(MINE, BASE), MINE);
  expect([found.changed, found.stale, found.done]).toEqual([false, false, true]);
});

test("a text that is no edit takes nothing away", () => {
  for (const text of ["{", "null", "7", '{"value": 1}', '{"base": 1}']) {
    expect(editOf(text, BASE), text).toMatchObject({ value: BASE, changed: false });
  }
});
