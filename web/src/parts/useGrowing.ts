// A long list that grows as it is scrolled: a board of hundreds of rows sorts and filters as fast as one of a hundred.

import { type RefObject, useEffect, useRef, useState } from "react";

const STEP = 100;

/** How many of `all` rows to show, and the mark to put behind the last: more are shown when it comes near. */
export function useGrowing(all: number, anew: unknown): [number, RefObject<HTMLDivElement | null>] {
  const [shown, setShown] = useState(STEP);
  const end = useRef<HTMLDivElement>(null);
  // A new order or filter begins at the top again.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the change that counts
  useEffect(() => setShown(STEP), [anew]);
  useEffect(() => {
    const mark = end.current;
    if (!mark || shown >= all) return;
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) setShown((count) => count + STEP);
      },
      { rootMargin: "600px" },
    );
    watch.observe(mark);
    return () => watch.disconnect();
  }, [shown, all]);
  return [shown, end];
}
