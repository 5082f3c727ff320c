// How sure a figure is, in words.

import type { Narrowing } from "../api/client";

/** A chance as a cook says it: never surer than the draws are. */
export function chance(share: string): string {
  const times = Math.round(100 * Number(share));
  if (Number(share) <= 0.005) return "hardly ever";
  if (Number(share) >= 0.995) return "nearly always";
  // As good as even: the draws know no more than that.
  if (times >= 45 && times <= 55) return "half the time";
  return `${times} times in 100`;
}

/** Whether a serving that is within its target may well be over it. */
export const mayBeOver = (over: string | null | undefined) => over != null && Number(over) >= 0.1;

/** Where the yield is tested that would narrow a cost most. */
export const testAt = (test: Narrowing) =>
  `/trim/bench?${new URLSearchParams({ kind: test.kind, item: test.item, of: test.of })}`;
