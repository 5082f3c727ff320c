// The preparations of a line, in the order in which they are done.

import type { Line, Named } from "../../api/client";

interface Props {
  line: Line;
  named: Named | undefined;
  name: string;
  set: (patch: Partial<Line>) => void;
}

/** A line's preparations as a list, however they are written. */
export function stepsOf(line: Line): string[] {
  return line.preparation === null || line.preparation === undefined ? [] : [line.preparation].flat();
}

export function Preparations({ line, named, name, set }: Props) {
  const steps = stepsOf(line);
  const known = named?.preparations ?? [];
  const words = (id: string) => known.find((one) => one.id === id)?.name ?? id;
  const write = (next: string[]) => set({ preparation: next.length > 1 ? next : (next[0] ?? null) });
  const left = known.filter((one) => !steps.includes(one.id));
  return (
    <>
      {steps.map((id, at) => (
        <span key={id} className="text-sm quiet whitespace-nowrap">
          {at > 0 && "then "}
          <button
            type="button"
            className="hover:line-through cursor-pointer"
            title="Take this preparation away"
            aria-label={`${words(id)}: take this preparation of ${name} away`}
            onClick={() => write(steps.filter((one) => one !== id))}
          >
            {words(id)}
          </button>
        </span>
      ))}
      {left.length > 0 && (
        <select
          className="cell-input text-sm quiet w-24"
          aria-label={steps.length ? `Another preparation of ${name}` : `Preparation of ${name}`}
          value=""
          onChange={(event) => event.target.value && write([...steps, event.target.value])}
        >
          <option value="">{steps.length ? "then …" : "as it is"}</option>
          {left.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </>
  );
}
