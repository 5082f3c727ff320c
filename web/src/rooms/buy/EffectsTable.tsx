// What a change does to each portion it reaches: before and after.

import { Link } from "react-router";
import type { Effect } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { money, percent } from "../../parts/format";

export function EffectsTable({ effects }: { effects: Effect[] }) {
  const currency = useCurrency();
  if (effects.length === 0) return <p className="quiet text-sm">No portion changes.</p>;
  return (
    <table className="table table-xs" data-testid="effects">
      <caption className="sr-only">Portions that change</caption>
      <thead>
        <tr>
          <th scope="col">Portion</th>
          <th scope="col" className="num">
            cost
          </th>
          <th scope="col" className="num">
            food cost
          </th>
        </tr>
      </thead>
      <tbody>
        {effects.map((one) => {
          const over =
            one.share_now !== null && one.target !== null && Number(one.share_now) > Number(one.target);
          return (
            <tr key={`${one.recipe}/${one.serving}`}>
              <th scope="row" className="font-normal">
                <Link className="link link-hover" to={`/cook/${one.recipe}`}>
                  {one.name}
                </Link>{" "}
                <span className="quiet">{one.serving_name}</span>
              </th>
              <td className="num money">
                {money(one.was, currency)} → {money(one.now, currency)}
              </td>
              <td className={`num ${over ? "text-error font-semibold" : ""}`}>
                {percent(one.share_was, 1)} → {percent(one.share_now, 1)} {over && "▲"}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
