// A pot on the sheet: its draft, its live cost, and saving it.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useReducer, useState } from "react";
import { refresh } from "../../api/asked";
import { api, type PreviewReply, type Recipe, type RecipeReply, Refusal, told } from "../../api/client";
import { useRested } from "../../parts/useRested";
import { useSaving } from "../../parts/useSaving";
import {
  type DraftAction,
  type DraftState,
  draftReducer,
  isChanged,
  keepDraft,
  keptDraft,
  startOf,
} from "./draft";

const SETTLE_MS = 50;

export interface Pot {
  state: DraftState;
  edit: (change: (recipe: Recipe) => Recipe, field?: string) => void;
  dispatch: (action: DraftAction) => void;
  /** What the server makes of the draft; the last good answer while a new one is under way or refused. */
  preview: PreviewReply | undefined;
  saved: RecipeReply;
  bad: { where: string; detail: string } | null;
  restored: boolean;
  changed: boolean;
}

const PotContext = createContext<Pot | null>(null);
export const PotProvider = PotContext.Provider;

export function usePot(): Pot {
  const pot = useContext(PotContext);
  if (!pot) throw new Error("no pot on the sheet");
  return pot;
}

export function useDraft(saved: RecipeReply): Pot {
  const [kept] = useState(() => keptDraft(saved.recipe.id));
  const [state, dispatch] = useReducer(draftReducer, kept ?? startOf(saved.recipe, saved.revision));
  useEffect(() => keepDraft(state), [state]);
  const settled = useRested(state.recipe, SETTLE_MS);
  const preview = useQuery({
    queryKey: ["preview", settled],
    queryFn: () => told<PreviewReply>(api.POST("/api/preview", { body: { recipe: settled } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 10_000,
    retry: false,
  });
  // A refused draft has no figures of its own: the last good ones stay in sight, marked as such.
  const [good, setGood] = useState<PreviewReply | undefined>(undefined);
  useEffect(() => {
    if (preview.data) setGood(preview.data);
  }, [preview.data]);
  const error = preview.error;
  const bad =
    error instanceof Refusal ? { where: error.problem.where ?? "", detail: error.problem.detail } : null;
  return {
    state,
    dispatch,
    edit: (change, field) =>
      dispatch(field === undefined ? { type: "edit", change } : { type: "edit", change, field }),
    preview: preview.data ?? good,
    saved,
    bad,
    restored: kept !== null,
    changed: isChanged(state),
  };
}

export function useSave(pot: Pot) {
  const client = useQueryClient();
  const { state, dispatch } = pot;
  return useSaving({
    mutationFn: async (over?: { recipe: Recipe; based_on: number }) => {
      const recipe = over?.recipe ?? state.recipe;
      const based_on = over?.based_on ?? state.revision;
      const path = { recipe_id: recipe.id };
      const body = { recipe, based_on };
      const { revision } = await told(api.PUT("/api/recipes/{recipe_id}", { params: { path }, body }));
      return { recipe, revision };
    },
    onSuccess: async ({ recipe, revision }) => {
      dispatch({ type: "saved", recipe, revision });
      await refresh(client, "recipe");
    },
  });
}

/** Whether the server refused a field, by its path in the draft. */
export function useIsBad(path: string): boolean {
  return usePot().bad?.where === `recipe.${path}`;
}
