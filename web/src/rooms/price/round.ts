// A round of prices: what is typed, by the serving and the channel.

/** What is typed for each price. */
export type Typed = Record<string, string>;

export const rowKey = (row: { recipe: string; serving: string; channel: string | null }) =>
  `${row.recipe}/${row.serving}/${row.channel ?? ""}`;

/** What is typed by now, without what was sent as it still stands there. */
export const withoutSent = (now: Typed, sent: Typed): Typed =>
  Object.fromEntries(Object.entries(now).filter(([key, text]) => sent[key] !== text));
