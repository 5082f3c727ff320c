import { describe, expect, test } from "vitest";
import type { Board, BoardRow } from "../src/api/client";
import { arranged, type Column, needsLook, pushedBy, rowKey } from "../src/rooms/board/order";

const row = (recipe: string, more: Partial<BoardRow>): BoardRow => ({
  recipe,
  name: recipe,
  serving: "bowl",
  serving_name: "Bowl",
  size: "300 ml",
  complete: true,
  missing: [],
  food_cost: "1",
  labour_cost: null,
  price: "4",
  net_kept: "4",
  price_is_set: true,
  suggested_price: null,
  food_cost_share: "0.25",
  target_share: "0.3",
  contribution: "3",
  drift: null,
  sure: { own_tests: 0, book: 0, estimate: 0, old_price_share: "0" },
  marks: [],
  ...more,
});

const rows = [
  row("Barley", { food_cost: "0.9", marks: ["old_prices"] }),
  row("Leek", { food_cost: "1.25", marks: ["cost_moved"] }),
  row("Lentil", { food_cost: null, price: null, marks: ["incomplete"] }),
  row("Lentil", { serving: "cup", serving_name: "Cup", food_cost: "0.5" }),
  row("Shin", { food_cost: "10", food_cost_share: "0.4", marks: ["over_target"] }),
];
const board: Board = {
  kitchen: "Slip",
  currency: "EUR",
  on: "2026-11-24",
  target_share: "0.3",
  food_cost_share: null,
  need_a_price: 1,
  dearest_move: null,
  rows,
};
const none = new Map();
const order = (
  column: Column,
  down: boolean,
  filter = "",
  marked = false,
  pushed: Parameters<typeof arranged>[4] = none,
) => arranged({ ...board, rows: [...rows] }, { column, down }, filter, marked, pushed).map(rowKey);

describe("the order of the board", () => {
  test("by a figure, as a number and not as a text; what is not known comes last", () => {
    expect(order("cost", true)).toEqual([
      "Shin/bowl",
      "Leek/bowl",
      "Barley/bowl",
      "Lentil/cup",
      "Lentil/bowl",
    ]);
    expect(order("share", true)[0]).toBe("Shin/bowl");
  });

  test("by what needs a look: a wrong price first, all servings of a pot together", () => {
    expect(order("look", true)).toEqual([
      "Shin/bowl",
      "Lentil/bowl",
      "Lentil/cup",
      "Leek/bowl",
      "Barley/bowl",
    ]);
  });

  test("what was pushed past its target since comes before all", () => {
    const mark = { recipe: "Barley", serving: "bowl", why: "price of barley", at: "2026-11-24T10:00:00Z" };
    expect(order("look", true, "", false, new Map([["Barley/bowl", mark]]))[0]).toBe("Barley/bowl");
  });

  test("by name, as the server gives it, and back", () => {
    expect(order("name", false)).toEqual(rows.map(rowKey));
    expect(order("name", true)).toEqual(rows.map(rowKey).reverse());
  });

  test("only what is marked, and only what is called so", () => {
    expect(order("name", false, "", true)).toEqual(["Leek/bowl", "Lentil/bowl", "Shin/bowl"]);
    expect(order("name", false, "cup LEN")).toEqual(["Lentil/cup"]);
    expect(order("name", false, "no such")).toEqual([]);
  });

  test("old prices alone ask for no look", () => {
    expect(rows.map(needsLook)).toEqual([false, true, true, false, true]);
  });

  test("a mark of what was pushed holds as long as it is over its target", () => {
    const at = "2026-11-24T10:00:00Z";
    const marks = [
      { recipe: "Shin", serving: "bowl", why: "price of shin", at },
      { recipe: "Leek", serving: "bowl", why: "price of leek", at },
    ];
    expect([...pushedBy(board, marks).keys()]).toEqual(["Shin/bowl"]);
  });
});
