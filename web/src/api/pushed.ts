// Servings that a change took past their target, marked until somebody opens their pot sheet.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { askAnew } from "./asked";
import { api, type Pushed, told } from "./client";

const KEY = ["pushed"] as const;

export function usePushed(): Pushed[] {
  const found = useQuery({ queryKey: KEY, queryFn: () => told<Pushed[]>(api.GET("/api/pushed-past")) });
  return found.data ?? [];
}

/** Says that a recipe is being looked at; returns what was marked of it, for as long as it is on the screen. */
export function useLookedAt(recipe: string): Pushed[] {
  const client = useQueryClient();
  const all = usePushed();
  const [marked, setMarked] = useState<Pushed[]>([]);
  useEffect(() => {
    const own = all.filter((one) => one.recipe === recipe);
    if (own.length === 0) return;
    setMarked(own);
    void told(api.DELETE("/api/pushed-past/{recipe_id}", { params: { path: { recipe_id: recipe } } })).then(
      () => askAnew(client, { queryKey: KEY }),
      // The mark stays where the server is away: somebody will look again.
      () => {},
    );
  }, [all, recipe, client]);
  return marked;
}
