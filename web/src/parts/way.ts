// The kitchen's way of writing: its days, its decimals, and the units in which it is shown mass and volume.

import type { Settings } from "../api/client";
import { lasting } from "./browserStore";

export type Way = Pick<Settings, "date_style" | "decimal_sign" | "shown_units">;

const KEPT = "potrel:way";
const USUAL: Way = { date_style: "day_first", decimal_sign: "point", shown_units: "metric" };

/** What was so when this browser was here last holds until the kitchen says it, so that nothing is written twice. */
function remembered(): Way {
  try {
    return { ...USUAL, ...JSON.parse(lasting.get(KEPT) ?? "{}") };
  } catch {
    return USUAL;
  }
}

let now: Way | null = null;

export function way(): Way {
  now ??= remembered();
  return now;
}

/** Takes the kitchen's way over; returns what stands for it, so that what is on the page can be written anew. */
export function takeWay(settings: Way | undefined): string {
  if (settings) {
    const { date_style, decimal_sign, shown_units } = settings;
    now = { date_style, decimal_sign, shown_units };
    const text = JSON.stringify(now);
    if (lasting.get(KEPT) !== text) lasting.put(KEPT, text);
  }
  return Object.values(way()).join(" ");
}

/** A decimal text as the kitchen writes it. */
export const withSign = (text: string): string =>
  way().decimal_sign === "comma" ? text.replace(".", ",") : text;

/** A decimal text as it stands in a field of this kitchen; any other text as it is. */
export const inField = (text: string): string => (/^-?\d+\.\d+$/.test(text) ? withSign(text) : text);

/** What stands in a field of this kitchen as a decimal text; any other text as it is, for the server to read or to ask about. */
export const outOfField = (text: string): string =>
  way().decimal_sign === "comma" && /^-?\d+,\d+$/.test(text.trim()) ? text.trim().replace(",", ".") : text;

/** All texts within something changed so, such as those of a form. */
export function eachText<T>(within: T, change: (text: string) => string): T {
  if (typeof within === "string") return change(within) as T;
  if (Array.isArray(within)) return within.map((one) => eachText(one, change)) as T;
  if (within === null || typeof within !== "object") return within;
  return Object.fromEntries(Object.entries(within).map(([key, one]) => [key, eachText(one, change)])) as T;
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** A day (2026-11-24) as the kitchen writes it. */
export function writtenDay(text: string, withYear: boolean): string {
  const [year = "", month = "", day = ""] = text.split("-");
  const named = MONTHS[Number(month) - 1];
  if (!named) return text;
  switch (way().date_style) {
    case "year_first":
      return withYear ? text : `${month}-${day}`;
    case "month_first":
      return `${named} ${Number(day)}${withYear ? `, ${year}` : ""}`;
    default:
      return `${Number(day)} ${named}${withYear ? ` ${year}` : ""}`;
  }
}

/** The day that a text means in the kitchen's way, as 2026-11-24; null where it means none. Without a year it is near to today. */
export function readDay(typed: string, today: string): string | null {
  const text = typed.trim().toLowerCase();
  if (/^\d{4}-\d{2}-\d{2}$/.test(text)) return sure(text);
  const month = MONTHS.findIndex((name) => new RegExp(`\\b${name.toLowerCase()}`).test(text)) + 1;
  const numbers = (text.match(/\d+/g) ?? []).map(Number);
  if (numbers.length < (month ? 1 : 2) || numbers.length > (month ? 2 : 3)) return null;
  const yearFirst = numbers.length === (month ? 2 : 3) && (numbers[0] ?? 0) > 31;
  if (yearFirst) numbers.push(numbers.shift() ?? 0);
  else if (way().date_style === "year_first" && numbers.length === 3 && !month)
    numbers.push(numbers.shift() ?? 0);
  const monthsFirst = way().date_style !== "day_first" || yearFirst;
  const [a = 0, b = 0, c] = numbers;
  const [day, at, year] = month ? [a, month, numbers[1]] : monthsFirst ? [b, a, c] : [a, b, c];
  return sure(near(year, at, day, today));
}

const two = (number: number) => String(number).padStart(2, "0");

function near(year: number | undefined, month: number, day: number, today: string): string {
  if (year !== undefined) return `${year < 100 ? year + 2000 : year}-${two(month)}-${two(day)}`;
  const [here, other] = [0, -1].map(
    (back) => `${Number(today.slice(0, 4)) + back}-${two(month)}-${two(day)}`,
  );
  // In January, "28 Dec" is the one that was.
  const ahead = (Date.parse(here ?? "") - Date.parse(today)) / 86_400_000;
  return (ahead > 180 ? other : here) ?? "";
}

/** A day that there is. */
function sure(text: string): string | null {
  const at = new Date(`${text}T00:00:00Z`);
  return Number.isNaN(at.getTime()) || at.toISOString().slice(0, 10) !== text ? null : text;
}
