// What a sheet tells so far: the yield, what is not weighed yet, the money; and recording it, asked again where it leaks.

import type { UseMutationResult } from "@tanstack/react-query";
import { type DraftReply, inWords } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { kilo, mass, money, percent, perKilo, rounded, trimmed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";

interface Props {
  found: DraftReply | undefined;
  error: string | null;
  record: UseMutationResult<void, Error, boolean>;
}

export function SoFar({ found, error, record }: Props) {
  const currency = useCurrency();
  const weighed = found?.weights;
  const leaks = weighed?.asks_again ?? false;
  return (
    <Panel label="So far" title="So far" aria-live="polite">
      {error && (
        <p role="alert" className="text-error text-sm">
          {error}
        </p>
      )}
      {weighed ? (
        <>
          <p className="text-3xl my-1" data-testid="bench-yield">
            {percent(weighed.yield, 1)}
            <span className="text-base quiet">
              {" "}
              {found?.in_use == null ? "nothing counted on yet" : `counted on: ${percent(found.in_use, 1)}`}
            </span>
          </p>
          <p className={leaks ? "text-error" : ""} data-testid="unaccounted">
            {mass(weighed.unaccounted)} unaccounted for ({percent(weighed.unaccounted_share, 1)}): drip,
            steam, or not weighed
          </p>
          {found?.minutes_per_kg != null && (
            <p>
              {trimmed(perKilo(found.minutes_per_kg), 1)} min a purchased {kilo()}
            </p>
          )}
          {found?.money && (
            <p>
              a usable {kilo()}{" "}
              <span className="money">{money(perKilo(found.money.usable_per_kg), currency)}</span>
              <span className="quiet">
                {" "}
                of {money(perKilo(found.per_kg), currency)} as bought
                {found.money.cost_factor !== null && `, factor ${rounded(found.money.cost_factor, 2)}`}
              </span>
            </p>
          )}
        </>
      ) : (
        <>
          {found?.left != null && (
            <p data-testid="left">
              <strong>{mass(found.left.replace("-", ""))}</strong>{" "}
              {found.left.startsWith("-") ? "more than there was before" : "not weighed yet"}
            </p>
          )}
          <ul className="text-sm quiet list-disc pl-5">
            {(found?.problems ?? []).map((one) => (
              <li key={one.field}>{one.message}</li>
            ))}
          </ul>
        </>
      )}
      {record.isError && (
        <p role="alert" className="text-error text-sm mt-2">
          {inWords(record.error)}
        </p>
      )}
      <div className="mt-3 grid gap-2">
        {leaks && (
          <p className="text-sm">
            That is more than drips or dries off. Weigh again, or weigh what fell beside it; if it is so, say
            so.
          </p>
        )}
        <button
          type="button"
          className="btn btn-primary h-12"
          disabled={!found?.ready || record.isPending}
          onClick={() => record.mutate(leaks)}
        >
          {leaks ? "It is so: record it" : "Record the test"}{" "}
          <kbd className="text-base-content">Ctrl Enter</kbd>
        </button>
      </div>
    </Panel>
  );
}
