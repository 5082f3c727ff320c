// Picks one of many by typing part of its name: arrows choose, Enter takes, Escape leaves.

import { useCombobox } from "downshift";
import { useCallback, useMemo, useState } from "react";
import type { Named } from "../api/client";

const MOST = 8;

/** Names that hold all typed words, those that begin with them first. */
export function matching(names: Named[], typed: string): Named[] {
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const score = (name: string) => (name.startsWith(words[0] ?? "") ? 0 : 1);
  return names
    .filter((one) => !one.archived && words.every((word) => one.name.toLowerCase().includes(word)))
    .sort((a, b) => score(a.name.toLowerCase()) - score(b.name.toLowerCase()) || a.name.localeCompare(b.name))
    .slice(0, MOST);
}

interface Common<T> {
  label: string;
  start?: string;
  pick: (one: T) => void;
  leave: () => void;
}

const keyOfNamed = (one: Named) => `${one.is_recipe}-${one.id}`;

/** Picks an item or a recipe. */
export function Picker({ names, ...common }: Common<Named> & { names: Named[] }) {
  const find = useCallback((typed: string) => matching(names, typed), [names]);
  return <Finder find={find} keyOf={keyOfNamed} {...common} />;
}

interface FinderProps<T> extends Common<T> {
  /** What is offered for what was typed; null where there is nothing to say yet. */
  find: (typed: string) => T[] | null;
  keyOf: (one: T) => string;
}

export function Finder<T extends { name: string; kind: string }>({
  find,
  keyOf,
  label,
  start = "",
  pick,
  leave,
}: FinderProps<T>) {
  const [typed, setTyped] = useState(start);
  const offered = useMemo(() => find(typed), [find, typed]);
  const found = offered ?? [];
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox<T>({
    items: found,
    isOpen: true,
    initialInputValue: start,
    defaultHighlightedIndex: 0,
    initialHighlightedIndex: 0,
    itemToString: (one) => one?.name ?? "",
    itemToKey: (one) => one && keyOf(one),
    onInputValueChange: ({ inputValue }) => setTyped(inputValue),
    // Leaving the field takes nothing: only Enter and a click do.
    stateReducer: (state, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputBlur
        ? { ...changes, selectedItem: state.selectedItem }
        : changes,
    onSelectedItemChange: ({ selectedItem }) => selectedItem && pick(selectedItem),
  });
  return (
    <span className="relative inline-block">
      <input
        className="input input-sm w-56 text-base-content"
        {...getInputProps({
          "aria-label": label,
          // It opens because somebody asked for it.
          autoFocus: true,
          onBlur: leave,
          onKeyDown: (event) => {
            // What is shown lies in a form or a row of its own: the keys of the list are nobody else's.
            if (event.key === "Escape") leave();
            if (event.key === "Enter" && found.length === 0) event.preventDefault();
            if (/^(Arrow(Up|Down)|Enter|Escape)$/.test(event.key)) event.stopPropagation();
          },
        })}
      />
      <ul
        {...getMenuProps({ "aria-label": label })}
        className={offered ? "absolute z-40 mt-1 w-72 sheet shadow-lg text-base-content" : "hidden"}
      >
        {found.map((one, place) => (
          <li
            key={keyOf(one)}
            className={`px-3 py-1 flex justify-between gap-3 cursor-pointer ${place === highlightedIndex ? "bg-primary text-primary-content" : ""}`}
            {...getItemProps({
              item: one,
              index: place,
              "aria-selected": place === highlightedIndex,
              // Before the field loses its focus and the list with it.
              onMouseDown: (event) => event.preventDefault(),
            })}
          >
            <span>{one.name}</span>
            <span className="text-xs self-center">{one.kind}</span>
          </li>
        ))}
        {found.length === 0 && <li className="px-3 py-1">nothing here is called so</li>}
      </ul>
    </span>
  );
}
