// What a change does to each portion it reaches: before and after, pot by pot.

import { Link } from "react-router";
import type { Effect } from "../api/client";
import { useCurrency } from "./Figure";
import { money, percent } from "./format";
import { Table } from "./kit/Table";

export function EffectsTable({ effects }: { effects: Effect[] }) {
  if (effects.length === 0) return <p className="quiet text-sm">No portion changes.</p>;
  // The order of the pots is that of their first portion: what moves most comes first.
  const pots = new Map<string, Effect[]>();
  for (const one of effects) pots.set(one.recipe, [...(pots.get(one.recipe) ?? []), one]);
  return (
    <Table
      caption="Portions that change"
      look="small"
      className="effects"
      testid="effects"
      grouped
      heads={["Portion", { text: "cost", num: true }, { text: "share", num: true }]}
    >
      {[...pots].map(([recipe, portions]) => (
        <tbody key={recipe}>
          <tr>
            <th scope="rowgroup" colSpan={3}>
              <Link className="link link-hover" to={`/cook/${recipe}`}>
                {portions[0]?.name}
              </Link>
            </th>
          </tr>
          {portions.map((one) => (
            <Portion key={one.serving} effect={one} />
          ))}
        </tbody>
      ))}
    </Table>
  );
}

function Portion({ effect }: { effect: Effect }) {
  const currency = useCurrency();
  const was = money(effect.was, currency);
  const now = money(effect.now, currency);
  const unseen = effect.was !== effect.now && effect.was !== null && effect.now !== null && was === now;
  const over =
    effect.share_now !== null && effect.target !== null && Number(effect.share_now) > Number(effect.target);
  return (
    <tr>
      <th scope="row" className="font-normal quiet">
        {effect.serving_name}
      </th>
      <td className="num money">
        {effect.at_least && effect.now !== null && (
          <span className="quiet text-xs font-normal">at least </span>
        )}
        {unseen ? (
          <span className="quiet font-normal">under a cent</span>
        ) : effect.was === effect.now ? (
          now
        ) : (
          `${was} → ${now}`
        )}
      </td>
      <td className={`num ${over ? "text-error font-semibold" : ""}`}>
        {percent(effect.share_was, 1)} → {percent(effect.share_now, 1)}{" "}
        <span className="inline-block w-3">{over && "▲"}</span>
      </td>
    </tr>
  );
}
