// What came out of a stage, as it is typed: a mass, litres, or how deep it stands on a stick.

import type { Stage } from "../../api/client";
import { depth, depthTyped } from "../../parts/format";

type CameOut = NonNullable<Stage["came_out"]>;

/** What is typed, kept with its day; nothing where the field is empty. */
export function cameOutOf(text: string, on: string): CameOut | null {
  const typed = text.trim();
  if (!typed) return null;
  const depth_cm = depthTyped(typed);
  return { on, quantity: depth_cm === null ? typed : null, depth_cm };
}

/** What stands in the field for it. */
export function cameOutText(came: CameOut | null | undefined): string {
  if (!came) return "";
  return came.depth_cm == null ? (came.quantity ?? "") : depth(came.depth_cm, 2);
}
