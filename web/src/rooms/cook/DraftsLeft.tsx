// Drafts of a pot that is gone: what was typed can be put on as a pot again, or let go.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../../api/asked";
import { api, inWords, type Recipe, told } from "../../api/client";
import { useSaving } from "../../parts/useSaving";
import { draftsOf, dropDraft } from "./draft";

export function DraftsLeft({ id }: { id: string }) {
  const client = useQueryClient();
  const [found, setFound] = useState(() => draftsOf(id));
  const settle = (name: string) => {
    dropDraft(name);
    setFound(found.filter(([one]) => one !== name));
  };
  const putOn = useSaving({
    mutationFn: ({ recipe }: { name: string; recipe: Recipe }) =>
      told(api.POST("/api/recipes", { body: { recipe } })),
    onSuccess: async (_, { name }) => {
      settle(name);
      await refresh(client, "recipe");
    },
  });
  return (
    <>
      {found.map(([name, { recipe }]) => (
        <p key={name} className="my-3 flex flex-wrap items-center gap-3">
          <span>
            It was taken off, and what you changed of {recipe.name} was never saved. It is still here.
          </span>
          <button
            type="button"
            className="btn btn-sm"
            disabled={putOn.isPending}
            onClick={() => putOn.mutate({ name, recipe })}
          >
            Put it on again with my changes
          </button>
          <button type="button" className="btn btn-sm" onClick={() => settle(name)}>
            Drop what I changed
          </button>
        </p>
      ))}
      {putOn.isError && (
        <p role="alert" className="text-error">
          {inWords(putOn.error)}
        </p>
      )}
    </>
  );
}
