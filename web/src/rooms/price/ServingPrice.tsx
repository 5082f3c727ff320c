// One serving where it is sold: its full cost, the schools side by side, what a price does, when it pays, from soup to meal.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { refreshAll } from "../../api/asked";
import {
  api,
  inWords,
  type PriceRow,
  type Pricing,
  type RecipeReply,
  type Selling,
  told,
} from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { day, money, percent } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Tabs } from "../../parts/kit/Tabs";
import { SCHOOLS } from "../../parts/schools";
import { useToast } from "../../parts/Toasts";
import { useRested } from "../../parts/useRested";
import { useSaving } from "../../parts/useSaving";
import { outOfField } from "../../parts/way";
import { BreakEvenCard } from "./BreakEvenCard";
import { FullCost } from "./FullCost";
import { Ladder } from "./Ladder";
import { PastPrices } from "./PastPrices";
import { PriceCurve } from "./PriceCurve";
import { Schools } from "./Schools";
import { SetPrice } from "./SetPrice";
import { usePapers } from "./usePapers";

const RESTS_MS = 120;
const HERE = "here";

export function ServingPrice() {
  const { recipe = "", serving = "" } = useParams();
  const [search] = useSearchParams();
  const channel = search.get("channel");
  const [typed, setTyped] = useState("");
  const [aDay, setADay] = useState("");
  const price = useRested(outOfField(typed.trim()), RESTS_MS);
  const many = useRested(aDay.trim(), RESTS_MS);
  const ask = (more: { price?: string; a_day?: number }) =>
    told<Selling>(
      api.GET("/api/prices/{recipe_id}/{serving_id}", {
        params: {
          path: { recipe_id: recipe, serving_id: serving },
          query: { ...(channel ? { channel } : {}), ...more },
        },
      }),
    );
  const found = useQuery({
    queryKey: ["selling", recipe, serving, channel],
    queryFn: () => ask({}),
    placeholderData: keepPreviousData,
  });
  const a_day = /^[1-9]\d{0,4}$/.test(many) ? Number(many) : undefined;
  const tried = useQuery({
    queryKey: ["selling", recipe, serving, channel, price, a_day ?? 0],
    queryFn: () => ask({ ...(price ? { price } : {}), ...(a_day ? { a_day } : {}) }),
    enabled: price !== "" || a_day !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (found.isPending) return <p>Looking at the price …</p>;
  if (found.isError && !found.data)
    return (
      <p role="alert" className="sheet p-6">
        {inWords(found.error)}{" "}
        <Link className="link" to="/price">
          Back to the prices
        </Link>
      </p>
    );
  // What is tried is of the same serving and channel, or it is none.
  const fits = tried.data?.serving === found.data.serving && tried.data.channel === found.data.channel;
  const trying = (typed.trim() || aDay.trim()) && !tried.isError && fits;
  return (
    <Page
      key={`${recipe}/${serving}`}
      selling={trying && tried.data ? tried.data : found.data}
      typed={typed}
      type={setTyped}
      wrong={typed.trim() && tried.isError ? inWords(tried.error) : null}
      aDay={aDay}
      setADay={setADay}
    />
  );
}

interface PageProps {
  selling: Selling;
  typed: string;
  type: (text: string) => void;
  /** What is wrong with the typed price. */
  wrong: string | null;
  aDay: string;
  setADay: (text: string) => void;
}

function Page({ selling, typed, type, wrong, aDay, setADay }: PageProps) {
  const currency = useCurrency();
  const papers = usePapers();
  const navigate = useNavigate();
  useKeys({ escape: () => navigate("/price") });
  const { channel } = selling;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">
          {selling.name}, {selling.serving_name} <span className="quiet">{selling.size}</span>
        </h1>
        <Channels selling={selling} />
        <span className="ml-auto flex flex-wrap gap-2 no-print">
          <a
            className="btn btn-sm"
            href={`/api/papers/costing/${selling.recipe}.${papers.data?.lack ? "html" : "pdf"}`}
            target="_blank"
            rel="noreferrer"
          >
            Costing sheet
          </a>
          <a className="btn btn-sm" href={`/api/workbook/${selling.recipe}.xlsx`} download>
            Workbook
          </a>
          <Link className="btn btn-sm" to={`/cook/${selling.recipe}`}>
            To the pot
          </Link>
          <Link className="btn btn-sm" to="/price">
            All prices <kbd>Esc</kbd>
          </Link>
        </span>
      </div>
      <p className="mb-2 text-sm">
        <span className="quiet">{selling.channel === null ? "Sold here" : "Sold so"}:</span> tax{" "}
        {percent(selling.tax, 1)}
        {Number(selling.commission) > 0 &&
          `, commission ${percent(selling.commission, 1)} of the ${selling.commission_of} price`}
        {Number(selling.subsidy) > 0 && `, the house adds ${money(selling.subsidy, currency)} to each`}
        {selling.deposit !== null &&
          `, a deposit of ${money(selling.deposit, currency)} beside the price, given back with the cup`}
        {!selling.sold && (
          <>
            . <strong>It is not sold so yet.</strong> <SellSo selling={selling} sold />
          </>
        )}
        {selling.sold && channel !== null && (
          <>
            . <SellSo selling={selling} sold={false} />
          </>
        )}
      </p>
      {selling.lacking && (
        <p role="note" className="sheet p-3 mb-3 border-l-4 border-error">
          No price can be told from its cost yet: {selling.lacking}.{" "}
          <Link className="link" to={`/cook/${selling.recipe}`}>
            Mend it in the pot
          </Link>
        </p>
      )}
      {selling.coming && (
        <p role="note" className="sheet p-3 mb-3">
          From {day(selling.coming.on)} it costs{" "}
          <strong className="money">{money(selling.coming.price, currency)}</strong>.
        </p>
      )}
      <FullCost selling={selling} />
      <div className="grid grid-cols-[minmax(0,1fr)_19rem] gap-3 mt-3 max-xl:grid-cols-1">
        <div>
          <Schools
            selling={selling}
            typed={typed}
            type={type}
            wrong={wrong}
            choose={(row) => <Decides selling={selling} row={row} />}
          />
          <SetPrice key={selling.channel} selling={selling} typed={typed} done={() => type("")} />
          <Ladder selling={selling} />
        </div>
        <div className="flex flex-col gap-3 max-xl:grid max-xl:grid-cols-2 max-md:grid-cols-1">
          <PriceCurve selling={selling} />
          <BreakEvenCard selling={selling} aDay={aDay} setADay={setADay} />
          <PastPrices recipe={selling.recipe} serving={selling.serving_name} />
        </div>
      </div>
    </>
  );
}

function Channels({ selling }: { selling: Selling }) {
  const navigate = useNavigate();
  const channels = useKitchen().data?.settings.channels ?? [];
  if (channels.length === 0)
    return (
      <Link className="link text-sm" to="/price/ways">
        Sold elsewhere too? Say how
      </Link>
    );
  return (
    <Tabs
      label="Where it is sold"
      tabs={[[HERE, "here"] as const, ...channels.map((one) => [one.id, one.name] as const)]}
      shown={selling.channel ?? HERE}
      show={(tab) =>
        navigate(`/price/${selling.recipe}/${selling.serving}${tab === HERE ? "" : `?channel=${tab}`}`, {
          replace: true,
        })
      }
    />
  );
}

/** What was seen of how a serving is priced and where it is sold, and a change of either. */
function useTerms(selling: Selling) {
  const client = useQueryClient();
  const toast = useToast();
  const pot = useQuery({
    queryKey: ["recipe", selling.recipe],
    queryFn: () =>
      told<RecipeReply>(
        api.GET("/api/recipes/{recipe_id}", { params: { path: { recipe_id: selling.recipe } } }),
      ),
  });
  const serving = pot.data?.recipe.servings.find((one) => one.id === selling.serving);
  const save = useSaving({
    mutationFn: (next: { pricing?: Pricing | null; sold_in?: (sold: string[]) => string[] }) => {
      // What is known when it is sent: the save before this one may have changed it since it was asked for.
      const now = client.getQueryData<RecipeReply>(["recipe", selling.recipe]);
      const one = now?.recipe.servings.find((each) => each.id === selling.serving) ?? serving;
      const was_pricing = one?.pricing ?? null;
      const was_sold_in = (one?.channels ?? []).map((each) => each.channel);
      const sold_in = next.sold_in ? next.sold_in(was_sold_in) : was_sold_in;
      return told(
        api.PUT("/api/prices/{recipe_id}/{serving_id}", {
          params: { path: { recipe_id: selling.recipe, serving_id: selling.serving } },
          body: {
            pricing: next.pricing === undefined ? was_pricing : next.pricing,
            sold_in,
            was_pricing,
            was_sold_in,
          },
        }),
      );
    },
    onError: (error) => toast(inWords(error), { bad: true }),
    onSettled: () => refreshAll(client),
  });
  return { ready: serving !== undefined, save };
}

function SellSo({ selling, sold }: { selling: Selling; sold: boolean }) {
  const terms = useTerms(selling);
  const channel = selling.channel ?? "";
  const others = (now: string[]) => now.filter((one) => one !== channel);
  return (
    <button
      type="button"
      className="link no-print"
      disabled={!terms.ready || terms.save.isPending}
      onClick={() => terms.save.mutate({ sold_in: sold ? (now) => [...others(now), channel] : others })}
    >
      {sold ? "Sell it so" : "Sell it so no longer"}
    </button>
  );
}

/** Which school decides: kept with the serving. */
function Decides({ selling, row }: { selling: Selling; row: PriceRow }) {
  const terms = useTerms(selling);
  if (row.method === null || row.pricing === null) return null;
  return (
    <input
      type="radio"
      name="decides"
      className="radio radio-sm"
      aria-label={`${SCHOOLS[row.method].name} decides`}
      checked={selling.decides === row.method || terms.save.isPending}
      disabled={!terms.ready || terms.save.isPending}
      onChange={() => terms.save.mutate({ pricing: row.pricing })}
    />
  );
}
