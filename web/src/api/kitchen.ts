// What every room asks of the kitchen: its head, and the names of items and recipes.

import { type InvalidateQueryFilters, type Query, type QueryClient, useQuery } from "@tanstack/react-query";
import { api, type KitchenHead, type Named, told } from "./client";

export function useKitchen() {
  return useQuery({ queryKey: ["kitchen"], queryFn: () => told<KitchenHead>(api.GET("/api/kitchen")) });
}

export const NAMES = { queryKey: ["names"], queryFn: () => told<Named[]>(api.GET("/api/names")) };

export function useNames() {
  return useQuery(NAMES);
}

/** What was saved, by what else shows it. What hangs on a cost hangs on nearly everything; the rest is told apart. */
const COSTS = [
  "board",
  "recipes",
  "preview",
  "pushed",
  "items",
  "item",
  "usable",
  "leftovers",
  "yields",
  "yield",
  "practice",
  "comparisons",
  "prices",
  "prices-effect",
  "selling",
  "deals",
  "papers",
  "deal-preview",
];
const SHOWN_BY = {
  price: [...COSTS, "review", "allergens"],
  item: [...COSTS, "kitchen", "names", "allergens", "lists", "review"],
  recipe: [...COSTS, "kitchen", "names", "allergens", "recipe", "rounds"],
  list: ["kitchen", "lists", "review"],
  supplier: ["kitchen", "item", "items", "lists", "review"],
  comparison: ["comparisons"],
  test: ["yields", "yield", "test-sheets", "practice"],
} as const;
export type Saved = keyof typeof SHOWN_BY;

/**
 * Asks anew what was asked. What was on its way for the first time is let go first: it may tell what was before the save, and
 * would be taken for the answer of now.
 */
export async function askAnew(client: QueryClient, what: InvalidateQueryFilters): Promise<void> {
  const first = (query: Query) =>
    query.isActive() && query.state.data === undefined && (what.predicate?.(query) ?? true);
  await client.cancelQueries({ ...what, predicate: first });
  await client.invalidateQueries(what);
}

/** After something was saved, what shows it is asked for anew, and nothing else. */
export async function refresh(client: QueryClient, ...saved: Saved[]): Promise<void> {
  const keys = new Set<unknown>(saved.flatMap((one) => SHOWN_BY[one]));
  await askAnew(client, { predicate: ({ queryKey }) => keys.has(queryKey[0]) });
}

/** After the settings were saved, or where another's save may have changed anything: all but an open working. */
export function refreshAll(client: QueryClient): Promise<void> {
  return askAnew(client, { predicate: (query) => query.queryKey[0] !== "working" });
}
