// What is kept in the browser. Its store may be full or closed to us: that is said, and nothing on the screen is lost by it.

import { useSyncExternalStore } from "react";

const ASIDE = "potrel:aside:";
/** What could not be read is put aside, and let go after a month, or where there is too much of it. */
const KEPT_ASIDE_MS = 30 * 24 * 3600 * 1000;
const MOST_ASIDE = 20;

interface Store {
  get: (name: string) => string | null;
  /** Keeps a text; tells whether that could be. */
  put: (name: string, text: string) => boolean;
  drop: (name: string) => void;
}

let full = false;
const heard = new Set<() => void>();

function told(now: boolean): void {
  if (full === now) return;
  full = now;
  // Not in the middle of what is being drawn.
  queueMicrotask(() => {
    for (const one of heard) one();
  });
}

function storeOf(storage: () => Storage): Store {
  const put = (name: string, text: string) => {
    try {
      storage().setItem(name, text);
      return true;
    } catch {
      return false;
    }
  };
  return {
    get: (name) => {
      try {
        return storage().getItem(name);
      } catch {
        return null;
      }
    },
    put: (name, text) => {
      // What was put aside is of less worth than what is being typed.
      let kept = put(name, text);
      if (!kept) {
        clearAsides(0);
        kept = put(name, text);
      }
      told(!kept);
      return kept;
    },
    drop: (name) => {
      try {
        storage().removeItem(name);
      } catch {
        // What was never kept need not be let go.
      }
    },
  };
}

/** What outlives the tab. */
export const lasting = storeOf(() => localStorage);
/** What a reload of this tab finds again. */
export const ofTab = storeOf(() => sessionStorage);

/** The names under which something is kept in the browser, of those that begin so. */
export function keptNames(start: string): string[] {
  const names: string[] = [];
  try {
    for (let at = 0; at < localStorage.length; at++) {
      const key = localStorage.key(at);
      if (key?.startsWith(start)) names.push(key.slice(start.length));
    }
  } catch {
    // A store that is closed to us holds nothing.
  }
  return names;
}

/** Puts aside what cannot be read under its name; what was put aside long ago is let go. */
export function putAside(name: string, text: string, now = Date.now()): void {
  clearAsides(MOST_ASIDE - 1, now);
  lasting.put(`${ASIDE}${now}:${name}`, text);
}

function clearAsides(most: number, now = Date.now()): void {
  const newest = keptNames(ASIDE).sort((one, other) => since(other) - since(one));
  newest.forEach((name, place) => {
    if (place >= most || now - since(name) > KEPT_ASIDE_MS) lasting.drop(`${ASIDE}${name}`);
  });
}

const since = (name: string) => Number(name.split(":")[0]) || 0;

/** Whether the last thing that was to be kept could not be. */
export function useStoreFull(): boolean {
  return useSyncExternalStore(
    (hear) => {
      heard.add(hear);
      return () => heard.delete(hear);
    },
    () => full,
  );
}
