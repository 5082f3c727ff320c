// When the price in force pays for a batch, a day, a week; and the price needed at some numbers of portions.

import { Link } from "react-router";
import type { Selling } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { money } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { SmallField } from "../../parts/Small";

interface Props {
  selling: Selling;
  /** The number of portions a day of which the price needed is asked. */
  aDay: string;
  setADay: (text: string) => void;
}

export function BreakEvenCard({ selling, aDay, setADay }: Props) {
  const currency = useCurrency();
  const { break_even: even } = selling;
  const none = even.batch === null && even.day === null && even.lack === null;
  if (none) return null;
  return (
    <Panel label="When it pays" title="When it pays" look="tight">
      <dl className="grid grid-cols-[1fr_auto] gap-y-0.5">
        {even.batch !== null && (
          <>
            <dt>
              a batch <span className="quiet text-sm">that costs {money(even.fixed_batch, currency)}</span>
            </dt>
            <dd className="num">
              {even.batch}
              {even.batch_of !== null && <span className="quiet"> of {even.batch_of}</span>}
            </dd>
          </>
        )}
        {even.day !== null && (
          <>
            <dt>a day, of this alone</dt>
            <dd className="num">{even.day}</dd>
          </>
        )}
        {even.week !== null && (
          <>
            <dt>
              a week <span className="quiet text-sm">that costs {money(even.fixed_week, currency)}</span>
            </dt>
            <dd className="num">{even.week}</dd>
          </>
        )}
      </dl>
      {even.batch !== null && even.batch_of !== null && even.batch > even.batch_of && (
        <p className="text-error text-sm mt-1">▲ More than a batch gives: at this price it never pays.</p>
      )}
      {even.needed.length > 0 && (
        <p className="text-sm mt-2">
          <span className="quiet">Sold a day, the price needed: </span>
          {even.needed.map((one, at) => (
            <span key={one.portions} className="whitespace-nowrap">
              {at > 0 && " · "}
              {one.portions}: <span className="money">{money(one.price, currency)}</span>
            </span>
          ))}
        </p>
      )}
      {even.needed.length > 0 && (
        <SmallField
          label="and at, a day"
          width="w-14"
          inputMode="numeric"
          bad={aDay.trim() !== "" && !/^[1-9]\d{0,4}$/.test(aDay.trim())}
          title="A whole number of portions"
          aria-label="Portions a day"
          value={aDay}
          set={(text) => setADay(text ?? "")}
        />
      )}
      {even.lack && (
        <p className="text-sm mt-1 unsure">
          {even.lack}.{" "}
          {even.fixed_week === null && (
            <Link className="link" to="/price/ways">
              Say it
            </Link>
          )}
        </p>
      )}
    </Panel>
  );
}
