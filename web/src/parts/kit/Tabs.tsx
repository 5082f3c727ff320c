// Which of a few views of the same thing is shown: buttons side by side, one of them pressed.

import type { ReactNode } from "react";

interface Props<T extends string> {
  label: string;
  tabs: readonly (readonly [T, ReactNode])[];
  shown: T;
  show: (tab: T) => void;
}

export function Tabs<T extends string>({ label, tabs, shown, show }: Props<T>) {
  return (
    <fieldset className="flex flex-wrap gap-1">
      <legend className="sr-only">{label}</legend>
      {tabs.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={shown === key}
          className={`btn btn-xs ${shown === key ? "btn-primary" : ""}`}
          onClick={() => show(key)}
        >
          {words}
        </button>
      ))}
    </fieldset>
  );
}
