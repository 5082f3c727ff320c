// A test sheet as it is typed: its fields, its start, and its place in the browser and on the server.

import * as v from "valibot";
import type { DraftTest } from "../../api/client";
import { lasting } from "../../parts/browserStore";
import { trimmed } from "../../parts/format";
import { keeper } from "../../parts/keeper";
import type { Treatment } from "./words";

export interface SheetPart {
  name: string;
  mass: string;
  value_per_kg: string;
  use: string;
}

export interface Sheet {
  kind: Treatment;
  item: string;
  of: string;
  before: string;
  after: string;
  parts: SheetPart[];
  minutes: string;
  supplier: string;
  note: string;
  on: string;
  by: string;
  /** When the labour was started, as milliseconds; absent while nobody times it. */
  started: number | null;
}

export const EMPTY_PART: SheetPart = { name: "", mass: "", value_per_kg: "", use: "" };
const COOK = "potrel:cook";

export const lastCook = () => lasting.get(COOK) ?? "";
export const rememberCook = (name: string) => lasting.put(COOK, name);

export function blankSheet(kind: Treatment, item: string, of: string, today: string): Sheet {
  return {
    kind,
    item,
    of,
    before: "",
    after: "",
    parts: [],
    minutes: "",
    supplier: "",
    note: "",
    on: today,
    by: lastCook(),
    started: null,
  };
}

/** What the server is told of a sheet: all but the running watch. */
export function draftOf({ started: _, ...sheet }: Sheet): DraftTest {
  return sheet;
}

const MINUTE = 60_000;

/** The minutes of work so far: those that were measured or typed, and those on the running watch. */
export function passed(sheet: Sheet, now: number): number {
  const running = sheet.started === null ? 0 : (now - sheet.started) / MINUTE;
  return (Number(sheet.minutes.replace(",", ".")) || 0) + running;
}

/** A sheet whose watch is stopped; one that was not running stays as it is. */
export function stopped(sheet: Sheet, now: number): Sheet {
  if (sheet.started === null) return sheet;
  return { ...sheet, started: null, minutes: trimmed(String(passed(sheet, now)), 1) };
}

const TEXTS = ["kind", "item", "of", "before", "after", "minutes", "supplier", "note", "on", "by"] as const;

/** A sheet read back from where it was kept; what is missing or odd there falls back to a blank one's. */
export function sheetFrom(body: unknown, blank: Sheet): Sheet {
  if (typeof body !== "object" || body === null) return blank;
  const kept = body as Record<string, unknown>;
  const texts = Object.fromEntries(
    TEXTS.filter((key) => typeof kept[key] === "string").map((key) => [key, kept[key]]),
  );
  const parts = Array.isArray(kept.parts) ? kept.parts.map((one) => ({ ...EMPTY_PART, ...one })) : [];
  return { ...blank, ...texts, parts, started: typeof kept.started === "number" ? kept.started : null };
}

/**
 * The copies in this browser: a lost server, scale or reload takes nothing away. `seen` says when the state that the screen
 * stood on was kept by the server, `sent` whether the server has it as it is here.
 */
const anything = v.custom<object>((value) => typeof value === "object" && value !== null);
export const SHEETS_HERE = keeper(
  "sheet",
  1,
  v.object({ sheet: anything, seen: v.nullable(v.string()), sent: v.boolean() }),
);
