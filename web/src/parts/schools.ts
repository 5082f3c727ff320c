// What the schools of pricing are called, and what each forgets.

import type { Pricing } from "../api/client";

export type Method = Pricing["method"];

export const SCHOOLS: Record<Method, { name: string; forgets: string }> = {
  food_cost_share: {
    name: "share",
    forgets:
      "Quick, and fair between pots of like work. It forgets labour: a soup that takes an hour of peeling is priced like one that takes none, and a dear fish soup is priced far above what it needs.",
  },
  factor: {
    name: "factor",
    forgets: "The share the other way round: what it forgets is the same, and tax is easily left out of it.",
  },
  contribution: {
    name: "contribution",
    forgets:
      "Each guest leaves the same sum, whatever is in the bowl. It forgets that guests compare: cheap soups come out dear, dear ones cheap.",
  },
  prime_cost_share: {
    name: "food + labour",
    forgets:
      "Counts the work as well. It forgets energy and rent, and is no better than the minutes that somebody noted.",
  },
  full_cost: {
    name: "full cost",
    forgets:
      "Leaves nothing out of the year's books. It forgets the guest: what a bowl of soup may cost here, and that rent is paid whether it is sold or not.",
  },
};
