// The terms of a pricing in a few words; a row of prices by its name; the channel in an address.

import type { PriceRow, Pricing } from "../../api/client";
import { money, percent, trimmed } from "../../parts/format";
import { type Method, SCHOOLS } from "../../parts/schools";

/** The terms of a pricing, in a few words. */
export function termsOf(pricing: Pricing | null, currency: string): string {
  if (pricing === null) return "";
  switch (pricing.method) {
    case "food_cost_share":
    case "prime_cost_share":
      return `of ${percent(pricing.share, 1)}`;
    case "factor":
      return trimmed(pricing.factor ?? "", 2);
    case "contribution":
      return money(pricing.amount, currency);
    case "full_cost":
      return `${percent(pricing.overhead_share, 1)} + ${percent(pricing.profit_share, 1)}`;
  }
}

/** A channel as it stands in the path of a figure. */
export const inPath = (channel: string | null) => channel ?? "-";

export const nameOfRow = (row: PriceRow): string =>
  row.row === "in_force" ? "in force" : row.row.startsWith("at-") ? "typed" : SCHOOLS[row.row as Method].name;
