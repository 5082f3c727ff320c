// What one of a unit weighs: in the document a weight alone, or with its basis, band and source.

import type { Item } from "../api/client";

export type Measures = NonNullable<Item["measures"]>;
export type Measure = Exclude<Measures[string], string>;

export const wholeMeasure = (one: Measures[string]): Measure =>
  typeof one === "string" ? { weighs: one, basis: "AP" } : one;

/** A measure as shortly as it can be written. */
export const shortMeasure = (one: Measure): Measures[string] =>
  one.basis === "AP" && !one.low && !one.high && !one.source ? one.weighs : one;

/** The two ways a thing can be weighed, in a cook's words. */
export const BASES = [
  ["AP", "as bought"],
  ["EP", "ready to use"],
] as const;
