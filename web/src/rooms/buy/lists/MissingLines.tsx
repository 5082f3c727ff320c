// The lines of a list that are no item yet, made into items together.

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { api, inWords, type LineChoice, type ReviewReply, told } from "../../../api/client";
import { MissingTable, type Taken } from "../../../parts/MissingTable";
import { itemsOf, missingOf, thingsOf } from "../../../parts/missing";
import { useToast } from "../../../parts/Toasts";
import { useSaving } from "../../../parts/useSaving";
import type { useSay } from "./useReview";

interface Props {
  number: number;
  say: ReturnType<typeof useSay>["say"];
  leave: () => void;
}

export function MissingLines({ number, say, leave }: Props) {
  const client = useQueryClient();
  const toast = useToast();
  const here = useRef<HTMLDivElement>(null);
  const lines = useQuery({
    queryKey: ["review", number, "missing"],
    queryFn: () =>
      told<ReviewReply>(
        api.GET("/api/price-lists/{number}", {
          params: { path: { number }, query: { show: "unmatched", limit: 200 } },
        }),
      ),
  });
  const open = lines.data?.lines ?? [];
  const texts = open.map((one) => one.text);
  const found = useQuery(missingOf(texts));
  const make = useSaving({
    mutationFn: async (taken: Taken[]) => {
      const items = await itemsOf(client, taken);
      const had = open.flatMap((line) => {
        const item = items.get(String(line.place));
        return item === undefined ? [] : [{ item, seen: line.chosen ?? blankOf(line.place) }];
      });
      // What somebody else said of one of them meanwhile is not overwritten.
      await say.mutateAsync({
        lines: had.map(({ item, seen }) => ({ ...seen, item })),
        lines_were: had.map(({ seen }) => seen),
      });
      return had.length;
    },
    onSuccess: (count) => {
      toast(`${count} ${count === 1 ? "line has its item" : "lines have their items"}`);
      if (count === open.length) leave();
    },
  });
  // The first question has the focus as soon as it is there.
  const ready = found.data !== undefined;
  useEffect(() => {
    if (ready) here.current?.querySelector("select")?.focus();
  }, [ready]);
  if (lines.isError || found.isError) return <p role="alert">{inWords(lines.error ?? found.error)}</p>;
  if (!found.data || found.data.length !== open.length) return null;
  return (
    <div ref={here}>
      <MissingTable
        title="Lines without an item"
        things={thingsOf(
          open.map((one) => String(one.place)),
          texts,
          found.data,
        )}
        take={make.mutate}
        busy={make.isPending}
      />
      {make.isError && (
        <p role="alert" className="text-error">
          {inWords(make.error)}
        </p>
      )}
    </div>
  );
}

const blankOf = (place: number): LineChoice => ({
  place,
  item: null,
  confirmed: false,
  pack: null,
  pass_over: false,
  price: null,
});
