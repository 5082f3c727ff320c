// The rows of a table by keyboard: F to find some, the arrows to choose one, W for its working.

import { type RefObject, useEffect, useRef } from "react";
import { type Question, useWorking } from "./Figure";
import { type Keys, placeIn, useKeys } from "./keys";
import { useVirtual } from "./kit/useVirtual";

/** Each row has one such link, which opens it; the row is chosen while its link has the focus. */
const LINKS = "a[data-row-link]";

/** Gives the focus to the row that opens a page, where it is in sight; tells whether it was. */
export function focusRow(address: string): boolean {
  const link = [...document.querySelectorAll<HTMLElement>(LINKS)].find((one) =>
    one.getAttribute("href")?.endsWith(`/${address}`),
  );
  if (!link?.checkVisibility()) return false;
  link.focus();
  return true;
}

/** Those of the rows that are on the page, the list for their table, and what the keys need. */
export function useRows<T>(rows: readonly T[], ask: (row: T) => Question, more: Keys = {}) {
  const search = useRef<HTMLInputElement>(null);
  const list = useVirtual(rows.length);
  const working = useWorking();
  // The row that was chosen last: it may have been scrolled off the page since.
  const at = useRef(-1);
  const wanted = useRef<number | null>(null);
  const links = () => list.body.current?.querySelectorAll<HTMLElement>(LINKS);
  const chosen = () => {
    const place = placeIn(list.body.current, LINKS);
    return place < 0 ? at.current : list.from + place;
  };
  const focus = (place: number) => {
    const link = links()?.[place - list.from];
    if (!link) return false;
    at.current = place;
    link.focus();
    return true;
  };
  const go = (step: number) => {
    const place = Math.max(0, Math.min(rows.length - 1, chosen() + step));
    if (focus(place)) return;
    wanted.current = place;
    list.bring(place);
  };
  useEffect(() => {
    if (wanted.current !== null && focus(wanted.current)) wanted.current = null;
  });
  useKeys({
    f: () => search.current?.focus(),
    down: () => go(1),
    up: () => go(-1),
    w: () => {
      const row = rows[chosen()];
      if (row) working(ask(row));
    },
    ...more,
  });
  const enter = () => {
    at.current = -1;
    go(1);
  };
  return { shown: rows.slice(list.from, list.to), search, list, enter, step: go };
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
          if (event.key === "Escape" && value) {
            event.preventDefault();
            set("");
          }
        }}
      />
    </label>
  );
}

/** What the keys do in such a table. */
export function RowKeys() {
  return (
    <span className="keys quiet text-sm whitespace-nowrap">
      <kbd>↑</kbd> <kbd>↓</kbd> choose, <kbd>Enter</kbd> open, <kbd>W</kbd> working
    </span>
  );
}
