// The yields that were in use, the newest first; each one can be gone back to.

import { inWords, type YieldReply } from "../../api/client";
import { day, moment, percent } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { useAdopt } from "./Choices";

export function History({ found }: { found: YieldReply }) {
  const { adopt } = useAdopt(found);
  if (found.history.length === 0) return null;
  return (
    <Panel label="In use before" title="In use until now">
      <ol className="text-sm grid gap-1">
        {found.history.map((one, at) => (
          <li key={one.number} className="flex items-baseline gap-2">
            <span className="font-semibold w-14">{percent(one.yield, 1)}</span>
            <span className="grow">
              {one.source}
              <span className="quiet">
                {" "}
                · {day(moment(one.at).day)}, {one.by}
              </span>
            </span>
            {at === 0 ? (
              <span className="quiet">now</span>
            ) : (
              <button
                type="button"
                className="btn btn-xs"
                disabled={adopt.isPending}
                onClick={() => adopt.mutate({ back_to: one.number, yield: one.yield })}
              >
                Go back to it
              </button>
            )}
          </li>
        ))}
      </ol>
      {adopt.isError && (
        <p role="alert" className="text-error text-sm">
          {inWords(adopt.error)}
        </p>
      )}
    </Panel>
  );
}
