// How far the figures of the draft may be off: asked once it rests, since ten thousand draws take longer than a key.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, type HowSure, type Recipe, told, type Uncertainty } from "../../api/client";
import { useRested } from "../../parts/useRested";

const RESTS_MS = 400;

/** By serving; empty while nothing is known, and for a draft that is refused or incomplete. */
export function useHowSure(draft: Recipe): ReadonlyMap<string, Uncertainty> {
  const rested = useRested(draft, RESTS_MS);
  const found = useQuery({
    queryKey: ["uncertainty", rested],
    queryFn: () => told<HowSure>(api.POST("/api/uncertainty", { body: { recipe: rested } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 10_000,
    retry: false,
  });
  // Figures of another draft than the one in sight are none.
  const current = rested === draft && !found.isPlaceholderData && !found.isError;
  const servings = current ? (found.data?.servings ?? []) : [];
  return new Map(servings.map((one) => [one.serving, one]));
}
