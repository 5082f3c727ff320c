// Finds a pot, an item, a yield, a list or a room by some of its words, from wherever one is.

import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo } from "react";
import { useNavigate } from "react-router";
import { api, type ListsReply, type Named, told } from "../api/client";
import { NAMES } from "../api/kitchen";
import { yieldAddress } from "../parts/addresses";
import { finder } from "../parts/find";
import { Finder } from "../parts/Picker";

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
  ["Price: a round of new prices", "/price"],
  ["Prices as they were set", "/price/history"],
  ["Meal deals", "/price/deals"],
  ["Channels, overhead and terms of pricing", "/price/ways"],
  ["Papers: price list, cards, allergens, workbook", "/price/papers"],
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

interface Props {
  label: string;
  /** What was typed while this was on its way. */
  start: string;
  leave: () => void;
}

export function FindAnything({ label, start, leave }: Props) {
  const navigate = useNavigate();
  const names = useQuery(NAMES);
  const lists = useQuery({
    queryKey: ["lists", "newest"],
    queryFn: () => told<ListsReply>(api.GET("/api/price-lists", { params: { query: { limit: 500 } } })),
  });
  const all = useMemo(() => placesOf(names.data ?? [], lists.data?.lists ?? []), [names.data, lists.data]);
  const find = useCallback(
    (typed: string) => {
      const begun = typed.trim().toLowerCase();
      if (!begun || names.isPending) return null;
      const holds = finder(begun);
      const begins = (one: Place) => (one.name.toLowerCase().startsWith(begun) ? 0 : 1);
      const some = all.filter((one) => holds(`${one.name} ${one.kind}`));
      return some.sort((a, b) => begins(a) - begins(b)).slice(0, MOST);
    },
    [all, names.isPending],
  );
  return (
    <Finder
      label={label}
      find={find}
      keyOf={(one) => one.to}
      start={start}
      pick={({ to }) => {
        navigate(to);
        leave();
      }}
      leave={leave}
    />
  );
}
