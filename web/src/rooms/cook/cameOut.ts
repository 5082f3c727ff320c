// What came out of a stage, as it is typed: a mass, litres, or how deep it stands on a stick.

import type { Stage } from "../../api/client";

type CameOut = NonNullable<Stage["came_out"]>;
const DEPTH = /^([\d.,]+)\s*cm$/i;

/** What is typed, kept with its day; nothing where the field is empty. */
export function cameOutOf(text: string, on: string): CameOut | null {
  const typed = text.trim();
  if (!typed) return null;
  const depth = DEPTH.exec(typed)?.[1];
  return depth === undefined
    ? { on, quantity: typed, depth_cm: null }
    : { on, quantity: null, depth_cm: depth.replace(",", ".") };
}

/** What stands in the field for it. */
export function cameOutText(came: CameOut | null | undefined): string {
  if (!came) return "";
  return came.depth_cm == null ? (came.quantity ?? "") : `${came.depth_cm} cm`;
}
