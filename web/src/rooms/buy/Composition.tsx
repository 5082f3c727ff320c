// What 100 g of an item hold, how it thickens and what it comes from: from its label, or a table.

import { useFormContext } from "react-hook-form";
import { orNull } from "../../parts/kit/Field";
import { SmallField } from "../../parts/Small";
import { HELD, type ItemValues } from "./itemValues";

export function Composition() {
  const { register } = useFormContext<ItemValues>();
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
      </div>
    </fieldset>
  );
}
