// The vessels of the kitchen, in the form of its settings: called so, holding so much.

import { useFieldArray, useFormContext } from "react-hook-form";
import type { KitchenHead } from "../api/client";
import { idFor } from "../parts/format";
import { Remove, SmallField } from "../parts/Small";

type Vessel = KitchenHead["vessels"][number];

export interface VesselRow {
  /** Its id; none of one that is new. */
  own: string | null;
  name: string;
  capacity: string;
}

export const ownRows = (vessels: Vessel[]): VesselRow[] =>
  vessels.map((one) => ({ own: one.id, name: one.name, capacity: one.capacity ?? "" }));

/** The vessels that the rows say; a row without a name says none. */
export function vesselsOf(rows: VesselRow[]): Vessel[] {
  const taken = new Set(rows.flatMap((row) => row.own ?? []));
  return rows
    .filter((row) => row.name.trim())
    .map(({ own, name, capacity }) => {
      const id = own ?? idFor(name, (one) => taken.has(one));
      taken.add(id);
      return { id, name: name.trim(), capacity: capacity.trim() || null };
    });
}

export function Vessels() {
  const { register, control, watch } = useFormContext<{ vessels: VesselRow[] }>();
  const rows = useFieldArray({ control, name: "vessels", keyName: "key" });
  return (
    <fieldset className="mt-4">
      <legend className="font-semibold">Vessels</legend>
      <div className="grid">
        {rows.fields.map(({ key }, at) => {
          const name = watch(`vessels.${at}.name`);
          return (
            <span key={key} className="flex items-center gap-1">
              <input
                className="cell-input w-72"
                aria-label={`Name of vessel ${at + 1}`}
                placeholder="e.g. Kettle"
                {...register(`vessels.${at}.name`)}
              />
              <SmallField
                label="holds"
                width="w-20"
                placeholder="e.g. 60 l"
                aria-label={`${name || "It"} holds`}
                {...register(`vessels.${at}.capacity`)}
              />
              <Remove label={`Remove ${name || "this vessel"}`} remove={() => rows.remove(at)} />
            </span>
          );
        })}
      </div>
      <button
        type="button"
        className="link quiet text-sm"
        onClick={() => rows.append({ own: null, name: "", capacity: "" })}
      >
        + vessel
      </button>
    </fieldset>
  );
}
