// What a line of a list is, in a sign, a word, and a sentence.

import type { ReviewLine } from "../../../api/client";

export type State = ReviewLine["state"];

interface Words {
  sign: string;
  text: string;
  why: string;
  tone: string;
}

export const STATES: Record<State, Words> = {
  likely: {
    sign: "?",
    text: "is it this?",
    why: "Its name is only like an item: confirm it",
    tone: "text-primary",
  },
  suspicious: {
    sign: "!",
    text: "odd price",
    why: "It may be a slip: look, and say if it is right",
    tone: "text-error",
  },
  unusable: { sign: "✕", text: "not clear", why: "Something of it could not be read", tone: "text-error" },
  unmatched: { sign: "○", text: "no item", why: "No item is like it", tone: "" },
  changed: { sign: "→", text: "changed", why: "A price that moves", tone: "text-success" },
  new: { sign: "+", text: "first price", why: "No price of it was known", tone: "text-success" },
  same: { sign: "=", text: "as before", why: "The price stands, and is confirmed", tone: "quiet" },
  none_today: {
    sign: "∅",
    text: "none today",
    why: "The supplier has run out of it: its price stands as it was",
    tone: "quiet",
  },
  passed_over: { sign: "–", text: "not bought", why: "Passed over, here and in later lists", tone: "quiet" },
};

export const ORDER = Object.keys(STATES) as State[];

/** The states that wait for a person. */
export const WAITING: State[] = ["likely", "suspicious", "unusable", "unmatched"];

export const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
