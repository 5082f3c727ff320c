// What a new version of Potrel reckons otherwise: told on the board until somebody has seen it, and kept as a record.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { askAnew } from "../../api/asked";
import { api, type CostOtherwise, inWords, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { dayOf, moment, money } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { useSaving } from "../../parts/useSaving";

/** More of them are told on their own page. */
const AT_A_GLANCE = 6;
/** A version may move every portion of a large kitchen: the rest is drawn when somebody wants to see it. */
const DRAWN = 100;

function useOtherwise(seen: boolean) {
  return useQuery({
    queryKey: ["cost-otherwise", seen],
    queryFn: () => told<CostOtherwise[]>(api.GET("/api/cost-otherwise", { params: { query: { seen } } })),
  });
}

export function CostsOtherwise() {
  const client = useQueryClient();
  const found = useOtherwise(false);
  const see = useSaving({
    mutationFn: (number: number) =>
      told(api.DELETE("/api/cost-otherwise/{number}", { params: { path: { number } } })),
    onSuccess: () => askAnew(client, { queryKey: ["cost-otherwise"] }),
  });
  const moved = found.data ?? [];
  if (moved.length === 0) return null;
  const pots = new Set(moved.map((one) => one.recipe)).size;
  const reasons = [...new Set(moved.flatMap((one) => one.reasons))];
  return (
    <section
      className="sheet border-warning border-2 p-4 mb-3 no-print"
      aria-label="Costs that a new version reckons otherwise"
    >
      <h2 className="font-semibold">
        {pots} {pots === 1 ? "pot costs" : "pots cost"} otherwise now: this is another version of Potrel
      </h2>
      <p className="mb-2">Because {reasons.join("; ")}. Nothing else was changed, and no price was set.</p>
      <Rows of={moved.slice(0, AT_A_GLANCE)} />
      <div className="flex flex-wrap items-center gap-3 mt-2">
        <button
          type="button"
          className="btn btn-sm"
          disabled={see.isPending}
          onClick={() => see.mutate(Math.max(...moved.map((one) => one.number)))}
        >
          I have seen it
        </button>
        <Link className="link" to="/otherwise">
          {moved.length > AT_A_GLANCE ? `all ${moved.length} servings` : "the record of it"}
        </Link>
        {see.isError && (
          <span role="alert" className="text-error">
            {inWords(see.error)}
          </span>
        )}
      </div>
    </section>
  );
}

function Rows({ of }: { of: CostOtherwise[] }) {
  const currency = useCurrency();
  return (
    <Table
      caption="A portion, before and after"
      look="small"
      className="max-w-2xl"
      heads={["Serving", { text: "cost before", num: true }, { text: "cost now", num: true }]}
    >
      {of.map((one) => (
        <tr key={one.number}>
          <th scope="row" className="font-normal name">
            <Link className="link" to={`/cook/${one.recipe}`}>
              {one.recipe_name}
            </Link>
            , {one.serving_name}
          </th>
          <td className="num money">{one.was === null ? "not known" : money(one.was, currency)}</td>
          <td className="num money">{one.now === null ? "not known" : money(one.now, currency)}</td>
        </tr>
      ))}
    </Table>
  );
}

/** The record: all that new versions ever reckoned otherwise here. */
export function OtherwiseRoom() {
  const found = useOtherwise(true);
  if (found.isPending) return <p>Fetching the record …</p>;
  if (found.isError) return <p role="alert">{inWords(found.error)}</p>;
  const times = [...new Set(found.data.map((one) => one.at))];
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">What new versions reckoned otherwise</h1>
        <Link className="btn btn-sm ml-auto" to="/">
          Back to the board
        </Link>
      </div>
      {times.length === 0 && (
        <p className="sheet p-6 max-w-xl">
          No new version of Potrel has reckoned a pot of this kitchen otherwise. Should one do so, it stands
          here, with what each portion cost before and after, and why.
        </p>
      )}
      {times.map((at) => {
        const some = found.data.filter((one) => one.at === at);
        return <OneVersion key={at} at={at} of={some} />;
      })}
    </>
  );
}

function OneVersion({ at, of }: { at: string; of: CostOtherwise[] }) {
  const [all, setAll] = useState(false);
  const today = useKitchen().data?.today ?? "";
  return (
    <section className="sheet p-4 mb-3">
      <h2 className="font-semibold">
        {dayOf(moment(at).day, today)}: {of[0]?.reasons.join("; ")}
      </h2>
      <p className="quiet mb-2">{of[0]?.seen_by ? `seen by ${of[0].seen_by}` : "nobody has seen it yet"}</p>
      <Rows of={all ? of : of.slice(0, DRAWN)} />
      {!all && of.length > DRAWN && (
        <button type="button" className="btn btn-sm mt-2" onClick={() => setAll(true)}>
          Show all {of.length}
        </button>
      )}
    </section>
  );
}
