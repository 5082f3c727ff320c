// Takes a round of prices back, and says where that cannot be.

import { useQueryClient } from "@tanstack/react-query";
import { api, inWords, told } from "../../api/client";
import { refreshAll } from "../../api/kitchen";
import { useToast } from "../../parts/Toasts";

/** Takes a round back by its number; tells whether it was. */
export function useTakeBack(): (round: number) => Promise<boolean> {
  const client = useQueryClient();
  const toast = useToast();
  return async (number) => {
    let done = false;
    try {
      await told(api.POST("/api/prices/rounds/{number}/take-back", { params: { path: { number } } }));
      done = true;
    } catch (error) {
      toast(inWords(error), { bad: true });
    }
    await refreshAll(client);
    return done;
  };
}
