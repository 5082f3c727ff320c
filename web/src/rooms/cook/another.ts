// Another pot made of a draft: under a name of its own, its prices still to be set.

import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { refresh } from "../../api/asked";
import { api, inWords, type Recipe, told } from "../../api/client";
import { NAMES } from "../../api/kitchen";
import { idFor } from "../../parts/format";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { underId } from "./garnish";

const LONGEST = 190;

interface Another {
  recipe: Recipe;
  name: string;
  said: string;
}

/** Adds it, says so, and goes there. A name that is taken is counted on. */
export function useAnother() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  return useSaving({
    mutationFn: async ({ recipe, name: wanted }: Another) => {
      const names = await client.fetchQuery(NAMES);
      const taken = (name: string) => names.some((one) => one.name === name);
      const base = wanted.slice(0, LONGEST);
      let name = base;
      for (let number = 2; taken(name); number++) name = `${base} ${number}`;
      const id = idFor(name, (one) => names.some((known) => known.id === one));
      // A price belongs to the pot that it was set for.
      const servings = recipe.servings.map((one) => ({ ...one, price: null, price_set_on: null }));
      const body = { recipe: underId({ ...recipe, name, servings }, id) };
      await told(api.POST("/api/recipes", { body }));
      return id;
    },
    onSuccess: async (id, { said }) => {
      await refresh(client, "recipe");
      toast(said);
      navigate(`/cook/${id}`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
}
