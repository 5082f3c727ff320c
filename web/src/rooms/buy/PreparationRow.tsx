// One preparation of an item: its yield with band and source, its labour, and what falls off.

import { useFieldArray, useFormContext } from "react-hook-form";
import { Link } from "react-router";
import { yieldAddress } from "../../parts/addresses";
import { useCurrency } from "../../parts/Figure";
import { kilo, money, perKilo } from "../../parts/format";
import { orNull } from "../../parts/kit/Field";
import { Remove, SmallField } from "../../parts/Small";
import type { ItemValues } from "./itemValues";
import { YieldBand, YieldSource } from "./YieldFields";

interface Props {
  item: string;
  place: number;
  drop: () => void;
  perKg: string | null | undefined;
  /** Whether the cost is shared by market value: only then it matters what a usable kilo is worth. */
  shared: boolean;
}

export function PreparationRow({ item, place, drop, perKg, shared }: Props) {
  const currency = useCurrency();
  const { control, register, watch } = useFormContext<ItemValues>();
  const path = `preparations.${place}` as const;
  const one = watch(path);
  const parts = useFieldArray({ control, name: `${path}.byproducts`, keyName: "key" });
  return (
    <div className="border-t border-base-300 first:border-0 py-1">
      <div className="flex flex-wrap items-center gap-x-3 text-sm">
        <input className="cell-input w-36" aria-label="Preparation" {...register(`${path}.name`)} />
        <YieldBand path={path} />
        <SmallField label="minutes a kilo" width="w-12" {...register(`${path}.minutes_per_kg`, orNull)} />
        <SmallField
          label="of salt stays"
          width="w-10"
          hint="all"
          {...register(`${path}.salt_kept`, orNull)}
        />
        <YieldSource path={path} />
        {(shared || one?.value_per_kg != null) && (
          <SmallField
            label="a usable kilo is worth"
            width="w-14"
            {...register(`${path}.value_per_kg`, orNull)}
          />
        )}
        {perKg !== undefined && (
          <span className="money">
            {money(perKilo(perKg), currency)} a usable {kilo()}
          </span>
        )}
        {perKg !== undefined && one && (
          <Link className="link text-sm" to={yieldAddress({ item, sort: "preparation", of: one.id })}>
            tests
          </Link>
        )}
        <Remove label={`Remove ${one?.name}`} remove={drop} />
      </div>
      {parts.fields.map((part, at) => (
        <div key={part.key} className="flex flex-wrap items-center gap-x-3 text-sm pl-4">
          <SmallField label="falls off" width="w-28" {...register(`${path}.byproducts.${at}.name`)} />
          <SmallField label="share" width="w-14" {...register(`${path}.byproducts.${at}.share`, orNothing)} />
          <SmallField
            label="worth a kilo"
            width="w-14"
            {...register(`${path}.byproducts.${at}.value_per_kg`, orNothing)}
          />
          <SmallField
            label="for"
            width="w-28"
            hint="waste"
            {...register(`${path}.byproducts.${at}.use`, orNull)}
          />
          <Remove
            label={`${watch(`${path}.byproducts.${at}.name`)} no longer falls off`}
            remove={() => parts.remove(at)}
          />
        </div>
      ))}
      <button
        type="button"
        className="link quiet text-sm pl-4"
        onClick={() => parts.append({ name: "peel", share: "0.05", value_per_kg: "0", use: null })}
      >
        + falls off
      </button>
    </div>
  );
}

const orNothing = { setValueAs: (text: string | null) => text?.trim() || "0" };
