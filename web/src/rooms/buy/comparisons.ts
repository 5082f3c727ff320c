// Comparisons that the kitchen keeps: asked for, kept, let go and brought back.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { refresh } from "../../api/asked";
import { api, type Comparison, type KeptComparison, told } from "../../api/client";
import { useSaving } from "../../parts/useSaving";

export function useComparisons() {
  return useQuery({
    queryKey: ["comparisons"],
    queryFn: () => told<KeptComparison[]>(api.GET("/api/comparisons")),
  });
}

interface Keep {
  comparison: Comparison;
  /** How it was kept when it was opened; none of a new one. */
  seen: Comparison | null;
}

export function useKeepComparison(done: (kept: Comparison) => void) {
  const client = useQueryClient();
  return useSaving({
    mutationFn: (body: Keep) => told(api.PUT("/api/comparisons", { body })),
    onSuccess: async (_, { comparison }) => {
      await refresh(client, "comparison");
      done(comparison);
    },
  });
}

export function useDropComparison(done: (dropped: Comparison) => void) {
  const client = useQueryClient();
  return useSaving({
    mutationFn: (one: Comparison) =>
      told(
        api.DELETE("/api/comparisons/{comparison_id}", {
          params: { path: { comparison_id: one.id } },
          body: one,
        }),
      ),
    onSuccess: async (_, one) => {
      await refresh(client, "comparison");
      done(one);
    },
  });
}
