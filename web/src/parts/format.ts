// Figures as they are shown, in the kitchen's way. The server rounds nothing but to six places; a screen rounds money half up.

import { way, withSign, writtenDay } from "./way";

const moneyDigits = new Map<string, number>();

function digitsOf(currency: string): number {
  let digits = moneyDigits.get(currency);
  if (digits === undefined) {
    try {
      const options = new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions();
      digits = options.maximumFractionDigits ?? 2;
    } catch {
      digits = 2;
    }
    moneyDigits.set(currency, digits);
  }
  return digits;
}

type Text = `${number}`;
const formats = new Map<string, Intl.NumberFormat>();

/** Digits and a point, and no more: the places at most, and at least. */
function formatOf(most: number, least: number, style: "decimal" | "percent"): Intl.NumberFormat {
  const key = `${most} ${least} ${style}`;
  let found = formats.get(key);
  if (!found) {
    found = new Intl.NumberFormat("en", {
      style,
      maximumFractionDigits: most,
      minimumFractionDigits: least,
      useGrouping: false,
      // No minus before a nothing.
      signDisplay: "negative",
    });
    formats.set(key, found);
  }
  return found;
}

const written = (format: Intl.NumberFormat, text: string) =>
  withSign(format.format(text as Text).replace("-", "−"));

/** A decimal text rounded half up (away from zero on a tie) to so many places; its digits are never made a float of. */
export function rounded(text: string, places: number): string {
  return written(formatOf(places, places, "decimal"), text);
}

/** The same without needless zeros. */
export function trimmed(text: string, places: number): string {
  return written(formatOf(places, 0, "decimal"), text);
}

/** A thousandth of a decimal text, exactly. */
const thousandth = (text: string) => `${text}e-3`;

export const NOT_KNOWN = "—";

export function money(value: string | null | undefined, currency = "EUR"): string {
  return value == null ? NOT_KNOWN : rounded(value, digitsOf(currency));
}

/** A change of money, with its sign. */
export function signed(value: string, currency = "EUR"): string {
  const text = money(value, currency);
  return text.startsWith("−") ? text : `+${text}`;
}

export function percent(value: string | null | undefined, places = 0): string {
  return value == null ? NOT_KNOWN : written(formatOf(places, places, "percent"), value);
}

// Of the international pound and the US quart; exact by definition (NIST Handbook 44, appendix C).
const POUND_G = "453.59237";
const QUART_ML = "946.352946";
export const inUs = () => way().shown_units === "us";

/** Grams as a cook reads them: grams below a kilo, then kilos; in the US ounces below a pound, then pounds. */
export function mass(grams: string | null | undefined): string {
  if (grams == null) return NOT_KNOWN;
  const size = Math.abs(Number(grams));
  if (inUs()) {
    if (size < 453.5) return `${trimmed(over(times(grams, "16"), POUND_G), size < 28 ? 2 : 1)} oz`;
    return `${rounded(over(grams, POUND_G), 2)} lb`;
  }
  if (size < 10) return `${trimmed(grams, 1)} g`;
  if (size < 1000) return `${rounded(grams, 0)} g`;
  return `${rounded(thousandth(grams), 2)} kg`;
}

/** The same of kilos. */
export const kilos = (kg: string): string => mass(times(kg, "1000"));
export const litres = (l: string): string => volume(times(l, "1000"));

export function volume(millilitres: string | null | undefined): string {
  if (millilitres == null) return NOT_KNOWN;
  const size = Math.abs(Number(millilitres));
  if (inUs())
    return size < 946
      ? `${trimmed(over(times(millilitres, "32"), QUART_ML), 1)} fl oz`
      : `${rounded(over(millilitres, QUART_ML), 1)} qt`;
  return size < 1000 ? `${rounded(millilitres, 0)} ml` : `${rounded(thousandth(millilitres), 1)} l`;
}

// Exact by definition (NIST Handbook 44, appendix C).
const INCH_CM = "2.54";

/** How deep something stands on a stick: centimetres, or inches. */
export const depth = (cm: string, places = 1): string =>
  inUs() ? `${trimmed(over(cm, INCH_CM), places)} in` : `${trimmed(cm, places)} cm`;

/** The centimetres of a depth as it is typed, "6.4 cm", "6,4 cm" or "2.5 in"; null for what is none.
 *
 * As with quantities either sign is taken in any kitchen; "1,234 cm" can be two numbers, and is left to be asked about. */
export function depthTyped(text: string): string | null {
  const [, number = "", unit = ""] = /^([\d.,]+)\s*(cm|mm|in|inch|inches|")$/i.exec(text.trim()) ?? [];
  if (!/^(?:\d+[.,]?\d*|[.,]\d+)$/.test(number) || /^\d{1,3},\d{3}$/.test(number)) return null;
  const value = number.replace(",", ".");
  if (/^cm$/i.test(unit)) return value;
  const cm = /^mm$/i.test(unit) ? over(value, "10") : times(value, INCH_CM);
  return cm.replace(/\.?0+$/, "");
}

/** How thick something is, in grams of flour a litre; where something that thickens has no strength, it is more than that. */
export const thickness = (text: string | null, atLeast: boolean): string =>
  text === null ? NOT_KNOWN : `${atLeast ? "at least " : ""}${trimmed(text, 0)} g/l`;

/** What a price is of: a kilo (a pound), or one piece where only that is known. */
export function ofOne(unit: string | null): string {
  if (unit === null) return aKilo();
  return unit === "each" ? "each" : `a ${unit}`;
}

/** What money, minutes and the like are of, and the figure of a kilo or a litre for it. */
export const aKilo = () => (inUs() ? "a pound" : "a kilo");
export const aLitre = () => (inUs() ? "a quart" : "a litre");
export const kilo = () => (inUs() ? "pound" : "kilo");
export const litre = () => (inUs() ? "quart" : "litre");
const KILO = "0.45359237";
const LITRE = "0.946352946";

export function perKilo<T extends string | null | undefined>(value: T): T {
  return (value == null || !inUs() ? value : times(value, KILO)) as T;
}

export function perLitre<T extends string | null | undefined>(value: T): T {
  return (value == null || !inUs() ? value : times(value, LITRE)) as T;
}

/** The figure of one of a unit, a kilo or a litre, for what stands in its place here. */
export const perUnit = <T extends string | null | undefined>(value: T, unit: string): T =>
  unit === "l" ? perLitre(value) : perKilo(value);

const PLACES = 12;

/** A decimal text as a whole number of its last places. */
function whole(text: string, places: number): bigint {
  const [before = "0", behind = ""] = text.replace("-", "").split(".");
  const number = BigInt(before + behind.slice(0, places).padEnd(places, "0"));
  return text.startsWith("-") ? -number : number;
}

function decimal(number: bigint, places: number): string {
  const digits = (number < 0n ? -number : number).toString().padStart(places + 1, "0");
  return `${number < 0n ? "-" : ""}${digits.slice(0, -places)}.${digits.slice(-places)}`;
}

/** One decimal text times another, exactly: no float comes between a price and its cents. */
const times = (text: string, factor: string) =>
  decimal(whole(text, PLACES) * whole(factor, PLACES), 2 * PLACES);

/** One over another, to twelve places. */
const over = (text: string, divisor: string) =>
  decimal((whole(text, 2 * PLACES) * 10n ** BigInt(PLACES)) / whole(divisor, 2 * PLACES), PLACES);

export function minutes(value: string | null | undefined): string {
  return value == null ? NOT_KNOWN : `${rounded(value, 0)} min`;
}

export const day = (text: string): string => writtenDay(text, false);

/** A day with its year, where it is not the year of another day. */
export const dayOf = (text: string, today: string): string =>
  writtenDay(text, text.slice(0, 4) !== today.slice(0, 4));

/** A moment as the server tells it, by the kitchen's own clock: its day and its time there, wherever this browser is. */
export function moment(text: string): { day: string; time: string } {
  const [, on = "", time = ""] = /^(\d{4}-\d{2}-\d{2})T(\d{2}:\d{2})/.exec(text) ?? [];
  return { day: on, time };
}

const EACH: Record<string, () => string> = {
  "money/kg": aKilo,
  "money/l": aLitre,
  "money/h": () => "an hour",
  "money/kWh": () => "a kWh",
  "money/piece": () => "a piece",
};

/** Money in a working: what is less than it can be paid in shows its places. */
function smallMoney(value: string, currency: string): string {
  const text = money(value, currency);
  return text === money("0", currency) && Number(value) !== 0 ? trimmed(value, 4) : text;
}

/** A figure in the unit that the working names. */
export function inUnit(value: string | null | undefined, unit: string, currency: string): string {
  if (value == null) return NOT_KNOWN;
  switch (unit) {
    case "money":
      return smallMoney(value, currency);
    case "g":
      return mass(value);
    case "ml":
      return volume(value);
    case "min":
      return `${trimmed(value, 1)} min`;
    case "share":
      return percent(value, 1);
    case "share/h":
      return `${percent(value, 1)} an hour`;
    case "":
      return trimmed(value, 3);
    case "kg":
      return inUs() ? kilos(value) : `${trimmed(value, 3)} kg`;
    case "l":
      return inUs() ? volume(times(value, "1000")) : `${trimmed(value, 3)} l`;
    default: {
      if (!unit.startsWith("money/")) return `${trimmed(value, 3)} ${unit}`;
      const each = unit === "money/kg" ? perKilo(value) : unit === "money/l" ? perLitre(value) : value;
      return `${smallMoney(each, currency)} ${EACH[unit]?.() ?? unit}`;
    }
  }
}

/** An id made from a name, unlike those in use. */
export function idFor(name: string, taken: (id: string) => boolean): string {
  const base =
    name
      .normalize("NFKD")
      .replace(/[^\w\s-]/g, "")
      .trim()
      .toLowerCase()
      .replace(/[\s_]+/g, "-")
      .slice(0, 60) || "new";
  let id = base;
  for (let count = 2; taken(id); count++) id = `${base}-${count}`;
  return id;
}
