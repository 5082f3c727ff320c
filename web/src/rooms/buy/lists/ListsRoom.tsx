// Suppliers' lists: read in from files or fetched, waiting to be looked at, recorded, undone.

import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useNavigate } from "react-router";
import { api, inWords, type ListRow, type ListsReply, told } from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { day, percent } from "../../../parts/format";
import { useKeys, walk } from "../../../parts/keys";
import { Table } from "../../../parts/kit/Table";
import { ReadIn } from "./ReadIn";
import { Services } from "./Services";

export const KINDS: Record<ListRow["kind"], string> = {
  price_list: "price list",
  delivery: "invoice",
  credit_note: "credit note",
};

export function ListsRoom() {
  const lists = useQuery({
    queryKey: ["lists"],
    queryFn: () => told<ListsReply>(api.GET("/api/price-lists")),
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
  const waiting = lists.data.lists.filter((one) => one.state === "open").length;
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
      {lists.data.lists.length === 0 ? (
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
          {lists.data.lists.map((one) => (
            <Row key={one.number} one={one} />
          ))}
        </Table>
      )}
      {Number(lists.data.room_taken) > 0.8 && (
        <p className="border-l-4 border-warning pl-3">
          {percent(lists.data.room_taken)} of the room for lists is taken: drop those that were never
          recorded.
        </p>
      )}
      <Services fetching={lists.data.fetching} />
    </div>
  );
}

function Row({ one }: { one: ListRow }) {
  const client = useQueryClient();
  const kitchen = useKitchen();
  const drop = useMutation({
    mutationFn: () =>
      told(api.DELETE("/api/price-lists/{number}", { params: { path: { number: one.number } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["lists"] }),
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
        {day(one.read_at.slice(0, 10))} <span className="quiet">by {one.read_by}</span>
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
  const when = one.settled_at ? day(one.settled_at.slice(0, 10)) : "";
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
