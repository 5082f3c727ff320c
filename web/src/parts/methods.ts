// The four ways in which what is left over may bear a part of a cost, in the words of the screens.

import type { Settings } from "../api/client";

export type Method = Settings["byproduct_method"];

export const METHODS: readonly (readonly [Method, string])[] = [
  ["credit", "is credited at its value"],
  ["main_bears_all", "counts nothing: the main product bears all"],
  ["market_value", "shares the cost by mass and value"],
  ["mass", "shares the cost by mass"],
];

export const METHOD_NAMES: Record<Method, string> = {
  credit: "credited",
  main_bears_all: "main bears all",
  market_value: "by market value",
  mass: "by mass",
};
