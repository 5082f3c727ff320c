// The mean yield by supplier and by season: a bar each, where there is more than one of them.

import type { Tested } from "../../api/client";
import { percent } from "../../parts/format";

export function Groups({ own }: { own: Tested }) {
  const all: [string, Tested["by_supplier"]][] = [
    ["By supplier", own.by_supplier],
    ["By season", own.by_season],
  ];
  const told = all.filter(([, groups]) => groups.length > 1);
  if (told.length === 0) return null;
  const most = Math.max(1, ...told.flatMap(([, groups]) => groups.map((one) => Number(one.mean))));
  return (
    <div className="grid grid-cols-2 gap-6 mt-3">
      {told.map(([title, groups]) => (
        <table key={title} className="w-full text-sm self-start">
          <caption className="text-left font-semibold">{title}</caption>
          <tbody>
            {groups.map((one) => (
              <tr key={one.name}>
                <th scope="row" className="font-normal text-left whitespace-nowrap pr-2">
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
          </tbody>
        </table>
      ))}
    </div>
  );
}
