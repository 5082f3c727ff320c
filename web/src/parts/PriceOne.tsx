// Asks for the price of an item, where it is met.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../api/asked";
import { api, type Effects, inWords, type Offer, told } from "../api/client";
import { useKitchen } from "../api/kitchen";
import { addSupplier } from "./addSupplier";
import { NEW, SupplierField } from "./SupplierField";
import { useToast } from "./Toasts";
import { useSaving } from "./useSaving";

interface Props {
  item: string;
  name: string;
  message: string;
}

/** Records a price. What is odd about it is asked first; a second "Record" says that it is so. */
export function PriceOne({ item, name, message }: Props) {
  const kitchen = useKitchen();
  const client = useQueryClient();
  const toast = useToast();
  const suppliers = kitchen.data?.suppliers ?? [];
  const [pack, setPack] = useState("");
  const [price, setPrice] = useState("");
  const [chosen, setChosen] = useState<string | null>(null);
  const [newName, setNewName] = useState("");
  const [doubts, setDoubts] = useState<string[]>([]);
  const supplier = chosen ?? suppliers[0]?.id ?? NEW;
  const change = (set: (text: string) => void) => (text: string) => {
    setDoubts([]);
    set(text);
  };
  const record = useSaving({
    mutationFn: async (sure: boolean) => {
      const from = supplier === NEW ? await addSupplier(newName.trim(), suppliers) : supplier;
      setChosen(from);
      const body = {
        ...{ item, supplier: from, pack: pack.trim(), price: price.trim(), on: kitchen.data?.today ?? "" },
        ...{ drained: null, corrects: null, until: null, withdrawn: false },
      };
      const { doubts: found = [] } = await told<Effects>(api.POST("/api/offers/preview", { body }));
      if (!sure && found.length > 0) return found;
      await told<Offer>(api.POST("/api/offers", { body }));
      return [];
    },
    onSuccess: async (found) => {
      setDoubts(found);
      if (found.length > 0) return;
      toast(`Recorded: what ${name} costs`);
      await refresh(client, "price", "supplier");
    },
  });
  const ready = pack.trim() && price.trim() && (supplier !== NEW || newName.trim());
  return (
    <form
      className="flex flex-wrap items-center gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) record.mutate(doubts.length > 0);
      }}
    >
      <span className="text-error">{message}</span>
      <input
        className="input input-xs w-24"
        aria-label={`Pack of ${name}`}
        placeholder="e.g. 10 kg"
        value={pack}
        onChange={(event) => change(setPack)(event.target.value)}
      />
      <span className="quiet">for</span>
      <input
        className="input input-xs w-20 text-right money"
        aria-label={`Price of ${name}`}
        inputMode="decimal"
        placeholder="e.g. 14.50"
        value={price}
        onChange={(event) => change(setPrice)(event.target.value)}
      />
      <SupplierField
        {...{ suppliers, supplier, newName }}
        choose={change(setChosen)}
        setName={change(setNewName)}
      />
      <button type="submit" className="btn btn-xs" disabled={!ready || record.isPending}>
        {doubts.length > 0 ? "It is so: record" : "Record"}
      </button>
      {record.isError && <span role="alert">{inWords(record.error)}</span>}
      {doubts.map((doubt) => (
        <span key={doubt} role="alert" className="text-error">
          ? {doubt}
        </span>
      ))}
    </form>
  );
}
