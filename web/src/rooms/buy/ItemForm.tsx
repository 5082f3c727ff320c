// Weights of measures, density and yields of an item; what a change does is shown before it is saved.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { FormProvider, useFieldArray, useForm } from "react-hook-form";
import { refresh } from "../../api/asked";
import { api, type Effects, type Item, type ItemRow, inWords, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { EffectsTable } from "../../parts/EffectsTable";
import { idFor } from "../../parts/format";
import { KINDS } from "../../parts/kinds";
import { orNull } from "../../parts/kit/Field";
import { BASES } from "../../parts/measures";
import { METHODS, type Method } from "../../parts/methods";
import { SmallChoice, SmallField } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { Composition } from "./Composition";
import { CookingRow } from "./CookingRow";
import { changedParts, type ItemValues, itemOf, partsInWords, valuesOf, withMine } from "./itemValues";
import { PreparationRow } from "./PreparationRow";

export function ItemForm({ item, usable }: { item: Item; usable: ItemRow["usable"] }) {
  const form = useForm<ItemValues>({ defaultValues: valuesOf(item) });
  const { control, register, handleSubmit, watch, reset, getValues, setValue } = form;
  const weights = useFieldArray({ control, name: "weights", keyName: "key" });
  const preparations = useFieldArray({ control, name: "preparations", keyName: "key" });
  const cooking = useFieldArray({ control, name: "cooking", keyName: "key" });
  const kitchen = useKitchen();
  const client = useQueryClient();
  const toast = useToast();
  // What the form started from. Where the item is saved elsewhere meanwhile, what was typed stays until it is settled.
  const [base, setBase] = useState(item);
  const draft = itemOf(base, watch());
  const mine = changedParts(base, draft);
  const theirs = changedParts(base, item);
  const both = mine.filter((part) => theirs.includes(part));
  const changed = mine.length > 0;
  const take = useCallback(
    (one: Item) => {
      setBase(one);
      reset(valuesOf(one));
    },
    [reset],
  );
  useEffect(() => {
    if (!changed && base !== item) take(item);
  }, [changed, base, item, take]);
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
  const save = useSaving({
    mutationFn: ({ item: one, was }: { item: Item; was: Item; shown: Item }) =>
      told(
        api.PUT("/api/items/{item_id}", { params: { path: { item_id: item.id } }, body: { item: one, was } }),
      ),
    onSuccess: async (_, given) => {
      await refresh(client, "item");
      // What was typed since was not saved with it, and stays.
      const now = itemOf(given.shown, getValues());
      const since = changedParts(given.shown, now);
      setBase(given.item);
      if (given.shown !== given.item || since.length === 0) reset(valuesOf(withMine(given.item, now, since)));
      const undo = () => save.mutate({ item: given.was, was: given.item, shown: given.item });
      toast(`${item.name} saved`, { undo });
    },
    // Where somebody else was first, that is asked for, and both are told apart.
    onError: () => refresh(client, "item"),
  });
  const saveOver = (theirs: Item) => {
    const merged = withMine(theirs, draft, mine);
    setBase(theirs);
    reset(valuesOf(merged));
    save.mutate({ item: merged, was: theirs, shown: merged });
  };
  const setOwn = (place: number) => {
    for (const part of ["low", "high", "source"] as const)
      setValue(`weights.${place}.${part}`, null, { shouldDirty: true });
  };
  const addPreparation = () => {
    const id = idFor("cut", (one) => draft.preparations.some((known) => known.id === one));
    const blank = {
      low: null,
      high: null,
      source: "estimate",
      byproducts: [],
      minutes_per_kg: null,
      salt_kept: null,
    };
    preparations.append({
      id,
      name: "peeled, cut",
      yield: "0.90",
      value_per_kg: null,
      provenance: null,
      ...blank,
    });
  };
  const addCooking = () => {
    const blank = {
      low: null,
      high: null,
      source: "estimate",
      loss_to: null,
      rendered: "0",
      provenance: null,
    };
    cooking.append({ method: "roast", yield: "0.80", ...blank });
  };
  const [open, setOpen] = useState(false);
  const kinds = KINDS.includes(item.kind) ? KINDS : [...KINDS, item.kind];
  const shared = (draft.byproduct_method ?? kitchen.data?.settings.byproduct_method) === "market_value";
  return (
    <FormProvider {...form}>
      <form
        className="mt-4"
        aria-label="Weights and yields"
        onSubmit={handleSubmit(() => changed && save.mutate({ item: draft, was: base, shown: draft }))}
      >
        <details open={open || changed} onToggle={(event) => setOpen(event.currentTarget.open)}>
          <summary className="cursor-pointer w-fit">
            <span className="font-semibold">Weights and yields</span>{" "}
            <span className="quiet text-sm">{inShort(item)}</span>
          </summary>
          <div className="text-sm my-2 flex flex-wrap gap-x-4 gap-y-1">
            <SmallField label="called" width="w-52" {...register("name")} />
            <SmallChoice
              label="kind"
              choices={kinds.map((one) => [one, one] as const)}
              {...register("kind")}
            />
            <SmallChoice
              label="its price is that of"
              choices={[
                ["", "whoever offered last"],
                ...(kitchen.data?.suppliers ?? []).map((one) => [one.id, one.name] as const),
              ]}
              {...register("preferred", orNull)}
            />
          </div>
          <h3 className="font-semibold">Weights</h3>
          <div className="flex flex-wrap gap-x-3 text-sm">
            {weights.fields.map(({ key }, place) => (
              <span key={key} className="flex items-center">
                1
                <input className="cell-input w-24" aria-label="Unit" {...register(`weights.${place}.unit`)} />
                =
                <input
                  className="cell-input w-20"
                  aria-label={`Weight of 1 ${watch(`weights.${place}.unit`)}`}
                  placeholder="e.g. 60 g"
                  {...register(`weights.${place}.weighs`, {
                    // A weight that is written over is no longer what its source says.
                    onChange: () => setOwn(place),
                  })}
                />
                <select
                  className="cell-input text-xs"
                  aria-label={`1 ${watch(`weights.${place}.unit`)} is weighed`}
                  {...register(`weights.${place}.basis`)}
                >
                  {BASES.map(([key, words]) => (
                    <option key={key} value={key}>
                      {words}
                    </option>
                  ))}
                </select>
              </span>
            ))}
            <SmallField label="kg per litre" width="w-14" {...register("density", orNull)} />
            {item.kind === "stock" && (
              <SmallField label="a kilo makes, litres" width="w-14" {...register("ready", orNull)} />
            )}
            <button
              type="button"
              className="link quiet"
              onClick={() => weights.append({ unit: "bunch", weighs: "", basis: "AP" })}
            >
              + weight
            </button>
          </div>
          <h3 className="font-semibold mt-3">Yields</h3>
          {preparations.fields.map((one, place) => (
            <PreparationRow
              key={one.key}
              item={item.id}
              place={place}
              drop={() => preparations.remove(place)}
              perKg={usable.find((row) => row.preparation === one.id)?.per_kg}
              shared={shared}
            />
          ))}
          <button type="button" className="link quiet text-sm" onClick={addPreparation}>
            + preparation
          </button>
          <h3 className="font-semibold mt-3">When it is cooked</h3>
          {cooking.fields.map((one, place) => (
            <CookingRow key={one.key} place={place} drop={() => cooking.remove(place)} />
          ))}
          <button type="button" className="link quiet text-sm" onClick={addCooking}>
            + way of cooking
          </button>
          <Composition />
          <div className="text-sm mt-2">
            <SmallChoice<Method | "">
              label="what falls off"
              choices={[["", "counts as the kitchen does it"], ...METHODS]}
              {...register("method", orNull)}
            />
          </div>
          <div className="text-sm mt-2">
            <SmallField
              label="allergens"
              width="w-64"
              hint="none stated"
              {...register("allergens", orNull)}
            />
          </div>
        </details>
        {changed && (
          <div className="mt-2 border-t border-base-300 pt-2" data-unsaved>
            {preview.isError ? (
              <p role="alert" className="text-error text-sm">
                {inWords(preview.error)}
              </p>
            ) : (
              preview.data && <EffectsTable effects={preview.data.effects} />
            )}
            {theirs.length > 0 && !save.isPending ? (
              <div role="alert" className="text-sm">
                <p className="text-error">
                  {item.name} has been changed in the meantime: {partsInWords(theirs)}. You changed{" "}
                  {partsInWords(mine)}.
                </p>
                <button
                  type="button"
                  className="btn btn-sm btn-primary mt-1 mr-2"
                  onClick={() => saveOver(item)}
                >
                  Save mine {both.length > 0 ? `over theirs (${partsInWords(both)})` : "beside theirs"}
                </button>
                <button type="button" className="btn btn-sm mt-1" onClick={() => take(item)}>
                  Take theirs
                </button>
              </div>
            ) : (
              <>
                {save.isError && (
                  <p role="alert" className="text-error text-sm">
                    {inWords(save.error)}
                  </p>
                )}
                <button type="submit" className="btn btn-sm btn-primary mt-1" disabled={save.isPending}>
                  Save {item.name}
                </button>
              </>
            )}
          </div>
        )}
      </form>
    </FormProvider>
  );
}

/** What is noted of an item, in a few words. */
function inShort(item: Item): string {
  const count = (number: number, one: string) =>
    number === 0 ? [] : [`${number} ${one}${number === 1 ? "" : "s"}`];
  const said = [
    ...count(Object.keys(item.measures ?? {}).length, "weight"),
    ...count(item.preparations.length, "yield"),
    ...(item.cooking.length > 0 ? [`cooked in ${item.cooking.length} ways`.replace("1 ways", "1 way")] : []),
  ];
  return said.join(", ") || "none noted yet";
}
