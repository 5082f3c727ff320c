// This tab among those of the same browser: what it keeps is its own, and what a tab that is gone has left can be found.

import { ofTab } from "./browserStore";

const KEY = "potrel:tab";
/** Where the tab's own store is closed to us, its name lasts as long as the page. */
let own: string | null = null;

function made(): string {
  return Math.random().toString(36).slice(2, 10);
}

/** A name for this tab that outlives a reload of it. */
export function tabName(): string {
  const known = ofTab.get(KEY) ?? own;
  if (known) return known;
  own = made();
  ofTab.put(KEY, own);
  return own;
}

/** A tab that was opened as a copy of another takes a name of its own; each holds its name as long as it is there. */
export function holdTab(): void {
  if (!navigator.locks) return;
  const hold = (name: string) =>
    navigator.locks.request(`potrel-tab-${name}`, { ifAvailable: true }, (lock) => {
      if (lock) return new Promise<never>(() => {});
      const other = made();
      own = other;
      ofTab.put(KEY, other);
      void hold(other);
      return undefined;
    });
  void hold(tabName());
}
