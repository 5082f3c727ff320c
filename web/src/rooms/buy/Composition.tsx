// What 100 g of an item hold, how it thickens and what it comes from: from its label, or from the shelf.

import { useQuery } from "@tanstack/react-query";
import { useFormContext } from "react-hook-form";
import type { Item } from "../../api/client";
import { orNull } from "../../parts/kit/Field";
import { calledSo, onShelf } from "../../parts/newItem";
import { SmallField } from "../../parts/Small";
import { HELD, type ItemValues } from "./itemValues";

export function Composition({ item }: { item: Item }) {
  const { register, setValue, getValues, watch } = useFormContext<ItemValues>();
  const shelf = useQuery(onShelf(item.name));
  const known = shelf.data && (shelf.data.find((one) => one.item.id === item.id) ?? calledSo(shelf.data));
  const holds = watch("holds");
  const lent = known?.item;
  // What somebody typed stays: only what is empty is filled.
  const fills =
    lent !== undefined &&
    (HELD.some(([key]) => holds[key] === null && lent.composition[key] != null) ||
      (watch("thickening") === null && lent.thickening != null) ||
      (watch("origin") === null && lent.origin.length > 0));
  const fill = () => {
    if (!lent) return;
    const set = (field: Parameters<typeof setValue>[0], value: string | null | undefined) => {
      if (value != null && getValues(field) === null) setValue(field, value, { shouldDirty: true });
    };
    const fromTable = HELD.filter(([key]) => holds[key] === null && lent.composition[key] != null);
    for (const [key] of fromTable) set(`holds.${key}`, lent.composition[key]);
    if (fromTable.length > 0) set("composedBy", lent.composition.source);
    set("thickening", lent.thickening);
    set("origin", lent.origin.join(", ") || null);
  };
  return (
    <fieldset className="mt-3">
      <legend className="font-semibold">In 100 g, ready to use</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
        {HELD.map(([key, label]) => (
          <SmallField key={key} label={label} width="w-14" {...register(`holds.${key}`, orNull)} />
        ))}
        <SmallField label="from" width="w-56" hint="the label, a table" {...register("composedBy", orNull)} />
      </div>
      <div className="flex flex-wrap gap-x-4 gap-y-1 text-sm mt-1">
        <SmallField
          label="thickens like so much flour"
          width="w-14"
          hint="0.2"
          {...register("thickening", orNull)}
        />
        <SmallField label="of it is bone" width="w-14" hint="0.25" {...register("bone", orNull)} />
        <SmallField
          label="comes from"
          width="w-56"
          hint="plant, milk, egg, fish, pork …"
          {...register("origin", orNull)}
        />
        {fills && (
          <button type="button" className="btn btn-xs" onClick={fill}>
            Fill what is empty from the shelf
          </button>
        )}
      </div>
      {fills && known && (
        <p className="quiet text-xs">
          {known.item.name}: {known.item.composition.source ?? "common practice"}. A label of yours is better.
        </p>
      )}
    </fieldset>
  );
}
