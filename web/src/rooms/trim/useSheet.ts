// One test sheet: its fields, kept here at once and on the server soon after; what it tells so far; and recording it.

import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { askAnew, refresh } from "../../api/asked";
import { api, type DraftReply, Refusal, type SheetRow, told } from "../../api/client";
import { draftOf, rememberCook, SHEETS_HERE, type Sheet, sheetFrom, stopped } from "./sheet";

const PAUSE = 700;

export const SHEETS = queryOptions({
  queryKey: ["test-sheets"],
  queryFn: () => told<SheetRow[]>(api.GET("/api/test-sheets")),
});

/** `recorded` leads away from the sheet, before everything shown is asked for anew. */
export function useSheet(id: string, start: Sheet, since: string | null, recorded: (sheet: Sheet) => void) {
  // What was typed here and never reached the server comes first, and what did so after the server was asked last; else what
  // the server has.
  const [opened] = useState(() => {
    const here = SHEETS_HERE.kept(id);
    if (here && (!here.sent || isLater(here.seen, since))) {
      const typed = sheetFrom(here.sheet, start);
      return { sheet: typed, seen: here.seen, saved: here.sent ? JSON.stringify(typed) : null };
    }
    return { sheet: start, seen: since, saved: since === null ? null : JSON.stringify(start) };
  });
  const [sheet, setSheet] = useState<Sheet>(opened.sheet);
  const saved = useRef<string | null>(opened.saved);
  const latest = useRef(sheet);
  latest.current = sheet;
  const over = useRef(false);
  const client = useQueryClient();
  // When the state of it that this screen stands on was kept; another screen may have gone on since.
  const seen = useRef(opened.seen);
  const keep = useMutation({
    mutationFn: (now: Sheet) =>
      told<{ changed_at: string }>(
        api.PUT("/api/test-sheets/{sheet_id}", {
          params: { path: { sheet_id: id } },
          body: { item: now.item, body: { ...now }, seen: seen.current },
          // It arrives even where the page is closed meanwhile.
          keepalive: true,
        }),
      ),
    onSuccess: ({ changed_at }, now) => {
      seen.current = changed_at;
      saved.current = JSON.stringify(now);
      if (!over.current)
        SHEETS_HERE.keep(id, { sheet: latest.current, seen: changed_at, sent: latest.current === now });
      void askAnew(client, SHEETS);
    },
    retry: false,
    scope: { id: `sheet-${id}` },
  });
  const stale = keep.error instanceof Refusal && keep.error.problem.type.endsWith("stale-sheet");
  const settle = useMutation({
    mutationFn: (_: "theirs" | "mine") => told<SheetRow[]>(api.GET("/api/test-sheets")),
    onSuccess: (rows, whose) => {
      const theirs = rows.find((one) => one.id === id);
      seen.current = theirs?.changed_at ?? null;
      keep.reset();
      if (whose === "mine" || !theirs) {
        keep.mutate(sheet);
        return;
      }
      const taken = sheetFrom(theirs.body, start);
      saved.current = JSON.stringify(taken);
      SHEETS_HERE.keep(id, { sheet: taken, seen: seen.current, sent: true });
      setSheet(taken);
    },
  });
  const { mutate } = keep;
  useEffect(() => {
    if (!isBegun(sheet) || over.current || JSON.stringify(sheet) === saved.current) return;
    SHEETS_HERE.keep(id, { sheet, seen: seen.current, sent: false });
    const timer = setTimeout(() => mutate(sheet), PAUSE);
    return () => clearTimeout(timer);
  }, [id, sheet, mutate]);
  // Who leaves within the pause is sent off with what was typed last.
  useEffect(() => {
    const leave = () => {
      const last = latest.current;
      if (isBegun(last) && !over.current && JSON.stringify(last) !== saved.current) mutate(last);
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [mutate]);
  const draft = draftOf(sheet);
  const told_ = useQuery({
    queryKey: ["bench-preview", draft],
    queryFn: () => told<DraftReply>(api.POST("/api/bench-tests/preview", { body: draft })),
    enabled: sheet.item !== "",
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const record = useMutation({
    mutationFn: async (accepted: boolean) => {
      // What was typed last is what is recorded, whether or not its preview has come yet.
      const body = draftOf(stopped(sheet, Date.now()));
      const { test } = await told<DraftReply>(api.POST("/api/bench-tests/preview", { body }));
      if (!test) throw new Error("The sheet is not whole yet: fill in what is marked.");
      await told(
        api.POST("/api/bench-tests", {
          body: { test: { ...test, id }, accepted },
        }),
      );
    },
    onSuccess: async () => {
      over.current = true;
      SHEETS_HERE.forget(id);
      if (sheet.by.trim()) rememberCook(sheet.by.trim());
      recorded(sheet);
      await refresh(client, "test");
    },
  });
  const set = (patch: Partial<Sheet>) => setSheet((now) => ({ ...now, ...patch }));
  return {
    sheet,
    set,
    setSheet,
    told: told_,
    record,
    keep,
    begun: isBegun(sheet),
    stale,
    settle: settle.mutate,
  };
}

/** Whether a moment is later than another; a sheet that nobody knew of then was kept since. */
const isLater = (one: string | null, other: string | null) =>
  one !== null && (other === null || Date.parse(one) > Date.parse(other));

function isBegun(sheet: Sheet): boolean {
  const weights = [sheet.before, sheet.after, ...sheet.parts.map((one) => one.mass)];
  return sheet.item !== "" && weights.some((one) => one !== "");
}
