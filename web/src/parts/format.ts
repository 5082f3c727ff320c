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

/** A decimal text rounded half up (away from zero on a tie) to so many places, without leaving exact digits; with a true minus. */
export function rounded(text: string, places: number): string {
  const negative = text.startsWith("-");
  const [whole = "0", part = ""] = text.replace("-", "").split(".");
  const digits = BigInt(whole + part.padEnd(places + 1, "0").slice(0, places + 1));
  const scaled = ((digits + 5n) / 10n).toString().padStart(places + 1, "0");
  const out = places ? `${scaled.slice(0, -places)}.${scaled.slice(-places)}` : scaled;
  return negative && /[1-9]/.test(out) ? `−${out}` : out;
}

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
  return value == null ? NOT_KNOWN : `${rounded(String(Number(value) * 100), places)}%`;
}

/** Grams as a cook reads them: grams below a kilo, then kilos. */
export function mass(grams: string | null | undefined): string {
  if (grams == null) return NOT_KNOWN;
  const size = Math.abs(Number(grams));
  if (size < 10) return `${trimmed(rounded(grams, 1))} g`;
  if (size < 1000) return `${rounded(grams, 0)} g`;
  return `${rounded(String(Number(grams) / 1000), 2)} kg`;
}

export function volume(millilitres: string | null | undefined): string {
  if (millilitres == null) return NOT_KNOWN;
  return Math.abs(Number(millilitres)) < 1000
    ? `${rounded(millilitres, 0)} ml`
    : `${rounded(String(Number(millilitres) / 1000), 1)} l`;
}

export function minutes(value: string | null | undefined): string {
  return value == null ? NOT_KNOWN : `${rounded(value, 0)} min`;
}

/** A plain number without needless zeros. */
export function trimmed(text: string): string {
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
}

export function day(text: string): string {
  return new Date(`${text}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
}

/** A day with its year, where it is not the year of another day. */
export function dayOf(text: string, today: string): string {
  return text.slice(0, 4) === today.slice(0, 4) ? day(text) : `${day(text)} ${text.slice(0, 4)}`;
}

/** A figure in the unit that the working names. */
export function inUnit(value: string | null | undefined, unit: string, currency: string): string {
  if (value == null) return NOT_KNOWN;
  switch (unit) {
    case "money":
      return money(value, currency) === money("0", currency) && Number(value) !== 0
        ? trimmed(rounded(value, 4))
        : money(value, currency);
    case "money/kg":
      return `${money(value, currency)} a kilo`;
    case "money/l":
      return `${money(value, currency)} a litre`;
    case "g":
      return mass(value);
    case "ml":
      return volume(value);
    case "min":
      return minutes(value);
    case "share":
      return percent(value, 1);
    default:
      return trimmed(rounded(value, 3));
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
