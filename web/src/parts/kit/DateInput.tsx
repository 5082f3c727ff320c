// A day, written the kitchen's way: typed, or chosen in the browser's own calendar.

import { type ComponentProps, useId, useRef, useState } from "react";
import { readDay, writtenDay } from "../way";

interface Props extends Omit<ComponentProps<"input">, "value"> {
  /** Said above it. */
  label?: string;
  /** As 2026-11-24. */
  value: string;
  /** Takes the day; what is typed and means none is taken as it stands, so that it is said what is wrong with it. */
  set: (day: string) => void;
  today: string;
}

export function DateInput({ label, value, set, today, ...input }: Props) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const calendar = useRef<HTMLInputElement>(null);
  const meant = typed === null ? value : typed.trim() === "" ? "" : (readDay(typed, today) ?? typed);
  const wrong = meant !== "" && readDay(meant, today) === null;
  return (
    <span className="flex flex-col text-sm">
      {label && <label htmlFor={id}>{label}</label>}
      <span className="relative flex items-center w-36">
        <input
          id={id}
          {...input}
          className="input input-sm w-full pr-8"
          value={typed ?? writtenDay(value, true)}
          aria-invalid={wrong}
          title={wrong ? `No day: write it as ${writtenDay(today, true)}` : undefined}
          onChange={(event) => {
            const text = event.target.value;
            setTyped(text);
            set(text.trim() === "" ? "" : (readDay(text, today) ?? text));
          }}
          onBlur={() => setTyped(null)}
        />
        <input
          ref={calendar}
          type="date"
          tabIndex={-1}
          aria-hidden="true"
          className="absolute right-0 w-8 opacity-0 pointer-events-none"
          value={wrong ? "" : meant}
          onChange={(event) => set(event.target.value)}
        />
        <button
          type="button"
          tabIndex={-1}
          className="absolute right-0 w-8 h-full cursor-pointer"
          aria-label="Choose in the calendar"
          onClick={() => calendar.current?.showPicker()}
        >
          <span aria-hidden="true">▾</span>
        </button>
      </span>
    </span>
  );
}
