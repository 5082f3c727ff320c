// The pots that were taken off: nothing of them is gone, and each can be put on again.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { refresh } from "../../api/asked";
import { api, inWords, type TakenOff, told } from "../../api/client";
import { day, moment } from "../../parts/format";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";

export function TakenOffList() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  const found = useQuery({
    queryKey: ["recipes", "taken-off"],
    queryFn: () => told<TakenOff[]>(api.GET("/api/taken-off")),
  });
  const putOn = useSaving({
    mutationFn: (one: TakenOff) => told(api.POST("/api/recipes", { body: { recipe: one.recipe } })),
    onSuccess: async (_, one) => {
      await refresh(client, "recipe");
      navigate(`/cook/${one.recipe.id}`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  if (!found.data || found.data.length === 0) return null;
  return (
    <details className="mt-4">
      <summary className="cursor-pointer w-fit">Taken off ({found.data.length})</summary>
      <ul className="mt-2">
        {found.data.map((one) => (
          <li key={one.recipe.id} className="flex flex-wrap items-baseline gap-3 py-0.5">
            <span className="font-semibold">{one.recipe.name}</span>
            <span className="quiet text-sm">
              taken off {day(moment(one.at).day)}, {one.by}
            </span>
            <button
              type="button"
              className="btn btn-xs"
              disabled={putOn.isPending}
              onClick={() => putOn.mutate(one)}
            >
              Put {one.recipe.name} on again
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
