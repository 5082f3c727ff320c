// A line typed like a cook writes it; what is not understood stays typed, with the one question it raises.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { useLocation } from "react-router";
import { api, inWords, type Line, type TypedLine, told } from "../../api/client";
import { useKeptText } from "../../parts/kept";
import { addItem, likeliest, onShelf } from "../buy/newItem";

interface Props {
  label: string;
  add: (line: Line) => void;
  focus?: boolean;
  hint?: string;
}

export function TypedInput({ label, add, focus = false, hint = "type a line: 3 kg leeks ep sliced" }: Props) {
  const { pathname } = useLocation();
  const [text, setText] = useKeptText(`${pathname}/${label}`);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (focus) field.current?.focus();
  }, [focus]);
  const read = useMutation({
    mutationFn: (typed: string) => told<TypedLine>(api.POST("/api/typed-line", { body: { text: typed } })),
    onSuccess: (found) => {
      if (found.line) {
        add(found.line);
        setText("");
        read.reset();
      }
    },
  });
  const enter = (typed: string) => {
    setText(typed);
    read.mutate(typed);
  };
  const found = read.data;
  return (
    <div className="px-3 py-1 no-print">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (text.trim()) read.mutate(text);
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
          <span className="text-error">{found.problem}</span>
          {found.unknown && <Unknown found={found} phrase={found.unknown} enter={enter} text={text} />}
        </div>
      )}
    </div>
  );
}

interface UnknownProps {
  found: TypedLine;
  phrase: string;
  text: string;
  enter: (text: string) => void;
}

/** Likely names for words that name nothing, and a way to add a new item so called. */
function Unknown({ found, phrase, text, enter }: UnknownProps) {
  const client = useQueryClient();
  const shelf = useQuery(onShelf(phrase));
  const known = likeliest(phrase, shelf.data ?? []);
  const create = useMutation({
    mutationFn: () => addItem(client, phrase.charAt(0).toUpperCase() + phrase.slice(1), "other", known),
    onSuccess: () => enter(text),
  });
  return (
    <span className="flex flex-wrap gap-2 items-center mt-1">
      {(found.candidates ?? []).map((one) => (
        <button
          key={`${one.kind}-${one.id}`}
          type="button"
          className="btn btn-xs"
          onClick={() => enter(text.replace(phrase, one.name))}
        >
          {one.name}
        </button>
      ))}
      <button
        type="button"
        className="btn btn-xs btn-outline"
        disabled={create.isPending}
        onClick={() => create.mutate()}
      >
        Add a new item "{phrase}"{known && `, with what is known of ${known.item.name}`}
      </button>
      {create.isError && <span className="text-error">{inWords(create.error)}</span>}
    </span>
  );
}
