// The soups on sale by allergen, to read and to print. An aid, not clearance.

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type AllergenMatrix, api, inWords, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { Table } from "../../parts/kit/Table";
import { writtenDay } from "../../parts/way";
import { FedTable } from "./FedTable";
import { LabelsToRead } from "./LabelsToRead";

type Row = AllergenMatrix["rows"][number];

/** A cell is a dot, a question, or a dash where all labels were read: never a blank that looks like clearance. */
function Cell({ row, group, cell }: { row: Row; group: string; cell: Row["cells"][number] | undefined }) {
  if (cell) {
    const words = cell.words.filter((one) => !group.toLowerCase().startsWith(one));
    return (
      <td className="text-center" title={cell.items.join(", ")}>
        <span aria-hidden="true">{cell.beside ? "○" : "●"}</span>
        {words.length > 0 && NAMED.test(group) && <span className="block text-xs">{words.join(", ")}</span>}
        <span className="sr-only">
          {cell.beside ? "in what is served or may be had with it" : "contains"}: {cell.items.join(", ")}
        </span>
      </td>
    );
  }
  const open = row.asked.includes(group) || row.unchecked.length > 0;
  const why = row.asked.includes(group) ? row.ask.join("; ") : `not checked: ${row.unchecked.join(", ")}`;
  return (
    <td className="text-center" title={open ? why : "none, by the labels that were read"}>
      {open ? (
        <span className={row.asked.includes(group) ? "text-error font-semibold" : "text-error"}>
          ?<span className="sr-only"> not checked</span>
        </span>
      ) : (
        <span className="quiet">
          –<span className="sr-only"> none, by the labels that were read</span>
        </span>
      )}
    </td>
  );
}

/** The law names the cereal and the nut. */
const NAMED = /cereal|nuts/i;

export function AllergenSheet() {
  const kitchen = useKitchen();
  const found = useQuery({
    queryKey: ["allergens"],
    queryFn: () => told<AllergenMatrix>(api.GET("/api/allergens")),
  });
  if (found.isPending) return <p>Following the allergens …</p>;
  if (found.isLoadingError) return <p role="alert">{inWords(found.error)}</p>;
  const { groups, rows, which, caution, to_read, fed, diets_caution } = found.data;
  const seasonings = rows
    .filter((row) => row.ask.some((one) => one.startsWith("Seasoning allowance")))
    .map((row) => row.name);
  return (
    <>
      <div className="flex items-baseline gap-4 mb-2">
        <h1 className="text-xl font-semibold">Allergens, diets, portions</h1>
        <span>
          {kitchen.data?.name}, {kitchen.data && writtenDay(kitchen.data.today, true)};{" "}
          {which === "eu14" ? "EU list of 14 groups" : "US list of 9 groups"}
        </span>
        <button type="button" className="btn btn-sm ml-auto no-print" onClick={() => window.print()}>
          Print
        </button>
        <Link className="btn btn-sm no-print" to="/">
          Back to the board
        </Link>
      </div>
      <p className="border-l-4 border-warning pl-3 mb-3 font-semibold">{caution}</p>
      {rows.length === 0 ? (
        <p className="sheet p-6">No soup is on sale yet.</p>
      ) : (
        <Table
          caption="Soups by allergen"
          className="w-auto"
          heads={[
            { text: "Soup or stew", className: "align-bottom" },
            ...groups.map((group) => ({
              key: group,
              text: <span className="[writing-mode:vertical-rl] rotate-180 whitespace-nowrap">{group}</span>,
              className: "align-bottom text-center h-44 w-10",
            })),
            { text: "Also noted", className: "align-bottom" },
          ]}
        >
          {rows.map((row) => (
            <tr key={row.recipe} data-allergens={row.recipe}>
              <th scope="row" className="name">
                <Link className="link link-hover" to={`/cook/${row.recipe}`}>
                  {row.name}
                </Link>
                {!row.complete && <span className="text-error font-normal"> ? incomplete</span>}
              </th>
              {groups.map((group) => {
                const cell = row.cells.find((one) => one.group === group);
                return <Cell key={group} row={row} group={group} cell={cell} />;
              })}
              <td>{row.others.join(", ")}</td>
            </tr>
          ))}
        </Table>
      )}
      <p className="text-sm mt-2">
        ● in the pot · ○ only in a garnish, what is served or what may be had with it ·{" "}
        <span className="text-error font-semibold">?</span> not checked: ask, and read the label · – none, by
        the labels that were read
      </p>
      {seasonings.length > 0 && (
        <p className="text-sm mt-1">
          ? {seasonings.join(", ")}: the seasoning allowance is not told. Name what it covers in the pot,
          under "density, measured batch, seasoning".
        </p>
      )}
      {fed.length > 0 && <FedTable rows={fed} />}
      {fed.length > 0 && <p className="border-l-4 border-warning pl-3 my-3">{diets_caution}</p>}
      <LabelsToRead labels={to_read} />
    </>
  );
}
