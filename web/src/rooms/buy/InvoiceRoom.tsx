// A paper invoice as a grid: supplier, day, and rows of item, pack and price, by keyboard; recorded together.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, useDeferredValue, useEffect, useRef } from "react";
import { Link, useNavigate } from "react-router";
import { refresh } from "../../api/asked";
import {
  api,
  type InvoiceReply,
  type InvoiceRow,
  inWords,
  type TypedInvoice,
  told,
  type UnderstoodRow,
} from "../../api/client";
import { useKitchen, useNames } from "../../api/kitchen";
import { EffectsTable } from "../../parts/EffectsTable";
import { useCurrency } from "../../parts/Figure";
import { kilo, money, perKilo } from "../../parts/format";
import { useKeptText } from "../../parts/kept";
import { keyName, useKeys } from "../../parts/keys";
import { DateInput } from "../../parts/kit/DateInput";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { MissingTable, type Taken } from "../../parts/MissingTable";
import { itemsOf, missingOf, thingsOf } from "../../parts/missing";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { WeighOne } from "../../parts/WeighOne";

const heads = () => [
  ...["Item", "Pack", "Price", `A ${kilo()}`].map((text) => ({ text, className: "text-left" })),
  { text: "Remove", unseen: true },
];
const BLANK: InvoiceRow = { name: "", pack: "", price: "", item: null, sure: false };

function rowsIn(kept: string): InvoiceRow[] {
  try {
    const rows = JSON.parse(kept) as InvoiceRow[];
    return rows.map((row) => ({ ...BLANK, ...row }));
  } catch {
    return [BLANK];
  }
}

export function InvoiceRoom() {
  const kitchen = useKitchen();
  const currency = useCurrency();
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  const [supplier, setSupplier] = useKeptText("invoice/supplier");
  const [day, setDay] = useKeptText("invoice/day");
  const [kept, keep] = useKeptText("invoice/rows", JSON.stringify([BLANK]));
  const first = useRef<HTMLInputElement>(null);
  useEffect(() => first.current?.focus(), []);
  const rows = rowsIn(kept);
  const typed: TypedInvoice = { supplier, on: day || (kitchen.data?.today ?? ""), rows };
  const asked = useDeferredValue(typed);
  const found = useQuery({
    queryKey: ["typed-invoice", asked],
    queryFn: () => told<InvoiceReply>(api.POST("/api/typed-invoice", { body: asked })),
    enabled: asked.on !== "",
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const reply = found.data;
  const record = useSaving({
    mutationFn: () => told<{ prices: number }>(api.POST("/api/typed-invoice/record", { body: typed })),
    onSuccess: async ({ prices }) => {
      keep(JSON.stringify([BLANK]));
      await refresh(client, "price", "supplier");
      toast(`${prices} ${prices === 1 ? "price" : "prices"} recorded`);
      navigate("/buy");
      document.getElementById("room")?.focus();
    },
  });
  const set = (place: number, change: Partial<InvoiceRow>) => {
    const next = rows.map((row, at) => (at === place ? { ...row, ...change } : row));
    // There is always one more row to write in.
    const last = next[next.length - 1];
    if (last && (last.name || last.pack || last.price)) next.push(BLANK);
    keep(JSON.stringify(next));
  };
  // By what stands in them: rows may have been removed meanwhile.
  const setAll = (items: Map<string, string>) =>
    keep(
      JSON.stringify(rows.map((row) => ({ ...row, item: row.item ?? items.get(row.name.trim()) ?? null }))),
    );
  // A row that is still being written has no price yet: it is not asked about.
  const unknown = rows
    .filter((row, at) => reply?.rows[at]?.is_unknown && row.price.trim() && !row.item)
    .map((row) => row.name.trim());
  const remove = (place: number) => {
    const next = rows.filter((_, at) => at !== place);
    keep(JSON.stringify(next.length > 0 ? next : [BLANK]));
  };
  const ready =
    reply !== undefined && reply.open === 0 && reply.ready > 0 && supplier.trim() !== "" && !record.isPending;
  // What was typed is kept.
  useKeys({ "Ctrl+s": () => ready && record.mutate(), escape: () => navigate("/buy") });
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">A paper invoice</h1>
        <label className="flex items-center gap-1">
          from
          <input
            ref={first}
            className="cell-input w-48"
            aria-label="Supplier"
            list="invoice-suppliers"
            placeholder="e.g. a farm"
            value={supplier}
            onChange={(event) => setSupplier(event.target.value)}
          />
          {reply?.is_new_supplier && <span className="quiet text-sm">a new one</span>}
        </label>
        <datalist id="invoice-suppliers">
          {(kitchen.data?.suppliers ?? []).map((one) => (
            <option key={one.id} value={one.name} />
          ))}
        </datalist>
        <span className="flex items-center gap-1">
          of
          <DateInput
            aria-label="Day"
            today={kitchen.data?.today ?? ""}
            value={day || (kitchen.data?.today ?? "")}
            set={setDay}
          />
        </span>
        <span className="ml-auto flex gap-2">
          <Link className="btn btn-sm" to="/buy">
            All items
          </Link>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!ready}
            onClick={() => record.mutate()}
          >
            Record{" "}
            {reply && reply.ready > 0 ? `${reply.ready} ${reply.ready === 1 ? "price" : "prices"}` : ""}{" "}
            <kbd className="text-base-content">Ctrl S</kbd>
          </button>
        </span>
      </div>
      {(record.isError || found.isError) && (
        <p role="alert" className="text-error mb-2">
          {inWords(record.error ?? found.error)}
        </p>
      )}
      <div className="grid gap-3 grid-cols-1 xl:grid-cols-[3fr_2fr] items-start">
        <Panel label="Rows" look="tight">
          <Table caption="The rows of the invoice" look="plain" className="w-full" heads={heads()}>
            {rows.map((row, place) => (
              <Row
                // Rows have no lasting name of their own; their place is their name.
                // biome-ignore lint/suspicious/noArrayIndexKey: see above
                key={place}
                place={place}
                row={row}
                found={reply?.rows[place]}
                set={(change) => set(place, change)}
                remove={() => remove(place)}
              />
            ))}
          </Table>
          {reply && (
            <p className="mt-2 text-sm">
              together <span className="money font-semibold">{money(reply.total, currency)}</span> net
              {reply.open > 0 && (
                <span className="text-error">
                  {" "}
                  · {reply.open} {reply.open === 1 ? "row has" : "rows have"} to be looked at
                </span>
              )}
            </p>
          )}
        </Panel>
        {unknown.length > 0 && <NewOnInvoice names={[...new Set(unknown)]} setAll={setAll} />}
        {reply && reply.effects.length > 0 && (
          <Panel label="What it does" title="What it does" look="tight">
            <EffectsTable effects={reply.effects} />
          </Panel>
        )}
      </div>
    </>
  );
}

interface NewProps {
  names: string[];
  setAll: (items: Map<string, string>) => void;
}

/** The rows that name nothing of the kitchen, made into items together. */
function NewOnInvoice({ names, setAll }: NewProps) {
  const client = useQueryClient();
  const found = useQuery(missingOf(names));
  const make = useSaving({
    mutationFn: (taken: Taken[]) => itemsOf(client, taken),
    onSuccess: setAll,
  });
  if (!found.data) return null;
  return (
    <div>
      <MissingTable things={thingsOf(names, names, found.data)} take={make.mutate} busy={make.isPending} />
      {make.isError && (
        <p role="alert" className="text-error">
          {inWords(make.error)}
        </p>
      )}
    </div>
  );
}

interface RowProps {
  place: number;
  row: InvoiceRow;
  found: UnderstoodRow | undefined;
  set: (change: Partial<InvoiceRow>) => void;
  remove: () => void;
}

function Row({ place, row, found, set, remove }: RowProps) {
  const names = useNames();
  const currency = useCurrency();
  const named = row.item
    ? names.data?.find((one) => one.id === row.item && !one.is_recipe)?.name
    : found?.called;
  const said = found && !found.is_empty ? found : undefined;
  // A price that is not written yet is no mistake while the row is being written.
  const waits =
    said?.problem && row.price.trim() !== "" ? said.problem : said?.candidates?.length ? said.problem : null;
  const doubted = (said?.doubts.length ?? 0) > 0;
  // What is asked beside a row is answered by a key from within it: a button that comes up while somebody types is never in the
  // way of Tab.
  const onKeyDown = (event: KeyboardEvent) => {
    const name = keyName(event);
    const candidate = said?.candidates?.[Number(name.replace("Alt+", "")) - 1];
    if (name === "Alt+Enter" && doubted) set({ sure: true });
    else if (name.startsWith("Alt+") && candidate) set({ item: candidate.id, sure: false });
    else return;
    event.preventDefault();
  };
  return (
    <>
      <tr onKeyDown={onKeyDown}>
        <td>
          <input
            className="cell-input w-full min-w-40"
            aria-label={`Item of row ${place + 1}`}
            value={row.name}
            onChange={(event) => set({ name: event.target.value, item: null, sure: false })}
          />
        </td>
        <td>
          <input
            className="cell-input w-28"
            aria-label={`Pack of row ${place + 1}`}
            placeholder={said?.last_pack || "1 kg"}
            value={row.pack}
            onChange={(event) => set({ pack: event.target.value, sure: false })}
          />
        </td>
        <td>
          <input
            className="cell-input w-24 text-right"
            aria-label={`Price of row ${place + 1}`}
            inputMode="decimal"
            value={row.price}
            onChange={(event) => set({ price: event.target.value, sure: false })}
          />
        </td>
        <td className="whitespace-nowrap text-sm">
          {said?.per_kg_now && (
            <>
              {said.per_kg_was && (
                <span className="quiet">{money(perKilo(said.per_kg_was), currency)} → </span>
              )}
              <span className="money">{money(perKilo(said.per_kg_now), currency)}</span>
            </>
          )}
        </td>
        <td className="text-right">
          {(row.name || row.pack || row.price) && (
            <button
              type="button"
              className="btn btn-ghost btn-xs text-base-content"
              tabIndex={-1}
              aria-label={`Remove row ${place + 1}`}
              onClick={remove}
            >
              ×
            </button>
          )}
        </td>
      </tr>
      {(waits || doubted || (named && named.toLowerCase() !== row.name.trim().toLowerCase())) && (
        <tr>
          <td colSpan={5} className="text-sm pl-3 pb-1">
            {named && <span className="quiet mr-2">{named}</span>}
            {waits && (
              <span role="alert" className="text-error mr-2">
                ? {waits}
              </span>
            )}
            {(said?.candidates ?? []).map((one, at) => (
              <button
                key={one.id}
                type="button"
                tabIndex={-1}
                className="btn btn-xs mr-1"
                onClick={() => set({ item: one.id, sure: false })}
              >
                {one.name} <kbd>Alt {at + 1}</kbd>
              </button>
            ))}
            {said?.needs_weight && said.item && (
              <WeighOne item={said.item} unit={said.needs_weight} message="" />
            )}
            {(said?.doubts ?? []).map((doubt) => (
              <span key={doubt} role="alert" className="text-error mr-2">
                ? {doubt}
              </span>
            ))}
            {doubted && (
              <button type="button" tabIndex={-1} className="btn btn-xs" onClick={() => set({ sure: true })}>
                It is so <kbd>Alt Enter</kbd>
              </button>
            )}
          </td>
        </tr>
      )}
    </>
  );
}
