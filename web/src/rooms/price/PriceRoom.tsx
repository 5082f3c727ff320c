// The repricing round: every serving in every channel with the price that its school would make, set together from a day.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { refreshAll } from "../../api/asked";
import { api, inWords, type Prices, type RepricingRow, type RoundEffect, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { day, money, percent } from "../../parts/format";
import { useKeptText } from "../../parts/kept";
import { DateInput } from "../../parts/kit/DateInput";
import { Table } from "../../parts/kit/Table";
import { Find, RowKeys, useRows } from "../../parts/rows";
import { useToast } from "../../parts/Toasts";
import { useRested } from "../../parts/useRested";
import { useSaving } from "../../parts/useSaving";
import { outOfField } from "../../parts/way";
import { RepricingLine } from "./RepricingLine";
import { rowKey, type Typed, withoutSent } from "./round";
import { SOLD_COLUMN, SoldColumn } from "./Sold";
import { useTakeBack } from "./useTakeBack";
import { inPath } from "./words";

const RESTS_MS = 150;

export function PriceRoom() {
  const prices = useQuery({ queryKey: ["prices"], queryFn: () => told<Prices>(api.GET("/api/prices")) });
  if (prices.isPending) return <p>Looking at the prices …</p>;
  if (prices.isLoadingError) return <p role="alert">{inWords(prices.error)}</p>;
  return <Loaded prices={prices.data} />;
}

function Loaded({ prices }: { prices: Prices }) {
  const today = useKitchen().data?.today ?? prices.week;
  const [filter, setFilter] = useState("");
  const [all, setAll] = useState(false);
  const [selling, setSelling] = useState(false);
  const [typed, setTyped] = useTyped();
  const [on, setOn] = useKeptText("prices-on", "");
  const [reason, setReason] = useKeptText("prices-reason");
  const from = on || today;
  const asked = useMemo(() => pricesOf(prices.rows, typed), [prices.rows, typed]);
  const rows = useMemo(() => shownOf(prices.rows, filter, all, typed), [prices.rows, filter, all, typed]);
  const effect = useEffectOf(asked);
  const sent: Sent = { asked, typed, from, reason };
  const now = useRef(sent);
  now.current = sent;
  const type = (row: RepricingRow, text: string) => {
    set.reset();
    setTyped({ ...typed, [rowKey(row)]: text });
  };
  const chosen = () => rows.find((row) => `/price/${row.recipe}/${row.serving}${channelIn(row)}` === at());
  const list = useRows(rows, (row) => ({ figure: figureOf(row), recipe: row.recipe }), {
    a: () => {
      const row = chosen();
      if (row?.proposed != null) type(row, money(row.proposed));
      list.step(1);
    },
    s: () => {
      const row = chosen();
      if (row) type(row, "");
      list.step(1);
    },
    m: () => setAll(!all),
    "Alt+Enter": () => asked.length > 0 && set.mutate(sent),
  });
  const client = useQueryClient();
  const toast = useToast();
  const takeBack = useTakeBack();
  const set = useSaving({
    mutationFn: (round: Sent) =>
      told(
        api.POST("/api/prices", {
          body: { prices: round.asked, on: round.from, reason: round.reason.trim() || null },
        }),
      ),
    onSuccess: async ({ round }, was) => {
      // What was typed while the round was on its way is none of it, and stays.
      setTyped(withoutSent(now.current.typed, was.typed));
      if (now.current.reason === was.reason) setReason("");
      await refreshAll(client);
      const when = was.from > today ? `from ${day(was.from)}` : "today";
      toast(`${was.asked.length} ${was.asked.length === 1 ? "price" : "prices"} set ${when}`, {
        undo: async () => {
          if (!(await takeBack(round))) return;
          setTyped({ ...was.typed, ...now.current.typed });
          if (now.current.reason === "") setReason(was.reason);
        },
      });
    },
  });
  const need = prices.rows.filter((row) => row.reasons.length > 0).length;
  if (prices.rows.length === 0) return <Empty />;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 text-lg">
        <h1 className="font-semibold">
          {need === 0
            ? "No price needs a look"
            : `${need} ${need === 1 ? "price needs" : "prices need"} a look`}
        </h1>
        <HouseEffect effect={effect.data} changed={asked.length > 0} />
      </div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 my-3 no-print">
        <Find field={list.search} value={filter} set={setFilter} enter={list.enter} width="w-44" />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={!all}
            onChange={(event) => setAll(!event.target.checked)}
          />
          only what needs a look <kbd>M</kbd>
        </label>
        <RowKeys />
        <span className="keys quiet text-sm whitespace-nowrap">
          <kbd>A</kbd> accept, <kbd>S</kbd> skip
        </span>
        <span className="ml-auto flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-sm"
            aria-pressed={selling}
            onClick={() => setSelling(!selling)}
          >
            Note what was sold
          </button>
          <Rooms />
        </span>
      </div>
      <div className="sheet p-3 mb-3 flex flex-wrap items-end gap-x-4 gap-y-2 no-print">
        <DateInput label="they hold from" value={from} set={setOn} today={today} />
        <label className="flex flex-col text-sm grow max-w-md">
          why <span className="sr-only">these prices</span>
          <input
            className="input input-sm w-full"
            value={reason}
            placeholder="such as: beef shin is dearer"
            maxLength={200}
            onChange={(event) => setReason(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!rows.some((row) => row.proposed !== null && row.proposed !== row.price)}
          onClick={() =>
            setTyped({
              ...typed,
              ...Object.fromEntries(
                rows.filter(worthIt).map((row) => [rowKey(row), money(row.proposed)] as const),
              ),
            })
          }
        >
          Accept all shown
        </button>
        {Object.values(typed).some(Boolean) && (
          <button type="button" className="btn btn-sm" onClick={() => setTyped({})}>
            Skip all
          </button>
        )}
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={asked.length === 0 || set.isPending}
          onClick={() => set.mutate(sent)}
        >
          Set {asked.length} {asked.length === 1 ? "price" : "prices"}{" "}
          <kbd className="text-base-content">Alt Enter</kbd>
        </button>
        {(set.isError || effect.isError) && (
          <p role="alert" className="text-error w-full">
            {inWords(set.error ?? effect.error)}
          </p>
        )}
      </div>
      <Table
        caption="Servings, their prices and what their school would ask"
        heads={[
          "Soup or stew",
          "Serving",
          "Sold",
          "Look at it",
          { text: "Cost", num: true },
          { text: "Price now", num: true },
          { text: "Share", num: true },
          { text: "Proposed", num: true },
          { text: "New price", num: true },
          { text: "Share then", num: true },
          { text: "Left then", num: true },
          { text: "Sold a week", num: true, ...(selling ? SOLD_COLUMN(prices.week) : {}) },
        ]}
        list={list.list}
        cards
      >
        {list.shown.map((row, place) => (
          <RepricingLine
            key={rowKey(row)}
            row={row}
            index={list.list.from + place}
            measure={list.list.measure}
            typed={typed[rowKey(row)] ?? ""}
            type={(text) => type(row, text)}
            then={effect.data?.rows.find((one) => rowKey(one) === rowKey(row))}
            sold={<SoldColumn row={row} week={prices.week} noting={selling} />}
          />
        ))}
      </Table>
      {rows.length === 0 && (
        <p className="sheet p-6 mt-2">
          {filter ? "Nothing fits. " : "Every price stands well. "}
          <button
            type="button"
            className="link"
            onClick={() => {
              setFilter("");
              setAll(true);
            }}
          >
            Show all {prices.rows.length} prices
          </button>
        </p>
      )}
    </>
  );
}

/** The other pages of the room. */
export function Rooms() {
  return (
    <>
      <Link className="btn btn-sm" to="/price/history">
        History
      </Link>
      <Link className="btn btn-sm" to="/price/deals">
        Deals
      </Link>
      <Link className="btn btn-sm" to="/price/ways">
        Channels and terms
      </Link>
      <Link className="btn btn-sm" to="/price/papers">
        Papers
      </Link>
    </>
  );
}

function Empty() {
  return (
    <div className="sheet p-8 max-w-2xl">
      <h1 className="text-xl font-semibold mb-2">Nothing is sold yet</h1>
      <p className="mb-4">
        Put a pot on and give it a serving, such as a bowl of 350 ml. Its price then stands here, by every
        school of pricing, beside the one that you set.
      </p>
      <Link className="btn btn-primary btn-sm" to="/cook">
        To the pots
      </Link>
    </div>
  );
}

function HouseEffect({ effect, changed }: { effect: RoundEffect | undefined; changed: boolean }) {
  const currency = useCurrency();
  if (!effect) return null;
  return (
    <span className="flex flex-wrap gap-x-6" data-testid="house">
      {effect.share_was !== null && (
        <span>
          share {percent(effect.share_was, 1)}
          {changed && effect.share_now !== null && <strong> → {percent(effect.share_now, 1)}</strong>} on
          average
          {effect.share_by_sales_was !== null && (
            <span className="quiet text-sm">
              {" "}
              ({percent(effect.share_by_sales_was, 1)}
              {changed && ` → ${percent(effect.share_by_sales_now, 1)}`} by what is sold)
            </span>
          )}
        </span>
      )}
      {effect.week_was !== null && (
        <span>
          a week leaves <span className="money">{money(effect.week_was, currency)}</span>
          {changed && effect.week_now !== null && (
            <strong className="money"> → {money(effect.week_now, currency)}</strong>
          )}{" "}
          <span className="quiet text-sm">
            at the sales of the last four weeks
            {effect.unsold > 0 && `, without ${effect.unsold} of which nobody noted any`}
            {effect.unknown > 0 && `, without ${effect.unknown} whose cost or price is not known`}
          </span>
        </span>
      )}
    </span>
  );
}

/** A round as it is sent, with what was typed for it. */
interface Sent {
  asked: ReturnType<typeof pricesOf>;
  typed: Typed;
  from: string;
  reason: string;
}

/** What was typed and not set yet; a reload loses nothing of it. */
function useTyped(): [Typed, (typed: Typed) => void] {
  const [text, setText] = useKeptText("prices");
  const typed = useMemo(() => readTyped(text), [text]);
  return [typed, (next) => setText(Object.values(next).some(Boolean) ? JSON.stringify(next) : "")];
}

function readTyped(text: string): Typed {
  try {
    const read: unknown = text ? JSON.parse(text) : {};
    return typeof read === "object" && read !== null ? (read as Typed) : {};
  } catch {
    return {};
  }
}

function useEffectOf(asked: ReturnType<typeof pricesOf>) {
  const rested = useRested(asked, RESTS_MS);
  return useQuery({
    queryKey: ["prices-effect", rested],
    queryFn: () => told<RoundEffect>(api.POST("/api/prices/effect", { body: { prices: rested } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

const pricesOf = (rows: readonly RepricingRow[], typed: Typed) =>
  rows.flatMap((row) => {
    const price = outOfField((typed[rowKey(row)] ?? "").trim());
    const { recipe, serving, channel } = row;
    return price === "" ? [] : [{ recipe, serving, channel, price, was: row.price }];
  });

/** Those that need a look, and those in which something is typed. */
function shownOf(rows: readonly RepricingRow[], filter: string, all: boolean, typed: Typed) {
  const wanted = filter.trim().toLowerCase();
  return rows.filter(
    (row) =>
      (all || wanted !== "" || row.reasons.length > 0 || typed[rowKey(row)]) &&
      `${row.name} ${row.serving_name} ${row.channel_name}`.toLowerCase().includes(wanted),
  );
}

const worthIt = (row: RepricingRow) =>
  row.proposed !== null && (row.price === null || money(row.proposed) !== money(row.price) || !row.is_set);
const figureOf = (row: RepricingRow) =>
  `serving/${row.serving}/in/${inPath(row.channel)}/in_force/food_cost_share`;
const channelIn = (row: RepricingRow) => (row.channel === null ? "" : `?channel=${row.channel}`);
const at = () => document.activeElement?.getAttribute("href");
