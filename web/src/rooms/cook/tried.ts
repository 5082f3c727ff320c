// What is moved on a pot: how it stands in a field, in the units of the kitchen, and as it is sent.

import type { Movable, Move } from "../../api/client";
import { inUnit, inUs } from "../../parts/format";
import { inField, outOfField } from "../../parts/way";

/** A number moved: what it is, and what stands in its field. */
export interface Tried {
  of: Movable;
  text: string;
}

const POUND = 0.45359237;

/** How many of what the field shows are one of what is sent: shares are typed as percent, pounds where pounds are shown. */
function fieldFactor(unit: string): number {
  if (unit === "share" || unit === "share/h") return 100;
  if (!inUs()) return 1;
  return unit === "money/kg" ? POUND : unit === "kg" || unit === "kg/h" ? 1 / POUND : 1;
}

const UNITS: Record<string, [metric: string, us: string]> = {
  "money/kg": ["a kilo", "a pound"],
  "money/piece": ["a piece", "a piece"],
  share: ["%", "%"],
  "share/h": ["% an hour", "% an hour"],
  "kg/h": ["kg an hour", "lb an hour"],
  kg: ["kg", "lb"],
  g: ["g", "g"],
  ml: ["ml", "ml"],
  each: ["pieces", "pieces"],
  times: ["times", "times"],
};

/** The unit of the field, in words. */
export const unitOf = (of: Movable): string =>
  (UNITS[of.unit] ?? [of.unit, of.unit])[inUs() ? 1 : 0] ?? of.unit;

const tidy = (value: number): string => String(Number(value.toPrecision(6)));

export const keyOf = (of: Pick<Movable, "sort" | "of" | "part">): string => `${of.sort} ${of.of} ${of.part}`;

/** What stands in the field for a value. */
export const inItsField = (value: string, of: Movable): string =>
  inField(tidy(Number(value) * fieldFactor(of.unit)));

/** The value that a field's text means; null where it is none. */
export function sentValue({ of, text }: Tried): string | null {
  const value = Number(outOfField(text.trim()));
  if (text.trim() === "" || !Number.isFinite(value)) return null;
  return tidy(value / fieldFactor(of.unit));
}

/** The moves that can be sent: of what is not a number yet, none. */
export function movesOf(tried: readonly Tried[]): Move[] {
  return tried.flatMap((one) => {
    const value = sentValue(one);
    const { sort, of, part } = one.of;
    return value === null ? [] : [{ sort, of, part, value }];
  });
}

/** From where to where the slider goes: half to twice what is stated, within what can be tried. */
export function slide(of: Movable): { min: number; max: number; step: number } {
  const stated = Number(of.stated);
  const min = Math.max(Number(of.low), stated / 2);
  const max = Math.min(Number(of.high), stated > 0 ? stated * 2 : Number(of.high));
  return { min, max, step: (max - min) / 200 };
}

/** What was moved, in words: "price of Leeks 2.40 a kilo instead of 1.92 a kilo". */
export function inWordsOf(tried: readonly Tried[], currency: string): string {
  return tried
    .map((one) => {
      const value = sentValue(one);
      const told = (text: string) =>
        one.of.unit === "times" ? `${text} times` : inUnit(text, one.of.unit, currency);
      return `${one.of.name} ${value === null ? one.text : told(value)} instead of ${told(one.of.stated)}`;
    })
    .join(", ");
}
