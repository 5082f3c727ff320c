// The rounds of prices: who set which, when, at what cost, by which school and why; the newest can be taken back.

import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, inWords, type PastRound, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { dayOf, moment, money } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { SCHOOLS } from "../../parts/schools";
import { useToast } from "../../parts/Toasts";
import { useTakeBack } from "./useTakeBack";

const PAGE = 50;

export function HistoryRoom() {
  const rounds = useInfiniteQuery({
    queryKey: ["rounds"],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      told<PastRound[]>(
        api.GET("/api/prices/rounds", { params: { query: pageParam ? { before: pageParam } : {} } }),
      ),
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last.at(-1)?.number),
  });
  const all = rounds.data?.pages.flat() ?? [];
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">Prices as they were set</h1>
        <Link className="btn btn-sm ml-auto" to="/price">
          Back to the prices
        </Link>
      </div>
      {rounds.isError && <p role="alert">{inWords(rounds.error)}</p>}
      {rounds.isSuccess && all.length === 0 && (
        <p className="sheet p-6 max-w-xl">
          Nobody has set a price here yet. From now on each one stands here with who set it, when, what a
          portion cost at the time, by which school, and why.
        </p>
      )}
      {all.map((round) => (
        <Round key={round.number} round={round} />
      ))}
      {rounds.hasNextPage && (
        <button type="button" className="btn btn-sm" onClick={() => rounds.fetchNextPage()}>
          Earlier ones
        </button>
      )}
    </>
  );
}

function Round({ round }: { round: PastRound }) {
  const currency = useCurrency();
  const toast = useToast();
  const today = useKitchen().data?.today ?? "";
  const takeBack = useTakeBack();
  const { day, time } = moment(round.at);
  const on = dayOf(day, today);
  return (
    <Panel
      label={`Round ${round.number}, ${on}`}
      look="tight"
      className="mb-3"
      title={
        <>
          {on}, {time}, {round.by}
          {round.reason && <span className="font-normal">: {round.reason}</span>}
        </>
      }
      beside={
        round.taken_back_by ? (
          <span className="quiet">taken back by {round.taken_back_by}</span>
        ) : (
          <button
            type="button"
            className="btn btn-xs"
            onClick={async () => {
              if (await takeBack(round.number)) toast("Taken back");
            }}
          >
            Take back
          </button>
        )
      }
    >
      <Table
        caption="Prices set at once"
        look="small"
        heads={[
          "Serving",
          "Sold",
          { text: "was", num: true },
          { text: "price", num: true },
          { text: "cost at the time", num: true },
          "by",
          "holds from",
        ]}
      >
        {round.changes.map((one) => (
          <tr key={`${one.recipe}-${one.serving_name}-${one.channel_name}`}>
            <th scope="row" className="font-normal">
              {one.recipe_name}, {one.serving_name}
            </th>
            <td>{one.channel_name}</td>
            <td className="num money">{money(one.was, currency)}</td>
            <td className="num money">
              {one.price === null ? "computed" : money(one.price, currency)}
              {one.taken_back && round.taken_back_by === null && (
                <span className="quiet font-normal"> taken back</span>
              )}
            </td>
            <td className="num money">{money(one.cost, currency)}</td>
            <td>{one.method ? SCHOOLS[one.method].name : ""}</td>
            <td>{dayOf(round.holds_from, today)}</td>
          </tr>
        ))}
      </Table>
    </Panel>
  );
}
