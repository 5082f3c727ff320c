// What every room asks of the kitchen: its head, and the names of items and recipes.

import { queryOptions, useQuery } from "@tanstack/react-query";
import { api, type KitchenHead, type Named, told } from "./client";

export function useKitchen() {
  return useQuery({ queryKey: ["kitchen"], queryFn: () => told<KitchenHead>(api.GET("/api/kitchen")) });
}

export const NAMES = queryOptions({
  queryKey: ["names"],
  queryFn: () => told<Named[]>(api.GET("/api/names")),
});

export function useNames() {
  return useQuery(NAMES);
}
