// What may be adopted: a book, the kitchen's mean, or a blend; every pot's before and after comes first.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../../api/asked";
import { api, type Effects, inWords, told, type YieldChoice, type YieldReply } from "../../api/client";
import { EffectsTable } from "../../parts/EffectsTable";
import { Figure } from "../../parts/Figure";
import { aKilo, percent, perKilo, trimmed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";
import { bandText } from "./words";
import { YieldBar } from "./YieldBar";

const TITLES: Record<YieldChoice["estimate"], string> = {
  book: "As stated",
  mean: "The kitchen's mean",
  blend: "Blend of book and own tests",
};

export interface Wanted {
  choice?: string;
  back_to?: number;
  yield: string;
}

/** Asks what adopting would do, and adopts; going back is the same way. */
export function useAdopt(found: YieldReply) {
  const client = useQueryClient();
  const toast = useToast();
  const path = { item_id: found.item, sort: found.sort, of: found.of };
  const adopt = useSaving({
    mutationFn: (wanted: Wanted) =>
      told<{ was: number }>(
        api.POST("/api/yields/{item_id}/{sort}/{of}/adopt", {
          params: { path },
          body: { choice: null, back_to: null, ...wanted },
        }),
      ),
    onSuccess: async ({ was }, wanted) => {
      await refresh(client, "item", "test");
      const before = found.row?.yield;
      const undo = was > 0 && before ? () => adopt.mutate({ back_to: was, yield: before }) : undefined;
      toast(`${found.item_name} yields ${percent(wanted.yield, 1)} from now on`, undo ? { undo } : {});
    },
  });
  return { adopt, path };
}

export function Choices({ found }: { found: YieldReply }) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <Panel label="Choices" title="What to count on">
      {found.choices.length === 0 && <p>Nothing is known of it yet: a test gives the first figure.</p>}
      <ul className="grid gap-2">
        {found.choices.map((one) => (
          <Choice
            key={one.id}
            choice={one}
            found={found}
            open={open === one.id}
            toggle={() => setOpen(open === one.id ? null : one.id)}
          />
        ))}
      </ul>
    </Panel>
  );
}

interface ChoiceProps {
  choice: YieldChoice;
  found: YieldReply;
  open: boolean;
  toggle: () => void;
}

function Choice({ choice, found, open, toggle }: ChoiceProps) {
  const path = `yield/${found.item}/${found.sort}/${found.of}`;
  const text = percent(choice.yield, 1);
  return (
    <li className={`border rounded p-2 ${choice.in_use ? "border-primary border-2" : "border-base-300"}`}>
      <div className="flex items-baseline gap-2">
        <span className="font-semibold">{TITLES[choice.estimate]}</span>
        {choice.in_use && <span className="text-xs text-primary font-semibold">in use</span>}
        <span className="ml-auto text-lg">
          {choice.estimate === "book" ? (
            text
          ) : (
            <Figure
              ask={{ figure: `${path}/${choice.estimate}` }}
              text={text}
              label={TITLES[choice.estimate]}
            />
          )}
        </span>
      </div>
      {choice.yield === null ? (
        <p className="quiet text-sm">{choice.lack}</p>
      ) : (
        <>
          <YieldBar value={choice.yield} low={choice.low} high={choice.high} />
          <p className="quiet text-xs">
            {bandText(choice.low, choice.high, 1)} · {choice.source}
            {choice.estimate === "blend" &&
              found.blend &&
              ` · own tests weigh ${percent(found.blend.own_weight)} of it`}
            {choice.minutes_per_kg !== null &&
              ` · ${trimmed(perKilo(choice.minutes_per_kg), 1)} min ${aKilo()}`}
          </p>
          {!choice.in_use && (
            <button type="button" className="btn btn-sm mt-1" aria-expanded={open} onClick={toggle}>
              {open ? "Not now" : "Adopt …"}
            </button>
          )}
          {open && !choice.in_use && <Preview choice={choice} found={found} />}
        </>
      )}
    </li>
  );
}

function Preview({ choice, found }: { choice: YieldChoice; found: YieldReply }) {
  const { adopt, path } = useAdopt(found);
  const wanted = { choice: choice.id, yield: choice.yield ?? "1" };
  const preview = useQuery({
    queryKey: ["adopt-preview", path, wanted],
    queryFn: () =>
      told<Effects>(
        api.POST("/api/yields/{item_id}/{sort}/{of}/preview", {
          params: { path },
          body: { back_to: null, ...wanted },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  return (
    <div className="mt-2 border-t border-base-300 pt-2">
      {preview.isPending && <p className="text-sm">Costing every pot …</p>}
      {preview.isError && (
        <p role="alert" className="text-error text-sm">
          {inWords(preview.error)}
        </p>
      )}
      {preview.data && (
        <>
          <div className="max-h-72 overflow-auto">
            <EffectsTable effects={preview.data.effects} />
          </div>
          {adopt.isError && (
            <p role="alert" className="text-error text-sm">
              {inWords(adopt.error)}
            </p>
          )}
          <button
            type="button"
            className="btn btn-sm btn-primary mt-2"
            disabled={adopt.isPending}
            onClick={() => adopt.mutate(wanted)}
          >
            Adopt {percent(choice.yield, 1)}
          </button>
        </>
      )}
    </div>
  );
}
