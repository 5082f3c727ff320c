// Adds an item of which only the name and the kind are known yet.

import type { QueryClient } from "@tanstack/react-query";
import { api, type Item, type Known, told } from "../../api/client";
import { NAMES, refreshAll } from "../../app/kitchen";
import { idFor } from "../../parts/format";

/** What the shelf knows that is called like a name. */
export const onShelf = (name: string) => ({
  queryKey: ["shelf", name],
  queryFn: () => told<Known[]>(api.GET("/api/shelf", { params: { query: { find: name } } })),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The one of those that holds the name; null where none does. */
export function likeliest(name: string, found: Known[]): Known | null {
  return found.find((one) => one.item.name.toLowerCase().includes(name.toLowerCase())) ?? null;
}

/** Adds the item, and returns its id. What the shelf knows of it comes along; else nothing is assumed but the weight of water. */
export async function addItem(
  client: QueryClient,
  name: string,
  kind: string,
  known: Known | null = null,
): Promise<string> {
  const names = await client.ensureQueryData(NAMES);
  const id = idFor(name, (one) => names.some((known) => known.id === one));
  const blank: Item = {
    id,
    name,
    kind,
    density: kind === "water" ? "1" : null,
    preferred_supplier: null,
    measures: {},
    preparations: [],
    cooking: [],
    allergens: [],
    ready_litres_per_kg: null,
    salt_share: null,
  };
  const item: Item = known ? { ...known.item, id, name } : blank;
  await told(api.POST("/api/items", { body: { item } }));
  await refreshAll(client);
  return id;
}
