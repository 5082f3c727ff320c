// Keeps what is being compared under a name, or what was changed of a comparison that is kept.

import { useState } from "react";
import { useSearchParams } from "react-router";
import { type Comparison, inWords } from "../../api/client";
import { useKeys } from "../../parts/keys";
import { newId } from "../../parts/newId";
import { useToast } from "../../parts/Toasts";
import { useStillHere } from "../../parts/useStillHere";
import { useKeepComparison } from "./comparisons";

interface Props {
  unit: "kg" | "l";
  forms: string[];
  /** How it is kept, where it is. */
  kept: Comparison | null;
}

export function KeepComparison({ unit, forms, kept }: Props) {
  const toast = useToast();
  const stillHere = useStillHere();
  const [, setSearch] = useSearchParams();
  const [fresh] = useState(() => newId("comparison"));
  const [name, setName] = useState(kept?.name ?? "");
  // What was seen when it was opened: somebody else's change since then is not written over.
  const [seen, setSeen] = useState(kept);
  const keep = useKeepComparison((one) => {
    setSeen(one);
    toast(`Kept: ${one.name}`);
    if (kept === null && stillHere()) {
      setSearch((now) => new URLSearchParams([...now, ["kept", one.id]]), { replace: true });
    }
  });
  const comparison = { id: seen?.id ?? fresh, name: name.trim(), unit, forms };
  const same =
    seen !== null && seen.name === comparison.name && seen.unit === unit && `${seen.forms}` === `${forms}`;
  const ready = comparison.name !== "" && forms.length > 0 && !same && !keep.isPending;
  const toKeep = () => ready && keep.mutate({ comparison, seen });
  useKeys({ "Ctrl+s": toKeep });
  return (
    <form
      className="flex flex-wrap items-center gap-2 mt-4"
      onSubmit={(event) => {
        event.preventDefault();
        toKeep();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="quiet">{seen ? "kept as" : "keep it as"}</span>
        <input
          className="input input-sm w-64"
          maxLength={200}
          placeholder="e.g. squash, cubed"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button type="submit" className="btn btn-sm" disabled={!ready}>
        Keep <kbd>Ctrl S</kbd>
      </button>
      {keep.isError && (
        <span role="alert" className="text-error">
          {inWords(keep.error)}
        </span>
      )}
    </form>
  );
}
