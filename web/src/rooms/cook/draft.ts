// The draft of a recipe: pure edits, undo, and what is kept through a reload.

import * as v from "valibot";
import type { Line, Recipe, Serving, Stage } from "../../api/client";
import { newStage } from "../../parts/blank";
import { keeper } from "../../parts/keeper";
import { replacedAt, withoutPlace } from "../../parts/places";
import { tabName } from "../../parts/tab";
import { draftsChanged } from "../../parts/unsaved";

export interface DraftState {
  recipe: Recipe;
  /** The saved recipe that the draft began from, and its revision. */
  base: Recipe;
  revision: number;
  past: Recipe[];
  future: Recipe[];
  /** What the last edit touched: typing on in one field is one step to undo. */
  field: string | null;
}

export type DraftAction =
  | { type: "edit"; change: (recipe: Recipe) => Recipe; field?: string }
  | { type: "undo" }
  | { type: "redo" }
  | { type: "saved"; recipe: Recipe; revision: number }
  | { type: "take"; recipe: Recipe; revision: number }
  | { type: "rebase"; base: Recipe; revision: number };

const MOST_UNDOS = 200;

export function startOf(base: Recipe, revision: number): DraftState {
  return { recipe: base, base, revision, past: [], future: [], field: null };
}

export function draftReducer(state: DraftState, action: DraftAction): DraftState {
  switch (action.type) {
    case "edit": {
      const recipe = action.change(state.recipe);
      if (recipe === state.recipe) return state;
      const field = action.field ?? null;
      const goesOn = field !== null && field === state.field;
      const past = goesOn ? state.past : [...state.past.slice(-MOST_UNDOS), state.recipe];
      return { ...state, recipe, past, future: [], field };
    }
    case "undo": {
      const recipe = state.past[state.past.length - 1];
      if (!recipe) return state;
      const future = [state.recipe, ...state.future];
      return { ...state, recipe, past: state.past.slice(0, -1), future, field: null };
    }
    case "redo": {
      const recipe = state.future[0];
      if (!recipe) return state;
      return {
        ...state,
        recipe,
        past: [...state.past, state.recipe],
        future: state.future.slice(1),
        field: null,
      };
    }
    case "saved":
      // What was typed while the save was under way stays a change over it.
      return { ...state, base: action.recipe, revision: action.revision, field: null };
    case "take":
      return { ...startOf(action.recipe, action.revision), past: [...state.past, state.recipe] };
    case "rebase":
      return { ...state, base: action.base, revision: action.revision };
  }
}

export function isChanged(state: DraftState): boolean {
  return JSON.stringify(state.recipe) !== JSON.stringify(state.base);
}

// -- kept through a reload ------------------------------------------------------------------------------------------

const text = v.string();
const stage = v.looseObject({
  id: text,
  lines: v.array(v.looseObject({ quantity: text })),
  from: v.array(v.looseObject({ stage: text, share: text })),
  change: v.looseObject({ rule: text }),
  take_out: v.array(v.looseObject({ name: text })),
});
const serving = v.looseObject({
  id: text,
  name: text,
  size: text,
  garnish: v.array(v.looseObject({})),
  accompaniments: v.array(v.looseObject({})),
  packaging: v.array(v.looseObject({})),
});
/** What a pot sheet needs of a recipe to show it; the server checks the rest when it is sent. */
const recipe = v.custom<Recipe>((value) =>
  v.is(v.looseObject({ id: text, name: text, stages: v.array(stage), servings: v.array(serving) }), value),
);
/** Before version 2 every stage had a full flame that nobody had said; a flame that is said is one turned up on purpose. */
const unsaidFlame = (value: unknown): unknown =>
  value === null
    ? value
    : JSON.parse(JSON.stringify(value), (key, one) => (key === "power_share" && one === "1" ? null : one));
const drafts = keeper(
  "draft",
  2,
  v.object({ recipe, base: recipe, revision: v.number() }),
  (value, version) => (version < 2 ? unsaidFlame(value) : value),
);

const own = (id: string) => `${id}@${tabName()}`;

/** Each tab keeps its own draft of a pot. */
export function keepDraft(state: DraftState): void {
  const { recipe, base, revision } = state;
  if (isChanged(state)) drafts.keep(own(base.id), { recipe, base, revision });
  else drafts.forget(own(base.id));
  draftsChanged();
}

/** The draft of a pot that this tab keeps. */
export function keptDraft(id: string): DraftState | null {
  return begun(drafts.kept(own(id)));
}

function begun(kept: ReturnType<typeof drafts.kept>): DraftState | null {
  return kept && { ...startOf(kept.base, kept.revision), recipe: kept.recipe, past: [kept.base] };
}

/** All drafts of a pot, of this tab and of others, by their names; one of before tabs had their own, too. */
export function draftsOf(id: string): [string, DraftState][] {
  return drafts
    .names()
    .filter((name) => name === id || name.startsWith(`${id}@`))
    .flatMap((name) => {
      const state = begun(drafts.kept(name));
      return state ? [[name, state] as [string, DraftState]] : [];
    });
}

/** Those that other tabs keep, or have left behind. */
export const otherDrafts = (id: string) => draftsOf(id).filter(([name]) => name !== own(id));

export function dropDraft(name: string): void {
  drafts.forget(name);
  draftsChanged();
}

// -- edits ----------------------------------------------------------------------------------------------------------

function moved<T>(list: readonly T[], place: number, step: number): T[] {
  const to = place + step;
  if (to < 0 || to >= list.length) return [...list];
  const next = [...list];
  next.splice(to, 0, ...next.splice(place, 1));
  return next;
}

export function changeStage(place: number, change: (stage: Stage) => Stage) {
  return (recipe: Recipe): Recipe => ({ ...recipe, stages: replacedAt(recipe.stages, place, change) });
}

export function changeLine(stage: number, place: number, patch: Partial<Line>) {
  return changeStage(stage, (one) => ({
    ...one,
    lines: replacedAt(one.lines, place, (line) => ({ ...line, ...patch })),
  }));
}

export function addLine(stage: number, line: Line) {
  return changeStage(stage, (one) => ({ ...one, lines: [...one.lines, line] }));
}

/** Lets the seasoning allowance stand for what is put in to taste; each is named once. */
export function coverByAllowance(names: readonly string[]) {
  return (recipe: Recipe): Recipe => {
    const had = recipe.allowance_covers ?? [];
    const known = new Set(had.map((one) => one.toLowerCase()));
    return { ...recipe, allowance_covers: [...had, ...names.filter((one) => !known.has(one.toLowerCase()))] };
  };
}

export function removeLine(stage: number, place: number) {
  return changeStage(stage, (one) => ({ ...one, lines: withoutPlace(one.lines, place) }));
}

/** Where a line stands: in which stage, and in which place there. */
export interface LinePlace {
  stage: number;
  line: number;
}

/** Where a line comes to by a step up or down: over the edge of its stage into the one beside it; null where there is none. */
export function stepped(recipe: Recipe, { stage, line }: LinePlace, step: 1 | -1): LinePlace | null {
  const here = recipe.stages[stage];
  if (here && line + step >= 0 && line + step < here.lines.length) return { stage, line: line + step };
  const beside = recipe.stages[stage + step];
  return beside ? { stage: stage + step, line: step > 0 ? 0 : beside.lines.length } : null;
}

/** A line taken from one place and put into another, counted as the lines stand before it is taken. */
export function moveLine(from: LinePlace, to: LinePlace) {
  return (recipe: Recipe): Recipe => {
    const line = recipe.stages[from.stage]?.lines[from.line];
    if (!line || !recipe.stages[to.stage]) return recipe;
    const left = changeStage(from.stage, (one) => ({ ...one, lines: withoutPlace(one.lines, from.line) }))(
      recipe,
    );
    return changeStage(to.stage, (one) => {
      // In another stage somebody else may bear its name.
      const taken = one.lines.some((other) => other.id != null && other.id === line.id);
      return { ...one, lines: one.lines.toSpliced(to.line, 0, taken ? { ...line, id: null } : line) };
    })(left);
  };
}

/** A new last stage that takes all of the one before it. */
export function addStage(recipe: Recipe): Recipe {
  let number = recipe.stages.length + 1;
  while (recipe.stages.some((stage) => stage.id === `stage-${number}`)) number++;
  const last = recipe.stages[recipe.stages.length - 1];
  return { ...recipe, stages: [...recipe.stages, newStage(`stage-${number}`, last?.id)] };
}

/** Without a stage; what took from it takes from where it took. */
export function removeStage(place: number) {
  return (recipe: Recipe): Recipe => {
    const gone = recipe.stages[place];
    if (!gone) return recipe;
    const stages = withoutPlace(recipe.stages, place).map((stage) => ({
      ...stage,
      from: stage.from.flatMap((inflow) => (inflow.stage === gone.id ? gone.from : [inflow])),
    }));
    return { ...recipe, stages: stages.map((stage) => ({ ...stage, from: onceEach(stage.from) })) };
  };
}

function onceEach(from: Stage["from"]): Stage["from"] {
  return from.filter((inflow, at) => from.findIndex((one) => one.stage === inflow.stage) === at);
}

/** A stage one place up. Where it took from its neighbour, the two change places in the run of the pot too. */
export function moveStageUp(place: number) {
  return (recipe: Recipe): Recipe => {
    const upper = recipe.stages[place - 1];
    const lower = recipe.stages[place];
    if (!upper || !lower) return recipe;
    const chained = lower.from.some((inflow) => inflow.stage === upper.id);
    const stages = moved(recipe.stages, place, -1);
    if (!chained) return { ...recipe, stages };
    const rewired = stages.map((stage) => {
      if (stage.id === lower.id) return { ...stage, from: upper.from };
      if (stage.id === upper.id) return { ...stage, from: [{ stage: lower.id, share: "1" }] };
      const from = stage.from.map((inflow) =>
        inflow.stage === lower.id ? { ...inflow, stage: upper.id } : inflow,
      );
      return { ...stage, from };
    });
    return { ...recipe, stages: rewired };
  };
}

/** A stage in the place of another, by steps. */
export function moveStage(from: number, to: number) {
  return (recipe: Recipe): Recipe => {
    let now = recipe;
    for (let at = from; at > to; at--) now = moveStageUp(at)(now);
    for (let at = from; at < to; at++) now = moveStageUp(at + 1)(now);
    return now;
  };
}

export function changeServing(place: number, patch: Partial<Serving>) {
  return (recipe: Recipe): Recipe => ({
    ...recipe,
    servings: replacedAt(recipe.servings, place, (serving) => ({ ...serving, ...patch })),
  });
}

export function removeServing(place: number) {
  return (recipe: Recipe): Recipe => ({ ...recipe, servings: withoutPlace(recipe.servings, place) });
}
