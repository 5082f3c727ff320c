// One thing that is weighed. Enter on an empty weight takes it from the scale; on a typed one it goes on to the next.

import { Remove } from "../../parts/Small";
import type { SheetPart } from "./sheet";

interface Props {
  field: string;
  label: string;
  part: SheetPart | undefined;
  setPart: (patch: Partial<SheetPart>) => void;
  drop: () => void;
  value: string;
  set: (mass: string) => void;
  problem: string | undefined;
  otherProblem: string | undefined;
  target: boolean;
  armed: boolean;
  aim: () => void;
  enter: (empty: boolean) => void;
}

export function WeightRow({
  field,
  label,
  part,
  setPart,
  drop,
  value,
  set,
  problem,
  otherProblem,
  target,
  armed,
  aim,
  enter,
}: Props) {
  const wrong = value.trim() !== "" ? problem : undefined;
  return (
    <tr
      className={`max-md:grid max-md:grid-cols-[1fr_9rem] max-md:items-center ${target ? "bg-base-200" : ""}`}
    >
      <th scope="row" className="text-left py-1 pl-2 font-normal">
        {part ? (
          <input
            className="cell-input w-full"
            aria-label="What fell off"
            placeholder="peel, seeds, bones …"
            value={part.name}
            onChange={(event) => setPart({ name: event.target.value })}
          />
        ) : (
          <span className="font-semibold">{label}</span>
        )}
        {(wrong ?? (part?.mass || part?.value_per_kg ? otherProblem : undefined)) && (
          <div role="alert" className="text-error text-xs">
            {wrong ?? otherProblem}
          </div>
        )}
      </th>
      <td className="py-1 w-40 max-md:w-auto">
        <input
          data-weight={field}
          className={`input h-11 w-full text-right text-lg ${target ? "input-primary" : ""}`}
          aria-label={`Weight ${label}`}
          aria-invalid={wrong !== undefined}
          placeholder={armed ? "waits for the scale" : "not weighed"}
          value={value}
          onFocus={aim}
          onChange={(event) => set(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "Enter" || event.ctrlKey) return;
            event.preventDefault();
            enter(value.trim() === "");
          }}
        />
      </td>
      <td className="py-1 pl-3 text-sm whitespace-nowrap max-md:col-span-2">
        {part && (
          <span className="flex flex-wrap items-center gap-2">
            <label className="flex items-center gap-1">
              <span className="quiet">worth a kilo</span>
              <input
                className="cell-input w-14 text-right"
                placeholder="0"
                value={part.value_per_kg}
                onChange={(event) => setPart({ value_per_kg: event.target.value })}
              />
            </label>
            <label className="flex items-center gap-1">
              <span className="quiet">for</span>
              <input
                className="cell-input w-28"
                placeholder="waste"
                value={part.use}
                onChange={(event) => setPart({ use: event.target.value })}
              />
            </label>
            <Remove label={`Remove ${part.name || "this part"}`} remove={drop} look="btn-sm" />
          </span>
        )}
      </td>
    </tr>
  );
}
