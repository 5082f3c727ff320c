// The head of the pot sheet: name, what is saved, undo.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, inWords, told } from "../../api/client";
import { NAMES, refresh } from "../../api/kitchen";
import { idFor } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { useToast } from "../../parts/Toasts";
import { useStillHere } from "../../parts/useStillHere";
import { Earlier } from "./Earlier";
import { underId } from "./garnish";
import { usePot } from "./usePot";

export function PotHead({ save, saving }: { save: () => void; saving: boolean }) {
  const pot = usePot();
  const { state, dispatch, edit, changed } = pot;
  const takeOff = useTakeOff();
  const duplicate = useDuplicate();
  const [looking, setLooking] = useState(false);
  useKeys(looking ? { escape: () => setLooking(false) } : {});
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 mb-3">
        <h1 className="contents">
          <span className="sr-only">Pot sheet: {state.recipe.name}</span>
        </h1>
        <input
          className="cell-input text-2xl font-semibold grow max-w-xl"
          aria-label="Name of the recipe"
          value={state.recipe.name}
          maxLength={200}
          onChange={(event) => edit((recipe) => ({ ...recipe, name: event.target.value }), "name")}
        />
        <span className="quiet" data-testid="saved-state">
          revision {state.revision}, {changed ? "changed, not saved" : "saved"}
        </span>
        {pot.saved.used_by.length > 0 && (
          <span className="quiet text-sm truncate max-w-72" title={pot.saved.used_by.join(", ")}>
            goes into {pot.saved.used_by.join(", ")}
          </span>
        )}
        <span className="ml-auto flex flex-wrap gap-2 no-print">
          {pot.restored && changed && (
            <button
              type="button"
              className="btn btn-sm"
              onClick={() =>
                dispatch({ type: "take", recipe: pot.saved.recipe, revision: pot.saved.revision })
              }
            >
              Drop what was kept
            </button>
          )}
          <button
            type="button"
            className="btn btn-sm"
            disabled={state.past.length === 0}
            onClick={() => dispatch({ type: "undo" })}
          >
            Undo <kbd>Ctrl Z</kbd>
          </button>
          <button
            type="button"
            className="btn btn-sm"
            aria-expanded={looking}
            onClick={() => setLooking(!looking)}
          >
            Earlier
          </button>
          <button
            type="button"
            className="btn btn-sm"
            disabled={duplicate.isPending}
            onClick={() => duplicate.mutate()}
          >
            Duplicate
          </button>
          <button type="button" className="btn btn-sm" onClick={() => takeOff()}>
            Take off
          </button>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!changed || saving}
            onClick={save}
          >
            {saving ? "Saving …" : "Save"} <kbd className="text-base-content">Ctrl S</kbd>
          </button>
        </span>
      </div>
      {looking && <Earlier close={() => setLooking(false)} />}
    </>
  );
}

/** Takes the recipe off, with an undo that puts it on again as it was saved. */
/** The pot in hand once more, under another name: what is not saved of it goes along. */
function useDuplicate() {
  const { state } = usePot();
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  return useMutation({
    mutationFn: async () => {
      const names = await client.fetchQuery(NAMES);
      const taken = (name: string) => names.some((one) => one.name === name);
      let name = `${state.recipe.name}, another`;
      for (let number = 2; taken(name); number++) name = `${state.recipe.name}, another ${number}`;
      const id = idFor(name, (one) => names.some((known) => known.id === one));
      // A price belongs to the pot that it was set for.
      const servings = state.recipe.servings.map((one) => ({ ...one, price: null, price_set_on: null }));
      await told(
        api.POST("/api/recipes", {
          body: { recipe: underId({ ...state.recipe, name, servings }, id), by: "the kitchen" },
        }),
      );
      return id;
    },
    onSuccess: async (id) => {
      await refresh(client, "recipe");
      toast("Duplicated: its prices are still to be set");
      navigate(`/cook/${id}`);
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
}

function useTakeOff(): () => void {
  const { saved } = usePot();
  const client = useQueryClient();
  const navigate = useNavigate();
  const stillHere = useStillHere();
  const toast = useToast();
  const { recipe } = saved;
  const putBack = useMutation({
    mutationFn: () => told(api.POST("/api/recipes", { body: { recipe, by: "the kitchen" } })),
    onSuccess: () => refresh(client, "recipe"),
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const takeOff = useMutation({
    mutationFn: () => {
      const params = { path: { recipe_id: recipe.id }, query: { based_on: saved.revision } };
      return told(api.DELETE("/api/recipes/{recipe_id}", { params }));
    },
    onSuccess: async () => {
      await refresh(client, "recipe");
      if (stillHere()) navigate("/cook");
      toast(`${recipe.name} was taken off`, { undo: () => putBack.mutate() });
    },
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  return () => takeOff.mutate();
}
