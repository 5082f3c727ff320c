// What is answered of a line from paper, as it is sent: one answer replaces another, but what was written anew stays.

import type { PasteAnswer } from "../../../api/client";

export type Said = Omit<PasteAnswer, "line">;

const NOTHING: Said = {
  item: null,
  recipe: null,
  shelf: null,
  new: null,
  kind: null,
  text: null,
  vessel: null,
  left_out: false,
};

export function answerOf(said: Partial<Said>, before?: PasteAnswer): Said {
  return { ...NOTHING, text: before?.text ?? null, ...said };
}

export function capital(phrase: string): string {
  return phrase.charAt(0).toUpperCase() + phrase.slice(1);
}
