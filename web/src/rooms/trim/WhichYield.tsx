// Which yield a test tells: a preparation or method that is known, or a new one by its name.

import { useId, useState } from "react";
import type { Item } from "../../api/client";
import { idFor } from "../../parts/format";
import type { Sheet, SheetPart } from "./sheet";

interface Props {
  sheet: Sheet;
  item: Item;
  set: (patch: Partial<Sheet>) => void;
}

/** What usually falls off at a preparation, to be weighed. */
export function usualParts(item: Item, of: string): SheetPart[] {
  const known = item.preparations.find((one) => one.id === of)?.byproducts ?? [];
  return known.map((one) => ({
    name: one.name,
    mass: "",
    value_per_kg: one.value_per_kg,
    use: one.use ?? "",
  }));
}

export function WhichYield({ sheet, item, set }: Props) {
  const cooking = sheet.kind === "cooking";
  const known: [string, string][] = cooking
    ? (item.cooking ?? []).map((one) => [one.method, one.method])
    : (item.preparations ?? []).map((one) => [one.id, one.name]);
  const other = sheet.of !== "" && !known.some(([id]) => id === sheet.of);
  const [naming, setNaming] = useState(known.length === 0 || other);
  const list = useId();
  const choose = (id: string) => {
    set(sheet.parts.length === 0 && !cooking ? { of: id, parts: usualParts(item, id) } : { of: id });
  };
  if (naming)
    return (
      <label className="flex items-center gap-1 text-sm">
        {cooking ? "method" : "preparation"}
        <input
          className="input input-sm w-44"
          list={list}
          placeholder={`e.g. ${cooking ? "roast" : "peeled, diced"}`}
          value={sheet.of}
          onChange={(event) => set({ of: event.target.value })}
          onBlur={() => !cooking && sheet.of.trim() && set({ of: idFor(sheet.of, () => false) })}
        />
        <datalist id={list}>
          {known.map(([id, name]) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        {known.length > 0 && (
          <button
            type="button"
            className="link quiet"
            onClick={() => {
              setNaming(false);
              set({ of: "" });
            }}
          >
            one that is known
          </button>
        )}
      </label>
    );
  return (
    <label className="flex items-center gap-1 text-sm">
      {cooking ? "method" : "preparation"}
      <select
        className="select select-sm w-44"
        value={sheet.of}
        onChange={(event) => (event.target.value === "+" ? setNaming(true) : choose(event.target.value))}
      >
        <option value="">choose …</option>
        {known.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        <option value="+">a new one …</option>
      </select>
    </label>
  );
}
