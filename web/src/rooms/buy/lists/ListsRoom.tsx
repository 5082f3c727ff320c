// Suppliers' lists: read in from files or fetched, waiting to be looked at, recorded, undone.

import { keepPreviousData, useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { askAnew } from "../../../api/asked";
import { api, inWords, type ListRow, type ListsReply, told } from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { day, moment, percent } from "../../../parts/format";
import { useKeys, walk } from "../../../parts/keys";
import { Table } from "../../../parts/kit/Table";
import { useRested } from "../../../parts/useRested";
import { useSaving } from "../../../parts/useSaving";
import { ReadIn } from "./ReadIn";
import { Services } from "./Services";

export const KINDS: Record<ListRow["kind"], string> = {
  price_list: "price list",
  delivery: "invoice",
  credit_note: "credit note",
};

type Shown = "all" | "open" | "settled";
const A_PAGE = 100;
/** Where there are fewer lists than this, they are seen at a glance. */
const SEARCHED = 12;

export function ListsRoom() {
  const [find, setFind] = useState("");
  const [show, setShow] = useState<Shown>("all");
  // Not with every key.
  const words = useRested(find.trim(), 200);
  const lists = useInfiniteQuery({
    queryKey: ["lists", show, words],
    queryFn: ({ pageParam }) =>
      told<ListsReply>(
        api.GET("/api/price-lists", {
          params: { query: { show, find: words, start: pageParam, limit: A_PAGE } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const there = pages.reduce((sum, page) => sum + page.lists.length, 0);
      return there < last.found && last.lists.length > 0 ? there : undefined;
    },
    placeholderData: keepPreviousData,
  });
  const body = useRef<HTMLTableSectionElement>(null);
  const navigate = useNavigate();
  useKeys({
    down: () => walk(body.current, "a[data-list]", 1),
    up: () => walk(body.current, "a[data-list]", -1),
    escape: () => navigate("/buy"),
  });
  if (lists.isPending) return <p>Fetching the lists …</p>;
  if (lists.isLoadingError) return <p role="alert">{inWords(lists.error)}</p>;
  const pages = lists.data.pages;
  const [{ waiting, found, room_taken, fetching }] = pages.slice(-1) as [ListsReply];
  const rows = pages.flatMap((page) => page.lists);
  const looking = find.trim() !== "" || show !== "all";
  return (
    <div className="grid gap-4">
      <div className="flex items-center gap-4">
        <h1 className="text-xl font-semibold">Deliveries and price lists</h1>
        <span>
          {waiting === 0
            ? "nothing waits to be looked at"
            : `${waiting} ${waiting === 1 ? "waits" : "wait"} to be looked at`}
        </span>
        <Link className="btn btn-sm ml-auto" to="/buy">
          Back to Buy
        </Link>
      </div>
      <ReadIn />
      {(found > SEARCHED || looking) && (
        <div className="flex flex-wrap items-center gap-3">
          <input
            type="search"
            className="input input-sm w-64"
            aria-label="Find a list by its file, number or supplier"
            placeholder="file, number or supplier"
            maxLength={100}
            value={find}
            onChange={(event) => setFind(event.target.value)}
          />
          <select
            className="select select-sm w-48"
            aria-label="Which lists"
            value={show}
            onChange={(event) => setShow(event.target.value as Shown)}
          >
            <option value="all">all lists</option>
            <option value="open">those that wait</option>
            <option value="settled">recorded or undone</option>
          </select>
          <span className="quiet" role="status">
            {found} {found === 1 ? "list" : "lists"}
          </span>
        </div>
      )}
      {rows.length === 0 && looking ? (
        <p>
          No list is found so.{" "}
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              setFind("");
              setShow("all");
            }}
          >
            Show all lists
          </button>
        </p>
      ) : rows.length === 0 ? (
        <p className="sheet p-6 max-w-2xl">
          No list was read in yet. Read the first one in: its lines are matched to your items, and you see
          what each price would do to every pot before anything is recorded.
        </p>
      ) : (
        <Table
          caption="Lists, those that wait first"
          heads={[
            "List",
            "From",
            "What it is",
            "Read in",
            "What became of it",
            { text: "Drop", unseen: true },
          ]}
          body={body}
        >
          {rows.map((one) => (
            <Row key={one.number} one={one} />
          ))}
        </Table>
      )}
      {lists.hasNextPage && (
        <button
          type="button"
          className="btn btn-sm justify-self-start"
          disabled={lists.isFetchingNextPage}
          onClick={() => lists.fetchNextPage()}
        >
          {lists.isFetchingNextPage ? "Fetching …" : `Show ${Math.min(A_PAGE, found - rows.length)} more`}
        </button>
      )}
      {Number(room_taken) > 0.8 && (
        <p className="border-l-4 border-warning pl-3">
          {percent(room_taken)} of the room for lists is taken: drop those that were never recorded.
        </p>
      )}
      <Services fetching={fetching} />
    </div>
  );
}

function Row({ one }: { one: ListRow }) {
  const client = useQueryClient();
  const kitchen = useKitchen();
  const drop = useSaving({
    mutationFn: () =>
      told(api.DELETE("/api/price-lists/{number}", { params: { path: { number: one.number } } })),
    onSuccess: () => askAnew(client, { queryKey: ["lists"] }),
  });
  const supplier = kitchen.data?.suppliers.find((known) => known.id === one.supplier);
  return (
    <tr className="hover:bg-base-200" data-list-number={one.number}>
      <th scope="row" className="name">
        <Link to={`/buy/lists/${one.number}`} data-list className="link link-hover">
          {one.file_name}
        </Link>
      </th>
      <td className="name">{supplier?.name ?? <span className="text-error">not known yet</span>}</td>
      <td>
        {KINDS[one.kind]} {one.document}
      </td>
      <td>
        {day(moment(one.read_at).day)} <span className="quiet">by {one.read_by}</span>
      </td>
      <td>
        <Became one={one} />
      </td>
      <td className="num">
        {one.state === "open" && (
          <button
            type="button"
            className="btn btn-xs"
            aria-label={`Drop ${one.file_name}`}
            title="Forget this list: nothing of it was recorded"
            onClick={() => drop.mutate()}
          >
            Drop
          </button>
        )}
      </td>
    </tr>
  );
}

export function Became({ one }: { one: ListRow }) {
  if (one.state === "open") return <strong className="font-semibold">● waits to be looked at</strong>;
  const when = one.settled_at ? day(moment(one.settled_at).day) : "";
  if (one.state === "undone") return <span className="quiet">↶ undone on {when}</span>;
  return (
    <span>
      <span className="text-success">✓</span> {one.prices}{" "}
      {one.kind === "credit_note"
        ? one.prices === 1
          ? "credit"
          : "credits"
        : one.prices === 1
          ? "price"
          : "prices"}{" "}
      recorded on {when}
    </span>
  );
}
