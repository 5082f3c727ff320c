// Adds an item of which only the name and the kind are known yet.

import { type QueryClient, queryOptions } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, type Item, type ItemReply, type Known, type Preparation, told } from "../api/client";
import { NAMES } from "../api/kitchen";
import { idFor } from "./format";

/** What the shelf knows that is called like a name. */
export const onShelf = (name: string) =>
  queryOptions({
    queryKey: ["shelf", name],
    queryFn: () => told<Known[]>(api.GET("/api/shelf", { params: { query: { find: name } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The one that the name can only mean: a part of a name never decides ("Nuts" are no pine nuts). */
export const calledSo = (found: Known[]): Known | null => found.find((one) => one.called_so) ?? null;

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
    archived: false,
    origin: kind === "water" ? ["mineral"] : [],
    thickening: null,
    bone_share: null,
    composition: {},
  };
  const item: Item = known ? { ...known.item, id, name } : blank;
  await told(api.POST("/api/items", { body: { item } }));
  await refresh(client, "item");
  return id;
}

/** Gives an item a preparation that the shelf knows. */
export async function addPreparation(client: QueryClient, id: string, adds: Preparation): Promise<void> {
  const params = { path: { item_id: id } };
  const { item: was } = await told<ItemReply>(api.GET("/api/items/{item_id}", { params }));
  const item = { ...was, preparations: [...was.preparations, adds] };
  await told(api.PUT("/api/items/{item_id}", { params, body: { item, was } }));
  await refresh(client, "item");
}
