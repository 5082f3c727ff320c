// A save that did not go through: somebody else was first, or the server did not answer.

import type { UseMutationResult } from "@tanstack/react-query";
import { inWords, type Line, type Recipe, Refusal } from "../../api/client";
import { summary } from "./StageDetails";
import type { Pot } from "./usePot";

type Save = UseMutationResult<
  { recipe: Recipe; revision: number },
  Error,
  { recipe: Recipe; based_on: number } | undefined
>;

export function Conflict({ error, pot, save }: { error: Error; pot: Pot; save: Save }) {
  const problem = error instanceof Refusal ? error.problem : null;
  if (problem?.type !== "urn:potrel:problem:stale-recipe") {
    return (
      <p role="alert" className="bg-error text-error-content rounded px-3 py-2 my-2">
        Not saved: {inWords(error)}{" "}
        <button type="button" className="underline" onClick={() => save.mutate(undefined)}>
          Try again
        </button>
      </p>
    );
  }
  const theirs = problem.theirs ?? null;
  const revision = problem.their_revision ?? pot.state.revision;
  const mine = pot.state.recipe;
  return (
    <section
      role="alert"
      aria-label="Two versions"
      className="sheet border-error border-2 p-4 my-2"
      data-testid="conflict"
    >
      <h2 className="font-semibold text-lg">{problem.detail}</h2>
      {theirs ? (
        <div className="grid grid-cols-2 gap-4 my-3">
          <Version title="Yours, not saved" recipe={mine} other={theirs} />
          <Version title={`Theirs, revision ${revision}`} recipe={theirs} other={mine} />
        </div>
      ) : (
        <p className="my-2">Yours is kept here. Put it on again under New soup if it is still wanted.</p>
      )}
      <div className="flex gap-2">
        {theirs && (
          <>
            <button
              type="button"
              className="btn btn-sm btn-primary"
              onClick={() => save.mutate({ recipe: mine, based_on: revision })}
            >
              Keep mine, as revision {revision + 1}
            </button>
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => {
                pot.dispatch({ type: "take", recipe: theirs, revision });
                save.reset();
              }}
            >
              Take theirs (Undo brings mine back)
            </button>
          </>
        )}
        <button type="button" className="btn btn-sm" onClick={() => save.reset()}>
          Go on with mine
        </button>
      </div>
    </section>
  );
}

const inText = (line: Line) =>
  [line.quantity, line.basis === "EP" ? "EP" : "", line.item ?? line.recipe, line.preparation]
    .flat()
    .filter(Boolean)
    .join(" ");

/** A version in lines of text: how each stage works, what goes into it, what each serving is. */
function inLines(recipe: Recipe): string[] {
  const stages = recipe.stages.flatMap((stage) => {
    const taken = stage.take_out.map(
      (one) => `out: ${one.name} ${one.mass ?? `${one.spent_factor} of ${one.of.join(", ")}`}`,
    );
    const how = [summary(stage, recipe), stage.residue === "0" ? "" : `residue ${stage.residue}`, ...taken];
    return [
      `${stage.id}: ${how.filter(Boolean).join(" · ")}`,
      ...stage.lines.map((line) => `${stage.id}: ${inText(line)}`),
    ];
  });
  const servings = recipe.servings.map((serving) => {
    const beside = [...serving.garnish, ...serving.accompaniments, ...serving.packaging].map(inText);
    return [`${serving.name} ${serving.size}: ${serving.price ?? "no set price"}`, ...beside].join(" · ");
  });
  return [recipe.name, ...stages, ...servings];
}

/** A version; what the other has not, or has otherwise, is marked. */
function Version({ title, recipe, other }: { title: string; recipe: Recipe; other: Recipe }) {
  const theirs = new Set(inLines(other));
  return (
    <div>
      <h3 className="font-semibold">{title}</h3>
      <ul className="text-sm">
        {[...new Set(inLines(recipe))].map((text) => (
          <li key={text} className={theirs.has(text) ? "quiet" : "font-semibold"}>
            {theirs.has(text) ? "" : "≠ "}
            {text}
          </li>
        ))}
      </ul>
    </div>
  );
}
