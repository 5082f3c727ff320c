// A save that did not go through: somebody else was first, or the server did not answer.

import type { UseMutationResult } from "@tanstack/react-query";
import { inWords, type Recipe, Refusal } from "../../api/client";
import { threeWay } from "./merge";
import type { Pot } from "./usePot";
import { Version } from "./Version";

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
  const merged = threeWay(pot.state.base, mine, theirs ?? mine);
  return (
    <section
      role="alert"
      aria-label="Two versions"
      className="sheet border-error border-2 p-4 my-2"
      data-testid="conflict"
    >
      <h2 className="font-semibold text-lg">{problem.detail}</h2>
      {theirs && (
        <ul className="text-sm mt-2">
          {merged.taken.map((one) => (
            <li key={one}>theirs comes in: {one}</li>
          ))}
          {merged.both.map((one) => (
            <li key={one} className="text-error">
              ? both changed it: theirs is {one}, yours holds
            </li>
          ))}
        </ul>
      )}
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
              onClick={() => {
                pot.dispatch({ type: "edit", change: () => merged.recipe });
                save.mutate({ recipe: merged.recipe, based_on: revision });
              }}
            >
              Keep mine with theirs, as revision {revision + 1}
            </button>
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => save.mutate({ recipe: mine, based_on: revision })}
            >
              Mine alone
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
