// Lines and stages are dragged by their handles, with the browser's own dragging.

import { type DragEvent, useState } from "react";

type Kind = "line" | "stage";
const TYPE: Record<Kind, string> = { line: "application/x-potrel-line", stage: "application/x-potrel-stage" };

/** What makes a handle of an element: what is dragged by it is told as JSON. */
export function handle(kind: Kind, what: unknown, shown: string) {
  return {
    draggable: true,
    onDragStart: ({ dataTransfer, currentTarget }: DragEvent) => {
      dataTransfer.setData(TYPE[kind], JSON.stringify(what));
      dataTransfer.effectAllowed = "move";
      const whole = currentTarget.closest(shown);
      if (whole) dataTransfer.setDragImage(whole, 10, 10);
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
  const takes = ({ dataTransfer }: DragEvent) => dataTransfer.types.includes(TYPE[kind]);
  return {
    over,
    place: {
      onDragOver: (event: DragEvent) => {
        if (!takes(event)) return;
        event.preventDefault();
        event.stopPropagation();
        setOver(side(event));
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: DragEvent) => {
        setOver(null);
        if (!takes(event)) return;
        event.preventDefault();
        event.stopPropagation();
        drop(JSON.parse(event.dataTransfer.getData(TYPE[kind])), side(event) === "below");
      },
    },
  };
}
