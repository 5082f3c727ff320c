// The soups on sale by allergen, to read and to print. An aid, not clearance.

import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type AllergenMatrix, api, inWords, told } from "../../api/client";
import { useKitchen } from "../../app/kitchen";

export function AllergenSheet() {
  const kitchen = useKitchen();
  const found = useQuery({
    queryKey: ["allergens"],
    queryFn: () => told<AllergenMatrix>(api.GET("/api/allergens")),
  });
  if (found.isPending) return <p>Following the allergens …</p>;
  if (found.isError) return <p role="alert">{inWords(found.error)}</p>;
  const { groups, rows, which, caution } = found.data;
  const ask = [...new Set(rows.flatMap((row) => row.ask))];
  return (
    <>
      <div className="flex items-baseline gap-4 mb-2">
        <h1 className="text-xl font-semibold">Allergens</h1>
        <span>
          {kitchen.data?.name}, {kitchen.data?.today};{" "}
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
        <table className="table table-sm sheet board w-auto">
          <caption className="sr-only">Soups by allergen</caption>
          <thead>
            <tr>
              <th scope="col" className="align-bottom">
                Soup or stew
              </th>
              {groups.map((group) => (
                <th key={group} scope="col" className="align-bottom h-44 w-10">
                  <span className="[writing-mode:vertical-rl] rotate-180 whitespace-nowrap">{group}</span>
                </th>
              ))}
              <th scope="col" className="align-bottom">
                Also noted
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.recipe} data-allergens={row.recipe}>
                <th scope="row" className="whitespace-nowrap">
                  <Link className="link link-hover" to={`/cook/${row.recipe}`}>
                    {row.name}
                  </Link>
                  {!row.complete && <span className="text-error font-normal"> ? incomplete</span>}
                </th>
                {groups.map((group) => {
                  const cell = row.cells.find((one) => one.group === group);
                  return (
                    <td key={group} title={cell?.items.join(", ")}>
                      {cell && (
                        <span>
                          <span aria-hidden="true">{cell.beside ? "○" : "●"}</span>
                          <span className="sr-only">
                            {cell.beside ? "in what is served with it" : "contains"}: {cell.items.join(", ")}
                          </span>
                        </span>
                      )}
                    </td>
                  );
                })}
                <td>{row.others.join(", ")}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-sm mt-2">● in the pot · ○ only in a garnish or what is served with it</p>
      {ask.length > 0 && (
        <section className="mt-4 text-sm" aria-label="Labels to read">
          <h2 className="font-semibold">Often hidden: read the label</h2>
          <ul className="list-disc pl-5">
            {ask.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
