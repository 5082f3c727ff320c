// Fills items from the shelf, says what it did, and takes it back.

import { useQueryClient } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, type Filled, told } from "../api/client";
import { useToast } from "./Toasts";
import { useSaving } from "./useSaving";

/** Fills items with what the shelf knows and they do not say; told, and taken back by Undo. */
export function useFilling() {
  const client = useQueryClient();
  const toast = useToast();
  return useSaving({
    mutationFn: (items: string[]) => told<Filled[]>(api.POST("/api/filled-from-shelf", { body: { items } })),
    onSuccess: async (done) => {
      await refresh(client, "item");
      if (done.length === 0) {
        toast("The shelf knows none of them: their labels do");
        return;
      }
      const undo = async () => {
        for (const { was, item } of done)
          await told(
            api.PUT("/api/items/{item_id}", {
              params: { path: { item_id: item.id } },
              body: { item: was, was: item },
            }),
          );
        await refresh(client, "item");
      };
      toast(`Filled: ${done.map((one) => `${one.item.name} (${one.parts.join(", ")})`).join("; ")}`, {
        undo,
      });
    },
  });
}
