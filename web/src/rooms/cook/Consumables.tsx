// What each batch uses up beside the pot: foil, filters, cloths.

import type { Line } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { replacedAt, withoutPlace } from "../../parts/places";
import { QuantityInput } from "../../parts/QuantityInput";
import { Remove } from "../../parts/Small";
import { TypedInput } from "../../parts/TypedInput";
import { Mend } from "./Mend";
import { usePot } from "./usePot";

export function Consumables() {
  const { state, edit, preview } = usePot();
  const names = useNames().data ?? [];
  const lines = state.recipe.consumables;
  const set = (consumables: Line[], field?: string) => edit((one) => ({ ...one, consumables }), field);
  const nameOf = (line: Line) =>
    names.find((one) => one.id === (line.item ?? line.recipe))?.name ?? line.item ?? "";
  return (
    <div>
      <span className="quiet">used up by each batch</span>
      {lines.map((line, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines have no lasting name
        <div key={at}>
          <span className="flex items-center gap-1">
            <QuantityInput
              className="cell-input w-16 text-right"
              aria-label={`Quantity of ${nameOf(line)}`}
              value={line.quantity}
              set={(quantity) =>
                set(
                  replacedAt(lines, at, (one) => ({ ...one, quantity })),
                  `consumable-${at}`,
                )
              }
            />
            {nameOf(line)}
            <Remove label={`Remove ${nameOf(line)}`} remove={() => set(withoutPlace(lines, at))} />
          </span>
          {(preview?.sheet.problems ?? [])
            .filter(
              (one) =>
                !one.stage && one.item === line.item && one.line === (line.id ?? `consumable-${at + 1}`),
            )
            .map((problem) => (
              <Mend key={problem.message} problem={problem} />
            ))}
        </div>
      ))}
      <TypedInput
        label="what a batch uses up"
        hint="used up: 1 muslin cloth"
        add={(line) => set([...lines, line])}
      />
    </div>
  );
}
