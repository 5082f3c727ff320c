// The head of the pot sheet: name, what is saved, undo.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { refresh } from "../../api/asked";
import { api, inWords, told } from "../../api/client";
import { useKeys } from "../../parts/keys";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { useStillHere } from "../../parts/useStillHere";
import { useAnother } from "./another";
import { Earlier } from "./Earlier";
import { usePot } from "./usePot";
import { WhatIf } from "./WhatIf";

export function PotHead({ save, saving }: { save: () => void; saving: boolean }) {
  const pot = usePot();
  const { state, dispatch, edit, changed } = pot;
  const takeOff = useTakeOff();
  const duplicate = useAnother();
  const [looking, setLooking] = useState(false);
  const [trying, setTrying] = useState(false);
  const kin = pot.saved.variants.map((one) => one.id);
  const beside = new URLSearchParams([state.recipe.id, ...kin].slice(0, 4).map((id) => ["of", id]));
  const shut = () => {
    setLooking(false);
    setTrying(false);
  };
  useKeys({
    "Alt+q": () => setTrying(!trying),
    ...(looking || trying ? { escape: shut } : {}),
    ...(trying ? { "field+escape": shut } : {}),
  });
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
            aria-expanded={trying}
            title="Alt Q"
            onClick={() => setTrying(!trying)}
          >
            What if
          </button>
          <Link className="btn btn-sm" to={`/cook/${state.recipe.id}/flow`}>
            Flow
          </Link>
          <Link className="btn btn-sm" to={`/cook/side/by-side?${beside}`}>
            Side by side
          </Link>
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
            onClick={() =>
              duplicate.mutate({
                recipe: state.recipe,
                name: `${state.recipe.name}, another`,
                said: "Duplicated: its prices are still to be set",
              })
            }
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
      {trying && <WhatIf close={() => setTrying(false)} />}
      {looking && <Earlier close={() => setLooking(false)} />}
    </>
  );
}

/** Takes the recipe off, with an undo that puts it on again as it was saved. */
function useTakeOff(): () => void {
  const { saved } = usePot();
  const client = useQueryClient();
  const navigate = useNavigate();
  const stillHere = useStillHere();
  const toast = useToast();
  const { recipe } = saved;
  const putBack = useSaving({
    mutationFn: () => told(api.POST("/api/recipes", { body: { recipe } })),
    onSuccess: () => refresh(client, "recipe"),
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const takeOff = useSaving({
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
