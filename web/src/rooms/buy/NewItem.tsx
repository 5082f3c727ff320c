// Names a new item, and starts it from what the shelf knows of it.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Known } from "../../api/client";
import { percent } from "../../parts/format";
import { KINDS } from "../../parts/kinds";
import { wholeMeasure } from "../../parts/measures";
import { NameDialog } from "../../parts/NameDialog";
import { addItem, calledSo, onShelf } from "../../parts/newItem";
import { useSaving } from "../../parts/useSaving";

interface Props {
  start?: string;
  leave: () => void;
  made: (id: string) => void;
}

export function NewItem({ start = "", leave, made }: Props) {
  // Nobody said yet: what is only a guess would have no allergens, and be taken for a plant.
  const [kind, setKind] = useState("");
  // Undefined until somebody chooses: then what the name can only mean is taken.
  const [chosen, setChosen] = useState<Known | null | undefined>(undefined);
  const client = useQueryClient();
  const add = useSaving({
    mutationFn: async (name: string) => {
      const found = chosen === undefined ? await client.ensureQueryData(onShelf(name)) : [];
      const known = chosen === undefined ? calledSo(found) : chosen;
      if (known === null && found.length > 0) throw new Error("Which of these is it, or none of them?");
      if (known === null && kind === "")
        throw new Error('It is not on the shelf: say what kind it is, or "not known".');
      return addItem(client, name, kind, known);
    },
    onSuccess: (id) => {
      leave();
      made(id);
    },
  });
  return (
    <NameDialog
      title="A new item"
      action="Add it"
      start={start}
      error={add.error}
      busy={add.isPending}
      submit={add.mutate}
      leave={leave}
      below={(name) => (
        <FromTheShelf
          name={name}
          taken={(found) => (chosen === undefined ? (calledSo(found) ?? undefined) : chosen)}
          take={setChosen}
        />
      )}
    >
      <label className="flex flex-col gap-1 mt-3">
        What kind is it, if it is not on the shelf?
        <select className="select w-full" value={kind} onChange={(event) => setKind(event.target.value)}>
          <option value="">choose …</option>
          {KINDS.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </label>
    </NameDialog>
  );
}

interface ShelfProps {
  name: string;
  /** What it starts from: null where somebody said from none of them, undefined where nobody said. */
  taken: (found: Known[]) => Known | null | undefined;
  take: (known: Known | null) => void;
}

function FromTheShelf({ name, taken, take }: ShelfProps) {
  const shelf = useQuery({ ...onShelf(name), enabled: name.length > 1, placeholderData: keepPreviousData });
  const found = name.length > 1 ? (shelf.data ?? []) : [];
  if (found.length === 0) return null;
  const now = taken(found);
  return (
    <fieldset className="mt-3 text-sm min-w-0" aria-label="Start from what is known">
      <legend className="mb-1">Start from what is known of</legend>
      {found.map((one) => (
        <label key={one.item.id} className="flex gap-2 items-baseline py-0.5">
          <input
            type="radio"
            name="shelf"
            className="radio radio-xs"
            checked={now?.item.id === one.item.id}
            onChange={() => take(one)}
          />
          <span className="whitespace-nowrap font-semibold">{one.item.name}</span>
          <span className="quiet truncate" title={inWords(one)}>
            {inWords(one)}
          </span>
        </label>
      ))}
      <label className="flex gap-2 items-baseline py-0.5">
        <input
          type="radio"
          name="shelf"
          className="radio radio-xs"
          checked={now === null}
          onChange={() => take(null)}
        />
        <span>none of these: nothing is known of it yet</span>
      </label>
    </fieldset>
  );
}

/** "peeled 89%; medium 61 g; celery; sodium 80 mg in 100 g". */
function inWords({ item, sodium_mg }: Known): string {
  const parts = item.preparations.map((one) => `${one.name} ${percent(one.yield)}`);
  parts.push(
    ...Object.entries(item.measures ?? {}).map(([unit, one]) => `1 ${unit} ${wholeMeasure(one).weighs}`),
  );
  if (item.density) parts.push(`${item.density} kg a litre`);
  if (item.allergens.length > 0) parts.push(`allergens: ${item.allergens.join(", ")}`);
  if (sodium_mg) parts.push(`sodium ${sodium_mg} mg in 100 g`);
  return parts.join("; ");
}
