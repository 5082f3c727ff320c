// The pots whose changes are not saved yet, in any tab of this browser.

import { useEffect, useState } from "react";
import { useLocation } from "react-router";
import { keptNames } from "./browserStore";

const PLACE = "potrel:draft:";
const CHANGED = "potrel:drafts";

/** Said when a draft was kept or let go, for who counts them in this tab. */
export const draftsChanged = () => globalThis.dispatchEvent?.(new Event(CHANGED));

const unsaved = () => [...new Set(keptNames(PLACE).map((name) => name.split("@")[0] ?? name))].sort();

export function useUnsavedPots(): string[] {
  const { pathname } = useLocation();
  const [found, setFound] = useState(unsaved);
  // biome-ignore lint/correctness/useExhaustiveDependencies: who goes elsewhere may have left something
  useEffect(() => {
    const look = () =>
      setFound((was) => {
        const now = unsaved();
        return now.join() === was.join() ? was : now;
      });
    look();
    for (const event of ["storage", CHANGED]) globalThis.addEventListener(event, look);
    return () => {
      for (const event of ["storage", CHANGED]) globalThis.removeEventListener(event, look);
    };
  }, [pathname]);
  return found;
}
