// Picks an item or recipe by typing part of its name: arrows choose, Enter takes, Escape leaves.

import { useId, useMemo, useState } from "react";
import type { Named } from "../api/client";

const MOST = 8;

/** Names that hold all typed words, those that begin with them first. */
export function matching(names: Named[], typed: string): Named[] {
  const words = typed.trim().toLowerCase().split(/\s+/).filter(Boolean);
  const score = (name: string) => (name.startsWith(words[0] ?? "") ? 0 : 1);
  return names
    .filter((one) => words.every((word) => one.name.toLowerCase().includes(word)))
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
  const [at, setAt] = useState(0);
  const list = useId();
  const found = useMemo(() => matching(names, typed), [names, typed]);
  const onKeyDown = (event: React.KeyboardEvent) => {
    const chosen = found[at];
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, found.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, 0));
    else if (event.key === "Enter" && chosen) pick(chosen);
    else if (event.key === "Escape") leave();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <span className="relative inline-block">
      <input
        // The picker opens because somebody asked for it.
        // biome-ignore lint/a11y/noAutofocus: focus follows the person's own action
        autoFocus
        className="input input-sm w-56"
        role="combobox"
        aria-label={label}
        aria-expanded="true"
        aria-controls={list}
        aria-activedescendant={found[at] ? `${list}-${at}` : undefined}
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKeyDown}
        onBlur={leave}
      />
      <div id={list} role="listbox" aria-label={label} className="absolute z-30 mt-1 w-72 sheet shadow-lg">
        {found.map((one, place) => (
          <div
            key={`${one.is_recipe}-${one.id}`}
            id={`${list}-${place}`}
            role="option"
            tabIndex={-1}
            aria-selected={place === at}
            className={`px-3 py-1 flex justify-between cursor-pointer ${place === at ? "bg-primary text-primary-content" : ""}`}
            // Before the field loses its focus and the list with it.
            onMouseDown={(event) => {
              event.preventDefault();
              pick(one);
            }}
          >
            <span>{one.name}</span>
            <span className="text-xs self-center">{one.kind}</span>
          </div>
        ))}
        {found.length === 0 && (
          <div role="option" aria-selected="false" tabIndex={-1} className="px-3 py-1">
            nothing here is called so
          </div>
        )}
      </div>
    </span>
  );
}
