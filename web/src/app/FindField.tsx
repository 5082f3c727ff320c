// The field that searches everything: there at once, and what finds comes when it is gone to.

import { type ComponentType, useRef, useState } from "react";
import { useKeys } from "../parts/keys";
import { useToast } from "../parts/Toasts";

const SEARCH = "Search everything";
type Find = ComponentType<{ label: string; start: string; leave: () => void }>;

export function FindField() {
  const whole = useRef<HTMLSpanElement>(null);
  const [typed, setTyped] = useState("");
  const [loaded, setLoaded] = useState<{ Find: Find } | null>(null);
  const [at, setAt] = useState(false);
  const toast = useToast();
  const begin = () => whole.current?.querySelector("input")?.focus();
  useKeys({ g: begin, "Alt+g": begin });
  const arrive = () => {
    setAt(true);
    import("./FindAnything").then(
      ({ FindAnything }) => setLoaded({ Find: FindAnything }),
      () => toast("The search could not be loaded: load the page again", { bad: true }),
    );
  };
  const leave = () => {
    // Whoever picked something or left by a key goes on in the room.
    if (whole.current?.contains(document.activeElement)) document.getElementById("room")?.focus();
    setAt(false);
    setTyped("");
  };
  return (
    <span ref={whole}>
      {at && loaded ? (
        <loaded.Find label={SEARCH} start={typed} leave={leave} />
      ) : (
        <input
          className="input input-sm w-56 text-base-content"
          placeholder="search everything (G)"
          aria-label={SEARCH}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onFocus={arrive}
          onBlur={leave}
          onKeyDown={(event) => event.key === "Escape" && leave()}
        />
      )}
    </span>
  );
}
