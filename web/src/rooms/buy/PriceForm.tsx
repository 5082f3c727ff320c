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
import { idFor, money } from "../../parts/format";
import { useKeptText } from "../../parts/kept";
import { useToast } from "../../parts/Toasts";
import { EffectsTable } from "./EffectsTable";

const NEW = "+";

export function PriceForm({ reply }: { reply: ItemReply }) {
  const kitchen = useKitchen();
  const currency = useCurrency();
  const client = useQueryClient();
  const toast = useToast();
  const last = reply.row.offer ?? null;
  const suppliers = kitchen.data?.suppliers ?? [];
  const [supplier, setSupplier] = useState(last?.supplier ?? suppliers[0]?.id ?? NEW);
  const [newSupplier, setNewSupplier] = useState("");
  const [pack, setPack] = useKeptText(`pack/${reply.item.id}`, last?.pack ?? "");
  const [price, setPrice] = useKeptText(`price/${reply.item.id}`);
  const [on, setOn] = useState(kitchen.data?.today ?? "");
  const [until, setUntil] = useState("");
  const [drained, setDrained] = useState(last?.drained ?? "");
  const offer: SaveOffer = {
    item: reply.item.id,
    supplier,
    pack: pack.trim(),
    price: price.trim().replace(",", "."),
    on,
    drained: drained.trim() || null,
    corrects: null,
    until: until || null,
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
        from = idFor(newSupplier, (id) => suppliers.some((one) => one.id === id));
        await told(api.POST("/api/suppliers", { body: { id: from, name: newSupplier.trim() } }));
      }
      return told<Offer>(api.POST("/api/offers", { body: { ...given, supplier: from } }));
    },
    onSuccess: async (recorded, given) => {
      await refreshAll(client);
      setPrice("");
      if (given.corrects) return;
      const back = (): void => {
        if (last) {
          const former = { ...offer, pack: last.pack, price: last.price, supplier: last.supplier };
          record.mutate({
            ...former,
            on: recorded.on,
            drained: last.drained ?? null,
            until: last.until ?? null,
            corrects: recorded.id ?? null,
          });
        }
      };
      toast(
        `Recorded: ${reply.item.name}, ${recorded.pack} for ${money(recorded.price, currency)}`,
        last ? { undo: back } : {},
      );
    },
  });
  return (
    <section aria-label="A new price">
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
