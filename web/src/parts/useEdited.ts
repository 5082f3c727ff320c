// What the server has, while it is edited as a whole: a reload loses nothing, nor does somebody else's save.

import { useEffect, useMemo } from "react";
import { useKeptText } from "./kept";

interface Edited<T> {
  value: T;
  /** What the edit began with. */
  base: T;
  set: (value: T) => void;
  changed: boolean;
  /** Somebody else saved meanwhile: what is edited here began with something older. */
  stale: boolean;
  /** Let the edit go, and begin with what is there now. */
  takeTheirs: () => void;
}

const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

export function useEdited<T>(key: string, theirs: T): Edited<T> {
  const [text, setText] = useKeptText(key);
  const kept = useMemo(() => readKept<T>(text), [text]);
  const done = kept !== null && same(kept.value, theirs);
  useEffect(() => {
    if (done) setText("");
  });
  const base = kept === null ? theirs : kept.base;
  return {
    value: kept === null ? theirs : kept.value,
    base,
    set: (value) => setText(same(value, base) ? "" : JSON.stringify({ base, value })),
    changed: kept !== null && !done,
    stale: kept !== null && !done && !same(kept.base, theirs),
    takeTheirs: () => setText(""),
  };
}

function readKept<T>(text: string): { base: T; value: T } | null {
  try {
    const read: unknown = text ? JSON.parse(text) : null;
    return typeof read === "object" && read !== null && "base" in read && "value" in read
      ? (read as { base: T; value: T })
      : null;
  } catch {
    return null;
  }
}
