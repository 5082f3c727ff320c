// The vessels of the kitchen, in the form of its settings: called so, holding so much, so wide, heated so.

import { useFieldArray, useFormContext } from "react-hook-form";
import type { KitchenHead } from "../api/client";
import { heatInWords, lidInWords } from "../parts/cooked";
import { day, idFor, kilos } from "../parts/format";
import { Remove, SmallChoice, SmallField } from "../parts/Small";

type Vessel = KitchenHead["vessels"][number];

export interface VesselRow {
  /** Its id; none of one that is new. */
  own: string | null;
  name: string;
  capacity: string;
  diameter: string;
  surface: string;
  power: string;
  source: NonNullable<Vessel["heat_source"]> | "";
  efficiency: string;
  count: string;
  cleanup: string;
  /** What was learned of it, as it is. */
  rates: Vessel["rates"];
}

const SOURCES = [
  ["", "nothing said"],
  ["gas", "gas"],
  ["induction", "induction"],
  ["electric", "electric"],
  ["steam", "steam"],
  ["oven", "an oven"],
] as const;
const NEW: VesselRow = {
  own: null,
  name: "",
  capacity: "",
  diameter: "",
  surface: "",
  power: "",
  source: "",
  efficiency: "",
  count: "1",
  cleanup: "",
  rates: [],
};

export const ownRows = (vessels: Vessel[]): VesselRow[] =>
  vessels.map((one) => ({
    own: one.id,
    name: one.name,
    capacity: one.capacity ?? "",
    diameter: one.diameter_cm ?? "",
    surface: one.surface_m2 ?? "",
    power: one.power_kw ?? "",
    source: one.heat_source ?? "",
    efficiency: one.efficiency ?? "",
    count: one.count,
    cleanup: one.cleanup_minutes === "0" ? "" : one.cleanup_minutes,
    rates: one.rates,
  }));

/** The vessels that the rows say; a row without a name says none. */
export function vesselsOf(rows: VesselRow[]): Vessel[] {
  const taken = new Set(rows.flatMap((row) => row.own ?? []));
  return rows
    .filter((row) => row.name.trim())
    .map(({ own, name, ...row }) => {
      const id = own ?? idFor(name, (one) => taken.has(one));
      taken.add(id);
      return {
        id,
        name: name.trim(),
        capacity: row.capacity.trim() || null,
        surface_m2: row.surface.trim() || null,
        diameter_cm: row.diameter.trim() || null,
        power_kw: row.power.trim() || null,
        heat_source: row.source || null,
        efficiency: row.efficiency.trim() || null,
        count: row.count.trim() || "1",
        cleanup_minutes: row.cleanup.trim() || "0",
        rates: row.rates,
      };
    });
}

export function Vessels() {
  const { control } = useFormContext<{ vessels: VesselRow[] }>();
  const rows = useFieldArray({ control, name: "vessels", keyName: "key" });
  return (
    <fieldset className="mt-4">
      <legend className="font-semibold">Vessels</legend>
      <p className="quiet text-sm">
        How wide a pot is and what heats it tell what steams off, how long it takes and what energy that is.
      </p>
      <ul>
        {rows.fields.map(({ key }, at) => (
          <Row key={key} at={at} remove={() => rows.remove(at)} />
        ))}
      </ul>
      <button type="button" className="link quiet text-sm" onClick={() => rows.append(NEW)}>
        + vessel
      </button>
    </fieldset>
  );
}

/** What was learned of a vessel by what came out of it; each can be let go. */
function Learned({ at, rates }: { at: number; rates: Vessel["rates"] }) {
  const { setValue } = useFormContext<{ vessels: VesselRow[] }>();
  return (
    <ul className="basis-full pl-4 quiet">
      {rates.map((one) => {
        const words = `${kilos(one.kg_per_hour)} an hour, ${lidInWords(one.lid)}, ${heatInWords(one.heat)}, on ${day(one.on)}`;
        return (
          <li key={`${one.lid} ${one.heat} ${one.on}`}>
            steamed {words}
            <Remove
              label={`Let go what it steamed: ${words}`}
              remove={() =>
                setValue(
                  `vessels.${at}.rates`,
                  rates.filter((other) => other !== one),
                  { shouldDirty: true },
                )
              }
            />
          </li>
        );
      })}
    </ul>
  );
}

function Row({ at, remove }: { at: number; remove: () => void }) {
  const { register, watch } = useFormContext<{ vessels: VesselRow[] }>();
  const row = watch(`vessels.${at}`);
  const name = row.name || "it";
  const field = (
    of: Exclude<keyof VesselRow, "rates">,
    label: string,
    width: string,
    placeholder?: string,
  ) => (
    <SmallField
      label={label}
      width={width}
      placeholder={placeholder}
      aria-label={`${label}, ${name}`}
      {...register(`vessels.${at}.${of}`)}
    />
  );
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-b border-base-300 py-1 text-sm">
      <span className="flex items-center">
        <input
          className="cell-input w-56 font-semibold"
          aria-label={`Name of vessel ${at + 1}`}
          placeholder="e.g. Kettle"
          {...register(`vessels.${at}.name`)}
        />
        <Remove label={`Remove ${row.name || "this vessel"}`} remove={remove} />
      </span>
      {field("capacity", "holds", "w-20", "e.g. 60 l")}
      {field("count", "how many", "w-10")}
      {!row.surface && field("diameter", "cm across", "w-14", "e.g. 40")}
      {!row.diameter && field("surface", "or m² open", "w-14", "e.g. 0.17")}
      {field("power", "kW", "w-12")}
      <SmallChoice
        label="heated by"
        choices={SOURCES}
        aria-label={`heated by, ${name}`}
        {...register(`vessels.${at}.source`)}
      />
      {row.source && field("efficiency", "of which reaches the food", "w-12", "usual")}
      {field("cleanup", "minutes to clean", "w-12")}
      {row.rates.length > 0 && <Learned at={at} rates={row.rates} />}
    </li>
  );
}
