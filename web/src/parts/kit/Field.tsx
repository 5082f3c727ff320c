// Labelled fields of a form: the label above, what is wrong with it below. They take what a form library registers.

import { type ComponentProps, useId } from "react";

interface Common {
  label: string;
  hint?: string | undefined;
  /** What is wrong with what stands there, in words. */
  problem?: string | undefined;
  /** The width of the field itself. */
  width?: string;
}

export function Field({
  label,
  hint,
  problem,
  width = "w-full",
  className = "",
  ...input
}: Common & ComponentProps<"input">) {
  const below = useId();
  return (
    <label className={`flex flex-col ${className}`}>
      <span>
        {label} {hint && <span className="quiet text-xs">{hint}</span>}
      </span>
      <input
        className={`input input-sm ${width}`}
        aria-invalid={problem !== undefined}
        aria-describedby={problem ? below : undefined}
        {...input}
      />
      {problem && (
        <span id={below} role="alert" className="text-error text-sm">
          {problem}
        </span>
      )}
    </label>
  );
}

type Choices = readonly (readonly [value: string, words: string])[];

export function Choice({
  label,
  hint,
  problem,
  width = "w-full",
  className = "",
  choices,
  ...select
}: Common & ComponentProps<"select"> & { choices: Choices }) {
  return (
    <label className={`flex flex-col ${className}`}>
      <span>
        {label} {hint && <span className="quiet text-xs">{hint}</span>}
      </span>
      <select className={`select select-sm ${width}`} aria-invalid={problem !== undefined} {...select}>
        {choices.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      {problem && (
        <span role="alert" className="text-error text-sm">
          {problem}
        </span>
      )}
    </label>
  );
}

/** An empty field says nothing: null, and not a text without letters. */
export const orNull = { setValueAs: (text: string | null) => text?.trim() || null };
