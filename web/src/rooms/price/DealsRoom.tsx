// Meal deals: soup, bread and a drink at one price, shared out over the parts by what each is sold at alone.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { refreshAll } from "../../api/asked";
import { api, type Deal, type DealSold, type Deals, inWords, type Prices, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { idFor, money, percent } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { replacedAt, withoutPlace } from "../../parts/places";
import { Remove, SmallChoice, SmallField } from "../../parts/Small";
import { Stale } from "../../parts/Stale";
import { useToast } from "../../parts/Toasts";
import { TypedInput } from "../../parts/TypedInput";
import { useEdited } from "../../parts/useEdited";
import { useSaving } from "../../parts/useSaving";

export function DealsRoom() {
  const deals = useQuery({ queryKey: ["deals"], queryFn: () => told<Deals>(api.GET("/api/deals")) });
  if (deals.isPending) return <p>Looking at the deals …</p>;
  if (deals.isLoadingError) return <p role="alert">{inWords(deals.error)}</p>;
  return <Loaded kept={deals.data} />;
}

function Loaded({ kept }: { kept: Deals }) {
  const edit = useEdited<Deal[]>("price-deals", kept.deals);
  const { value: deals, set: setDeals, changed } = edit;
  const client = useQueryClient();
  const toast = useToast();
  const put = (next: Deal[], were: Deal[]) => told(api.PUT("/api/deals", { body: { deals: next, were } }));
  const save = useSaving({
    mutationFn: () => put(deals, edit.base),
    onSuccess: async () => {
      const before = edit.base;
      const after = deals;
      await refreshAll(client);
      edit.takeTheirs();
      toast("Deals saved", {
        undo: () =>
          void put(before, after)
            .catch((error: unknown) => toast(inWords(error), { bad: true }))
            .then(() => refreshAll(client)),
      });
    },
  });
  const add = () => {
    const id = idFor("deal", (taken) => deals.some((one) => one.id === taken));
    setDeals([...deals, { id, name: "New deal", parts: [], price: null, price_set_on: null, channel: null }]);
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">Meal deals</h1>
        <span className="ml-auto flex flex-wrap gap-2">
          <button type="button" className="btn btn-sm" onClick={add}>
            Another deal
          </button>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!changed || save.isPending || deals.some((one) => one.parts.length < 2)}
            title={deals.some((one) => one.parts.length < 2) ? "A deal has two parts at least" : undefined}
            onClick={() => save.mutate()}
          >
            Save
          </button>
          <Link className="btn btn-sm" to="/price">
            Back to the prices
          </Link>
        </span>
      </div>
      {save.isError && (
        <p role="alert" className="sheet p-3 mb-3 text-error">
          {inWords(save.error)}
        </p>
      )}
      {edit.stale && <Stale what="the deals" take={edit.takeTheirs} />}
      {deals.length === 0 && (
        <p className="sheet p-6 max-w-xl">
          A soup, bread and a drink at one price: what the guest saves, what it leaves, and what each part
          gets of the price, by what it is sold at alone.
        </p>
      )}
      {deals.map((deal, at) => (
        <DealCard
          key={deal.id}
          deal={deal}
          sold={kept.deals.includes(deal) ? kept.sold.find((one) => one.id === deal.id) : undefined}
          set={(patch) => setDeals(replacedAt(deals, at, (one) => ({ ...one, ...patch })))}
          remove={() => setDeals(withoutPlace(deals, at))}
        />
      ))}
    </>
  );
}

interface CardProps {
  deal: Deal;
  sold: DealSold | undefined;
  set: (patch: Partial<Deal>) => void;
  remove: () => void;
}

function DealCard({ deal, sold, set, remove }: CardProps) {
  const currency = useCurrency();
  const kitchen = useKitchen().data;
  const today = kitchen?.today ?? null;
  const found = useQuery({
    queryKey: ["deal-preview", deal],
    queryFn: () => told<DealSold>(api.POST("/api/deals/preview", { body: deal })),
    enabled: sold === undefined && deal.parts.length >= 2,
    retry: false,
    placeholderData: (before) => before,
  });
  const now = sold ?? (deal.parts.length >= 2 ? found.data : undefined);
  return (
    <Panel
      label={`Deal ${deal.name}`}
      className="mb-3"
      title={
        <input
          className="cell-input font-semibold w-56"
          aria-label="Name of the deal"
          value={deal.name}
          onChange={(event) => set({ name: event.target.value })}
        />
      }
      beside={
        <span className="flex items-center gap-4">
          <SmallField
            label="price"
            aria-label={`Price of ${deal.name}`}
            width="w-16 text-right money"
            value={deal.price ?? null}
            set={(price) => set({ price, price_set_on: price === null ? null : today })}
          />
          <SmallChoice
            label="sold"
            value={deal.channel ?? ""}
            choices={[
              ["", "here"] as const,
              ...(kitchen?.settings.channels ?? []).map((one) => [one.id, one.name] as const),
            ]}
            set={(channel) => set({ channel: channel || null })}
          />
          <Remove label={`Remove ${deal.name}`} remove={remove} />
        </span>
      }
    >
      {found.isError && (
        <p role="alert" className="text-error">
          {inWords(found.error)}
        </p>
      )}
      {now && (
        <Table
          caption={`Parts of ${deal.name}`}
          look="rows"
          heads={[
            "Part",
            { text: "Alone", num: true },
            { text: "Gets", num: true, note: "of the deal's price" },
            { text: "Costs", num: true },
            { text: "Share", num: true },
            { text: "Leaves", num: true },
            { text: "Alone it leaves", num: true },
            { text: "Change", unseen: true },
          ]}
          cards
        >
          {now.parts.map((part, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: parts have no lasting name
            <tr key={at}>
              <th scope="row" className="name font-normal">
                {part.recipe ? (
                  <Link className="link link-hover" to={`/price/${part.recipe}/${part.serving}`}>
                    {part.name}
                  </Link>
                ) : (
                  part.name
                )}
              </th>
              <td className="num money" data-label="alone">
                {deal.parts[at]?.line ? (
                  <span className="flex justify-end">
                    <SmallField
                      label=""
                      aria-label={`Price of ${part.name} alone`}
                      width="w-16 text-right money"
                      value={deal.parts[at]?.price ?? null}
                      set={(price) =>
                        set({ parts: replacedAt(deal.parts, at, (one) => ({ ...one, price: price ?? "0" })) })
                      }
                    />
                  </span>
                ) : (
                  money(part.alone, currency)
                )}
              </td>
              <td className="num money" data-label="gets">
                {money(part.gets, currency)}
              </td>
              <td className="num money" data-label="costs">
                {money(part.cost, currency)}
              </td>
              <td className="num" data-label="share">
                {percent(part.food_cost_share)}
              </td>
              <td className="num money" data-label="leaves">
                {money(part.contribution, currency)}
              </td>
              <td className="num money" data-label="alone it leaves">
                {money(part.contribution_alone, currency)}
              </td>
              <td>
                <Remove
                  label={`Remove ${part.name}`}
                  remove={() => set({ parts: withoutPlace(deal.parts, at) })}
                />
              </td>
            </tr>
          ))}
          <tr className="font-semibold">
            <th scope="row" className="name">
              together
            </th>
            <td className="num money" data-label="alone">
              {money(now.alone, currency)}
            </td>
            <td className="num money" data-label="price">
              {money(now.price, currency)}
            </td>
            <td className="num money" data-label="costs">
              {money(now.cost, currency)}
            </td>
            <td className="num" data-label="share">
              {percent(now.food_cost_share, 1)}
            </td>
            <td className="num money" data-label="leaves">
              {money(now.contribution, currency)}
            </td>
            <td className="num money" data-label="alone it leaves">
              {money(now.contribution_alone, currency)}
            </td>
            <td />
          </tr>
        </Table>
      )}
      {now?.saved != null && Number(now.saved) > 0 && now.contribution_alone !== null && (
        <p className="text-sm mt-1">
          The guest saves <span className="money">{money(now.saved, currency)}</span>; a deal leaves{" "}
          <span className="money">{money(moreThanFirst(now), currency)}</span> more than {now.parts[0]?.name}{" "}
          alone, and <span className="money">{money(lessThanAll(now), currency)}</span> less than all of it
          one by one.
        </p>
      )}
      {now?.notes.map((note) => (
        <p key={note} className="text-error text-sm mt-1">
          ▲ {note}
        </p>
      ))}
      <AddPart add={(part) => set({ parts: [...deal.parts, part] })} name={deal.name} />
    </Panel>
  );
}

/** What it leaves more than its first part alone: that of a guest who would have taken only the soup. */
const moreThanFirst = (now: DealSold) =>
  String(Number(now.contribution ?? 0) - Number(now.parts[0]?.contribution_alone ?? 0));
/** What it leaves less than all parts alone: that of a guest who would have taken all of them. */
const lessThanAll = (now: DealSold) =>
  String(Number(now.contribution_alone ?? 0) - Number(now.contribution ?? 0));

function AddPart({ add, name }: { add: (part: Deal["parts"][number]) => void; name: string }) {
  const prices = useQuery({ queryKey: ["prices"], queryFn: () => told<Prices>(api.GET("/api/prices")) });
  const choices = (prices.data?.rows ?? [])
    .filter((row) => row.channel === null)
    .map((row) => [`${row.recipe}/${row.serving}`, `${row.name}, ${row.serving_name}`] as const);
  return (
    <div className="flex flex-wrap items-center gap-x-4 text-sm mt-1">
      <SmallChoice
        label="add a serving"
        value=""
        choices={[["", "choose …"] as const, ...choices]}
        set={(key) => {
          const [recipe, serving] = key.split("/");
          if (recipe && serving) add({ recipe, serving, line: null, price: null });
        }}
      />
      <TypedInput
        label={`part of ${name}`}
        hint="1 bread roll"
        add={(line) => add({ recipe: null, serving: null, line, price: "0" })}
      />
    </div>
  );
}
