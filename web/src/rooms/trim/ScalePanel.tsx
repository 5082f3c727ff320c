// What the scale shows, large enough to read across the bench; take and tare by one key or one tap.

import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, inWords, type Reading, told } from "../../api/client";
import { rounded } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";

interface Props {
  reading: Reading;
  armed: string | null;
  /** Whether what lies there is what was taken last. */
  same: boolean;
  target: string | null;
  take: () => void;
  tare: () => void;
  tareEach: boolean;
  setTareEach: (on: boolean) => void;
}

export function ScalePanel({ reading, armed, same, target, take, tare, tareEach, setTareEach }: Props) {
  if (reading.state === "none")
    return (
      <Panel label="Scale" title="No scale is set up">
        <p className="text-sm quiet">
          Type the weights. docs/scale.md says how a bench scale is connected, by POTREL_SCALE.
        </p>
      </Panel>
    );
  return (
    <Panel label="Scale">
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold">Scale</h2>
        <span className="text-sm" data-testid="scale-state">
          {words(reading)}
        </span>
      </div>
      <p
        className={`text-5xl font-semibold text-right my-3 tabular-nums ${reading.steady ? "" : "quiet"}`}
        data-testid="scale-weight"
      >
        {reading.grams == null ? "– – –" : `${rounded(reading.grams, 0)} g`}
      </p>
      {reading.state === "lost" && (
        <p role="alert" className="text-error text-sm mb-2">
          The scale does not answer: look at its plug. Nothing is lost; weights can be typed meanwhile.
        </p>
      )}
      {reading.state === "over" && (
        <p role="alert" className="text-error text-sm mb-2">
          More than the scale can carry: take some off and weigh in two goes.
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        <button
          type="button"
          className="btn btn-primary h-12"
          disabled={reading.state !== "live" || target === null}
          onClick={take}
        >
          {armed === null ? "Take" : same ? "put the next one on" : "waits until it rests"}{" "}
          <kbd className="text-base-content">Enter</kbd>
        </button>
        <button type="button" className="btn h-12" disabled={reading.state !== "live"} onClick={tare}>
          Tare <kbd>Alt T</kbd>
        </button>
      </div>
      <p className="text-sm mt-2 min-h-5">
        {target ? (
          <>
            goes to <strong>{target}</strong>
          </>
        ) : (
          <span className="quiet">choose a weight to take</span>
        )}
      </p>
      <label className="flex gap-2 items-center text-sm mt-1">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={tareEach}
          onChange={(event) => setTareEach(event.target.checked)}
        />
        tare after each weight taken
      </label>
      {reading.simulated && <Simulated />}
    </Panel>
  );
}

function words(reading: Reading): string {
  if (reading.state === "lost") return "lost";
  if (reading.state === "over") return "overloaded";
  return `${reading.net ? "net" : "gross"}, ${reading.steady ? "at rest" : "moving"}`;
}

/** The simulated scale has no pan: what lies on it is said here. */
function Simulated() {
  const [grams, setGrams] = useState("");
  const put = useMutation({
    mutationFn: (body: { grams: string | null; unplug_seconds: string | null }) =>
      told(api.POST("/api/scale/put", { body })),
  });
  return (
    <form
      className="border-t border-base-300 mt-3 pt-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        put.mutate({ grams: grams.trim() || "0", unplug_seconds: null });
      }}
    >
      <p className="quiet">This scale is simulated. Say what lies on it:</p>
      <div className="flex gap-2 items-center mt-1">
        <input
          className="input input-sm w-24"
          inputMode="decimal"
          aria-label="Grams on the simulated scale"
          value={grams}
          onChange={(event) => setGrams(event.target.value)}
        />
        g
        <button type="submit" className="btn btn-sm">
          Put on
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => put.mutate({ grams: null, unplug_seconds: "5" })}
        >
          Unplug 5 s
        </button>
      </div>
      {put.isError && <p className="text-error">{inWords(put.error)}</p>}
    </form>
  );
}
