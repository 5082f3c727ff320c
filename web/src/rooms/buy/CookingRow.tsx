// What an item weighs after a way of cooking it, and where what it loses goes.

import { useFormContext } from "react-hook-form";
import { orNull } from "../../parts/kit/Field";
import { Remove, SmallChoice, SmallField } from "../../parts/Small";
import type { ItemValues } from "./itemValues";
import { YieldBand, YieldSource } from "./YieldFields";

const GOES = [
  ["", "as the method says"],
  ["air", "up in the air"],
  ["pot", "into the pot"],
] as const;

export function CookingRow({ place, drop }: { place: number; drop: () => void }) {
  const { register, watch } = useFormContext<ItemValues>();
  const path = `cooking.${place}` as const;
  const one = watch(path);
  return (
    <div className="flex flex-wrap items-center gap-x-3 text-sm border-t border-base-300 first:border-0 py-1">
      <input className="cell-input w-28" aria-label="Way of cooking" {...register(`${path}.method`)} />
      <YieldBand path={path} />
      <SmallChoice label="what it loses goes" choices={GOES} {...register(`${path}.loss_to`, orNull)} />
      {Number(one?.yield) < 1 && (
        <SmallField label="of that, fat that stays" width="w-12" hint="0" {...register(`${path}.rendered`)} />
      )}
      <YieldSource path={path} />
      <Remove label={`${one?.method ?? "This"} is no way to cook it`} remove={drop} />
    </div>
  );
}
