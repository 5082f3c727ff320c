// What is kept of a pot for the garnish of its own portions: edits that keep the take-out and its lines together.

import type { Line, PreviewReply, Recipe, SheetLine, TakeOut } from "../../api/client";
import { newLine } from "../../parts/blank";
import { replacedAt } from "../../parts/places";
import { changeStage } from "./draft";

const ROLES = ["garnish", "accompaniments", "packaging"] as const;

/** The recipe with each line changed that is served beside it; null takes one off. */
function withBeside(recipe: Recipe, change: (line: Line) => Line | null): Recipe {
  const each = (lines: Line[]) => lines.flatMap((line) => change(line) ?? []);
  const servings = recipe.servings.map((serving) => ({
    ...serving,
    ...Object.fromEntries(ROLES.map((role) => [role, each(serving[role])])),
  }));
  return { ...recipe, servings };
}

const isKept = (recipe: Recipe, name: string) => (line: Line) =>
  line.recipe === recipe.id && line.byproduct === name;

/** Whether some serving is garnished with what is taken out under a name. */
export function isKeptForGarnish(recipe: Recipe, name: string): boolean {
  return recipe.servings.some((serving) => ROLES.some((role) => serving[role].some(isKept(recipe, name))));
}

/** What is taken out of a stage. A garnish that is kept of it keeps its name, and goes with it. */
export function changeTakeOuts(place: number, take_out: TakeOut[]) {
  return (recipe: Recipe): Recipe => {
    const before = recipe.stages[place]?.take_out ?? [];
    const named = before.map((one, at) => {
      const same = take_out.length === before.length ? take_out[at]?.name : undefined;
      return [one.name, same ?? take_out.find((left) => left.name === one.name)?.name ?? null] as const;
    });
    const renamed = withBeside(recipe, (line) => {
      const kept = named.find(([was]) => isKept(recipe, was)(line));
      if (!kept) return line;
      return kept[1] === null ? null : { ...line, byproduct: kept[1] };
    });
    return changeStage(place, (stage) => ({ ...stage, take_out }))(renamed);
  };
}

/** So much of what is taken out goes onto each portion of every serving, at what it cost. */
export function keepForGarnish(stage: number, place: number, quantity: string) {
  return (recipe: Recipe): Recipe => {
    const taken = recipe.stages[stage]?.take_out[place];
    if (!taken) return recipe;
    const line = { ...newLine(quantity, { recipe: recipe.id }), byproduct: taken.name };
    const servings = recipe.servings.map((one) => ({ ...one, garnish: [...one.garnish, line] }));
    const kept = { ...taken, value_per_kg: "0", use: "garnish" };
    return changeStage(stage, (one) => ({ ...one, take_out: replacedAt(one.take_out, place, () => kept) }))({
      ...recipe,
      servings,
    });
  };
}

/** The same recipe under another id: what it keeps for its own garnish comes along. */
export function underId(recipe: Recipe, id: string): Recipe {
  const own = withBeside(recipe, (line) => (line.recipe === recipe.id ? { ...line, recipe: id } : line));
  return { ...own, id };
}

/** The lines that are in the pot at a stage: its own and those of the stages before it. */
export function linesUpTo(stage: string, preview: PreviewReply | undefined): readonly SheetLine[] {
  const stages = preview?.sheet.stages.map((one) => one.id) ?? [];
  const before = new Set(stages.slice(0, stages.indexOf(stage) + 1));
  return (preview?.sheet.lines ?? []).filter((line) => before.has(line.stage) && line.id !== "top_up");
}
