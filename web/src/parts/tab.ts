// This tab among those of the same browser: what it keeps is its own, and what a tab that is gone has left can be found.

const KEY = "potrel:tab";

function made(): string {
  return Math.random().toString(36).slice(2, 10);
}

/** A name for this tab that outlives a reload of it. */
export function tabName(): string {
  const known = sessionStorage.getItem(KEY);
  if (known) return known;
  const name = made();
  sessionStorage.setItem(KEY, name);
  return name;
}

/** A tab that was opened as a copy of another takes a name of its own; each holds its name as long as it is there. */
export function holdTab(): void {
  if (!navigator.locks) return;
  const hold = (name: string) =>
    navigator.locks.request(`potrel-tab-${name}`, { ifAvailable: true }, (lock) => {
      if (lock) return new Promise<never>(() => {});
      const other = made();
      sessionStorage.setItem(KEY, other);
      void hold(other);
      return undefined;
    });
  void hold(tabName());
}
