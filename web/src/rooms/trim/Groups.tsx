// The mean yield by supplier and by season: a bar each, where there is more than one of them.

import type { Tested } from "../../api/client";
import { percent } from "../../parts/format";
import { Table } from "../../parts/kit/Table";

export function Groups({ own }: { own: Tested }) {
  const all: [string, Tested["by_supplier"]][] = [
    ["By supplier", own.by_supplier],
    ["By season", own.by_season],
  ];
  const told = all.filter(([, groups]) => groups.length > 1);
  if (told.length === 0) return null;
  const most = Math.max(1, ...told.flatMap(([, groups]) => groups.map((one) => Number(one.mean))));
  return (
    <div className="grid md:grid-cols-2 gap-6 mt-3">
      {told.map(([title, groups]) => (
        <section key={title} aria-label={title}>
          <h3 className="text-sm font-semibold">{title}</h3>
          <Table caption={title} look="plain" className="w-full text-sm" heads={[]}>
            {groups.map((one) => (
              <tr key={one.name}>
                <th scope="row" className="name font-normal text-left pr-2">
                  {one.name} <span className="quiet">({one.count})</span>
                </th>
                <td className="w-full">
                  <div className="bar" aria-hidden="true">
                    <div
                      style={{
                        width: `${(100 * Number(one.mean)) / most}%`,
                        background: "var(--color-primary)",
                      }}
                    />
                    <div className="lost grow" />
                  </div>
                </td>
                <td className="num pl-2">{percent(one.mean, 1)}</td>
              </tr>
            ))}
          </Table>
        </section>
      ))}
    </div>
  );
}
