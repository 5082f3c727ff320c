// Lines and stages are dragged by their handles, with the browser's own dragging.

import { type DragEvent, useState } from "react";

type Kind = "line" | "stage";

/** What is dragged now. It is this page's own: what is dragged here from another pot is none of this one's. */
let held: { kind: Kind; what: unknown } | null = null;

/** What makes a handle of an element, by which the `shown` around it is dragged. */
export function handle(kind: Kind, what: unknown, shown: string) {
  return {
    draggable: true,
    onDragStart: ({ dataTransfer, currentTarget }: DragEvent) => {
      held = { kind, what };
      // Without any data some browsers drag nothing.
      dataTransfer.setData("text/plain", "");
      dataTransfer.effectAllowed = "move";
      const whole = currentTarget.closest(shown);
      if (whole) dataTransfer.setDragImage(whole, 10, 10);
    },
    onDragEnd: () => {
      held = null;
    },
  };
}

/** What makes a place of an element where such things are dropped, and whether one is held over it: above or below its middle. */
export function useDropPlace<T>(kind: Kind, drop: (what: T, below: boolean) => void) {
  const [over, setOver] = useState<"above" | "below" | null>(null);
  const side = ({ clientY, currentTarget }: DragEvent) => {
    const { top, height } = currentTarget.getBoundingClientRect();
    return clientY > top + height / 2 ? "below" : "above";
  };
  /** Takes the event where such a thing is held, and tells what it is. */
  const taken = (event: DragEvent): { what: T } | null => {
    if (held?.kind !== kind) return null;
    event.preventDefault();
    event.stopPropagation();
    return { what: held.what as T };
  };
  return {
    over,
    place: {
      onDragOver: (event: DragEvent) => {
        if (taken(event)) setOver(side(event));
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: DragEvent) => {
        setOver(null);
        const found = taken(event);
        if (found) drop(found.what, side(event) === "below");
      },
    },
  };
}

/** The place to which something comes that is dropped above or below a place of a list, and stood in a place of it before (or not). */
export function settled(from: number | null, place: number, below: boolean): number {
  const at = place + (below ? 1 : 0);
  return from !== null && from < at ? at - 1 : at;
}
