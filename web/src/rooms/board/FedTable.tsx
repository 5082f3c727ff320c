// What a portion of each soup on sale holds, and for whom it is. An aid, not clearance.

import { Link } from "react-router";
import type { AllergenMatrix } from "../../api/client";
import { NOT_KNOWN, trimmed } from "../../parts/format";
import { Table } from "../../parts/kit/Table";

const COLUMNS = [
  ["energy_kcal", "kcal", 0],
  ["fat_g", "fat", 1],
  ["saturates_g", "saturates", 1],
  ["carbohydrate_g", "carbo­hydrate", 1],
  ["sugars_g", "sugars", 1],
  ["fibre_g", "fibre", 1],
  ["protein_g", "protein", 1],
  ["salt_g", "salt", 1],
  ["alcohol_g", "alcohol", 1],
] as const;
const SIGNS = { yes: "✓", no: "✗", not_known: "?" };
const WORDS = { yes: "fits", no: "does not fit", not_known: "not known" };

type Row = AllergenMatrix["fed"][number];

export function FedTable({ rows }: { rows: Row[] }) {
  const diets = rows[0]?.diets ?? [];
  const open = rows.filter((row) => row.lacking.length > 0);
  return (
    <>
      <h2 className="text-lg font-semibold mt-6">In a portion, and for whom</h2>
      <Table
        caption="What a portion holds, in grams, with what is eaten with it; and the diets it fits"
        className="w-auto"
        heads={[
          { text: "Soup or stew", className: "align-bottom" },
          { text: "Portion", className: "align-bottom" },
          ...COLUMNS.map(([key, text]) => ({ key, text, num: true, className: "align-bottom" })),
          ...diets.map((one) => ({
            key: one.diet,
            text: (
              <span className="[writing-mode:vertical-rl] rotate-180 whitespace-nowrap">{one.called}</span>
            ),
            className: "align-bottom text-center h-40 w-10",
          })),
        ]}
      >
        {rows.map((row) => (
          <tr key={row.recipe} data-fed={row.recipe}>
            <th scope="row" className="name">
              <Link className="link link-hover" to={`/cook/${row.recipe}`}>
                {row.name}
              </Link>
            </th>
            <td className="whitespace-nowrap">
              {row.serving} <span className="quiet">{row.size}</span>
            </td>
            {COLUMNS.map(([key, , places]) => {
              const value = row.values[key];
              return (
                <td
                  key={key}
                  className="num"
                  title={value == null ? `missing: ${row.lacking.join(", ")}` : undefined}
                >
                  {value == null ? NOT_KNOWN : trimmed(value, places)}
                </td>
              );
            })}
            {row.diets.map((one) => (
              <td
                key={one.diet}
                className={`text-center ${one.answer === "not_known" ? "text-error" : ""}`}
                title={one.because.join(", ") || "by what its goods come from"}
              >
                <span aria-hidden="true">{SIGNS[one.answer]}</span>
                <span className="sr-only">
                  {one.called}: {WORDS[one.answer]} {one.because.join(", ")}
                </span>
              </td>
            ))}
          </tr>
        ))}
      </Table>
      <p className="text-sm mt-2">
        ✓ by what its goods come from · ✗ something in it or beside it is refused ·{" "}
        <span className="text-error font-semibold">?</span> somebody has to say what a thing comes from, or
        read its label. Carbohydrate is without fibre, salt is sodium × 2.5 (EU 1169/2011).
      </p>
      {open.length > 0 && (
        <p className="text-sm mt-1">
          {NOT_KNOWN} a value is missing:{" "}
          {open.map((row) => `${row.name} (${row.lacking.slice(0, 4).join(", ")})`).join("; ")}.
        </p>
      )}
    </>
  );
}
