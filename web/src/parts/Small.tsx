// Small labelled fields of the sheets, and the small button that takes one thing off.

interface FieldProps {
  label: string;
  value: string | null;
  set: (value: string | null) => void;
  width?: string;
  hint?: string;
  list?: string;
  bad?: boolean;
  type?: string;
}

/** A field whose empty text means "not given". */
export function SmallField({
  label,
  value,
  set,
  width = "w-20",
  hint,
  list,
  bad = false,
  type = "text",
}: FieldProps) {
  return (
    <label className="flex items-center gap-1 whitespace-nowrap">
      <span className="quiet">{label}</span>
      <input
        className={`cell-input ${width}`}
        type={type}
        list={list}
        placeholder={hint}
        aria-invalid={bad}
        value={value ?? ""}
        onChange={(event) => set(event.target.value === "" ? null : event.target.value)}
      />
    </label>
  );
}

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  choices: readonly (readonly [T, string])[];
  set: (value: T) => void;
}

export function SmallChoice<T extends string>({ label, value, choices, set }: ChoiceProps<T>) {
  return (
    <label className="flex items-center gap-1 whitespace-nowrap">
      <span className="quiet">{label}</span>
      <select
        className="cell-input"
        aria-label={label}
        value={value}
        onChange={(event) => set(event.target.value as T)}
      >
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
}

export function Remove({ label, remove, look = "btn-xs" }: RemoveProps) {
  return (
    <button
      type="button"
      className={`btn btn-ghost text-base-content ${look}`}
      aria-label={label}
      onClick={remove}
    >
      ×
    </button>
  );
}
