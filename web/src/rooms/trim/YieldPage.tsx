// One yield in full: its tests drawn over time, what books say, what may be adopted, and what was in use before.

import { queryOptions, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "react-router";
import { api, inWords, told, type YieldReply } from "../../api/client";
import { compareAddress } from "../../parts/addresses";
import { Figure, useCurrency } from "../../parts/Figure";
import { kilo, money, percent, perKilo } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Panel } from "../../parts/kit/Panel";
import { METHOD_NAMES } from "../../parts/methods";

import { Choices } from "./Choices";
import { Groups } from "./Groups";
import { History } from "./History";
import { Methods } from "./Methods";
import { TestsChart } from "./TestsChart";
import { TestsTable } from "./TestsTable";
import { ToBook } from "./ToBook";
import { UsableKilo } from "./UsableKilo";
import { benchAddress, RESTS } from "./words";

export type Sort = YieldReply["sort"];

export function yieldQuery(item: string, sort: Sort, of: string) {
  return queryOptions({
    queryKey: ["yield", item, sort, of],
    queryFn: () =>
      told<YieldReply>(
        api.GET("/api/yields/{item_id}/{sort}/{of}", { params: { path: { item_id: item, sort, of } } }),
      ),
  });
}

export function YieldPage() {
  const { item = "", sort = "preparation", of = "" } = useParams();
  const found = useQuery(yieldQuery(item, sort === "cooking" ? "cooking" : "preparation", of));
  if (found.isPending) return <p>Opening the yield …</p>;
  if (found.isLoadingError) return <p role="alert">{inWords(found.error)}</p>;
  return <Loaded key={`${item}/${sort}/${of}`} found={found.data} />;
}

function Loaded({ found }: { found: YieldReply }) {
  const currency = useCurrency();
  const navigate = useNavigate();
  const { row } = found;
  const name = row?.name ?? found.of;
  const treatment = row?.treatment ?? found.tests[0]?.test.kind ?? "trim";
  const own = found.own;
  const bench = benchAddress({ item: found.item, sort: found.sort, of: found.of }, treatment);
  useKeys({ n: () => navigate(bench), escape: () => navigate("/trim") });
  const path = `yield/${found.item}/${found.sort}/${found.of}`;
  return (
    <>
      <div className="flex gap-3">
        <ToBook />
        {found.sort === "preparation" && row && (
          <Link
            className="btn btn-sm ml-auto"
            to={compareAddress({ unit: "kg", forms: [`${found.item}:${found.of}`] })}
          >
            Cut it or buy it cut
          </Link>
        )}
        <Link
          className={`btn btn-sm btn-primary ${found.sort === "preparation" && row ? "" : "ml-auto"}`}
          to={bench}
        >
          New test <kbd className="text-base-content">N</kbd>
        </Link>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 mb-3">
        <h1 className="text-xl font-semibold">
          <Link className="link link-hover" to={`/buy/${found.item}`} title="Its prices, in Buy">
            {found.item_name}
          </Link>
          , {name}
        </h1>
        {row && (
          <>
            <span className="text-lg">
              yields <strong>{percent(row.yield, 1)}</strong>
            </span>
            <span className={row.rests_on === "estimate" ? "unsure" : ""}>
              rests on {RESTS[row.rests_on]}: {row.source}
            </span>
            {row.per_kg !== null && (
              <span>
                a usable {kilo()} <UsableKilo row={row} />
                <span className="quiet">
                  {" "}
                  of {money(perKilo(found.per_kg), currency)} as bought, {METHOD_NAMES[found.method]}
                </span>
              </span>
            )}
          </>
        )}
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)_20rem] max-md:grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,1fr)_25rem] gap-4 items-start">
        <div className="grid grid-cols-[minmax(0,1fr)] gap-4 min-w-0">
          {own === null || own === undefined ? (
            <div className="sheet p-6">
              <h2 className="font-semibold mb-1">Never tested here</h2>
              <p>
                Put one batch on the bench, weigh it before and after: one test already shows whether the
                figure fits your supplier and your knife.
              </p>
            </div>
          ) : (
            <Panel label="Own tests">
              <div className="flex flex-wrap gap-x-5 items-baseline mb-2">
                <h2 className="font-semibold">
                  {own.count} own {own.count === 1 ? "test" : "tests"}
                </h2>
                <span>
                  mean{" "}
                  <Figure
                    ask={{ figure: `${path}/mean` }}
                    text={percent(own.mean, 1)}
                    label="mean of the own tests"
                  />
                </span>
                {own.spread !== null && own.low !== null ? (
                  <>
                    <span>
                      spread{" "}
                      <Figure
                        ask={{ figure: `${path}/spread` }}
                        text={percent(own.spread, 1)}
                        label="spread of the own tests"
                      />
                    </span>
                    <span>
                      the mean lies between{" "}
                      <Figure
                        ask={{ figure: `${path}/low` }}
                        text={percent(own.low, 1)}
                        label="low end of the interval"
                      />{" "}
                      and{" "}
                      <Figure
                        ask={{ figure: `${path}/high` }}
                        text={percent(own.high, 1)}
                        label="high end of the interval"
                      />{" "}
                      <span className="quiet">(95%)</span>
                    </span>
                  </>
                ) : (
                  <span className="quiet">one test tells no spread</span>
                )}
                {own.left_out > 0 && <span className="quiet">{own.left_out} left out</span>}
              </div>
              <TestsChart found={found} />
              <Groups own={own} />
            </Panel>
          )}
          {found.tests.length > 0 && <TestsTable found={found} />}
          <Methods found={found} />
        </div>
        <aside className="grid gap-4" aria-label="What to adopt">
          <Choices found={found} />
          <History found={found} />
          <Panel label="Pots that rest on it">
            <h2 className="font-semibold mb-1">
              In {found.recipes.length} {found.recipes.length === 1 ? "pot" : "pots"}
            </h2>
            <p className="text-sm">
              {found.recipes.map((one, at) => (
                <span key={one.id}>
                  {at > 0 && ", "}
                  <Link className="link link-hover" to={`/cook/${one.id}`}>
                    {one.name}
                  </Link>
                </span>
              ))}
              {found.recipes.length === 0 && "No pot rests on it yet."}
            </p>
          </Panel>
        </aside>
      </div>
    </>
  );
}
