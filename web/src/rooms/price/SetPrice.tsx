// A price set for this serving where it is sold, from a day on.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refreshAll } from "../../api/asked";
import { api, inWords, type Selling, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { day, money } from "../../parts/format";
import { DateInput } from "../../parts/kit/DateInput";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { outOfField } from "../../parts/way";
import { useTakeBack } from "./useTakeBack";

export function SetPrice({ selling, typed, done }: { selling: Selling; typed: string; done: () => void }) {
  const currency = useCurrency();
  const today = useKitchen().data?.today ?? "";
  const [on, setOn] = useState("");
  const [reason, setReason] = useState("");
  const client = useQueryClient();
  const toast = useToast();
  const takeBack = useTakeBack();
  const from = on || today;
  const row = (name: string | null) => selling.rows.find((one) => one.row === name);
  const was = row("in_force")?.price ?? null;
  const decided = row(selling.decides)?.price ?? null;
  // What is typed counts as the server read it; what it could not read is no price.
  const tried = selling.rows.find((one) => one.row.startsWith("at-"))?.price ?? "";
  const price = typed.trim() ? tried : decided === null ? "" : outOfField(money(decided, currency));
  const set = useSaving({
    mutationFn: (wanted: string | null) => {
      const { recipe, serving, channel } = selling;
      const prices = [{ recipe, serving, channel, price: wanted, was }];
      return told(
        api.POST("/api/prices", {
          body: { prices, on: wanted === null ? today : from, reason: reason.trim() || null },
        }),
      );
    },
    onSuccess: async ({ round }, wanted) => {
      done();
      setReason("");
      await refreshAll(client);
      const text =
        wanted === null
          ? "The set price is let go"
          : `Set: ${money(wanted, currency)}${from > today ? ` from ${day(from)}` : ""}`;
      toast(text, { undo: () => void takeBack(round) });
    },
  });
  return (
    <form
      className="flex flex-wrap items-end gap-x-3 gap-y-2 my-3 no-print"
      aria-label="Set the price"
      onSubmit={(event) => {
        event.preventDefault();
        if (price) set.mutate(price);
      }}
    >
      <button type="submit" className="btn btn-sm btn-primary" disabled={!price || set.isPending}>
        Set {price ? money(price, currency) : "…"}
      </button>
      <DateInput label="from" value={from} set={setOn} today={today} />
      <label className="flex flex-col text-sm">
        why
        <input
          className="input input-sm w-56"
          value={reason}
          maxLength={200}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      {selling.is_set && (
        <button
          type="button"
          className="btn btn-sm"
          disabled={set.isPending}
          onClick={() => set.mutate(null)}
        >
          Let the set price go
        </button>
      )}
      {set.isError && (
        <p role="alert" className="text-error w-full">
          {inWords(set.error)}
        </p>
      )}
    </form>
  );
}
