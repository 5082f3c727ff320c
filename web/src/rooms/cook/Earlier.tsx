// The earlier versions of a pot: who saved them when, beside the one in hand, and the way back to one.

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, inWords, type RevisionReply, told } from "../../api/client";
import { day, moment } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { useToast } from "../../parts/Toasts";
import { usePot } from "./usePot";
import { Version } from "./Version";

export function Earlier({ close }: { close: () => void }) {
  const { state, edit, dispatch } = usePot();
  const toast = useToast();
  const [chosen, setChosen] = useState<number | null>(null);
  const id = state.recipe.id;
  const found = useQuery({
    queryKey: ["revisions", id, state.revision],
    queryFn: () =>
      told<RevisionReply[]>(
        api.GET("/api/recipes/{recipe_id}/revisions", { params: { path: { recipe_id: id } } }),
      ),
  });
  const all = (found.data ?? []).filter((one) => one.recipe);
  const looked = all.find((one) => one.revision === chosen);
  const bringBack = () => {
    const back = looked?.recipe;
    if (!back) return;
    edit(() => back);
    toast(`Revision ${looked.revision} is in hand: save it, and it holds`, {
      undo: () => dispatch({ type: "undo" }),
    });
    close();
  };
  return (
    <Panel
      label="Earlier versions"
      title="Earlier versions"
      className="mb-3"
      beside={
        <>
          {chosen !== null && (
            <Link className="link text-sm" to={`/cook/side/by-side?of=${id}&of=${id}~${chosen}`}>
              side by side with what is saved
            </Link>
          )}
          <button type="button" className="btn btn-xs" onClick={close}>
            Close
          </button>
        </>
      }
    >
      {found.isError && (
        <p role="alert" className="text-error">
          {inWords(found.error)}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {all.map((one) => (
          <button
            key={one.revision}
            type="button"
            className="btn btn-xs"
            aria-pressed={one.revision === chosen}
            onClick={() => setChosen(one.revision)}
          >
            revision {one.revision}, {day(moment(one.saved_at).day)}, {one.saved_by}
          </button>
        ))}
      </div>
      {looked?.recipe && (
        <>
          <div className="grid grid-cols-1 md:grid-cols-2 gap-4 my-3">
            <Version title={`Revision ${looked.revision}`} recipe={looked.recipe} other={state.recipe} />
            <Version title="In hand" recipe={state.recipe} other={looked.recipe} />
          </div>
          <button type="button" className="btn btn-sm btn-primary" onClick={bringBack}>
            Bring revision {looked.revision} back
          </button>
        </>
      )}
    </Panel>
  );
}
