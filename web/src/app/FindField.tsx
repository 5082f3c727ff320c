// The field that searches everything: there at once, and what finds comes when it is gone to.

import { type ComponentType, useRef, useState } from "react";
import { useKeys } from "../parts/keys";

type Finder = ComponentType<{ start: string; focus: boolean }>;

export function FindField() {
  const whole = useRef<HTMLSpanElement>(null);
  const [typed, setTyped] = useState("");
  const [loaded, setLoaded] = useState<{ Finder: Finder; focus: boolean } | null>(null);
  const begin = () => whole.current?.querySelector("input")?.focus();
  useKeys({ g: begin, "Alt+g": begin });
  const load = async () => {
    const { FindAnything } = await import("./FindAnything");
    // Whoever types already goes on typing.
    setLoaded({ Finder: FindAnything, focus: whole.current?.contains(document.activeElement) ?? false });
  };
  return (
    <span ref={whole} className="relative">
      {loaded ? (
        <loaded.Finder start={typed} focus={loaded.focus} />
      ) : (
        <input
          className="input input-sm w-52 text-base-content"
          placeholder="search everything (G)"
          aria-label="Search everything"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onFocus={() => void load()}
        />
      )}
    </span>
  );
}
