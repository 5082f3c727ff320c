// The order and the filter of the board.

import type { Board, BoardRow, Pushed } from "../../api/client";
import { finder } from "../../parts/find";

export type Column = "look" | "name" | "cost" | "price" | "share" | "contribution" | "drift";

export interface Order {
  column: Column;
  down: boolean;
}

const number = (value: string | null | undefined) =>
  value == null ? Number.NEGATIVE_INFINITY : Number(value);

const KEYS: Record<Exclude<Column, "name" | "look">, (row: BoardRow) => number> = {
  cost: (row) => number(row.food_cost),
  price: (row) => number(row.price),
  share: (row) => number(row.food_cost_share),
  contribution: (row) => number(row.contribution),
  drift: (row) => number(row.drift?.change),
};

/** Marked servings by recipe and serving. */
export type PushedBy = ReadonlyMap<string, Pushed>;

export const rowKey = (row: { recipe: string; serving: string }) => `${row.recipe}/${row.serving}`;

/** The marks of servings that are over their target still. */
export function pushedBy(board: Board, pushed: Pushed[]): PushedBy {
  const over = new Set(board.rows.filter((row) => row.marks.includes("over_target")).map(rowKey));
  return new Map(pushed.filter((one) => over.has(rowKey(one))).map((one) => [rowKey(one), one]));
}

export function arranged(
  board: Board,
  order: Order,
  filter: string,
  onlyMarked: boolean,
  pushed: PushedBy,
): BoardRow[] {
  const found = finder(filter);
  const rows = board.rows.filter(
    (row) => (!onlyMarked || needsLook(row)) && found(`${row.name} ${row.serving_name}`),
  );
  if (order.column === "look") {
    const worst = new Map<string, number>();
    for (const row of rows) {
      const here = urgency(row) + (pushed.has(rowKey(row)) ? PUSHED : 0);
      worst.set(row.recipe, Math.max(worst.get(row.recipe) ?? 0, here));
    }
    const sorted = rows.sort((a, b) => (worst.get(b.recipe) ?? 0) - (worst.get(a.recipe) ?? 0));
    return order.down ? sorted : sorted.reverse();
  }
  if (order.column === "name") return order.down ? rows.reverse() : rows;
  const key = KEYS[order.column];
  const sign = order.down ? -1 : 1;
  return rows.sort((a, b) => sign * (key(a) - key(b)));
}

const URGENCY: Record<BoardRow["marks"][number], number> = {
  over_target: 32,
  far_under_target: 16,
  incomplete: 8,
  cost_moved: 4,
  no_set_price: 2,
  old_prices: 1,
};

const PUSHED = 64;

/** How much a serving asks for a look: a wrong price before anything else. */
function urgency(row: BoardRow): number {
  return row.marks.reduce((sum, mark) => sum + URGENCY[mark], 0);
}

export function needsLook(row: BoardRow): boolean {
  return row.marks.some((mark) => mark !== "old_prices");
}
