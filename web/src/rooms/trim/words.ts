// The words of the Trim room: treatments, what a yield rests on, and the address of a yield.

import type { YieldRow } from "../../api/client";
import { percent } from "../../parts/format";

export type Treatment = YieldRow["treatment"];

export const TREATMENTS: readonly (readonly [Treatment, string])[] = [
  ["trim", "trim"],
  ["butcher", "butcher's"],
  ["cooking", "cooking loss"],
  ["soak", "soak"],
  ["press", "press"],
  ["can", "can-cut"],
];

export const treatmentName = (treatment: Treatment) =>
  TREATMENTS.find(([one]) => one === treatment)?.[1] ?? treatment;

/** What is weighed before and after, and who has to mind what. */
export const BENCH: Record<Treatment, { before: string; after: string; caution: string }> = {
  trim: {
    before: "as purchased (AP)",
    after: "usable (EP)",
    caution: "Sharp knife, steady board, the other hand a claw; hard squash is halved by somebody trained.",
  },
  butcher: {
    before: "as purchased (AP)",
    after: "usable (EP)",
    caution:
      "Cut away from the hand, glove on the other; keep meat cold and apart, as your local food code says.",
  },
  cooking: {
    before: "before cooking",
    after: "after cooking",
    caution: "Hot trays and hot fat: weigh in a dry vessel, let it stop spitting first.",
  },
  soak: {
    before: "dry",
    after: "soaked",
    caution:
      "Soak in the cold. Red beans: throw the water away and boil hard before they simmer; your local food code decides.",
  },
  press: {
    before: "before pressing",
    after: "pressed",
    caution: "Salted liquid counts as salt where it is used.",
  },
  can: {
    before: "net, from the can",
    after: "drained",
    caution: "Cut lids are sharp: open over the sink, not over the pan.",
  },
};

export const RESTS: Record<YieldRow["rests_on"], string> = {
  own_tests: "own tests",
  book: "the book",
  estimate: "an estimate",
};

/** A band in words, where there is one. */
export const bandText = (low: string | null, high: string | null, places = 0) =>
  low !== null && high !== null ? `${percent(low, places)} to ${percent(high, places)}` : "no band";

interface Key {
  item: string;
  sort: string;
  of: string;
}

export const benchAddress = (key: Key, treatment: Treatment) =>
  `/trim/bench?${new URLSearchParams({ item: key.item, of: key.of, kind: treatment })}`;
