// How a pot is kept, in a cook's words: its lid, and how hot it is.

import type { Heat, Stage } from "../api/client";

export type Lid = NonNullable<Stage["lid"]>;

export const LIDS: readonly (readonly [Lid, string])[] = [
  ["off", "off"],
  ["ajar", "ajar"],
  ["on", "on"],
  ["sealed", "sealed"],
  ["covered_then_open", "covered, then open"],
];
export const HEATS: readonly (readonly [Heat, string])[] = [
  ["hold", "kept hot"],
  ["bare_simmer", "bare simmer"],
  ["simmer", "simmer"],
  ["boil", "boil"],
];

const wordsOf = (choices: readonly (readonly [string, string])[], key: string): string =>
  choices.find(([one]) => one === key)?.[1] ?? key;

export const heatInWords = (heat: Heat): string => wordsOf(HEATS, heat);
export const lidInWords = (lid: Lid): string => `lid ${wordsOf(LIDS, lid)}`;
