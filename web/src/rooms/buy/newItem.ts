// Adds an item of which only the name and the kind are known yet.

import type { QueryClient } from "@tanstack/react-query";
import { api, type Item, told } from "../../api/client";
import { NAMES, refreshAll } from "../../app/kitchen";
import { idFor } from "../../parts/format";

/** Adds the item, and returns its id. Water weighs a kilo a litre; of anything else nothing is assumed. */
export async function addItem(client: QueryClient, name: string, kind: string): Promise<string> {
  const names = await client.ensureQueryData(NAMES);
  const id = idFor(name, (one) => names.some((known) => known.id === one));
  const item: Item = {
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
  await told(api.POST("/api/items", { body: { item } }));
  await refreshAll(client);
  return id;
}
