// Where the kitchen has no target share yet, nothing has a computed price: one is proposed in its place.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refreshAll } from "../../api/asked";
import { api, inWords, type KitchenHead, told } from "../../api/client";
import { useSaving } from "../../parts/useSaving";

export function TargetProposal({ kitchen }: { kitchen: KitchenHead }) {
  const [share, setShare] = useState("30%");
  const client = useQueryClient();
  const save = useSaving({
    mutationFn: () => {
      const { name, currency, settings } = kitchen;
      const body = {
        name,
        currency,
        settings: { ...settings, target_food_cost: share.trim() },
        was: settings,
        was_name: name,
        was_currency: currency,
      };
      return told(api.PUT("/api/kitchen", { body }));
    },
    onSuccess: () => refreshAll(client),
  });
  return (
    <form
      className="text-sm flex flex-wrap items-center gap-2 no-print"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <span className="text-error">? a price needs a target:</span>
      <label className="flex items-center gap-1">
        food-cost share of
        <input
          className="cell-input w-14 text-right"
          aria-label="Target share of food cost"
          value={share}
          onChange={(event) => setShare(event.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-xs" disabled={!share.trim() || save.isPending}>
        Take it for the kitchen
      </button>
      {save.isError && (
        <span role="alert" className="text-error">
          {inWords(save.error)}
        </span>
      )}
    </form>
  );
}
