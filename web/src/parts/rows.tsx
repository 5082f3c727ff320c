// The rows of a table by keyboard: F to find some, the arrows to choose one, W for its working.

import { type RefObject, useRef } from "react";
import { type Question, useWorking } from "./Figure";
import { type Keys, placeIn, useKeys, walk } from "./keys";
import { useGrowing } from "./useGrowing";

/** Each row has one such link, which opens it; the row is chosen while its link has the focus. */
const LINKS = "a[data-row-link]";

/** Those of the rows that are shown so far, the places of the table and its mark, and what the keys need. */
export function useRows<T>(rows: readonly T[], ask: (row: T) => Question, more: Keys = {}) {
  const search = useRef<HTMLInputElement>(null);
  const body = useRef<HTMLTableSectionElement>(null);
  const [most, end] = useGrowing(rows.length, rows);
  const working = useWorking();
  const go = (step: number) => walk(body.current, LINKS, step);
  useKeys({
    f: () => search.current?.focus(),
    down: () => go(1),
    up: () => go(-1),
    w: () => {
      const row = rows[placeIn(body.current, LINKS)];
      if (row) working(ask(row));
    },
    ...more,
  });
  return { shown: rows.slice(0, most), search, body, end, enter: () => go(1) };
}

interface FindProps {
  field: RefObject<HTMLInputElement | null>;
  value: string;
  set: (typed: string) => void;
  /** Into the rows, by the arrow down. */
  enter?: () => void;
  width?: string;
}

/** The field that finds rows; F leads to it. */
export function Find({ field, value, set, enter, width = "w-48" }: FindProps) {
  return (
    <label className="flex items-center gap-2">
      Find <kbd>F</kbd>
      <input
        ref={field}
        className={`input input-sm ${width}`}
        value={value}
        onChange={(event) => set(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") enter?.();
          if (event.key === "Escape") set("");
        }}
      />
    </label>
  );
}

/** What the keys do in such a table. */
export function RowKeys() {
  return (
    <span className="quiet text-sm whitespace-nowrap">
      <kbd>↑</kbd> <kbd>↓</kbd> choose, <kbd>Enter</kbd> open, <kbd>W</kbd> working
    </span>
  );
}
