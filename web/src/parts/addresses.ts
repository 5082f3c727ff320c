// The addresses of pages that more than one room leads to.

import type { Comparison } from "../api/client";

export interface YieldKey {
  item: string;
  sort: "preparation" | "cooking";
  of: string;
}

export const yieldAddress = (key: YieldKey) =>
  `/trim/yields/${encodeURIComponent(key.item)}/${key.sort}/${encodeURIComponent(key.of)}`;

/** The page of a comparison: its forms, and its id where it is kept. */
export function compareAddress({
  id,
  unit,
  forms,
}: Omit<Comparison, "id" | "name"> & { id?: string | undefined }) {
  const query = new URLSearchParams([["unit", unit ?? "kg"], ...forms.map((form) => ["form", form])]);
  if (id) query.set("kept", id);
  return `/buy/compare?${query}`;
}
