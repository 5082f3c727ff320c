// What a list would do to every portion, and the one button that records it; later, what it did, and the way back.

import { Link } from "react-router";
import { inWords, type ReviewReply } from "../../../api/client";
import { EffectsTable } from "../../../parts/EffectsTable";
import { Became } from "./ListsRoom";
import { capital } from "./states";

interface Props {
  head: ReviewReply;
  settled: boolean;
  waiting: number;
  ready: boolean;
  record: () => void;
  undo: () => void;
  wrong: Error | null;
}

export function Outcome({ head, settled, waiting, ready, record, undo, wrong }: Props) {
  const what = head.row.kind === "credit_note" ? "credit" : "price";
  const s = head.writes === 1 ? "" : "s";
  return (
    <aside
      className="sheet p-4 sticky top-3 max-h-[calc(100vh-4.5rem)] overflow-y-auto max-lg:static max-lg:max-h-none"
      aria-label="What it does"
    >
      {settled ? (
        <>
          <p className="mb-2">
            <Became one={head.row} />
          </p>
          {head.writes > 0 && (
            <button type="button" className="btn btn-primary w-full mb-2" disabled={!ready} onClick={record}>
              Record {head.writes} {what}
              {s} more <kbd className="text-base-content">Ctrl Enter</kbd>
            </button>
          )}
          {waiting > 0 && (
            <p className="mb-2 text-sm">
              {waiting} {waiting === 1 ? "line was" : "lines were"} left out and can be recorded later.
            </p>
          )}
          <button type="button" className="btn btn-sm" onClick={undo}>
            Take all of it back
          </button>
        </>
      ) : (
        <>
          <button type="button" className="btn btn-primary w-full" disabled={!ready} onClick={record}>
            Record {head.writes} {what}
            {s} <kbd className="text-base-content">Ctrl Enter</kbd>
          </button>
          {head.blocked && <p className="mt-2">{capital(head.blocked)}.</p>}
          {!head.blocked && waiting > 0 && (
            <p className="mt-2 text-sm">
              {waiting} {waiting === 1 ? "line waits" : "lines wait"} for you and{" "}
              {waiting === 1 ? "is" : "are"} left out.
            </p>
          )}
        </>
      )}
      {wrong && (
        <p role="alert" className="text-error mt-2">
          {inWords(wrong)}
        </p>
      )}
      {head.row.kind !== "credit_note" && (
        <>
          <h2 className="font-semibold mt-3">
            {settled && head.writes === 0 ? "What it did" : "What it does"}
          </h2>
          <EffectsTable effects={head.effects} />
          {head.effects_found > head.effects.length && (
            <p className="quiet text-sm">and {head.effects_found - head.effects.length} portions more</p>
          )}
        </>
      )}
      {settled && (
        <Link className="link text-sm" to="/">
          To the board
        </Link>
      )}
    </aside>
  );
}
