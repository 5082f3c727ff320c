// An item as its form holds it, and back.

import type { UseFormSetValue } from "react-hook-form";
import type { Item } from "../../api/client";
import { type Measure, shortMeasure, wholeMeasure } from "../../parts/measures";
import { inUnitOf } from "../../parts/QuantityInput";
import { eachText, inField, outOfField } from "../../parts/way";

/** What 100 g of an item hold, as a label tells it. */
export const HELD = [
  ["energy_kcal", "energy, kcal"],
  ["fat_g", "fat, g"],
  ["saturates_g", "saturates, g"],
  ["carbohydrate_g", "carbohydrate, g"],
  ["sugars_g", "sugars, g"],
  ["fibre_g", "fibre, g"],
  ["protein_g", "protein, g"],
  ["salt_g", "salt, g"],
  ["abv", "alcohol by volume, share"],
] as const;
type Held = (typeof HELD)[number][0];

export interface ItemValues {
  name: string;
  kind: string;
  weights: ({ unit: string } & Measure)[];
  preparations: Item["preparations"];
  cooking: Item["cooking"];
  density: string | null;
  ready: string | null;
  holds: Record<Held, string | null>;
  composedBy: string | null;
  thickening: string | null;
  bone: string | null;
  origin: string | null;
  preferred: string | null;
  method: NonNullable<Item["byproduct_method"]> | null;
  allergens: string | null;
}

export function valuesOf(item: Item): ItemValues {
  const values: ItemValues = {
    name: item.name,
    kind: item.kind,
    weights: Object.entries(item.measures ?? {}).map(([unit, one]) => ({ unit, ...wholeMeasure(one) })),
    preparations: item.preparations,
    cooking: item.cooking,
    density: item.density ?? null,
    ready: item.ready_litres_per_kg ?? null,
    holds: Object.fromEntries(
      HELD.map(([key]) => [key, item.composition[key] ?? null]),
    ) as ItemValues["holds"],
    composedBy: item.composition.source ?? null,
    thickening: item.thickening ?? null,
    bone: item.bone_share ?? null,
    origin: item.origin.join(", ") || null,
    preferred: item.preferred_supplier ?? null,
    method: item.byproduct_method ?? null,
    allergens: item.allergens.join(", ") || null,
  };
  return eachText(values, inField);
}

export function itemOf(item: Item, form: ItemValues): Item {
  const values = eachText(form, outOfField);
  const weighed = values.weights.filter(({ unit, weighs }) => unit.trim() && weighs.trim());
  const named = (values.allergens ?? "").split(",").map((one) => one.trim());
  return {
    ...item,
    name: values.name.trim() || item.name,
    kind: values.kind,
    // A bare number beside "weighs" is grams, as its hint says.
    measures: Object.fromEntries(
      weighed.map(({ unit, weighs, ...one }) => [
        unit,
        shortMeasure({ ...one, weighs: inUnitOf(weighs, "60 g") }),
      ]),
    ),
    preparations: values.preparations,
    cooking: values.cooking.map((one) => ({ ...one, rendered: one.rendered?.trim() || "0" })),
    density: values.density,
    preferred_supplier: values.preferred,
    allergens: named.filter(Boolean),
    ready_litres_per_kg: values.ready,
    composition: { ...values.holds, source: values.composedBy },
    thickening: values.thickening,
    bone_share: values.bone,
    origin: (values.origin ?? "")
      .split(",")
      .map((one) => one.trim().toLowerCase())
      .filter(Boolean),
    byproduct_method: values.method,
  };
}

const PARTS = {
  name: "its name",
  kind: "its kind",
  measures: "its weights",
  density: "its density",
  ready_litres_per_kg: "how much of it is made of a kilo",
  composition: "what it holds",
  thickening: "how it thickens",
  bone_share: "what of it is bone",
  origin: "what it comes from",
  preparations: "its preparations",
  cooking: "its ways of cooking",
  preferred_supplier: "whose price it has",
  byproduct_method: "how what falls off counts",
  allergens: "its allergens",
  allergen_check: "the check of its label",
  archived: "whether it is archived",
} as const satisfies Record<Exclude<keyof Item, "id" | "salt_share">, string>;
type Part = keyof typeof PARTS;

/** What of an item is otherwise in another version of it. */
export function changedParts(was: Item, now: Item): Part[] {
  const [before, after] = [itemOf(was, valuesOf(was)), itemOf(now, valuesOf(now))];
  return (Object.keys(PARTS) as Part[]).filter(
    (part) => JSON.stringify(before[part]) !== JSON.stringify(after[part]),
  );
}

/** An item as somebody else left it, with the parts that were changed here. */
export function withMine(theirs: Item, mine: Item, changed: readonly Part[]): Item {
  return { ...theirs, ...Object.fromEntries(changed.map((part) => [part, mine[part]])) };
}

const LIST = new Intl.ListFormat("en-GB");
export const partsInWords = (parts: readonly Part[]) => LIST.format(parts.map((part) => PARTS[part]));

export type YieldPath = `preparations.${number}` | `cooking.${number}`;

/** A yield that somebody writes over rests on no test any more: it is an estimate until its source is named. */
export function writtenOver(
  path: YieldPath,
  was: Item["cooking"][number]["provenance"],
  set: UseFormSetValue<ItemValues>,
): void {
  if (!was) return;
  set(`${path}.provenance`, null, { shouldDirty: true });
  if (was.sort !== "book" && was.sort !== "estimate")
    set(`${path}.source`, "estimate", { shouldDirty: true });
}
