// Two to four pots or revisions side by side: what differs stands out.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useSearchParams } from "react-router";
import {
  api,
  inWords,
  type Named,
  type RecipeReply,
  type SideBySideReply,
  told,
  type VariantColumn,
} from "../../api/client";
import { NAMES } from "../../api/kitchen";
import { ShareScale } from "../../parts/Bars";
import { useCurrency } from "../../parts/Figure";
import { mass, minutes, money, NOT_KNOWN, percent, signed, thickness, trimmed } from "../../parts/format";
import { Remove } from "../../parts/Small";
import { useAnother } from "./another";

const MOST = 4;

interface Chosen {
  recipe: string;
  revision: number | null;
}

/** A pot in the address: its id, and its revision where it is an earlier one. */
const read = (text: string): Chosen => {
  const [recipe = "", revision] = text.split("~");
  return { recipe, revision: revision ? Number(revision) : null };
};
const written = (one: Chosen) => (one.revision === null ? one.recipe : `${one.recipe}~${one.revision}`);

export function SideBySide() {
  const [search, setSearch] = useSearchParams();
  const chosen = search.getAll("of").map(read);
  const choose = (of: readonly Chosen[]) => setSearch({ of: of.map(written) }, { replace: true });
  const names = useQuery(NAMES);
  const found = useQuery({
    queryKey: ["side-by-side", chosen],
    queryFn: () => told<SideBySideReply>(api.POST("/api/side-by-side", { body: { of: chosen } })),
    enabled: chosen.length > 1 && chosen.length <= MOST,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const first = chosen[0];
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">Side by side</h1>
        <span className="contents no-print">
          {chosen.length < MOST && (
            <AddPot
              names={(names.data ?? []).filter(
                (one) =>
                  one.is_recipe && !chosen.some((each) => each.recipe === one.id && each.revision === null),
              )}
              add={(recipe) => choose([...chosen, { recipe, revision: null }])}
            />
          )}
          {first && <MakeVariant of={first.recipe} />}
          <button type="button" className="btn btn-sm ml-auto" onClick={() => window.print()}>
            Print
          </button>
          {first && (
            <Link className="btn btn-sm" to={`/cook/${first.recipe}`}>
              Back to the pot
            </Link>
          )}
        </span>
      </div>
      {chosen.length < 2 && (
        <p className="sheet p-6">
          Choose another pot to stand beside it: roasted or boiled, with flour or with potato, with the stock
          of bones or of vegetables. What differs stands out.
        </p>
      )}
      {chosen.length > MOST && <p className="sheet p-6">Four pots at most stand side by side.</p>}
      {found.isError && (
        <p role="alert" className="text-error">
          {inWords(found.error)}
        </p>
      )}
      {chosen.length > 1 && found.data && !found.isError && (
        <Columns
          reply={found.data}
          remove={(place) => choose(chosen.filter((_, at) => at !== place))}
          stale={found.isPlaceholderData}
        />
      )}
    </>
  );
}

function AddPot({ names, add }: { names: readonly Named[]; add: (id: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      <span className="quiet">beside</span>
      <select className="cell-input max-w-72" value="" onChange={(event) => add(event.target.value)}>
        <option value="">another pot …</option>
        {names.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  );
}

function MakeVariant({ of }: { of: string }) {
  const another = useAnother();
  const make = async () => {
    const params = { path: { recipe_id: of } };
    const { recipe } = await told<RecipeReply>(api.GET("/api/recipes/{recipe_id}", { params }));
    another.mutate({
      recipe: { ...recipe, variant_of: recipe.variant_of ?? recipe.id },
      name: `${recipe.name}, variant`,
      said: `A variant of ${recipe.name}: change it, then look at both side by side`,
    });
  };
  return (
    <button type="button" className="btn btn-sm" disabled={another.isPending} onClick={() => void make()}>
      Make a variant
    </button>
  );
}

interface Row {
  label: string;
  cell: (one: VariantColumn, first: VariantColumn) => ReactNode;
  /** What is compared to tell whether it differs. */
  by: (one: VariantColumn) => unknown;
}

function rowsOf(currency: string): Row[] {
  const figure = (
    label: string,
    value: (one: VariantColumn) => string | null,
    text: (value: string | null) => string,
    apart?: (difference: string) => string,
  ): Row => ({
    label,
    by: (one) => text(value(one)),
    cell: (one, first) => {
      const [here, there] = [value(one), value(first)];
      const difference = here !== null && there !== null ? Number(here) - Number(there) : 0;
      return (
        <>
          {text(here)}
          {apart && one !== first && text(here) !== text(there) && (
            <span className="quiet text-xs"> {apart(String(difference))}</span>
          )}
        </>
      );
    },
  });
  const cost = (text: string | null) => money(text, currency);
  const apart = (difference: string) => signed(difference, currency);
  return [
    {
      label: "portion",
      by: (one) => one.serving_size,
      cell: (one) => `${one.serving_name} ${one.serving_size}`,
    },
    figure("a portion costs", (one) => one.food_cost, cost, apart),
    figure("price", (one) => one.price, cost),
    {
      label: "food-cost share",
      by: (one) => percent(one.share, 1),
      cell: (one) => (
        <>
          <ShareScale share={one.share} target={one.target} /> {percent(one.share, 1)}
        </>
      ),
    },
    figure("margin", (one) => one.contribution, cost, apart),
    figure(
      "portions",
      (one) => one.portions,
      (text) => (text === null ? NOT_KNOWN : trimmed(text, 1)),
    ),
    figure("batch", (one) => one.batch_g, mass),
    figure("food cost of the batch", (one) => one.batch_cost, cost, apart),
    figure("attended", (one) => one.attended_minutes, minutes),
    figure("on the stove and beside it", (one) => one.elapsed_minutes, minutes),
    figure(
      "energy to cook it",
      (one) => one.energy_kwh,
      (text) => (text === null ? NOT_KNOWN : `${trimmed(text, 1)} kWh`),
    ),
    figure(
      "salt",
      (one) => one.salt_share,
      (text) => percent(text, 2),
    ),
    {
      label: "thickness",
      by: (one) => thickness(one.thickness_g_per_l, one.thickness_at_least),
      cell: (one) => thickness(one.thickness_g_per_l, one.thickness_at_least),
    },
    figure(
      "a portion feeds",
      (one) => one.energy_kcal,
      (text) => (text === null ? NOT_KNOWN : `${trimmed(text, 0)} kcal`),
    ),
    {
      label: "allergens",
      by: (one) => one.allergens.join(),
      cell: (one) => (
        <>
          {one.allergens.join(", ") || "none noted"}
          {one.to_read.length > 0 && (
            <span className="text-error text-sm"> ? {one.to_read.join(", ")}: read the labels</span>
          )}
        </>
      ),
    },
    {
      label: "diets",
      by: (one) => one.diets.map((each) => each.answer).join(),
      cell: (one) => (
        <>
          {one.diets
            .filter((each) => each.answer === "yes")
            .map((each) => each.called)
            .join(", ") || NOT_KNOWN}
          {one.diets.some((each) => each.answer === "not_known") && (
            <span className="text-error text-sm">
              {" "}
              ?{" "}
              {one.diets
                .filter((each) => each.answer === "not_known")
                .map((each) => each.called)
                .join(", ")}
            </span>
          )}
        </>
      ),
    },
  ];
}

interface ColumnsProps {
  reply: SideBySideReply;
  remove: (place: number) => void;
  stale: boolean;
}

function Columns({ reply, remove, stale }: ColumnsProps) {
  const currency = useCurrency();
  const [onlyApart, setOnlyApart] = useState(false);
  const { columns, lines, stages } = reply;
  const first = columns[0];
  if (!first) return null;
  const rows = rowsOf(currency).map((row) => ({
    ...row,
    differ: new Set(columns.map((one) => JSON.stringify(row.by(one)))).size > 1,
  }));
  const apart = "font-semibold bg-base-200";
  const key = (one: VariantColumn) => written({ recipe: one.recipe, revision: one.revision });
  return (
    <div className={stale ? "opacity-70" : ""}>
      <label className="flex items-center gap-2 mb-2 no-print w-fit">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={onlyApart}
          onChange={(event) => setOnlyApart(event.target.checked)}
        />
        only what differs
      </label>
      <div className="overflow-x-auto sheet">
        <table className="table table-sm">
          <caption className="sr-only">Pots side by side</caption>
          <thead>
            <tr>
              <td />
              {columns.map((one, place) => (
                <th scope="col" key={key(one)} className="align-top">
                  <Link className="link link-hover text-base" to={`/cook/${one.recipe}`}>
                    {one.name}
                  </Link>{" "}
                  <Remove
                    label={`Take ${one.name} out of the comparison`}
                    remove={() => remove(place)}
                    look="btn-xs no-print"
                  />
                  <span className="block font-normal quiet">
                    {one.revision !== null ? `revision ${one.revision}` : one.variant_of ? "a variant" : ""}
                    {!one.complete && <span className="text-error"> ? incomplete</span>}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows
              .filter((row) => row.differ || !onlyApart)
              .map((row) => (
                <tr key={row.label} className={row.differ ? apart : ""} data-differs={row.differ}>
                  <th scope="row" className="font-normal">
                    {row.differ && <Apart />}
                    {row.label}
                  </th>
                  {columns.map((one) => (
                    <td key={key(one)}>{row.cell(one, first)}</td>
                  ))}
                </tr>
              ))}
          </tbody>
          <tbody>
            <tr>
              <th scope="rowgroup" colSpan={columns.length + 1}>
                What goes in
              </th>
            </tr>
            {lines
              .filter((row) => row.differ || !onlyApart)
              .map((row) => (
                <tr
                  key={`${row.name} ${row.how}`}
                  className={row.differ ? apart : ""}
                  data-differs={row.differ}
                >
                  <th scope="row" className="font-normal">
                    {row.differ && <Apart />}
                    {row.name} <span className="quiet">{row.how}</span>
                  </th>
                  {row.cells.map((cell, place) => (
                    // The columns stay in their order.
                    // biome-ignore lint/suspicious/noArrayIndexKey: see above
                    <td key={place}>
                      {cell === null ? (
                        <span className="quiet">—</span>
                      ) : (
                        <>
                          {mass(cell.ep_g)} <span className="money">{money(cell.cost, currency)}</span>
                        </>
                      )}
                    </td>
                  ))}
                </tr>
              ))}
          </tbody>
          <tbody>
            <tr>
              <th scope="rowgroup" colSpan={columns.length + 1}>
                Trays and pots
              </th>
            </tr>
            {stages.map((row, place) =>
              row.differ || !onlyApart ? (
                // Stages stand place by place.
                // biome-ignore lint/suspicious/noArrayIndexKey: see above
                <tr key={place} className={row.differ ? apart : ""} data-differs={row.differ}>
                  <th scope="row" className="font-normal">
                    {row.differ && <Apart />}
                    {place + 1}
                  </th>
                  {row.cells.map((cell, at) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: see above
                    <td key={at}>{cell || <span className="quiet">—</span>}</td>
                  ))}
                </tr>
              ) : null,
            )}
          </tbody>
        </table>
      </div>
      <p className="text-sm mt-2 quiet">
        At the prices of today. Allergens and diets are aids, no clearance: labels and trained people decide.
      </p>
    </div>
  );
}

const Apart = () => (
  <span title="they differ here">
    ≠ <span className="sr-only">differs: </span>
  </span>
);
