// A line typed like a cook writes it; what is not understood stays typed, with the one question it raises.

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type RefObject, useEffect, useRef, useState } from "react";
import { useLocation } from "react-router";
import { api, inWords, type Line, type Recipe, type TypedLine, told } from "../api/client";
import { inUs } from "./format";
import { KindChoice } from "./KindChoice";
import { useKeptText } from "./kept";
import { makeIt, useMakeBase } from "./makeBase";
import { addItem, addPreparation, onShelf } from "./newItem";
import { useToast } from "./Toasts";
import { useSaving } from "./useSaving";

interface Props {
  label: string;
  add: (line: Line) => void;
  focus?: boolean;
  hint?: string;
  /** Lets the seasoning allowance stand for what is put in to taste; without it a line says how much. */
  season?: (names: readonly string[]) => void;
  /** The stage it goes into: what "water to cover" is hangs on what lies there. */
  into?: { draft: Recipe; stage: string };
}

/** [ms] Two presses of a key within that are one. */
const TWICE = 400;

export function TypedInput({
  label,
  add,
  season,
  focus = false,
  into,
  hint = `type a line: ${inUs() ? "6 lb" : "3 kg"} leeks ep sliced`,
}: Props) {
  const { pathname } = useLocation();
  const [text, setText] = useKeptText(`${pathname}/${label}`);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (focus) field.current?.focus();
  }, [focus]);
  const client = useQueryClient();
  const toast = useToast();
  // Enter on a question takes the one thing of the shelf that the words can mean.
  const chosen = useRef<HTMLButtonElement>(null);
  // When the question came up: a key that is pressed twice is no answer to it.
  const asked = useRef(0);
  const read = useMutation({
    mutationFn: async ({ typed, means }: { typed: string; means?: Means }) => {
      const found = await told<TypedLine>(
        api.POST("/api/typed-line", { body: { text: typed, item: null, recipe: null, ...into, ...means } }),
      );
      // A preparation that only the shelf knows is the item's own from now on: the line rests on it.
      if (found.line?.item && found.adds) await addPreparation(client, found.line.item, found.adds);
      return found;
    },
    onSuccess: (found) => {
      asked.current = performance.now();
      const covers = found.covers ?? [];
      if (!found.line && (covers.length === 0 || !season)) return;
      if (found.line) add(found.line);
      if (covers.length > 0 && season) {
        season(covers);
        toast(`${covers.join(", ")}: to taste. Nothing is put in; the seasoning allowance stands for it`);
      }
      setText("");
      read.reset();
    },
  });
  const enter = (typed: string, means?: Means) => {
    setText(typed);
    read.mutate(means ? { typed, means } : { typed });
  };
  const found = read.data;
  const problem =
    found?.problem ??
    (found?.covers?.length ? "how much of it? Beside the pot nothing is put in to taste" : null);
  const onlyOne = found?.candidates?.find((one) => one.kind === "shelf" && one.id === found.only);
  return (
    <div className="px-3 py-1 no-print">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (onlyOne) {
            if (performance.now() - asked.current > TWICE) chosen.current?.click();
          } else if (text.trim()) read.mutate({ typed: text });
        }}
      >
        <input
          ref={field}
          className="cell-input w-full max-w-md"
          aria-label={`Type a line for ${label}`}
          placeholder={`+ ${hint}`}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            if (read.data || read.isError) read.reset();
          }}
        />
      </form>
      {read.isError && (
        <p role="alert" className="text-error text-sm">
          {inWords(read.error)}
        </p>
      )}
      {found && !found.line && (
        <div role="alert" className="text-sm py-1">
          <span className="text-error">{problem}</span>
          <Answers found={found} enter={enter} text={text} chosen={chosen} />
        </div>
      )}
    </div>
  );
}

/** What the name of a line means, where somebody has answered that. */
type Means = { item: string } | { recipe: string };

type Likely = NonNullable<TypedLine["candidates"]>[number];

function called(one: Likely): string {
  if (one.kind === "base") return makeIt(one.name);
  return one.kind === "shelf" ? `Add ${one.name}, as the shelf knows it` : one.name;
}

interface AnswersProps {
  found: TypedLine;
  text: string;
  enter: (text: string, means?: Means) => void;
  chosen: RefObject<HTMLButtonElement | null>;
}

/** What the words may mean, each a click; what the shelf knows of it; and a new item that is called so. */
function Answers({ found, text, enter, chosen }: AnswersProps) {
  const client = useQueryClient();
  const [kind, setKind] = useState("not known");
  const phrase = found.unknown;
  const create = useMutation({
    mutationFn: async ({ name, shelf }: { name: string; shelf?: string }) => {
      const known = shelf
        ? ((await client.fetchQuery(onShelf(name))).find((one) => one.item.id === shelf) ?? null)
        : null;
      return addItem(client, known?.item.name ?? name, known?.item.kind ?? kind, known);
    },
    onSuccess: (item) => enter(text, { item }),
  });
  const makeBase = useMakeBase();
  const make = useSaving({
    mutationFn: (one: Likely) => makeBase(one.id, one.name),
    onSuccess: (recipe) => enter(text, { recipe }),
  });
  const isOnly = (one: Likely) => one.kind === "shelf" && one.id === found.only;
  const take = (one: Likely) => {
    if (one.kind === "item") enter(text, { item: one.id });
    else if (one.kind === "recipe") enter(text, { recipe: one.id });
    else if (one.kind === "preparation") enter(`${text}, ${one.name}`);
    else if (one.kind === "base") make.mutate(one);
    else create.mutate({ name: one.name, shelf: one.id });
  };
  return (
    <span className="flex flex-wrap gap-2 items-center mt-1">
      {(found.candidates ?? []).map((one) => (
        <button
          key={`${one.kind}-${one.id}`}
          ref={isOnly(one) ? chosen : undefined}
          type="button"
          className={`btn btn-xs ${isOnly(one) ? "btn-primary" : one.kind === "shelf" ? "btn-outline" : ""}`}
          disabled={create.isPending || make.isPending}
          onClick={() => take(one)}
        >
          {called(one)}
          {isOnly(one) && <kbd className="text-base-content">Enter</kbd>}
        </button>
      ))}
      {phrase && (
        <button
          type="button"
          className="btn btn-xs btn-outline"
          disabled={create.isPending}
          onClick={() => create.mutate({ name: phrase.charAt(0).toUpperCase() + phrase.slice(1) })}
        >
          Add a new item "{phrase}"
        </button>
      )}
      {phrase && <KindChoice what={phrase} kind={kind} choose={setKind} />}
      {(create.isError || make.isError) && (
        <span className="text-error">{inWords(create.error ?? make.error)}</span>
      )}
    </span>
  );
}
