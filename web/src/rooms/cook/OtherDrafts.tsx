// Drafts of this pot that another tab keeps, or has left behind: never mixed into this one, and never out of sight.

import { useState } from "react";
import { dropDraft, otherDrafts } from "./draft";
import { usePot } from "./usePot";

export function OtherDrafts() {
  const { state, dispatch } = usePot();
  const [found, setFound] = useState(() => otherDrafts(state.base.id));
  const settle = (name: string) => {
    dropDraft(name);
    setFound(found.filter(([one]) => one !== name));
  };
  return found.map(([name, other]) => (
    <p key={name} className="sheet px-3 py-2 mb-2 flex flex-wrap items-center gap-3 no-print" role="status">
      <span>Another tab has a draft of this pot that is not saved, begun on revision {other.revision}.</span>
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => {
          dispatch({ type: "edit", change: () => other.recipe });
          settle(name);
        }}
      >
        Take it over (Undo brings this one back)
      </button>
      <button type="button" className="btn btn-xs" onClick={() => settle(name)}>
        Drop it
      </button>
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => setFound(found.filter(([one]) => one !== name))}
      >
        Leave it there
      </button>
    </p>
  ));
}
