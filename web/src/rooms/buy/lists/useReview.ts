// One list under review: what it would do, its lines page by page, and what a person says of it.

import { keepPreviousData, useInfiniteQuery, useMutation, useQueryClient } from "@tanstack/react-query";
import { askAnew, refresh } from "../../../api/asked";
import {
  api,
  inWords,
  type LineChoice,
  type ReviewLine,
  type ReviewReply,
  type SaveChoices,
  told,
} from "../../../api/client";
import type { paths } from "../../../api/schema";
import { useToast } from "../../../parts/Toasts";
import { useSaving } from "../../../parts/useSaving";

type Query = NonNullable<paths["/api/price-lists/{number}"]["get"]["parameters"]["query"]>;
export type Show = NonNullable<Query["show"]>;

const PAGE = 200;

export function useReview(number: number, show: Show, find: string) {
  return useInfiniteQuery({
    queryKey: ["review", number, show, find],
    queryFn: ({ pageParam }) =>
      told<ReviewReply>(
        api.GET("/api/price-lists/{number}", {
          params: { path: { number }, query: { show, find, start: pageParam, limit: PAGE } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (pages.length * PAGE < last.found ? pages.length * PAGE : undefined),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

const SAID_NOTHING: SaveChoices = {
  supplier: null,
  kind: null,
  columns: null,
  lines: null,
  lines_were: null,
};

/** Says something of a list; what was said of a line can be undone. */
export function useSay(number: number) {
  const client = useQueryClient();
  const toast = useToast();
  const say = useMutation({
    mutationFn: (said: Partial<SaveChoices>) =>
      told(
        api.PUT("/api/price-lists/{number}", {
          params: { path: { number } },
          body: { ...SAID_NOTHING, ...said },
        }),
      ),
    onSuccess: () => {
      void askAnew(client, { queryKey: ["review", number] });
      void askAnew(client, { queryKey: ["lists"] });
    },
    onError: (error) => {
      // Somebody else said something of it meanwhile: that is shown, and what was said now is not taken.
      toast(inWords(error), { bad: true });
      void askAnew(client, { queryKey: ["review", number] });
    },
    // One after the other: what was said first must not arrive last.
    scope: { id: `review-${number}` },
  });
  const ofLine = (line: ReviewLine, choice: Partial<LineChoice>, words: string) => {
    const blank: LineChoice = {
      place: line.place,
      item: null,
      confirmed: false,
      pack: null,
      pass_over: false,
      price: line.chosen?.price ?? null,
    };
    say.mutate(
      { lines: [{ ...blank, ...choice }], lines_were: line.chosen ? [line.chosen] : null },
      { onSuccess: () => toast(words, { undo: () => say.mutate({ lines: [line.chosen ?? blank] }) }) },
    );
  };
  return { say, ofLine };
}

/** Records a list, all of it that is ready, or takes all of it back. */
export function useRecord(number: number) {
  const client = useQueryClient();
  const toast = useToast();
  const path = { params: { path: { number } } };
  const undo = useSaving({
    mutationFn: () => told(api.POST("/api/price-lists/{number}/undo", path)),
    onSuccess: async () => {
      await refresh(client, "list", "price");
      toast("All of this list is taken back");
    },
  });
  const record = useSaving({
    mutationFn: (seen: string) =>
      told(api.POST("/api/price-lists/{number}/record", { ...path, body: { seen } })),
    onSuccess: async (row) => {
      await refresh(client, "list", "price");
      const what = row.kind === "credit_note" ? "credits" : "prices";
      toast(`${row.prices} ${row.prices === 1 ? what.slice(0, -1) : what} recorded`, {
        undo: () => undo.mutate(),
      });
    },
    onError: () => askAnew(client, { queryKey: ["review", number] }),
  });
  return { record, undo };
}
