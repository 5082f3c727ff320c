// The pots by what they rest on: estimates first, then the book, then own tests with their number and age.

import { Link } from "react-router";
import type { YieldRow } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { yieldAddress } from "../../parts/addresses";
import { finder } from "../../parts/find";
import { dayOf } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { useVirtual } from "../../parts/kit/useVirtual";

interface Pot {
  id: string;
  name: string;
  rows: YieldRow[];
}

const KINDS: readonly (readonly [YieldRow["rests_on"], string])[] = [
  ["estimate", "Estimates"],
  ["book", "The book"],
  ["own_tests", "Own tests"],
];

/** The yields of each pot, the pots with most estimates first. */
function potsOf(rows: YieldRow[]): Pot[] {
  const pots = new Map<string, Pot>();
  for (const row of rows)
    for (const { id, name } of row.recipes) {
      const pot = pots.get(id) ?? { id, name, rows: [] };
      pot.rows.push(row);
      pots.set(id, pot);
    }
  const guessed = (pot: Pot) => pot.rows.filter((row) => row.rests_on === "estimate").length;
  return [...pots.values()].sort((a, b) => guessed(b) - guessed(a) || a.name.localeCompare(b.name));
}

export function Pots({ rows, find }: { rows: YieldRow[]; find: string }) {
  const found = finder(find);
  const pots = potsOf(rows).filter((pot) => found(pot.name));
  const list = useVirtual(pots.length);
  return (
    <Table
      list={list}
      caption="Pots with the yields that they rest on"
      heads={["Pot", ...KINDS.map(([kind, words]) => ({ key: kind, text: words }))]}
    >
      {pots.slice(list.from, list.to).map((pot, at) => (
        <tr
          key={pot.id}
          ref={list.measure}
          data-index={list.from + at}
          className="align-top hover:bg-base-200"
        >
          <th scope="row" className="whitespace-nowrap">
            <Link className="link link-hover" to={`/cook/${pot.id}`}>
              {pot.name}
            </Link>
          </th>
          {KINDS.map(([kind]) => (
            <Resting key={kind} rows={pot.rows.filter((row) => row.rests_on === kind)} />
          ))}
        </tr>
      ))}
    </Table>
  );
}

function Resting({ rows }: { rows: YieldRow[] }) {
  const kitchen = useKitchen();
  const today = kitchen.data?.today ?? "";
  return (
    <td>
      {rows.length > 0 && <strong className="mr-2">{rows.length}</strong>}
      {rows.map((row, at) => (
        <span key={`${row.item}/${row.sort}/${row.of}`}>
          {at > 0 && ", "}
          <Link className={`link ${row.rests_on === "estimate" ? "unsure" : ""}`} to={yieldAddress(row)}>
            {row.item_name} {row.name}
          </Link>
          {row.tests > 0 && (
            <span className="quiet">
              {" "}
              ({row.tests} {row.tests === 1 ? "test" : "tests"}, {dayOf(row.newest ?? "", today)})
            </span>
          )}
        </span>
      ))}
    </td>
  );
}
