// Takes a round of prices back, and says where that cannot be.

import { useQueryClient } from "@tanstack/react-query";
import { refreshAll } from "../../api/asked";
import { api, inWords, type TakenBack, told } from "../../api/client";
import { useToast } from "../../parts/Toasts";

/** Takes a round back by its number, price by price; tells whether all of it was. */
export function useTakeBack(): (round: number) => Promise<boolean> {
  const client = useQueryClient();
  const toast = useToast();
  return async (number) => {
    let done = false;
    try {
      const path = { params: { path: { number } } };
      const { prices, left } = await told<TakenBack>(api.POST("/api/prices/rounds/{number}/take-back", path));
      done = left.length === 0;
      if (!done) {
        const whys = left.map((one) => `${one.name}: ${one.why}`).join("; ");
        toast(`${prices} of ${prices + left.length} taken back. ${whys}`, { bad: true });
      }
    } catch (error) {
      toast(inWords(error), { bad: true });
    }
    await refreshAll(client);
    return done;
  };
}
