// One preparation of an item: its yield with band and source, its labour, and what falls off.

import { Link } from "react-router";
import type { Preparation } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { money } from "../../parts/format";
import { Remove, SmallField } from "../../parts/Small";
import { yieldAddress } from "../trim/words";

interface Props {
  item: string;
  one: Preparation;
  set: (patch: Partial<Preparation>) => void;
  drop: () => void;
  perKg: string | null | undefined;
  /** Whether the cost is shared by market value: only then it matters what a usable kilo is worth. */
  shared: boolean;
}

export function PreparationRow({ item, one, set, drop, perKg, shared }: Props) {
  const currency = useCurrency();
  const parts = one.byproducts ?? [];
  const setPart = (place: number, patch: Partial<(typeof parts)[number]>) =>
    set({ byproducts: parts.map((part, at) => (at === place ? { ...part, ...patch } : part)) });
  return (
    <div className="border-t border-base-300 first:border-0 py-1">
      <div className="flex flex-wrap items-center gap-x-3 text-sm">
        <input
          className="cell-input w-36"
          aria-label="Preparation"
          value={one.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <SmallField
          label="yields"
          width="w-14"
          value={one.yield}
          set={(text) => set({ yield: text ?? "" })}
        />
        <SmallField label="low" width="w-12" value={one.low ?? null} set={(low) => set({ low })} />
        <SmallField label="high" width="w-12" value={one.high ?? null} set={(high) => set({ high })} />
        <SmallField
          label="minutes a kilo"
          width="w-12"
          value={one.minutes_per_kg ?? null}
          set={(minutes_per_kg) => set({ minutes_per_kg })}
        />
        <SmallField
          label="from"
          width="w-40"
          hint="estimate"
          value={one.source ?? null}
          set={(source) => set({ source })}
        />
        {(shared || one.value_per_kg != null) && (
          <SmallField
            label="a usable kilo is worth"
            width="w-14"
            value={one.value_per_kg ?? null}
            set={(value_per_kg) => set({ value_per_kg })}
          />
        )}
        {perKg !== undefined && <span className="money">{money(perKg, currency)} a usable kilo</span>}
        {perKg !== undefined && (
          <Link className="link text-sm" to={yieldAddress({ item, sort: "preparation", of: one.id })}>
            tests
          </Link>
        )}
        <Remove label={`Remove ${one.name}`} remove={drop} />
      </div>
      {parts.map((part, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: what falls off has no lasting name
        <div key={place} className="flex flex-wrap items-center gap-x-3 text-sm pl-4">
          <SmallField
            label="falls off"
            width="w-28"
            value={part.name}
            set={(name) => setPart(place, { name: name ?? "" })}
          />
          <SmallField
            label="share"
            width="w-14"
            value={part.share}
            set={(share) => setPart(place, { share: share ?? "0" })}
          />
          <SmallField
            label="worth a kilo"
            width="w-14"
            value={part.value_per_kg}
            set={(value) => setPart(place, { value_per_kg: value ?? "0" })}
          />
          <SmallField
            label="for"
            width="w-28"
            hint="waste"
            value={part.use ?? null}
            set={(use) => setPart(place, { use })}
          />
          <Remove
            label={`${part.name} no longer falls off`}
            remove={() => set({ byproducts: parts.filter((_, at) => at !== place) })}
          />
        </div>
      ))}
      <button
        type="button"
        className="link quiet text-sm pl-4"
        onClick={() =>
          set({ byproducts: [...parts, { name: "peel", share: "0.05", value_per_kg: "0", use: null }] })
        }
      >
        + falls off
      </button>
    </div>
  );
}
