// Weights of measures, density and yields of an item; what a change does is shown before it is saved.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  api,
  type Effects,
  type Item,
  type ItemRow,
  inWords,
  type Preparation,
  told,
} from "../../api/client";
import { refreshAll, useKitchen } from "../../app/kitchen";
import { idFor } from "../../parts/format";
import { METHODS, type Method } from "../../parts/methods";
import { SmallChoice, SmallField } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { EffectsTable } from "./EffectsTable";
import { PreparationRow } from "./PreparationRow";

type Weight = [unit: string, mass: string];

export function ItemForm({ item, usable }: { item: Item; usable: ItemRow["usable"] }) {
  const [weights, setWeights] = useState<Weight[]>(Object.entries(item.measures ?? {}));
  const [preparations, setPreparations] = useState(item.preparations);
  const [density, setDensity] = useState(item.density ?? null);
  const [ready, setReady] = useState(item.ready_litres_per_kg ?? null);
  const [salt, setSalt] = useState(item.salt_share ?? null);
  const [preferred, setPreferred] = useState(item.preferred_supplier ?? null);
  const [method, setMethod] = useState(item.byproduct_method ?? null);
  const kitchen = useKitchen();
  const [allergens, setAllergens] = useState(item.allergens.join(", "));
  const client = useQueryClient();
  const toast = useToast();
  const measures = Object.fromEntries(weights.filter(([unit, mass]) => unit.trim() && mass.trim()));
  const named = allergens
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);
  const draft: Item = {
    ...item,
    measures,
    preparations,
    density,
    preferred_supplier: preferred,
    allergens: named,
    ready_litres_per_kg: ready,
    salt_share: salt,
    byproduct_method: method,
  };
  const changed = JSON.stringify(draft) !== JSON.stringify(item);
  const preview = useQuery({
    queryKey: ["item-preview", draft],
    queryFn: () =>
      told<Effects>(
        api.POST("/api/items/{item_id}/preview", {
          params: { path: { item_id: item.id } },
          body: { item: draft },
        }),
      ),
    enabled: changed,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const save = useMutation({
    mutationFn: (given: { item: Item; was: Item }) =>
      told(api.PUT("/api/items/{item_id}", { params: { path: { item_id: item.id } }, body: given })),
    onSuccess: async (_, given) => {
      await refreshAll(client);
      const undo = () => save.mutate({ item: given.was, was: given.item });
      toast(`${item.name} saved`, { undo });
    },
  });
  const setWeight = (place: number, weight: Weight) =>
    setWeights(weights.map((one, at) => (at === place ? weight : one)));
  const setPreparation = (place: number, patch: Partial<Preparation>) =>
    setPreparations(preparations.map((one, at) => (at === place ? { ...one, ...patch } : one)));
  const addPreparation = () => {
    const id = idFor("cut", (one) => preparations.some((known) => known.id === one));
    setPreparations([
      ...preparations,
      { id, name: "peeled, cut", yield: "0.90", low: null, high: null, source: "estimate", byproducts: [] },
    ]);
  };
  return (
    <form
      className="mt-4"
      aria-label="Weights and yields"
      onSubmit={(event) => {
        event.preventDefault();
        if (changed) save.mutate({ item: draft, was: item });
      }}
    >
      <div className="text-sm mb-2">
        <SmallChoice
          label="its price is that of"
          value={preferred ?? ""}
          choices={[
            ["", "whoever offered last"],
            ...(kitchen.data?.suppliers ?? []).map((one) => [one.id, one.name] as const),
          ]}
          set={(supplier) => setPreferred(supplier || null)}
        />
      </div>
      <h3 className="font-semibold">Weights</h3>
      <div className="flex flex-wrap gap-x-3 text-sm">
        {weights.map(([unit, mass], place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a unit changes while it is typed
          <span key={place} className="flex items-center">
            1
            <input
              className="cell-input w-24"
              aria-label="Unit"
              value={unit}
              onChange={(event) => setWeight(place, [event.target.value, mass])}
            />
            =
            <input
              className="cell-input w-16"
              aria-label={`Weight of 1 ${unit}`}
              placeholder="60 g"
              value={mass}
              onChange={(event) => setWeight(place, [unit, event.target.value])}
            />
          </span>
        ))}
        <SmallField label="kg per litre" width="w-14" value={density} set={setDensity} />
        {item.kind === "stock" && (
          <SmallField label="a kilo makes, litres" width="w-14" value={ready} set={setReady} />
        )}
        <SmallField label="salt, share" width="w-14" value={salt} set={setSalt} />
        <button type="button" className="link quiet" onClick={() => setWeights([...weights, ["bunch", ""]])}>
          + weight
        </button>
      </div>
      <h3 className="font-semibold mt-3">Yields</h3>
      {preparations.map((one, place) => (
        <PreparationRow
          key={one.id}
          item={item.id}
          one={one}
          set={(patch) => setPreparation(place, patch)}
          drop={() => setPreparations(preparations.filter((_, at) => at !== place))}
          perKg={usable.find((row) => row.preparation === one.id)?.per_kg}
          shared={(method ?? kitchen.data?.settings.byproduct_method) === "market_value"}
        />
      ))}
      <button type="button" className="link quiet text-sm" onClick={addPreparation}>
        + preparation
      </button>
      <div className="text-sm mt-2">
        <SmallChoice<Method | "">
          label="what falls off"
          value={method ?? ""}
          choices={[["", "counts as the kitchen does it"], ...METHODS]}
          set={(one) => setMethod(one === "" ? null : one)}
        />
      </div>
      <div className="text-sm mt-2">
        <SmallField
          label="allergens"
          width="w-64"
          hint="celery, milk"
          value={allergens || null}
          set={(text) => setAllergens(text ?? "")}
        />
      </div>
      {changed && (
        <div className="mt-2 border-t border-base-300 pt-2">
          {preview.isError ? (
            <p role="alert" className="text-error text-sm">
              {inWords(preview.error)}
            </p>
          ) : (
            preview.data && <EffectsTable effects={preview.data.effects} />
          )}
          {save.isError && (
            <p role="alert" className="text-error text-sm">
              {inWords(save.error)}
            </p>
          )}
          <button type="submit" className="btn btn-sm btn-primary mt-1" disabled={save.isPending}>
            Save {item.name}
          </button>
        </div>
      )}
    </form>
  );
}
