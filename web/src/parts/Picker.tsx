// Picks an item or recipe by typing part of its name: arrows choose, Enter takes, Escape leaves.

import { useCombobox } from "downshift";
import { useMemo, useState } from "react";
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

interface Props {
  names: Named[];
  label: string;
  start?: string;
  pick: (one: Named) => void;
  leave: () => void;
}

export function Picker({ names, label, start = "", pick, leave }: Props) {
  const [typed, setTyped] = useState(start);
  const found = useMemo(() => matching(names, typed), [names, typed]);
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex } = useCombobox({
    items: found,
    isOpen: true,
    initialInputValue: start,
    defaultHighlightedIndex: 0,
    initialHighlightedIndex: 0,
    itemToString: (one) => one?.name ?? "",
    itemToKey: (one) => one && `${one.is_recipe}-${one.id}`,
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
        className="input input-sm w-56"
        {...getInputProps({
          "aria-label": label,
          // The picker opens because somebody asked for it.
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
      <ul {...getMenuProps({ "aria-label": label })} className="absolute z-30 mt-1 w-72 sheet shadow-lg">
        {found.map((one, place) => (
          <li
            key={`${one.is_recipe}-${one.id}`}
            className={`px-3 py-1 flex justify-between cursor-pointer ${place === highlightedIndex ? "bg-primary text-primary-content" : ""}`}
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
