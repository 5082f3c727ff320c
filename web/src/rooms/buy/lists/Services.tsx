// Suppliers whose list of today can be fetched: now, or each day by the clock.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { askAnew, refresh } from "../../../api/asked";
import { api, type Fetching, inWords, type ReadStep, type Supplier, told } from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { day } from "../../../parts/format";
import { SmallChoice, SmallField } from "../../../parts/Small";
import { useToast } from "../../../parts/Toasts";
import { useSaving } from "../../../parts/useSaving";
import { useStillHere } from "../../../parts/useStillHere";

export function Services({ fetching }: { fetching: Fetching[] }) {
  const [adding, setAdding] = useState(false);
  return (
    <section aria-label="Lists that are fetched" className="sheet p-4">
      <h2 className="font-semibold mb-1">Lists that are fetched</h2>
      {fetching.length === 0 && !adding && (
        <p className="quiet text-sm">
          A supplier that publishes its catalogue as UBL at an address can be asked for it, now or each day.
        </p>
      )}
      {fetching.map((one) => (
        <Service key={one.supplier.id} one={one} />
      ))}
      {adding ? (
        <NewService known={fetching.map((one) => one.supplier.id)} leave={() => setAdding(false)} />
      ) : (
        <button type="button" className="link quiet text-sm mt-1" onClick={() => setAdding(true)}>
          + the address of a supplier's list
        </button>
      )}
    </section>
  );
}

function useSaveSupplier() {
  const client = useQueryClient();
  return useSaving({
    mutationFn: ({ was, supplier }: { was: Supplier; supplier: Supplier }) =>
      told(
        api.PUT("/api/suppliers/{supplier_id}", {
          params: { path: { supplier_id: was.id } },
          body: { supplier, was },
        }),
      ),
    onSuccess: () => refresh(client, "supplier"),
  });
}

function Service({ one }: { one: Fetching }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const stillHere = useStillHere();
  const toast = useToast();
  const { supplier } = one;
  const [at, setAt] = useState(supplier.fetch_at ?? "");
  const save = useSaveSupplier();
  const fetchNow = useSaving({
    // A supplier that takes its time keeps no save waiting.
    scope: { id: `fetch-${supplier.id}` },
    mutationFn: () =>
      told<ReadStep>(
        api.POST("/api/suppliers/{supplier_id}/fetch", { params: { path: { supplier_id: supplier.id } } }),
      ),
    onSuccess: async (step) => {
      await askAnew(client, { queryKey: ["lists"] });
      if (step.known) toast("Nothing is new since this list was fetched last");
      if (step.number === null) return;
      if (stillHere()) navigate(`/buy/lists/${step.number}`);
      else toast(`The list of ${supplier.name} is fetched: it waits among the deliveries`);
    },
  });
  const wrong = fetchNow.error ?? save.error;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <button
        type="button"
        className="btn btn-sm"
        disabled={fetchNow.isPending}
        onClick={() => fetchNow.mutate()}
      >
        {fetchNow.isPending ? "Fetching …" : "Fetch today's list"}
      </button>
      <strong className="font-semibold">{supplier.name}</strong>
      <span className="quiet text-sm break-all">{supplier.catalogue_url}</span>
      <form
        className="flex items-center gap-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate({ was: supplier, supplier: { ...supplier, fetch_at: at.trim() || null } });
        }}
      >
        <SmallField
          label="each day at"
          width="w-20"
          hint="e.g. 06:00"
          value={at || null}
          set={(text) => setAt(text ?? "")}
        />
        {at !== (supplier.fetch_at ?? "") && (
          <button type="submit" className="btn btn-xs">
            Keep it
          </button>
        )}
      </form>
      {one.fetched_on && <span className="quiet text-sm">by the clock on {day(one.fetched_on)}</span>}
      {one.problem && <span className="text-error text-sm">{one.problem}</span>}
      {wrong && (
        <span role="alert" className="text-error text-sm w-full">
          {inWords(wrong)}
        </span>
      )}
    </div>
  );
}

function NewService({ known, leave }: { known: string[]; leave: () => void }) {
  const kitchen = useKitchen();
  const others = (kitchen.data?.suppliers ?? []).filter((one) => !known.includes(one.id));
  const [id, setId] = useState("");
  const [address, setAddress] = useState("");
  const save = useSaveSupplier();
  const was = others.find((one) => one.id === (id || others[0]?.id));
  if (others.length === 0) return <p className="quiet text-sm">Every supplier has its address already.</p>;
  return (
    <form
      className="flex flex-wrap items-center gap-3 text-sm mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (was && address.trim()) {
          const supplier = { ...was, catalogue_url: address.trim() };
          save.mutate({ was, supplier }, { onSuccess: leave });
        }
      }}
    >
      <SmallChoice
        label="supplier"
        value={was?.id ?? ""}
        choices={others.map((one) => [one.id, one.name] as const)}
        set={setId}
      />
      <SmallField
        label="address"
        width="w-80"
        hint="e.g. https://…/catalogue.xml"
        value={address || null}
        set={(text) => setAddress(text ?? "")}
      />
      <button type="submit" className="btn btn-xs btn-primary" disabled={!address.trim()}>
        Keep it
      </button>
      <button type="button" className="btn btn-xs" onClick={leave}>
        Leave
      </button>
      {save.isError && (
        <span role="alert" className="text-error">
          {inWords(save.error)}
        </span>
      )}
    </form>
  );
}
