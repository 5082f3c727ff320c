// A field for a quantity. A bare number means the unit that the field showed.

import { type ComponentProps, useId, useRef, useState } from "react";

const BARE = /^[\d.,/ ½¼¾⅓⅔]*[\d½¼¾⅓⅔][\d.,/ ½¼¾⅓⅔]*$/;

/** "650" in a field that showed "300 ml" is "650 ml"; whatever says more stays as it is. */
export function inUnitOf(text: string, shown: string): string {
  // "12" in the place of "10 lb 8 oz" may be pounds or ounces: that is asked.
  if (/\d\s*[^\d\s]+\.? \d/.test(shown)) return text;
  const unit = shown.replace(/^[\d.,/ ½¼¾⅓⅔]+/, "").trim();
  return BARE.test(text) && unit ? `${text.trim()} ${unit}` : text;
}

interface Props extends Omit<ComponentProps<"input">, "value" | "onChange"> {
  value: string;
  set: (text: string) => void;
  /** Where the field is empty: a quantity in the unit that its hint shows. */
  usual?: string;
}

export function QuantityInput({ value, set, usual = "", ...input }: Props) {
  const shown = useRef(value || usual);
  const [typed, setTyped] = useState<string | null>(null);
  // What somebody types stays as it is typed while it stands for the value; an undo takes its place.
  const text = typed !== null && inUnitOf(typed, shown.current) === value ? typed : value;
  return (
    <input
      {...input}
      value={text}
      onFocus={() => {
        shown.current = value || usual;
      }}
      onChange={(event) => {
        setTyped(event.target.value);
        set(inUnitOf(event.target.value, shown.current));
      }}
      onBlur={() => setTyped(null)}
    />
  );
}

interface SmallProps extends Props {
  label: string;
}

export function SmallQuantity({ label, className = "w-20", ...field }: SmallProps) {
  const id = useId();
  return (
    <span className="flex items-center gap-1 whitespace-nowrap">
      <label className="quiet" htmlFor={id}>
        {label}
      </label>
      <QuantityInput id={id} className={`cell-input ${className}`} {...field} />
    </span>
  );
}
