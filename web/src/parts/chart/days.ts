// Days on the axis of a chart.

import { format, isSameYear, parseISO } from "date-fns";
import { writtenDay } from "../way";

/** A day as the document writes it, as the noon-less date of this place. */
export const dayAt = (text: string): Date => parseISO(text);

/** Ticks of days: with the year where they lie in more than one. */
export function dayTicks(ticks: Date[], at: (day: Date) => number): { at: number; text: string }[] {
  const [first, last] = [ticks[0], ticks[ticks.length - 1]];
  const years = first && last && !isSameYear(first, last);
  return ticks.map((day) => ({ at: at(day), text: writtenDay(format(day, "yyyy-MM-dd"), Boolean(years)) }));
}
