// A new price: what it does to every portion is shown before it is recorded.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import {
  api,
  type Effects,
  type ItemReply,
  inWords,
  type Offer,
  type SaveOffer,
  told,
} from "../../api/client";
import { refreshAll, useKitchen } from "../../app/kitchen";
import { useCurrency } from "../../parts/Figure";
import { day, money } from "../../parts/format";
import { useKeptText } from "../../parts/kept";
import { useToast } from "../../parts/Toasts";
import { addSupplier } from "./addSupplier";
import { EffectsTable } from "./EffectsTable";

const NEW = "+";

interface Props {
  reply: ItemReply;
  /** An earlier price that was recorded wrongly. */
  correcting: Offer | null;
  corrected: () => void;
}

export function PriceForm({ reply, correcting, corrected }: Props) {
  const kitchen = useKitchen();
  const currency = useCurrency();
  const client = useQueryClient();
  const toast = useToast();
  const last = correcting ?? reply.row.offer ?? null;
  const suppliers = kitchen.data?.suppliers ?? [];
  const [supplier, setSupplier] = useState(last?.supplier ?? suppliers[0]?.id ?? NEW);
  const [newSupplier, setNewSupplier] = useState("");
  const [pack, setPack] = useKeptText(`pack/${reply.item.id}/${correcting?.id ?? ""}`, last?.pack ?? "");
  const [price, setPrice] = useKeptText(`price/${reply.item.id}/${correcting?.id ?? ""}`);
  const [on, setOn] = useState(correcting?.on ?? kitchen.data?.today ?? "");
  const [until, setUntil] = useState(correcting?.until ?? "");
  const [drained, setDrained] = useState(last?.drained ?? "");
  const offer: SaveOffer = {
    item: reply.item.id,
    supplier,
    pack: pack.trim(),
    price: price.trim().replace(",", "."),
    on,
    drained: drained.trim() || null,
    corrects: correcting?.id ?? null,
    until: until || null,
    withdrawn: false,
    by: "the kitchen",
  };
  const ready = offer.price !== "" && offer.pack !== "" && on !== "";
  const preview = useQuery({
    queryKey: ["offer-preview", offer],
    queryFn: () => told<Effects>(api.POST("/api/offers/preview", { body: offer })),
    enabled: ready && supplier !== NEW,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const record = useMutation({
    mutationFn: async (given: SaveOffer) => {
      let from = given.supplier;
      if (from === NEW) {
        from = await addSupplier(newSupplier.trim(), suppliers);
      }
      return told<Offer>(api.POST("/api/offers", { body: { ...given, supplier: from } }));
    },
    onSuccess: async (recorded, given) => {
      await refreshAll(client);
      setPrice("");
      corrected();
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
      <form
        className="flex flex-wrap gap-x-3 gap-y-1 items-end"
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) record.mutate(offer);
        }}
      >
        <label className="flex flex-col text-sm">
          Pack
          <input
            className="input input-sm w-28"
            placeholder="6 x 2.5 kg"
            value={pack}
            onChange={(event) => setPack(event.target.value)}
          />
        </label>
        <label className="flex flex-col text-sm">
          New price
          <input
            className="input input-sm w-20 money"
            inputMode="decimal"
            placeholder={last ? money(last.price, currency) : ""}
            value={price}
            onChange={(event) => setPrice(event.target.value)}
          />
        </label>
        <label className="flex flex-col text-sm">
          From
          <select
            className="select select-sm w-40"
            value={supplier}
            onChange={(event) => setSupplier(event.target.value)}
          >
            {suppliers.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
            <option value={NEW}>a new supplier …</option>
          </select>
        </label>
        {supplier === NEW && (
          <label className="flex flex-col text-sm">
            Name of the supplier
            <input
              className="input input-sm w-40"
              value={newSupplier}
              onChange={(event) => setNewSupplier(event.target.value)}
            />
          </label>
        )}
        <label className="flex flex-col text-sm">
          On
          <input
            type="date"
            className="input input-sm w-36"
            value={on}
            onChange={(event) => setOn(event.target.value)}
          />
        </label>
        <label className="flex flex-col text-sm">
          Until (may be open)
          <input
            type="date"
            className="input input-sm w-36"
            value={until}
            onChange={(event) => setUntil(event.target.value)}
          />
        </label>
        {(reply.item.kind === "can" || drained) && (
          <label className="flex flex-col text-sm">
            One drained
            <input
              className="input input-sm w-20"
              placeholder="1.5 kg"
              value={drained}
              onChange={(event) => setDrained(event.target.value)}
            />
          </label>
        )}
        <button
          type="submit"
          className="btn btn-sm btn-primary"
          disabled={!ready || record.isPending || (supplier === NEW && !newSupplier.trim())}
        >
          Record
        </button>
      </form>
      {(record.isError || (ready && preview.isError)) && (
        <p role="alert" className="text-error text-sm mt-1">
          {inWords(record.error ?? preview.error)}
        </p>
      )}
      {ready && preview.data && !preview.isError && (
        <div className="mt-2">
          <p>
            A kilo as bought: <span className="money">{money(preview.data.per_kg_was, currency)}</span> →{" "}
            <span className="money">{money(preview.data.per_kg_now, currency)}</span>
          </p>
          <EffectsTable effects={preview.data.effects} />
        </div>
      )}
    </section>
  );
}
