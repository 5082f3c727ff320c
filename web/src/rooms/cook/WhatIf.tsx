// What if: numbers moved on the pot without saving, beside what they are, for this pot and for all that they reach.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { api, inWords, type Movable, type Recipe, told, type WhatIfReply } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { EffectsTable } from "../../parts/EffectsTable";
import { useCurrency } from "../../parts/Figure";
import { day, inUnit, money, NOT_KNOWN, percent } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { Remove } from "../../parts/Small";
import { useToast } from "../../parts/Toasts";
import { useRested } from "../../parts/useRested";
import { useSaving } from "../../parts/useSaving";
import { useAnother } from "./another";
import { inItsField, inWordsOf, keyOf, movesOf, sentValue, slide, type Tried, unitOf } from "./tried";
import { usePot } from "./usePot";

const RESTS_MS = 120;

export function WhatIf({ close }: { close: () => void }) {
  const { state } = usePot();
  const [tried, setTried] = useState<readonly Tried[]>([]);
  const rested = useRested(tried, RESTS_MS);
  const found = useQuery({
    queryKey: ["what-if", state.recipe, movesOf(rested)],
    queryFn: () => {
      const body = { recipe: state.recipe, moves: movesOf(rested) };
      return told<WhatIfReply>(api.POST("/api/what-if", { body }));
    },
    placeholderData: keepPreviousData,
    staleTime: 0,
    gcTime: 10_000,
    retry: false,
  });
  const current = found.data && !found.isError && !found.isPlaceholderData;
  const last = rested.at(-1)?.of;
  return (
    <Panel
      label="What if"
      title="What if …"
      look="tight"
      className="mb-3 no-print"
      beside={
        <button type="button" className="btn btn-sm" onClick={close}>
          Leave it as it is <kbd>Esc</kbd>
        </button>
      }
    >
      {tried.map((one) => (
        <MoveRow
          key={keyOf(one.of)}
          tried={one}
          set={(text) => setTried(tried.map((each) => (each === one ? { ...one, text } : each)))}
          remove={() => setTried(tried.filter((each) => each !== one))}
        />
      ))}
      <Choose
        movable={(found.data?.movable ?? []).filter(
          (one) => !tried.some((each) => keyOf(each.of) === keyOf(one)),
        )}
        take={(of) => setTried([...tried, { of, text: inItsField(of.stated, of) }])}
      />
      {found.isError && (
        <p role="alert" className="text-error">
          {inWords(found.error)}
        </p>
      )}
      {last && found.data && !found.isError && (
        <div className={current ? "" : "opacity-70"}>
          <Beside reply={found.data} last={last} />
          {current && <Keep tried={rested} reply={found.data} letGo={() => setTried([])} />}
        </div>
      )}
    </Panel>
  );
}

interface RowProps {
  tried: Tried;
  set: (text: string) => void;
  remove: () => void;
}

function MoveRow({ tried, set, remove }: RowProps) {
  const currency = useCurrency();
  const { of, text } = tried;
  const value = sentValue(tried);
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1">
      <span className="min-w-56 font-semibold">{of.name}</span>
      <input
        type="range"
        className="range range-xs w-48"
        aria-label={`Slide the ${of.name}`}
        {...slide(of)}
        value={value === null ? Number(of.stated) : Number(value)}
        onChange={(event) => set(inItsField(event.target.value, of))}
      />
      <input
        className="cell-input w-20 text-right"
        aria-label={of.name}
        aria-invalid={value === null}
        value={text}
        onChange={(event) => set(event.target.value)}
      />
      <span>{unitOf(of)}</span>
      <span className="quiet text-sm">
        is {of.unit === "times" ? "1" : inUnit(of.stated, of.unit, currency)}
      </span>
      <Remove label={`Do not move ${of.name}`} remove={remove} look="btn-xs" />
    </div>
  );
}

function Choose({ movable, take }: { movable: readonly Movable[]; take: (one: Movable) => void }) {
  const id = useId();
  const groups = [
    ["pot", "of this pot"],
    ["kitchen", "of the whole kitchen"],
  ] as const;
  return (
    <p className="flex items-center gap-2 py-1">
      <label htmlFor={id} className="quiet whitespace-nowrap">
        move
      </label>
      <select
        id={id}
        className="cell-input max-w-80"
        value=""
        onChange={(event) => {
          const one = movable.find((each) => keyOf(each) === event.target.value);
          if (one) take(one);
        }}
      >
        <option value="">a price, a yield, a portion, a loss …</option>
        {groups.map(([owner, words]) => (
          <optgroup key={owner} label={words}>
            {movable
              .filter((one) => one.owner === owner)
              .map((one) => (
                <option key={keyOf(one)} value={keyOf(one)}>
                  {one.name}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    </p>
  );
}

function Beside({ reply, last }: { reply: WhatIfReply; last: Movable }) {
  const currency = useCurrency();
  const meets = (at: string | null) =>
    at === null
      ? NOT_KNOWN
      : last.unit === "times"
        ? `${Number(at).toPrecision(3)} times`
        : inUnit(at, last.unit, currency);
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-3 items-start mt-1">
      <Table
        caption="As it is, and as it would be"
        look="small"
        heads={[
          "Portion",
          { text: "cost", num: true },
          { text: "portions", num: true },
          { text: "price", num: true },
          { text: "share", num: true },
          { text: "margin", num: true },
          { text: `meets its target at, ${last.name}`, num: true, className: "max-w-44 whitespace-normal" },
        ]}
      >
        {reply.servings.map(({ serving, name, was, now, target, meets_target_at }) => {
          const over = now.share !== null && target !== null && Number(now.share) > Number(target);
          return (
            <tr key={serving} data-serving-if={serving}>
              <th scope="row" className="font-normal">
                {name}
              </th>
              <td className="num money">
                {money(was.food_cost, currency)} → <strong>{money(now.food_cost, currency)}</strong>
              </td>
              <td className="num">
                {wholes(was.portions) !== wholes(now.portions) && `${wholes(was.portions)} → `}
                {wholes(now.portions)}
              </td>
              <td className="num money">
                {was.price === now.price
                  ? money(now.price, currency)
                  : `${money(was.price, currency)} → ${money(now.price, currency)}`}
              </td>
              <td className={`num ${over ? "text-error font-semibold" : ""}`}>
                {percent(was.share, 1)} → {percent(now.share, 1)} {over && "▲"}
              </td>
              <td className="num money">
                {money(was.contribution, currency)} → {money(now.contribution, currency)}
              </td>
              <td className="num">{meets(meets_target_at)}</td>
            </tr>
          );
        })}
      </Table>
      {reply.reached.length > 0 && (
        <section className="max-h-64 overflow-auto" aria-label="Other pots that it reaches">
          <p className="text-sm font-semibold">Other pots that it reaches</p>
          <EffectsTable effects={reply.reached} />
        </section>
      )}
      {reply.problems.map((one) => (
        <p key={one} className="text-error">
          {one}
        </p>
      ))}
    </div>
  );
}

const wholes = (portions: string | null) =>
  portions === null ? NOT_KNOWN : String(Math.floor(Number(portions) + 1e-9));

interface KeepProps {
  tried: readonly Tried[];
  reply: WhatIfReply;
  letGo: () => void;
}

/** Nothing is saved unless somebody says so: as a variant of the pot, or as a note on it. */
function Keep({ tried, reply, letGo }: KeepProps) {
  const { state, edit } = usePot();
  const currency = useCurrency();
  const toast = useToast();
  const another = useAnother();
  const today = useKitchen().data?.today;
  const words = inWordsOf(tried, currency);
  const own = tried.some((one) => one.of.owner === "pot");
  const variant = useSaving({
    mutationFn: () => {
      const moves = movesOf(tried);
      return told<Recipe>(api.POST("/api/what-if/recipe", { body: { recipe: state.recipe, moves } }));
    },
    onSuccess: (recipe) =>
      another.mutate({
        recipe: {
          ...withNote(recipe, `Variant of ${state.recipe.name}: ${words}.`),
          variant_of: state.recipe.id,
        },
        name: `${state.recipe.name}, ${tried[0]?.of.name ?? "variant"}`,
        said: "Kept as a variant: its prices are still to be set",
      }),
    onError: (error) => toast(inWords(error), { bad: true }),
  });
  const note = () => {
    const costs = reply.servings
      .map(
        (one) =>
          `${one.name} ${money(one.now.food_cost, currency)} instead of ${money(one.was.food_cost, currency)}`,
      )
      .join(", ");
    edit((recipe) => withNote(recipe, `${today ? `${day(today)}: ` : ""}what if ${words}: ${costs}.`));
    toast("Noted on the pot: save it to keep it");
    letGo();
  };
  return (
    <p className="flex flex-wrap gap-2 items-center mt-2">
      <button
        type="button"
        className="btn btn-sm"
        disabled={!own || variant.isPending || another.isPending}
        title={own ? "" : "Prices and yields are the whole kitchen's: a variant cannot keep them"}
        onClick={() => variant.mutate()}
      >
        Keep it as a variant
      </button>
      <button type="button" className="btn btn-sm" onClick={note}>
        Note it on the pot
      </button>
      <span className="quiet text-sm">
        {own
          ? "A variant keeps what is the pot's own; prices and yields stay the kitchen's."
          : "Prices and yields are the whole kitchen's: a variant cannot keep them."}
      </span>
    </p>
  );
}

function withNote(recipe: Recipe, line: string): Recipe {
  return { ...recipe, note: [recipe.note, line].filter(Boolean).join("\n").slice(-2000) };
}
