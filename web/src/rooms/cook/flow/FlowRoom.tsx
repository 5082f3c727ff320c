// The second view of a pot: where its mass and its money go, from what is bought to the portions.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, inWords, type PotFlow, type Recipe, type RecipeReply, told } from "../../../api/client";
import { useKeys } from "../../../parts/keys";
import { keptDraft } from "../draft";
import { FlowChart } from "./FlowChart";
import type { Measure } from "./layout";

export function FlowRoom() {
  const { recipe: id = "" } = useParams();
  const found = useQuery({
    queryKey: ["recipe", id],
    queryFn: () =>
      told<RecipeReply>(api.GET("/api/recipes/{recipe_id}", { params: { path: { recipe_id: id } } })),
  });
  if (found.isPending) return <p>Fetching the pot …</p>;
  if (found.isLoadingError)
    return (
      <div className="sheet p-6">
        <p role="alert">{inWords(found.error)}</p>
        <Link className="link" to="/cook">
          All recipes
        </Link>
      </div>
    );
  return <Flow key={id} saved={found.data.recipe} />;
}

function Flow({ saved }: { saved: Recipe }) {
  // What is in hand and not saved flows, too.
  const [draft] = useState(() => keptDraft(saved.id)?.recipe ?? saved);
  const [measure, setMeasure] = useState<Measure>("mass");
  const [serving, setServing] = useState<string | null>(draft.servings[0]?.id ?? null);
  useKeys({ "Alt+m": () => setMeasure(measure === "mass" ? "money" : "mass") });
  const flow = useQuery({
    queryKey: ["flow", draft, serving],
    queryFn: () => told<PotFlow>(api.POST("/api/flow", { body: { recipe: draft, serving } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-2">
        <h1 className="text-xl font-semibold">{draft.name}: where it goes</h1>
        <span className="contents no-print">
          <fieldset className="flex items-center gap-3">
            <legend className="sr-only">Drawn in</legend>
            {(["mass", "money"] as const).map((one) => (
              <label key={one} className="flex items-center gap-1">
                <input
                  type="radio"
                  name="measure"
                  className="radio radio-sm"
                  checked={measure === one}
                  onChange={() => setMeasure(one)}
                />
                in {one}
              </label>
            ))}
            <kbd>Alt M</kbd>
          </fieldset>
          {draft.servings.length > 1 && (
            <label className="flex items-center gap-2">
              <span className="quiet">sold as</span>
              <select
                className="cell-input"
                value={serving ?? ""}
                onChange={(event) => setServing(event.target.value)}
              >
                {draft.servings.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          <button type="button" className="btn btn-sm ml-auto" onClick={() => window.print()}>
            Print
          </button>
          <Link className="btn btn-sm" to={`/cook/${draft.id}`}>
            Back to the pot
          </Link>
        </span>
        <span className="only-print quiet">in {measure}</span>
      </div>
      {draft !== saved && <p className="text-sm mb-2">As it is in your hands, not saved yet.</p>}
      {flow.isError && (
        <p role="alert" className="sheet p-6 text-error">
          {inWords(flow.error)}
        </p>
      )}
      {flow.data && !flow.isError && (
        <div className={`sheet p-3 ${flow.isPlaceholderData ? "opacity-70" : ""}`}>
          {flow.data.lack !== null ? (
            <p className="p-3">It cannot be drawn yet: {flow.data.lack}.</p>
          ) : (
            // On a phone it is drawn no smaller than it can be read, and moved under the finger.
            <div className="overflow-x-auto">
              <div className="max-md:w-[60rem]">
                <FlowChart flow={flow.data} measure={measure} draft={draft} />
              </div>
            </div>
          )}
        </div>
      )}
    </>
  );
}
