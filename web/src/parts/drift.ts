// What moved the cost of a portion most since its price was set.

import type { BoardRow } from "../api/client";

type Drift = NonNullable<BoardRow["drift"]>;

/** The purchase that moved it most, or the recipe itself where that did more. */
export function moverOf(drift: Drift): string | undefined {
  const purchase = drift.moved[0];
  const recipe = Math.abs(Number(drift.recipe ?? 0));
  if (recipe > Math.abs(Number(purchase?.change ?? 0))) return "the recipe itself";
  return purchase?.name;
}

/** Why it is not known how far the cost has moved. */
export function whyUnknown(drift: Drift): string {
  return drift.unpriced.length > 0 ? "some had no price then" : "the recipe of then is not known";
}
