// Finds a pot, an item, a yield, a list or a room by some of its words, from wherever one is.

import { useQuery } from "@tanstack/react-query";
import { useCombobox } from "downshift";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { api, type ListsReply, type Named, told } from "../api/client";
import { NAMES } from "../api/kitchen";
import { yieldAddress } from "../parts/addresses";
import { finder } from "../parts/find";

interface Place {
  name: string;
  kind: string;
  to: string;
}

const MOST = 12;
const PLACES: Place[] = [
  ["Board", "/"],
  ["Allergens", "/allergens"],
  ["Buy: items and prices", "/buy"],
  ["A paper invoice", "/buy/from/paper"],
  ["Deliveries and price lists", "/buy/lists"],
  ["Compare forms", "/buy/compare"],
  ["Trim: the yield book", "/trim"],
  ["Test at the bench", "/trim/bench"],
  ["By-products, what is left over", "/trim/leftovers"],
  ["Practice", "/trim/practice"],
  ["Cook: recipes", "/cook"],
  ["A recipe from paper", "/cook/from/paper"],
].map(([name = "", to = ""]) => ({ name, kind: "room", to }));

function placesOf(names: Named[], lists: ListsReply["lists"]): Place[] {
  const pots = names.filter((one) => one.is_recipe);
  const items = names.filter((one) => !one.is_recipe);
  return [
    ...pots.map(({ id, name }) => ({ name, kind: "pot", to: `/cook/${id}` })),
    ...items.map(({ id, name, archived }) => ({
      name,
      kind: archived ? "archived" : "item",
      to: `/buy/${id}`,
    })),
    ...PLACES,
    ...items.flatMap((item) =>
      item.preparations.map((one) => ({
        name: `${item.name}, ${one.name}`,
        kind: "yield",
        to: yieldAddress({ item: item.id, sort: "preparation", of: one.id }),
      })),
    ),
    ...lists.map((one) => ({
      name: [one.file_name, one.document].filter(Boolean).join(", "),
      kind: "list",
      to: `/buy/lists/${one.number}`,
    })),
  ];
}

/** What was typed while this was on its way is where it begins. */
export function FindAnything({ start, focus }: { start: string; focus: boolean }) {
  const navigate = useNavigate();
  const names = useQuery(NAMES);
  const lists = useQuery({
    queryKey: ["lists"],
    queryFn: () => told<ListsReply>(api.GET("/api/price-lists")),
  });
  const [typed, setTyped] = useState(start);
  const all = useMemo(() => placesOf(names.data ?? [], lists.data?.lists ?? []), [names.data, lists.data]);
  const found = useMemo(() => {
    const holds = finder(typed);
    const begins = (one: Place) => (one.name.toLowerCase().startsWith(typed.trim().toLowerCase()) ? 0 : 1);
    const some = typed.trim() ? all.filter((one) => holds(`${one.name} ${one.kind}`)) : [];
    return some.sort((a, b) => begins(a) - begins(b)).slice(0, MOST);
  }, [all, typed]);
  const open = typed.trim() !== "";
  const { getInputProps, getMenuProps, getItemProps, highlightedIndex, reset } = useCombobox<Place>({
    items: found,
    isOpen: open,
    inputValue: typed,
    selectedItem: null,
    defaultHighlightedIndex: 0,
    initialHighlightedIndex: 0,
    itemToString: (one) => one?.name ?? "",
    itemToKey: (one) => one?.to,
    // Leaving the field takes nothing: only Enter and a click do.
    stateReducer: (_, { type, changes }) =>
      type === useCombobox.stateChangeTypes.InputBlur ? { ...changes, selectedItem: null } : changes,
    onSelectedItemChange: ({ selectedItem }) => selectedItem && go(selectedItem),
  });
  const leave = () => {
    setTyped("");
    reset();
  };
  const go = ({ to }: Place) => {
    leave();
    navigate(to);
    document.getElementById("room")?.focus();
  };
  return (
    <>
      <input
        className="input input-sm w-52 text-base-content"
        placeholder="search everything (G)"
        {...getInputProps({
          "aria-label": "Search everything",
          autoFocus: focus,
          // At once: who types fast is ahead of what is told a moment later.
          onChange: (event) => setTyped(event.currentTarget.value),
          onBlur: leave,
          onKeyDown: (event) => {
            if (event.key !== "Escape") return;
            event.stopPropagation();
            leave();
            document.getElementById("room")?.focus();
          },
        })}
      />
      <ul
        {...getMenuProps({ "aria-label": "What was found" })}
        className={
          open ? "absolute left-0 z-40 mt-1 w-96 max-w-[90vw] sheet shadow-lg text-base-content" : "hidden"
        }
      >
        {found.map((one, place) => (
          <li
            key={one.to}
            className={`px-3 py-1 flex justify-between gap-3 cursor-pointer ${place === highlightedIndex ? "bg-primary text-primary-content" : ""}`}
            {...getItemProps({
              item: one,
              index: place,
              "aria-selected": place === highlightedIndex,
              onMouseDown: (event) => event.preventDefault(),
            })}
          >
            <span className="truncate">{one.name}</span>
            <span className="text-xs self-center">{one.kind}</span>
          </li>
        ))}
        {open && found.length === 0 && <li className="px-3 py-1">nothing here is called so</li>}
      </ul>
    </>
  );
}
