// All recipes, bases included: what a litre costs and who uses it.

import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, inWords, type RecipeSummary, told } from "../../api/client";
import { Figure, useCurrency } from "../../parts/Figure";
import { finder } from "../../parts/find";
import { money, volume } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { NewPot } from "../../parts/NewPot";
import { Find, RowKeys, useRows } from "../../parts/rows";
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
  const currency = useCurrency();
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
        <Find field={list.search} value={filter} set={setFilter} enter={list.enter} width="w-56" />
        <RowKeys />
        <Link className="btn btn-sm ml-auto" to="/cook/from/paper">
          From paper <kbd>P</kbd>
        </Link>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
          New soup <kbd className="text-base-content">N</kbd>
        </button>
      </div>
      <Table
        caption="All recipes with their batch and the cost of a litre"
        heads={[
          "Recipe",
          { text: "Batch", num: true },
          { text: "A litre costs", num: true },
          "Served as",
          "Goes into",
        ]}
        list={list.list}
      >
        {list.shown.map((row) => (
          <tr key={row.id} className="hover:bg-base-200">
            <th scope="row">
              <Link data-row-link className="link link-hover" to={`/cook/${row.id}`}>
                {row.name}
              </Link>
              {unsaved.includes(row.id) && <span className="text-error font-normal text-sm"> not saved</span>}
              {!row.complete && <span className="text-error text-sm"> ? incomplete</span>}
            </th>
            <td className="num">
              {row.cost_per_l === null && "at least "}
              {volume(row.batch_ml)}
            </td>
            <td className="num">
              <Figure
                ask={{ figure: "batch/cost_per_l", recipe: row.id }}
                text={money(row.cost_per_l, currency)}
                atLeast={!row.complete}
                label={`cost of a litre of ${row.name}`}
                className="money"
                stop={false}
              />
            </td>
            <td>
              {row.servings === 0 ? (
                <span className="quiet">a base</span>
              ) : row.servings === 1 ? (
                "1 size"
              ) : (
                `${row.servings} sizes`
              )}
            </td>
            <td>{row.used_by.join(", ")}</td>
          </tr>
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
