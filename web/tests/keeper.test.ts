// What was typed and not sent, through a new version of its form, and in a browser that holds odd things.

import { beforeEach, expect, test } from "vitest";
import "./storage";
import * as v from "valibot";
import { keptNames } from "../src/parts/browserStore";
import { keeper } from "../src/parts/keeper";
import { storage } from "./storage";

const note = v.object({ text: v.string() });
const first = keeper("note", 1, note);
/** Whose values look as those of before, and mean something else. */
const alike = keeper("note", 2, note);
/** Version 2 calls it otherwise. */
const second = keeper("note", 2, v.object({ words: v.string() }), (value, version) =>
  version === 1 ? { words: (value as { text: string }).text } : value,
);

beforeEach(() => storage.clear());

test("a value of an earlier version is brought up, not lost", () => {
  first.keep("a", { text: "typed" });
  expect(second.kept("a")).toEqual({ words: "typed" });
});

test("one of a later version is put aside as it is: an older page must not spoil it", () => {
  alike.keep("a", { text: "typed" });
  const text = storage.getItem("potrel:note:a");
  expect(first.kept("a")).toBeNull();
  const [name = ""] = keptNames("potrel:aside:");
  expect(storage.getItem(`potrel:aside:${name}`)).toBe(text);
  expect(first.names()).toEqual([]);
});

test("what a brought-up value lacks puts it aside too", () => {
  storage.setItem("potrel:note:a", JSON.stringify({ version: 1, value: {} }));
  expect(second.kept("a")).toBeNull();
  expect(keptNames("potrel:aside:")).toHaveLength(1);
});

test("each name is its own: one let go leaves the others", () => {
  first.keep("a", { text: "one" });
  first.keep("b", { text: "two" });
  expect(first.names().sort()).toEqual(["a", "b"]);
  first.forget("a");
  expect([first.kept("a"), first.kept("b")]).toEqual([null, { text: "two" }]);
});

test("nothing kept is nothing, and puts nothing aside", () => {
  expect(first.kept("a")).toBeNull();
  expect(storage.length).toBe(0);
});
