// A value once it has rested for a while: what is asked of it is not asked with every key.

import { useEffect, useState } from "react";

let waiting = 0;

/** While anything rests, the page says so: whoever reads it by a program then reads figures that are about to be asked anew. */
function rests(more: 1 | -1): void {
  waiting += more;
  document.body.toggleAttribute("data-rests", waiting > 0);
}

export function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    if (Object.is(value, rested)) return;
    rests(1);
    const timer = setTimeout(() => setRested(value), ms);
    return () => {
      clearTimeout(timer);
      rests(-1);
    };
  }, [value, rested, ms]);
  return rested;
}
