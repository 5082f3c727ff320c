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

type Edit<T> = Pick<Edited<T>, "value" | "base" | "changed" | "stale"> & {
  /** What was edited stands there by now: the edit can be let go. */
  done: boolean;
};

/** An edit as it was kept, over what is there now; a text that is none is no edit. */
export function editOf<T>(text: string, theirs: T): Edit<T> {
  const kept = readKept<T>(text);
  if (kept === null) return { value: theirs, base: theirs, changed: false, stale: false, done: false };
  const done = same(kept.value, theirs);
  return { ...kept, changed: !done, stale: !done && !same(kept.base, theirs), done };
}

/** How an edit is kept; one that changes nothing any more is none. */
export const keptAs = <T>(value: T, base: T): string =>
  same(value, base) ? "" : JSON.stringify({ base, value });

export function useEdited<T>(key: string, theirs: T): Edited<T> {
  const [text, setText] = useKeptText(key);
  const { done, ...edit } = useMemo(() => editOf<T>(text, theirs), [text, theirs]);
  useEffect(() => {
    if (done) setText("");
  });
  return {
    ...edit,
    set: (value) => setText(keptAs(value, edit.base)),
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
