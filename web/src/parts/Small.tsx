// Small labelled fields of the sheets, and the small button that takes one thing off.

import type { ChangeEvent, ComponentProps } from "react";
import { inField, outOfField } from "./way";

interface FieldProps extends Omit<ComponentProps<"input">, "value" | "list"> {
  label: string;
  /** Where the field is no part of a form: its text, and what changes it. */
  value?: string | null;
  set?: (value: string | null) => void;
  width?: string;
  hint?: string;
  list?: string;
  bad?: boolean;
}

/** A field whose empty text means "not given"; it also takes what a form library registers. */
export function SmallField({ label, value, set, width = "w-20", hint, bad = false, ...input }: FieldProps) {
  const held = set && {
    value: inField(value ?? ""),
    onChange: (event: ChangeEvent<HTMLInputElement>) =>
      set(event.target.value === "" ? null : outOfField(event.target.value)),
  };
  return (
    <label className="flex items-center gap-1 whitespace-nowrap">
      <span className="quiet">{label}</span>
      <input className={`cell-input ${width}`} placeholder={hint} aria-invalid={bad} {...input} {...held} />
    </label>
  );
}

interface ChoiceProps<T extends string> extends Omit<ComponentProps<"select">, "value"> {
  label: string;
  value?: T;
  choices: readonly (readonly [T, string])[];
  set?: (value: T) => void;
}

export function SmallChoice<T extends string>({ label, value, choices, set, ...select }: ChoiceProps<T>) {
  const held = set && {
    value,
    onChange: (event: ChangeEvent<HTMLSelectElement>) => set(event.target.value as T),
  };
  return (
    <label className="flex items-center gap-1 max-w-full">
      <span className="quiet whitespace-nowrap">{label}</span>
      <select className="cell-input max-w-56" aria-label={label} {...select} {...held}>
        {choices.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

interface RemoveProps {
  /** What is said of it to those who cannot see the sign. */
  label: string;
  remove: () => void;
  look?: string;
  disabled?: boolean;
}

export function Remove({ label, remove, look = "btn-xs", disabled = false }: RemoveProps) {
  return (
    <button
      type="button"
      className={`btn btn-ghost text-base-content ${look}`}
      aria-label={label}
      disabled={disabled}
      onClick={remove}
    >
      ×
    </button>
  );
}
