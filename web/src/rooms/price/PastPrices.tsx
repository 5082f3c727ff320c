// What was set before: who, when, at what cost, by which school, why.

import { useQuery } from "@tanstack/react-query";
import { api, type PastRound, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { dayOf, money } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { SCHOOLS } from "../../parts/schools";

export function PastPrices({ recipe, serving }: { recipe: string; serving: string }) {
  const currency = useCurrency();
  const today = useKitchen().data?.today ?? "";
  const rounds = useQuery({
    queryKey: ["rounds", recipe],
    queryFn: () => told<PastRound[]>(api.GET("/api/prices/rounds", { params: { query: { recipe } } })),
  });
  const lines = (rounds.data ?? []).flatMap((round) =>
    round.changes
      .filter((one) => one.recipe === recipe && one.serving_name === serving)
      .map((one) => ({ round, one })),
  );
  if (lines.length === 0) return null;
  return (
    <Panel label="Earlier prices" title="Earlier prices" look="tight">
      <ul className="text-sm flex flex-col gap-1">
        {lines.slice(0, 8).map(({ round, one }) => (
          <li
            key={`${round.number}-${one.channel_name}`}
            className={round.taken_back_by ? "line-through" : ""}
          >
            {dayOf(round.holds_from, today)}, {one.channel_name}:{" "}
            <span className="money">
              {money(one.was, currency)} → {one.price === null ? "computed" : money(one.price, currency)}
            </span>
            <span className="quiet">
              {" "}
              at a cost of {money(one.cost, currency)}
              {one.method && `, by ${SCHOOLS[one.method].name}`}, {round.by}
              {round.reason && `: ${round.reason}`}
              {round.taken_back_by && `; taken back by ${round.taken_back_by}`}
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
