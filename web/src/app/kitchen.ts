// What every room asks of the kitchen: its head, and the names of items and recipes.

import { type QueryClient, useQuery } from "@tanstack/react-query";
import { api, type KitchenHead, type Named, told } from "../api/client";

export function useKitchen() {
  return useQuery({ queryKey: ["kitchen"], queryFn: () => told<KitchenHead>(api.GET("/api/kitchen")) });
}

export const NAMES = { queryKey: ["names"], queryFn: () => told<Named[]>(api.GET("/api/names")) };

export function useNames() {
  return useQuery(NAMES);
}

/** After something was saved, everything shown is asked for anew. */
export function refreshAll(client: QueryClient): Promise<void> {
  return client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "working" });
}
