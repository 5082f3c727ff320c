// A stock that a kitchen can make itself: put on as it is usually made, told, and taken off again by Undo.

import { useQueryClient } from "@tanstack/react-query";
import { refresh } from "../api/asked";
import { api, type PasteSaved, told } from "../api/client";
import { useToast } from "./Toasts";

/** How it is offered. */
export const makeIt = (name: string) => `make it: ${name}`;

/** Makes a base, and gives the recipe's id. */
export function useMakeBase() {
  const client = useQueryClient();
  const toast = useToast();
  return async (base: string, name: string): Promise<string> => {
    const made = await told<PasteSaved>(
      api.POST("/api/bases/{base_id}", { params: { path: { base_id: base } } }),
    );
    await refresh(client, "item", "recipe");
    const undo = async () => {
      const params = { path: { recipe_id: made.recipe }, query: { based_on: made.revision } };
      await told(api.DELETE("/api/recipes/{recipe_id}", { params }));
      await refresh(client, "recipe");
    };
    toast(`${name} is a base of yours, as it is usually made: look at its pot`, { undo });
    return made.recipe;
  };
}
