// A new price: what it does to every portion is shown before it is recorded.

import { keepPreviousData, queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { Controller, useForm } from "react-hook-form";
import { refresh } from "../../api/asked";
import {
  api,
  type Effects,
  type ItemReply,
  inWords,
  type Offer,
  type SaveOffer,
  told,
} from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { addSupplier } from "../../parts/addSupplier";
import { EffectsTable } from "../../parts/EffectsTable";
import { useCurrency } from "../../parts/Figure";
import { day, kilo, money, perKilo } from "../../parts/format";
import { useKeptText } from "../../parts/kept";
import { DateInput } from "../../parts/kit/DateInput";
import { Choice, Field } from "../../parts/kit/Field";
import { focusRow } from "../../parts/rows";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";

const NEW = "+";

interface Props {
  reply: ItemReply;
  /** An earlier price that was recorded wrongly. */
  correcting: Offer | null;
  corrected: () => void;
}

interface Values {
  supplier: string;
  newSupplier: string;
  pack: string;
  price: string;
  on: string;
  until: string;
  drained: string;
}

export function PriceForm({ reply, correcting, corrected }: Props) {
  const kitchen = useKitchen();
  const currency = useCurrency();
  const client = useQueryClient();
  const toast = useToast();
  const last = correcting ?? reply.row.offer ?? null;
  const suppliers = kitchen.data?.suppliers ?? [];
  const kept = `${reply.item.id}/${correcting?.id ?? ""}`;
  const [keptPack, keepPack] = useKeptText(`pack/${kept}`, last?.pack ?? "");
  const [keptPrice, keepPrice] = useKeptText(`price/${kept}`);
  const {
    control,
    register,
    handleSubmit,
    watch,
    setFocus,
    setValue,
    resetField,
    formState: { dirtyFields },
  } = useForm<Values>({
    defaultValues: {
      supplier: last?.supplier ?? suppliers[0]?.id ?? NEW,
      newSupplier: "",
      pack: keptPack,
      price: keptPrice,
      on: correcting?.on ?? kitchen.data?.today ?? "",
      until: correcting?.until ?? "",
      drained: last?.drained ?? "",
    },
  });
  const today = kitchen.data?.today;
  // On a page that was left open the day goes on, but not a day that somebody chose.
  useEffect(() => {
    if (!correcting && today && !dirtyFields.on) resetField("on", { defaultValue: today });
  }, [correcting, today, dirtyFields.on, resetField]);
  // Whoever opened the item by a key types its pack next.
  useEffect(() => {
    if (document.activeElement?.matches("a[data-row-link]:focus-visible")) setFocus("pack");
  }, [setFocus]);
  const typed = watch();
  const { supplier, newSupplier, drained } = typed;
  const offer: SaveOffer = {
    item: reply.item.id,
    supplier,
    pack: typed.pack.trim(),
    price: typed.price.trim(),
    on: typed.on,
    drained: drained.trim() || null,
    corrects: correcting?.id ?? null,
    until: typed.until || null,
    withdrawn: false,
  };
  const ready = offer.price !== "" && offer.pack !== "" && offer.on !== "";
  // What a new supplier's price would do is what anybody's would.
  const shown = { ...offer, supplier: supplier === NEW ? (last?.supplier ?? NEW) : supplier };
  const asked = queryOptions({
    queryKey: ["offer-preview", shown],
    queryFn: () => told<Effects>(api.POST("/api/offers/preview", { body: shown })),
  });
  const preview = useQuery({
    ...asked,
    enabled: ready && shown.supplier !== NEW,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const doubts = ready && !preview.isError ? (preview.data?.doubts ?? []) : [];
  const record = useSaving({
    mutationFn: async (given: SaveOffer) => {
      let from = given.supplier;
      if (from === NEW) {
        from = await addSupplier(newSupplier.trim(), suppliers);
      }
      return told<Offer>(api.POST("/api/offers", { body: { ...given, supplier: from } }));
    },
    onSuccess: async (recorded, given) => {
      setValue("price", "");
      keepPrice("");
      // At once: whoever begins the next correction while the prices are fetched anew keeps that one.
      corrected();
      await refresh(client, "price");
      // The work goes on with the next row of the list, or with another price where there is no list.
      if (!focusRow(reply.item.id)) setFocus("price");
      if (given.withdrawn) {
        toast(`Taken back: ${recorded.pack} for ${money(recorded.price, currency)}`);
        return;
      }
      toast(`Recorded: ${reply.item.name}, ${recorded.pack} for ${money(recorded.price, currency)}`, {
        undo: () =>
          record.mutate({
            ...given,
            supplier: recorded.supplier,
            corrects: recorded.id ?? null,
            withdrawn: true,
          }),
      });
    },
  });
  const submit = async () => {
    if (!ready) return;
    if (shown.supplier !== NEW && (preview.isPlaceholderData || !preview.data)) {
      // Whoever types faster than the answer comes sees a doubt before anything is recorded.
      const first = await client.fetchQuery(asked).catch(() => null);
      if ((first?.doubts ?? []).length > 0) return;
    }
    record.mutate(offer);
  };
  return (
    <section aria-label="A new price">
      {correcting && (
        <p className="text-sm mb-1">
          In the place of {correcting.pack} for {money(correcting.price, currency)} of {day(correcting.on)}.{" "}
          <button
            type="button"
            className="link"
            onClick={() =>
              record.mutate({
                ...offer,
                supplier: correcting.supplier,
                pack: correcting.pack,
                price: correcting.price,
                withdrawn: true,
              })
            }
          >
            Take it back altogether
          </button>{" "}
          <button type="button" className="link" onClick={corrected}>
            Leave it
          </button>
        </p>
      )}
      <form className="flex flex-wrap gap-x-3 gap-y-1 items-end" onSubmit={handleSubmit(submit)}>
        <Field
          label="Pack"
          className="text-sm"
          width="w-28"
          placeholder="e.g. 6 x 2.5 kg"
          {...register("pack", { onChange: (event) => keepPack(event.target.value) })}
        />
        <Field
          label="New price"
          className="text-sm"
          width="w-24 money"
          inputMode="decimal"
          placeholder={last ? `was ${money(last.price, currency)}` : ""}
          {...register("price", { onChange: (event) => keepPrice(event.target.value) })}
        />
        <Choice
          label="From"
          className="text-sm"
          width="w-40"
          choices={[...suppliers.map((one) => [one.id, one.name] as const), [NEW, "a new supplier …"]]}
          {...register("supplier")}
        />
        {supplier === NEW && (
          <Field label="Name of the supplier" className="text-sm" width="w-40" {...register("newSupplier")} />
        )}
        {(["on", "until"] as const).map((name) => (
          <Controller
            key={name}
            name={name}
            control={control}
            render={({ field }) => (
              <DateInput
                label={name === "on" ? "On" : "Until (may be open)"}
                today={kitchen.data?.today ?? ""}
                value={field.value}
                set={field.onChange}
              />
            )}
          />
        ))}
        {(reply.item.kind === "can" || drained) && (
          <Field
            label="One drained"
            className="text-sm"
            width="w-24"
            placeholder="e.g. 1.5 kg"
            {...register("drained")}
          />
        )}
        <button
          // What is doubted is not recorded by a key that was pressed for something else.
          type={doubts.length > 0 ? "button" : "submit"}
          onClick={() => doubts.length > 0 && record.mutate(offer)}
          className="btn btn-sm btn-primary"
          disabled={!ready || record.isPending || (supplier === NEW && !newSupplier.trim())}
        >
          {doubts.length > 0 ? "It is so: record" : "Record"}
        </button>
      </form>
      {(record.isError || (ready && preview.isError)) && (
        <p role="alert" className="text-error text-sm mt-1">
          {inWords(record.error ?? preview.error)}
        </p>
      )}
      {doubts.map((doubt) => (
        <p key={doubt} role="alert" className="text-error text-sm mt-1">
          ? {doubt}
        </p>
      ))}
      {ready && preview.data && !preview.isError && (
        <div className="mt-2">
          <p>
            {preview.data.counted ? `1 ${preview.data.counted}` : `A ${kilo()} as bought`}:{" "}
            <span className="money">
              {money(perKilo(preview.data.per_kg_was) ?? preview.data.per_one_was, currency)}
            </span>{" "}
            →{" "}
            <span className="money">
              {money(perKilo(preview.data.per_kg_now) ?? preview.data.per_one_now, currency)}
            </span>
          </p>
          <EffectsTable effects={preview.data.effects} />
        </div>
      )}
    </section>
  );
}
