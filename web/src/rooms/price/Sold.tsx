// What was sold: the mean of the last weeks, and a field in which a week is noted.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { askAnew } from "../../api/asked";
import { api, inWords, type RepricingRow, told } from "../../api/client";
import { day, trimmed } from "../../parts/format";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { outOfField } from "../../parts/way";

/** What stands above the column while a week is noted. */
export const SOLD_COLUMN = (week: string) => ({ note: `in the week of ${day(week)}` });

export function SoldColumn({ row, week, noting }: { row: RepricingRow; week: string; noting: boolean }) {
  const [text, setText] = useState("");
  const client = useQueryClient();
  const toast = useToast();
  const note = useSaving({
    queued: true,
    mutationFn: (portions: string) => {
      const { recipe, serving, channel } = row;
      return told(api.PUT("/api/sales", { body: { sold: [{ recipe, serving, channel, week, portions }] } }));
    },
    onSuccess: () =>
      askAnew(client, {
        predicate: ({ queryKey }) => queryKey[0] === "prices" || queryKey[0] === "prices-effect",
      }),
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const mean = row.sold === null ? "—" : trimmed(row.sold, 0);
  if (!noting) return <span className={row.sold === null ? "quiet" : ""}>{mean}</span>;
  return (
    <input
      className="cell-input w-16 text-right"
      inputMode="numeric"
      placeholder={mean}
      aria-label={`Portions sold of ${row.name}, ${row.serving_name}, ${row.channel_name}`}
      aria-invalid={note.isError}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => text.trim() && note.mutate(outOfField(text.trim()))}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
