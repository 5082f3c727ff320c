// Figures as they are shown. The server rounds nothing but to six places; a screen rounds money half up.

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

const written = (format: Intl.NumberFormat, text: string) => format.format(text as Text).replace("-", "−");

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

/** Grams as a cook reads them: grams below a kilo, then kilos. */
export function mass(grams: string | null | undefined): string {
  if (grams == null) return NOT_KNOWN;
  const size = Math.abs(Number(grams));
  if (size < 10) return `${trimmed(grams, 1)} g`;
  if (size < 1000) return `${rounded(grams, 0)} g`;
  return `${rounded(thousandth(grams), 2)} kg`;
}

/** The same of kilos. */
/** What a price is of: a kilo, or one piece where only that is known. */
export function ofOne(unit: string | null): string {
  if (unit === null) return "a kilo";
  return unit === "each" ? "each" : `a ${unit}`;
}

export function kilos(kg: string): string {
  return Math.abs(Number(kg)) < 1 ? mass(`${kg}e3`) : `${rounded(kg, 2)} kg`;
}

export function volume(millilitres: string | null | undefined): string {
  if (millilitres == null) return NOT_KNOWN;
  return Math.abs(Number(millilitres)) < 1000
    ? `${rounded(millilitres, 0)} ml`
    : `${rounded(thousandth(millilitres), 1)} l`;
}

export function minutes(value: string | null | undefined): string {
  return value == null ? NOT_KNOWN : `${rounded(value, 0)} min`;
}

export function day(text: string): string {
  return new Date(`${text}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
}

/** A day with its year, where it is not the year of another day. */
export function dayOf(text: string, today: string): string {
  return text.slice(0, 4) === today.slice(0, 4) ? day(text) : `${day(text)} ${text.slice(0, 4)}`;
}

const EACH: Record<string, string> = {
  "money/kg": "a kilo",
  "money/l": "a litre",
  "money/h": "an hour",
  "money/kWh": "a kWh",
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
    case "":
      return trimmed(value, 3);
    default:
      return unit.startsWith("money/")
        ? `${smallMoney(value, currency)} ${EACH[unit] ?? unit}`
        : `${trimmed(value, 3)} ${unit}`;
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
