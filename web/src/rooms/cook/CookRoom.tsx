// All recipes, bases included: what a portion and a litre cost, how sure that is, when each was changed, who uses it.

import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, inWords, type RecipeSummary, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { ShareScale } from "../../parts/Bars";
import { Figure, useCurrency } from "../../parts/Figure";
import { finder } from "../../parts/find";
import { aLitre, dayOf, litre, moment, money, percent, perLitre, volume } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import type { Virtual } from "../../parts/kit/useVirtual";
import { NewPot } from "../../parts/NewPot";
import { Find, RowKeys, useRows } from "../../parts/rows";
import { Sure } from "../../parts/Sure";
import { useUnsavedPots } from "../../parts/unsaved";
import { TakenOffList } from "./TakenOffList";

export function CookRoom() {
  const recipes = useQuery({
    queryKey: ["recipes"],
    queryFn: () => told<RecipeSummary[]>(api.GET("/api/recipes")),
  });
  if (recipes.isPending) return <p>Fetching the recipes …</p>;
  if (recipes.isLoadingError) return <p role="alert">{inWords(recipes.error)}</p>;
  return <Loaded recipes={recipes.data} />;
}

function Loaded({ recipes }: { recipes: RecipeSummary[] }) {
  const [filter, setFilter] = useState("");
  const [adding, setAdding] = useState(false);
  const unsaved = useUnsavedPots();
  const navigate = useNavigate();
  const found = useMemo(() => {
    const holds = finder(filter);
    return recipes.filter((row) => holds(row.name));
  }, [recipes, filter]);
  const list = useRows(found, (row) => ({ figure: "batch/cost_per_l", recipe: row.id }), {
    n: () => setAdding(true),
    p: () => navigate("/cook/from/paper"),
  });
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">Recipes</h1>
        <span className="contents no-print">
          <Find field={list.search} value={filter} set={setFilter} enter={list.enter} width="w-56" />
          <RowKeys />
          <a className="btn btn-sm ml-auto" href="/api/recipes.jsonld" download>
            All as a file
          </a>
          <Link className="btn btn-sm" to="/cook/from/paper">
            From paper <kbd>P</kbd>
          </Link>
          <button type="button" className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
            New soup <kbd className="text-base-content">N</kbd>
          </button>
        </span>
      </div>
      <Table
        caption="All recipes: what a portion and a litre cost, how sure that is, and when each was last changed"
        heads={[
          "Recipe",
          "Portion",
          { text: "Cost", num: true },
          { text: "Price", num: true },
          { text: "Food-cost share", num: true },
          { text: `A ${litre()} costs`, num: true },
          { text: "Batch", num: true },
          "How sure",
          "Changed",
          { text: "Goes into", className: "max-xl:hidden" },
        ]}
        list={list.list}
      >
        {list.shown.map((row, place) => (
          <Row
            key={row.id}
            row={row}
            measured={list.list.measured(place)}
            unsaved={unsaved.includes(row.id)}
          />
        ))}
      </Table>
      <TakenOffList />
      {found.length === 0 && (
        <p className="sheet p-6 mt-2">No recipe is called so. Put a new pot on with N.</p>
      )}
      {adding && <NewPot leave={() => setAdding(false)} made={(id) => navigate(`/cook/${id}?new`)} />}
    </>
  );
}

function Row({
  row,
  measured,
  unsaved,
}: {
  row: RecipeSummary;
  measured: ReturnType<Virtual["measured"]>;
  unsaved: boolean;
}) {
  const currency = useCurrency();
  const today = useKitchen().data?.today ?? "";
  const { portion } = row;
  const ask = (name: string) => ({ figure: `serving/${portion?.serving}/${name}`, recipe: row.id });
  const label = `${row.name}, ${portion?.name}`;
  const usedBy = row.used_by.join(", ");
  return (
    <tr {...measured} className="hover:bg-base-200">
      <th scope="row" className="name">
        <Link data-row-link className="link link-hover" to={`/cook/${row.id}`}>
          {row.name}
        </Link>
        {unsaved && <span className="text-error font-normal text-sm"> not saved</span>}
        {!row.complete && <span className="text-error text-sm"> ? incomplete</span>}
      </th>
      <td>
        {portion ? (
          <>
            {portion.name} <span className="quiet">{portion.size}</span>
            {row.servings > 1 && <span className="quiet"> and {row.servings - 1} more</span>}
          </>
        ) : (
          <span className="quiet">a base</span>
        )}
      </td>
      <td className="num">
        {portion && (
          <Figure
            ask={ask("food_cost")}
            text={money(portion.food_cost, currency)}
            atLeast={!row.complete}
            label={`cost of ${label}`}
            className="money"
            stop={false}
          />
        )}
      </td>
      <td className="num">
        {portion && (
          <Figure
            ask={ask("price")}
            text={money(portion.price, currency)}
            label={`price of ${label}`}
            className="money"
            stop={false}
          />
        )}
      </td>
      <td className="num">
        {portion && (
          <>
            <ShareScale share={portion.food_cost_share} target={portion.target_share} />{" "}
            <Figure
              ask={ask("food_cost_share")}
              text={percent(portion.food_cost_share)}
              label={`food-cost share of ${label}`}
              stop={false}
            />
          </>
        )}
      </td>
      <td className="num">
        <Figure
          ask={{ figure: "batch/cost_per_l", recipe: row.id }}
          text={money(perLitre(row.cost_per_l), currency)}
          atLeast={!row.complete}
          label={`cost of ${aLitre()} of ${row.name}`}
          className="money"
          stop={false}
        />
      </td>
      <td className="num">
        {row.cost_per_l === null && "at least "}
        {volume(row.batch_ml)}
      </td>
      <td>
        <Sure sure={row.sure} />
      </td>
      <td className="whitespace-nowrap" title={row.changed_by ? `by ${row.changed_by}` : undefined}>
        {row.changed_at && dayOf(moment(row.changed_at).day, today)}
      </td>
      <td className="max-xl:hidden max-w-56 truncate" title={usedBy}>
        {usedBy}
      </td>
    </tr>
  );
}
