// Trim: every yield of the kitchen, what it rests on, how sure it is, and what it does to the usable kilo.

import { queryOptions, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, inWords, told, type YieldBook, type YieldRow } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { yieldAddress } from "../../parts/addresses";
import { useCurrency } from "../../parts/Figure";
import { finder } from "../../parts/find";
import { dayOf, kilo, money, percent, perKilo } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import type { Virtual } from "../../parts/kit/useVirtual";
import { Find, useRows } from "../../parts/rows";
import { SmallChoice } from "../../parts/Small";
import { HalfDone } from "./HalfDone";
import { Pots } from "./Pots";
import { ShelfYields } from "./ShelfYields";
import { UsableKilo, usableKilo } from "./UsableKilo";
import { bandText, benchAddress, RESTS, TREATMENTS, type Treatment, treatmentName } from "./words";
import { YieldBar } from "./YieldBar";

export const YIELDS = queryOptions({
  queryKey: ["yields"],
  queryFn: () => told<YieldBook>(api.GET("/api/yields")),
});

type Rests = YieldRow["rests_on"] | "";

export function TrimRoom() {
  const book = useQuery(YIELDS);
  if (book.isPending) return <p>Opening the yield book …</p>;
  if (book.isLoadingError) return <p role="alert">{inWords(book.error)}</p>;
  return <Loaded book={book.data} />;
}

function Loaded({ book }: { book: YieldBook }) {
  const [find, setFind] = useState("");
  const [kind, setKind] = useState<Treatment | "">("");
  const [rests, setRests] = useState<Rests>("");
  const [where, setWhere] = useState<"ours" | "pots" | "shelf">("ours");
  const navigate = useNavigate();
  const found = useMemo(() => {
    const holds = finder(find);
    return book.rows.filter(
      (row) =>
        (kind === "" || row.treatment === kind) &&
        (rests === "" || row.rests_on === rests) &&
        holds(`${row.item_name} ${row.name} ${row.kind} ${row.source}`),
    );
  }, [book.rows, kind, rests, find]);
  const list = useRows(found, usableKilo, {
    n: () => navigate("/trim/bench"),
    p: () => navigate("/trim/practice"),
  });
  const count = (one: YieldRow["rests_on"]) => book.rows.filter((row) => row.rests_on === one).length;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">Trim</h1>
        <Find field={list.search} value={find} set={setFind} enter={list.enter} width="w-32" />
        <SmallChoice
          label="show"
          value={kind}
          choices={[["", "every kind"], ...TREATMENTS]}
          set={(one) => setKind(one)}
        />
        {where === "ours" && (
          <SmallChoice<Rests>
            label="resting on"
            value={rests}
            choices={[
              ["", "anything"],
              ["own_tests", "own tests"],
              ["book", "the book"],
              ["estimate", "an estimate"],
            ]}
            set={setRests}
          />
        )}
        <SmallChoice
          label="of"
          value={where}
          choices={[
            ["ours", "what we buy"],
            ["pots", "each pot"],
            ["shelf", "the whole shelf"],
          ]}
          set={setWhere}
        />
        {where === "ours" && (
          <span className="quiet text-sm whitespace-nowrap hidden xl:inline">
            <kbd>W</kbd> working
          </span>
        )}
        <div className="flex gap-3 ml-auto">
          <Link className="btn btn-sm" to="/trim/leftovers">
            By-products
          </Link>
          <Link className="btn btn-sm" to="/trim/practice">
            Practice <kbd>P</kbd>
          </Link>
          <Link className="btn btn-sm btn-primary" to="/trim/bench">
            New test <kbd className="text-base-content">N</kbd>
          </Link>
        </div>
      </div>
      <HalfDone />
      {where === "shelf" ? (
        <ShelfYields rows={book.shelf} find={find} kind={kind} />
      ) : where === "pots" ? (
        <Pots
          rows={kind === "" ? book.rows : book.rows.filter((row) => row.treatment === kind)}
          find={find}
        />
      ) : book.rows.length === 0 ? (
        <div className="sheet p-8 max-w-2xl">
          <h2 className="text-xl font-semibold mb-2">No yield is known yet</h2>
          <p>
            Put an item on the bench and weigh it before and after, or give it a preparation with its yield in{" "}
            <Link className="link" to="/buy">
              Buy
            </Link>
            . The whole shelf shows what books say.
          </p>
        </div>
      ) : (
        <>
          <p className="mb-2">
            {book.rows.length} yields: {count("own_tests")} on own tests, {count("book")} from the book,{" "}
            <span className="unsure">{count("estimate")} estimates</span>.
            {book.worth_testing.length > 0 && (
              <>
                {" "}
                A test would do most for{" "}
                {book.worth_testing.map((row, at) => (
                  <span key={`${row.item}/${row.of}`}>
                    {at > 0 && ", "}
                    <Link className="link" to={benchAddress(row, row.treatment)}>
                      {row.item_name}, {row.name}
                    </Link>
                  </span>
                ))}
                .
              </>
            )}
          </p>
          {book.waiting.map((one) => (
            <p key={`${one.item}/${one.sort}/${one.of}`} className="mb-2">
              {one.tests} {one.tests === 1 ? "test waits" : "tests wait"} to be adopted:{" "}
              <Link className="link" to={yieldAddress(one)}>
                {one.item_name}, {one.of}
              </Link>
            </p>
          ))}
          <Table
            caption="Yields with their band, what they rest on, and the usable kilo"
            heads={[
              "Item",
              { text: "Kind", className: "max-md:hidden" },
              { text: "What remains", note: "bracket: band, dot: own mean", className: "w-40" },
              { text: "Yield", num: true },
              { text: "Band", num: true },
              { text: "Rests on", className: "max-md:min-w-48" },
              { text: `Usable ${kilo()}`, num: true },
              { text: "over the band", num: true },
              { text: "In pots", num: true },
            ]}
            list={list.list}
          >
            {list.shown.map((row, place) => (
              <Row key={`${row.item}/${row.sort}/${row.of}`} row={row} measured={list.list.measured(place)} />
            ))}
          </Table>
          {found.length === 0 && <p className="sheet p-6 mt-2">No yield is like that.</p>}
        </>
      )}
    </>
  );
}

function Row({ row, measured }: { row: YieldRow; measured: ReturnType<Virtual["measured"]> }) {
  const currency = useCurrency();
  const kitchen = useKitchen();
  const today = kitchen.data?.today ?? "";
  const shelf = row.shelf.filter((one) => Number(one.likely) !== Number(row.yield));
  const pots = row.recipes.map((one) => one.name).join(", ");
  return (
    <tr {...measured} className="hover:bg-base-200">
      <th scope="row">
        <Link to={yieldAddress(row)} data-row-link className="link link-hover">
          <span>
            {row.item_name} <span className="font-normal">{row.name}</span>
          </span>
        </Link>
      </th>
      <td className="quiet whitespace-nowrap max-md:hidden">{treatmentName(row.treatment)}</td>
      <td>
        <YieldBar value={row.yield} low={row.low} high={row.high} own={row.own_mean} />
      </td>
      <td className={`num ${row.rests_on === "estimate" ? "unsure" : ""}`}>{percent(row.yield, 1)}</td>
      <td className="num quiet">{bandText(row.low, row.high)}</td>
      <td>
        <span className={row.rests_on === "estimate" ? "unsure" : "font-semibold"}>
          {RESTS[row.rests_on]}
        </span>
        {row.rests_on === "book" && <span className="quiet"> {row.source}</span>}
        {row.tests > 0 && (
          <span>
            {" "}
            · {row.tests} {row.tests === 1 ? "test" : "tests"}, last {dayOf(row.newest ?? "", today)}
            {row.outliers > 0 && <span className="text-error"> · {row.outliers} far off</span>}
          </span>
        )}
        {shelf.length > 0 && (
          <span className="quiet" title={shelf.map((one) => one.source).join("; ")}>
            {" "}
            · the shelf says {shelf.map((one) => percent(one.likely)).join(", ")}
          </span>
        )}
      </td>
      <td className="num">
        <UsableKilo row={row} stop={false} />
      </td>
      <td className="num quiet text-xs">
        {row.per_kg_low !== null &&
          row.per_kg_high !== null &&
          `${money(perKilo(row.per_kg_high), currency)} to ${money(perKilo(row.per_kg_low), currency)}`}
      </td>
      <td className="num" title={pots}>
        {row.recipes.length}
      </td>
    </tr>
  );
}
