// How far a portion's figures may be off, in a line; and what that hangs on most, as bars around its cost.

import { Link } from "react-router";
import type { Uncertainty } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { inUnit, money, NOT_KNOWN, percent } from "../../parts/format";
import { chance, testAt } from "../../parts/sure";

const MOST = 6;

interface SpreadProps {
  sure: Uncertainty;
  /** Whether somebody set its price: one that is computed for its target is over it in half of what may come. */
  priced: boolean;
}

export function Spread({ sure, priced }: SpreadProps) {
  const currency = useCurrency();
  const { food_cost, portions, share, over_target } = sure;
  if (food_cost === null)
    return (
      <p className="text-sm quiet">how far that may be off cannot be told: in some draws nothing is left</p>
    );
  const [few, many] = [portions?.p10, portions?.p90].map((one) => Math.floor(Number(one ?? 0)));
  return (
    <p className="text-sm" data-testid="spread">
      <span className="quiet">8 times in 10 it costs</span> {money(food_cost.p10, currency)}{" "}
      <span className="quiet">to</span> {money(food_cost.p90, currency)}
      {few !== many && (
        <>
          <span className="quiet">, gives</span> {few} <span className="quiet">to</span> {many}
        </>
      )}
      {share && (
        <>
          <span className="quiet">, its share is</span> {percent(share.p10, 1)}{" "}
          <span className="quiet">to</span> {percent(share.p90, 1)}
        </>
      )}
      {over_target !== null && (
        <span className="quiet">
          {priced
            ? `; it passes its target ${chance(over_target)}`
            : `; at the price computed for its target it passes that ${chance(over_target)}`}
        </span>
      )}
    </p>
  );
}

/** What the cost of a portion hangs on, the most telling first, each drawn from its own low end to its own high end. */
export function WhatMatters({ name, cost, sure }: { name: string; cost: string; sure: Uncertainty }) {
  const currency = useCurrency();
  if (sure.inputs.length === 0) return null;
  const ends = sure.inputs.flatMap((one) => [Number(one.at_low), Number(one.at_high)]);
  const [low, high] = [Math.min(...ends, Number(cost)), Math.max(...ends, Number(cost))];
  const place = (value: number) => `${(100 * (value - low)) / (high - low || 1)}%`;
  const rows = sure.inputs.map((one) => {
    const [from, to] = [Number(one.at_low), Number(one.at_high)].sort((a, b) => a - b);
    return (
      <tr key={one.what} title={one.rests_on}>
        <th scope="row" className="font-normal text-left leading-tight py-0.5">
          {one.what}
          <span className="block text-xs quiet">
            {inUnit(one.low, one.unit, currency)} to {inUnit(one.high, one.unit, currency)}
          </span>
        </th>
        <td className="w-16">
          <span className="relative block h-3 border-b border-base-content/40 ink" aria-hidden="true">
            <span className="absolute top-0 h-3 w-px bg-base-content" style={{ left: place(Number(cost)) }} />
            <span
              className="absolute top-0.5 h-2 bg-secondary"
              style={{ left: place(from ?? 0), right: `calc(100% - ${place(to ?? 0)})` }}
            />
          </span>
        </td>
        <td className="num money whitespace-nowrap pl-2">{money(one.swing, currency)}</td>
        <td className="num pl-2">{percent(one.share_of_variance)}</td>
      </tr>
    );
  });
  const head = (
    <thead>
      <tr className="text-xs">
        <th scope="col" className="text-left">
          what a {name} hangs on
        </th>
        <th scope="col">
          <span className="sr-only">from its low end to its high end</span>
        </th>
        <th scope="col" className="num pl-2">
          swing
        </th>
        <th scope="col" className="num pl-2">
          of all
        </th>
      </tr>
    </thead>
  );
  return (
    <>
      <table className="w-full" aria-label={`What the cost of a ${name} hangs on`}>
        {head}
        <tbody>{rows.slice(0, MOST)}</tbody>
      </table>
      {rows.length > MOST && (
        <details className="no-print">
          <summary className="cursor-pointer quiet w-fit">all {rows.length} that are unsure</summary>
          <table className="w-full" aria-label={`All that the cost of a ${name} hangs on`}>
            {head}
            <tbody>{rows.slice(MOST)}</tbody>
          </table>
        </details>
      )}
      {sure.test && (
        <p>
          <Link className="link" to={testAt(sure.test)}>
            Test the {sure.test.what}
          </Link>{" "}
          <span className="quiet">
            and the band gets narrower, by {percent(sure.test.narrower) || NOT_KNOWN} at most.
          </span>
        </p>
      )}
    </>
  );
}
