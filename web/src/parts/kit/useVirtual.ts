// A long list of which only what is near the window is on the page: two thousand rows sort, filter and scroll like fifty.

import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";

/** Up to so many rows are all on the page. */
const FEW = 120;
const BEYOND = 25;
const ROW = 33;

export interface Virtual {
  /** The rows that are on the page: from this one up to, not with, that one. */
  from: number;
  to: number;
  count: number;
  /** The height [px] of the rows before and behind them. */
  before: number;
  after: number;
  body: RefObject<HTMLTableSectionElement | null>;
  /** On rows of different heights, with their place as `data-index`. */
  measure: (row: Element | null) => void;
  /** Both, for the row in this place of those that are on the page. */
  measured: (place: number) => { ref: (row: Element | null) => void; "data-index": number };
  bring: (place: number) => void;
}

export function useVirtual(count: number): Virtual {
  const body = useRef<HTMLTableSectionElement>(null);
  const [margin, setMargin] = useState(0);
  const height = useRef(ROW);
  const printing = usePrinting();
  const virtual = useWindowVirtualizer({
    count,
    estimateSize: () => height.current,
    overscan: BEYOND,
    scrollMargin: margin,
  });
  // What stands above the rows may grow or go. The first row that is seen tells how high one is that nobody has seen yet; once
  // rows are measured themselves, the guess stays: with another one all that is not seen would jump.
  const guessed = useRef(false);
  useLayoutEffect(() => {
    const table = body.current;
    if (!table) return;
    setMargin(Math.round(table.getBoundingClientRect().top + window.scrollY));
    const row = table.querySelector<HTMLElement>("tr:not(.gap)");
    if (row && !guessed.current && Math.abs(row.offsetHeight - height.current) > 1) {
      guessed.current = row.hasAttribute("data-index");
      height.current = row.offsetHeight;
      virtual.measure();
    }
  });
  const seen = virtual.getVirtualItems();
  const [first, last] = [seen[0], seen[seen.length - 1]];
  const all = printing || count <= FEW;
  const from = all ? 0 : (first?.index ?? 0);
  const shared = {
    count,
    body,
    measure: virtual.measureElement,
    measured: (place: number) => ({ ref: virtual.measureElement, "data-index": from + place }),
    bring: virtual.scrollToIndex,
  };
  if (all || !first || !last)
    return { ...shared, from, to: printing ? count : Math.min(count, FEW), before: 0, after: 0 };
  return {
    ...shared,
    from,
    to: last.index + 1,
    before: first.start - margin,
    after: virtual.getTotalSize() - (last.end - margin),
  };
}

/** On paper every row is there. */
function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const begin = () => flushSync(() => setPrinting(true));
    const end = () => setPrinting(false);
    window.addEventListener("beforeprint", begin);
    window.addEventListener("afterprint", end);
    return () => {
      window.removeEventListener("beforeprint", begin);
      window.removeEventListener("afterprint", end);
    };
  }, []);
  return printing;
}
