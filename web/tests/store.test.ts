// What is kept in the browser: full or closed, nothing on the screen is lost by it, and what was put aside makes room.

import { beforeEach, describe, expect, test, vi } from "vitest";
import "./storage";
import * as v from "valibot";
import { keptNames, lasting, putAside } from "../src/parts/browserStore";
import { keeper } from "../src/parts/keeper";
import { withoutSent } from "../src/rooms/price/round";

const DAY = 24 * 3600 * 1000;

/** A store in which so many signs have room. */
function roomy(most: number) {
  const kept = new Map<string, string>();
  const taken = () => [...kept].reduce((sum, [name, text]) => sum + name.length + text.length, 0);
  return {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, text: string) => {
      const before = kept.get(name)?.length ?? -name.length;
      if (taken() + text.length - before > most) throw new DOMException("full", "QuotaExceededError");
      kept.set(name, text);
    },
    removeItem: (name: string) => void kept.delete(name),
    key: (at: number) => [...kept.keys()][at] ?? null,
    get length() {
      return kept.size;
    },
  };
}

beforeEach(() => void vi.stubGlobal("localStorage", roomy(400)));

describe("a full store", () => {
  test("is told, and throws nothing at who types", () => {
    expect(lasting.put("potrel:draft:soup", "x".repeat(300))).toBe(true);
    expect(lasting.put("potrel:draft:stew", "y".repeat(300))).toBe(false);
    expect(lasting.get("potrel:draft:soup")).toHaveLength(300);
    const notes = keeper("note", 1, v.string());
    notes.keep("a", "z".repeat(300));
    expect(notes.kept("a")).toBeNull();
  });

  test("is cleared of what was put aside before anything that is typed is not kept", () => {
    putAside("draft:old", "o".repeat(200), 1000);
    expect(lasting.put("potrel:draft:soup", "x".repeat(300))).toBe(true);
    expect(keptNames("potrel:aside:")).toEqual([]);
  });

  test("that is closed to the page holds nothing and throws nothing", () => {
    const closed = () => {
      throw new DOMException("closed", "SecurityError");
    };
    vi.stubGlobal("localStorage", {
      getItem: closed,
      setItem: closed,
      removeItem: closed,
      key: closed,
      length: 1,
    });
    expect([lasting.get("a"), lasting.put("a", "b"), keptNames("potrel:")]).toEqual([null, false, []]);
    lasting.drop("a");
  });
});

test("what was put aside long ago is let go, and no more than twenty are kept", () => {
  vi.stubGlobal("localStorage", roomy(100_000));
  putAside("draft:old", "o", DAY);
  for (let one = 0; one < 25; one++) putAside(`draft:${one}`, "n", 40 * DAY + one);
  const names = keptNames("potrel:aside:");
  expect(names).toHaveLength(20);
  expect(names.some((name) => name.endsWith("old"))).toBe(false);
  expect(names.some((name) => name.endsWith("draft:24"))).toBe(true);
});

test("what is typed while a round is on its way is none of it", () => {
  const sent = { "soup/bowl/": "4.50", "soup/cup/": "3.20" };
  expect(withoutSent({ ...sent, "soup/cup/": "3.40", "stew/bowl/": "6.00" }, sent)).toEqual({
    "soup/cup/": "3.40",
    "stew/bowl/": "6.00",
  });
});
