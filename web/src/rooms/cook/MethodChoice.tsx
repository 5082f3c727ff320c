// How a stage is cooked: a choice beside its name, proposed where the name says it.

import type { Stage } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { changeStage } from "./draft";
import { useIsBad, usePot } from "./usePot";

export function MethodChoice({ stage, place }: { stage: Stage; place: number }) {
  const { edit } = usePot();
  const known = useKitchen().data?.methods ?? [];
  const isBad = useIsBad(`stages[${place}].method`);
  const set = (method: string | null) => edit(changeStage(place, (one) => ({ ...one, method })));
  const means = (word: string) => known.find((one) => one.id === word || one.words.includes(word));
  const method = stage.method ? means(stage.method.trim().toLowerCase()) : undefined;
  const isUnknown = Boolean(stage.method) && known.length > 0 && !method;
  const first =
    (stage.name ?? "")
      .trim()
      .toLowerCase()
      .split(/[^\p{L}-]+/u)[0] ?? "";
  const named = means(first);
  const proposed = named?.id === method?.id ? undefined : named;
  return (
    <span className="flex flex-wrap items-center gap-2 text-sm">
      <select
        className="cell-input"
        aria-label={`Method of stage ${place + 1}`}
        aria-invalid={isBad || isUnknown}
        value={method?.id ?? stage.method ?? ""}
        onChange={(event) => set(event.target.value || null)}
      >
        <option value="">how?</option>
        {isUnknown && <option value={stage.method ?? ""}>{stage.method}</option>}
        {known.map((one) => (
          <option key={one.id}>{one.id}</option>
        ))}
      </select>
      {proposed && (
        <button type="button" className="btn btn-xs no-print" onClick={() => set(proposed.id)}>
          Method {proposed.id}, as its name says
        </button>
      )}
      {isUnknown && <span className="text-error">is no method: choose one</span>}
    </span>
  );
}
