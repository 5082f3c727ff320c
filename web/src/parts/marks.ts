// Why a price is worth a look: the sign of each reason, its words and its tone.

import type { BoardRow } from "../api/client";

export const MARKS: Record<
  BoardRow["marks"][number],
  { sign: string; text: string; tone: string; why: string }
> = {
  incomplete: { sign: "?", text: "incomplete", tone: "text-error", why: "something is not known yet" },
  over_target: {
    sign: "▲",
    text: "over target",
    tone: "text-error",
    why: "food cost is a larger share of the price than wanted",
  },
  far_under_target: {
    sign: "▽",
    text: "dear",
    tone: "text-info",
    why: "the price is far above what the cost asks for",
  },
  cost_moved: {
    sign: "⇅",
    text: "cost moved",
    tone: "text-secondary",
    why: "cost moved by over 5% since the price was set",
  },
  old_prices: {
    sign: "∴",
    text: "old prices",
    tone: "quiet",
    why: "over a quarter of the money is at old prices",
  },
  no_set_price: { sign: "○", text: "no set price", tone: "text-info", why: "the computed price is shown" },
};
