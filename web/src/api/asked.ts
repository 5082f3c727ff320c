// What the rooms ask of the server, each by the one name under which its answer is kept; and what makes it ask anew.

import type { InvalidateQueryFilters, Query, QueryClient } from "@tanstack/react-query";

/** What somebody saved. What hangs on what a pot costs hangs on nearly everything. */
export type Saved = "price" | "item" | "recipe" | "list" | "supplier" | "comparison" | "test";

const COST = ["price", "item", "recipe"] as const;

/** By name, what it is asked anew after. Drafts on trial are asked by what they hold, so nothing makes them old but time. */
const ASKED = {
  kitchen: ["item", "recipe", "list", "supplier"],
  names: ["item", "recipe"],
  pushed: COST,
  working: [],

  board: COST,
  allergens: COST,
  "cost-otherwise": [],

  item: [...COST, "supplier"],
  items: [...COST, "supplier"],
  shelf: [],
  missing: ["item"],
  "weights-of-one": ["price", "item"],
  lists: ["item", "list", "supplier"],
  review: ["price", "item", "list", "supplier"],
  usable: COST,
  comparisons: [...COST, "comparison"],
  "item-preview": [],
  "merge-preview": [],
  "offer-preview": [],
  "typed-invoice": ["item"],

  yield: [...COST, "test"],
  yields: [...COST, "test"],
  "test-sheets": ["test"],
  leftovers: COST,
  practice: [...COST, "test"],
  "adopt-preview": [],
  "bench-preview": [],

  recipe: ["recipe"],
  recipes: COST,
  revisions: [],
  preview: COST,
  paper: [],
  uncertainty: [],
  "what-if": [],
  exchange: [],
  flow: [],
  "side-by-side": [],

  prices: COST,
  "prices-effect": COST,
  selling: COST,
  rounds: ["recipe"],
  deals: COST,
  "deal-preview": COST,
  papers: COST,

  backups: [],
  faults: [],
  "kitchen-preview": [],
} as const satisfies Record<string, readonly Saved[]>;

export type AskedName = keyof typeof ASKED;
/** The key of an answer: its name, then what was asked in particular. */
export type Asked = readonly [AskedName, ...unknown[]];

// From here on the compiler refuses a key that is not in the table.
declare module "@tanstack/react-query" {
  interface Register {
    queryKey: Asked;
  }
}

/**
 * Asks anew what was asked. What was on its way for the first time is let go first: it may tell what was before the save, and
 * would be taken for the answer of now.
 */
export async function askAnew(client: QueryClient, what: InvalidateQueryFilters): Promise<void> {
  const first = (query: Query) =>
    query.isActive() && query.state.data === undefined && (what.predicate?.(query) ?? true);
  await client.cancelQueries({ ...what, predicate: first });
  await client.invalidateQueries(what);
}

/** After something was saved, what shows it is asked for anew, and nothing else. */
export async function refresh(client: QueryClient, ...saved: Saved[]): Promise<void> {
  const shows = (name: AskedName) => (ASKED[name] as readonly Saved[]).some((one) => saved.includes(one));
  await askAnew(client, { predicate: ({ queryKey }) => shows(queryKey[0]) });
}

/** After the settings were saved, or where another's save may have changed anything: all but an open working. */
export function refreshAll(client: QueryClient): Promise<void> {
  return askAnew(client, { predicate: (query) => query.queryKey[0] !== "working" });
}
