// One item: its prices, a new price with what it does, its weights and yields, where it goes.

import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { api, type ItemReply, inWords, type Offer, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { useFilling } from "../../parts/filling";
import { aKilo, day, mass, money, ofOne, perKilo, trimmed } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Table } from "../../parts/kit/Table";
import { ItemForm } from "./ItemForm";
import { LabelCard } from "./LabelCard";
import { PaidFor } from "./PaidFor";
import { PriceChart } from "./PriceChart";
import { PriceForm } from "./PriceForm";
import { PutAway } from "./PutAway";
import { SeasonChart } from "./SeasonChart";

/** So many prices are listed at first. */
const SHOWN = 8;

export function ItemPanel({ id, close }: { id: string; close: () => void }) {
  const found = useQuery({
    queryKey: ["item", id],
    queryFn: () => told<ItemReply>(api.GET("/api/items/{item_id}", { params: { path: { item_id: id } } })),
  });
  const kitchen = useKitchen();
  const [correcting, setCorrecting] = useState<Offer | null>(null);
  const panel = useRef<HTMLElement>(null);
  const shut = () => {
    // What was typed of the item itself and is not saved would be gone: the key leads to saving it.
    const save = panel.current?.querySelector<HTMLElement>("[data-unsaved] [type=submit]");
    if (correcting) setCorrecting(null);
    else if (save) save.focus();
    else close();
  };
  // What was typed of a price is kept: it is there again when the item is opened again.
  useKeys({ escape: shut, "field+escape": shut });
  if (found.isPending) return <aside className="sheet p-4">Fetching …</aside>;
  if (found.isLoadingError) {
    return (
      <aside className="sheet p-4" role="alert">
        {inWords(found.error)}
      </aside>
    );
  }
  const reply = found.data;
  return (
    <aside
      ref={panel}
      className="sheet p-4 sticky top-3 max-h-[calc(100vh-4.5rem)] overflow-y-auto max-lg:static max-lg:max-h-none"
      aria-label={reply.item.name}
    >
      <div className="flex items-center justify-between mb-2">
        <h2 className="text-xl font-semibold">{reply.item.name}</h2>
        <button type="button" className="btn btn-sm" onClick={close}>
          Close <kbd>Esc</kbd>
        </button>
      </div>
      <PriceForm
        key={correcting?.id ?? "new"}
        reply={reply}
        correcting={correcting}
        corrected={() => setCorrecting(null)}
      />
      {kitchen.data && <PriceChart reply={reply} today={kitchen.data.today} />}
      <PaidFor reply={reply} />
      <SeasonChart season={reply.season} />
      <History reply={reply} correct={setCorrecting} />
      <FillIt reply={reply} />
      <ItemForm key={reply.item.id} item={reply.item} usable={reply.row.usable} />
      <LabelCard label={reply.label} />
      <Uses reply={reply} />
      <PutAway item={reply.item} />
    </aside>
  );
}

/** What the shelf knows and nobody said of it yet, filled at one stroke; what was typed here stays. */
function FillIt({ reply }: { reply: ItemReply }) {
  const fill = useFilling();
  if (reply.fillable.length === 0) return null;
  return (
    <p className="text-sm flex flex-wrap items-center gap-2">
      <span className="quiet">The shelf knows more of it: {reply.fillable.join(", ")}.</span>
      <button
        type="button"
        className="btn btn-xs"
        disabled={fill.isPending}
        onClick={() => fill.mutate([reply.item.id])}
      >
        Fill it from the shelf
      </button>
      {fill.isError && (
        <span role="alert" className="text-error">
          {inWords(fill.error)}
        </span>
      )}
    </p>
  );
}

/** Prices are never changed: a wrong one is corrected by a new one that names it. */
function History({ reply, correct }: { reply: ItemReply; correct: (offer: Offer) => void }) {
  const currency = useCurrency();
  const [all, setAll] = useState(false);
  if (reply.history.length === 0) return null;
  return (
    <section aria-label="Prices so far" className="mt-4">
      <h3 className="font-semibold">Prices so far</h3>
      <Table caption="Offers, the newest first" heads={[]} look="small">
        {reply.history.slice(0, all ? undefined : SHOWN).map((point) => (
          <tr key={point.offer.id}>
            <td>
              {day(point.offer.on)}
              {point.offer.until && ` to ${day(point.offer.until)}`}
            </td>
            <td className="name">{point.supplier}</td>
            <td>
              {point.offer.pack}{" "}
              {Number(point.offer.price) === 0 ? "free" : `for ${money(point.offer.price, currency)}`}
            </td>
            <td className="num money">
              {money(perKilo(point.per_kg) ?? point.per_one, currency)}{" "}
              {point.per_one === null ? aKilo() : ofOne(reply.row.counted)}
            </td>
            <td className="num">
              <button
                type="button"
                className="link quiet"
                aria-label={`Correct the price of ${day(point.offer.on)}`}
                onClick={() => correct(point.offer)}
              >
                correct
              </button>
            </td>
          </tr>
        ))}
      </Table>
      {reply.history.length > SHOWN && !all && (
        <button type="button" className="link quiet text-sm" onClick={() => setAll(true)}>
          all {reply.history.length} prices
        </button>
      )}
    </section>
  );
}

function Uses({ reply }: { reply: ItemReply }) {
  const currency = useCurrency();
  return (
    <section aria-label="Where it goes" className="mt-4">
      <h3 className="font-semibold">Where it goes</h3>
      {reply.uses.length === 0 ? (
        <p className="quiet text-sm">Into no portion yet.</p>
      ) : (
        <Table caption="Portions that take this item" heads={[]} look="small">
          {reply.uses.map((use) => (
            <tr key={`${use.recipe}/${use.serving}`}>
              <td>
                <Link className="link link-hover" to={`/cook/${use.recipe}`}>
                  {use.name}
                </Link>{" "}
                <span className="quiet">{use.serving_name}</span>
              </td>
              <td className="num">
                {reply.row.counted
                  ? `${trimmed(use.grams, 2)} ${reply.row.counted}`
                  : `${mass(use.grams)} AP`}
              </td>
              <td className="num money">{money(use.cost, currency)}</td>
            </tr>
          ))}
        </Table>
      )}
    </section>
  );
}
