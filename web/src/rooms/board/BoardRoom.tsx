// The board: which pots need a new price today, and why.

import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Board, inWords, told } from "../../api/client";
import { usePushed } from "../../api/pushed";
import { percent } from "../../parts/format";
import { type Head, Table } from "../../parts/kit/Table";
import { NewPot } from "../../parts/NewPot";
import { Find, RowKeys, useRows } from "../../parts/rows";
import { BoardLine } from "./BoardLine";
import { CostsOtherwise } from "./CostsOtherwise";
import { arranged, type Column, type Order, type PushedBy, pushedBy, rowKey } from "./order";
import { useBands } from "./useBands";
import { WhereYouCook } from "./WhereYouCook";

const BAR = "Where the price goes";
const COLUMNS: { key: Column | null; label: string; number?: boolean; width?: string }[] = [
  { key: "name", label: "Soup or stew" },
  { key: null, label: "Serving", width: "min-w-24" },
  { key: null, label: BAR, width: "w-20 lg:w-36" },
  { key: "cost", label: "Cost", number: true },
  { key: "price", label: "Price", number: true },
  { key: "share", label: "Food-cost share", number: true },
  { key: "contribution", label: "Margin", number: true },
  { key: "drift", label: "Since priced", number: true },
  { key: null, label: "How sure", width: "hidden xl:table-cell" },
  { key: "look", label: "Look at it" },
];

export function BoardRoom() {
  const board = useQuery({ queryKey: ["board"], queryFn: () => told<Board>(api.GET("/api/board")) });
  if (board.isPending) return <p>Costing the pots …</p>;
  if (board.isLoadingError) return <p role="alert">{inWords(board.error)}</p>;
  return <Loaded board={board.data} />;
}

function Loaded({ board }: { board: Board }) {
  const [order, setOrder] = useState<Order>({ column: "look", down: true });
  const [filter, setFilter] = useState("");
  const [onlyMarked, setOnlyMarked] = useState(false);
  const [adding, setAdding] = useState(false);
  const marked = usePushed();
  const pushed = useMemo(() => pushedBy(board, marked), [board, marked]);
  const rows = useMemo(
    () => arranged(board, order, filter, onlyMarked, pushed),
    [board, order, filter, onlyMarked, pushed],
  );
  const navigate = useNavigate();
  const list = useRows(rows, (row) => ({ figure: `serving/${row.serving}/food_cost`, recipe: row.recipe }), {
    n: () => setAdding(true),
    m: () => setOnlyMarked(!onlyMarked),
  });
  const bands = useBands(board, list.shown);

  return (
    <>
      <h1 className="sr-only">Board</h1>
      <CostsOtherwise />
      <Headline board={board} pushed={pushed} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 my-3 no-print">
        <Find field={list.search} value={filter} set={setFilter} enter={list.enter} width="w-56" />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={onlyMarked}
            onChange={(event) => setOnlyMarked(event.target.checked)}
          />
          only what needs a look <kbd>M</kbd>
        </label>
        <RowKeys />
        <Link className="btn btn-sm ml-auto" to="/allergens">
          Allergens
        </Link>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
          New soup <kbd className="text-base-content">N</kbd>
        </button>
      </div>
      {board.rows.length === 0 ? (
        <Empty add={() => setAdding(true)} />
      ) : (
        <Table
          caption="Every serving on sale, per portion, net of tax but for the price"
          heads={COLUMNS.map((column) => headOf(column, order, setOrder))}
          list={list.list}
          cards
        >
          {list.shown.map((row, place) => (
            <BoardLine
              key={rowKey(row)}
              measure={list.list.measure}
              index={list.list.from + place}
              row={row}
              pushed={pushed.get(rowKey(row))?.why}
              sure={bands.get(rowKey(row))}
              first={rows[list.list.from + place - 1]?.recipe !== row.recipe}
            />
          ))}
        </Table>
      )}
      {board.rows.length > 0 && rows.length === 0 && (
        <p className="sheet p-6 mt-2">
          Nothing fits.{" "}
          <button
            type="button"
            className="link"
            onClick={() => {
              setFilter("");
              setOnlyMarked(false);
            }}
          >
            Show all {board.rows.length} servings
          </button>
        </p>
      )}
      {adding && <NewPot leave={() => setAdding(false)} made={(id) => navigate(`/cook/${id}?new`)} />}
    </>
  );
}

function Legend() {
  const kinds = [
    ["food", "var(--color-secondary)"],
    ["labour", "var(--color-primary)"],
    ["margin", "var(--color-base-100)"],
  ] as const;
  return (
    <span className="flex flex-wrap gap-x-2 font-normal text-xs">
      {kinds.map(([words, colour]) => (
        <span key={words} className="flex items-center gap-1">
          <span
            className="ink inline-block w-3 h-2 border border-base-content/60"
            style={{ background: colour }}
          />
          {words}
        </span>
      ))}
    </span>
  );
}

function Headline({ board, pushed }: { board: Board; pushed: PushedBy }) {
  if (board.rows.length === 0) return null;
  const news = new Set([...pushed.values()].map((one) => one.recipe)).size;
  const pots = board.need_a_price;
  return (
    <div className="flex flex-wrap items-baseline gap-x-8 gap-y-1 text-lg">
      <strong>
        {pots === 0
          ? "No pot needs a new price"
          : `${pots} ${pots === 1 ? "pot needs" : "pots need"} a new price`}
      </strong>
      {news > 0 && (
        <span className="text-error font-semibold">
          ▲ {news} pushed past {news === 1 ? "its" : "their"} target, not looked at yet
        </span>
      )}
      {board.food_cost_share !== null && (
        <span>
          food-cost share {percent(board.food_cost_share, 1)} on average
          {board.target_share && `, target ${percent(board.target_share)}`}
        </span>
      )}
      {board.dearest_move && <span>dearest move: {board.dearest_move}</span>}
    </div>
  );
}

function headOf(column: (typeof COLUMNS)[number], order: Order, setOrder: (order: Order) => void): Head {
  const { key, label } = column;
  const shape = { key: label, num: column.number ?? false, className: column.width ?? "" };
  if (key === null) return { ...shape, text: label, ...(label === BAR ? { note: <Legend /> } : {}) };
  const sorted = order.column === key;
  const text = (
    <>
      <button
        type="button"
        className="cursor-pointer font-semibold no-print"
        onClick={() => setOrder({ column: key, down: sorted ? !order.down : key !== "name" })}
      >
        {label}
        {sorted && (order.down ? " ↓" : " ↑")}
      </button>
      {/* A button is not repeated on the pages that follow. */}
      <span className="only-print">{label}</span>
    </>
  );
  return { ...shape, text, sorted: sorted ? (order.down ? "descending" : "ascending") : "none" };
}

function Empty({ add }: { add: () => void }) {
  return (
    <div className="sheet p-8 max-w-2xl">
      <WhereYouCook />
      <h2 className="text-xl font-semibold mb-2">No soup is on sale yet</h2>
      <p className="mb-4">
        Take a recipe as it stands on paper: paste it or type it whole, and Potrel asks only for what it does
        not know, such as what a sack of onions costs. It then stands here, with what a portion costs.
      </p>
      <Link className="btn btn-primary btn-sm mr-2" to="/cook/from/paper">
        From paper
      </Link>
      <button type="button" className="btn btn-sm" onClick={add}>
        Put the first pot on
      </button>
    </div>
  );
}
