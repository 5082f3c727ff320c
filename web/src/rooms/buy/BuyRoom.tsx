// Buy: what each item costs today, as bought and as used; a new price, and what it does to every pot.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type ItemRow, inWords, told } from "../../api/client";
import { Figure, useCurrency } from "../../parts/Figure";
import { finder } from "../../parts/find";
import { aKilo, kilo, money, ofOne, percent, perKilo } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import type { Virtual } from "../../parts/kit/useVirtual";
import { Find, focusRow, RowKeys, useRows } from "../../parts/rows";
import { ItemPanel } from "./ItemPanel";
import { NewItem } from "./NewItem";

/** Beside an open item there is room for fewer columns on a tablet. */
const WIDE_ONLY = "hidden xl:table-cell";

export function BuyRoom() {
  const { item } = useParams();
  const items = useQuery({ queryKey: ["items"], queryFn: () => told<ItemRow[]>(api.GET("/api/items")) });
  if (items.isPending) return <p>Fetching the prices …</p>;
  if (items.isLoadingError) return <p role="alert">{inWords(items.error)}</p>;
  return <Loaded rows={items.data} open={item} />;
}

function Loaded({ rows, open }: { rows: ItemRow[]; open: string | undefined }) {
  const [filter, setFilter] = useState("");
  const [archive, setArchive] = useState(false);
  const [adding, setAdding] = useState(false);
  const navigate = useNavigate();
  const wide = open ? WIDE_ONLY : "";
  const found = useMemo(() => {
    const holds = finder(filter);
    const kept = rows.filter((row) => row.archived === archive || row.id === open);
    return kept.filter((row) => holds(`${row.name} ${row.kind} ${row.supplier ?? ""}`));
  }, [rows, filter, archive, open]);
  const archived = rows.filter((row) => row.archived).length;
  const list = useRows(
    found,
    (row) => ({ figure: `item/${row.id}/${row.usable[0]?.preparation ?? "price_per_kg"}` }),
    { n: () => setAdding(true), l: () => navigate("/buy/lists"), i: () => navigate("/buy/from/paper") },
  );
  // Whoever closes an item goes on from its row.
  const was = useRef(open);
  useEffect(() => {
    if (was.current && !open) focusRow(was.current);
    was.current = open;
  }, [open]);
  return (
    <div
      className={
        open
          ? "grid grid-cols-[minmax(0,1fr)_27rem] max-lg:grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,1fr)_30rem] gap-4 items-start"
          : ""
      }
    >
      <div className={open ? "max-lg:hidden" : ""}>
        <h1 className="only-print text-xl font-semibold">Price book</h1>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3 no-print">
          <h1 className="text-xl font-semibold">Buy</h1>
          <Find field={list.search} value={filter} set={setFilter} enter={list.enter} />
          {!open && <RowKeys />}
          {!open && <TakeOut />}
          <Link className="btn btn-sm ml-auto" to="/buy/from/paper">
            Invoice <kbd>I</kbd>
          </Link>
          <Link className="btn btn-sm" to="/buy/lists">
            Deliveries <kbd>L</kbd>
          </Link>
          <Link className="btn btn-sm" to="/buy/compare">
            Compare forms
          </Link>
          <button type="button" className="btn btn-sm btn-primary" onClick={() => setAdding(true)}>
            New item <kbd className="text-base-content">N</kbd>
          </button>
        </div>
        {rows.length === 0 ? (
          <div className="sheet p-8 max-w-2xl">
            <h2 className="text-xl font-semibold mb-2">Nothing is bought yet</h2>
            <p>Write down the first item: its name, then a pack and its price. Then it can go into a pot.</p>
          </div>
        ) : (
          <Table
            caption="Items with the price of a kilo as bought and as used"
            heads={[
              "Item",
              { text: "Kind", className: `max-md:hidden ${wide}` },
              ...(open ? [] : [{ text: "From", className: "max-md:hidden" }]),
              { text: `A ${kilo()} as bought`, num: true },
              `A usable ${kilo()}`,
              { text: "In pots", num: true, className: wide },
            ]}
            list={list.list}
          >
            {list.shown.map((row, place) => (
              <Row key={row.id} row={row} measured={list.list.measured(place)} open={open} />
            ))}
          </Table>
        )}
        {rows.length > 0 && found.length === 0 && <p className="sheet p-6 mt-2">Nothing is called so.</p>}
        {(archived > 0 || archive) && (
          <button type="button" className="link quiet text-sm mt-2" onClick={() => setArchive(!archive)}>
            {archive ? "Back to what is bought" : `${archived} archived`}
          </button>
        )}
      </div>
      {open && <ItemPanel key={open} id={open} close={() => navigate("/buy")} />}
      {adding && <NewItem leave={() => setAdding(false)} made={(id) => navigate(`/buy/${id}`)} />}
    </div>
  );
}

/** The prices as open files. */
function TakeOut() {
  const files: [string, string][] = [
    ["price book, CSV", "/api/price-book.csv"],
    ["price book, XLSX", "/api/price-book.xlsx"],
    ["all offers, CSV", "/api/offers.csv"],
    ["all offers, XLSX", "/api/offers.xlsx"],
    ["all offers, UBL catalogue", "/api/offers.xml"],
  ];
  return (
    <details className="relative">
      <summary className="link cursor-pointer text-sm list-none">Take prices out as a file</summary>
      <ul className="sheet absolute z-30 mt-1 p-2 shadow-lg whitespace-nowrap">
        {files.map(([words, address]) => (
          <li key={address}>
            <a className="link link-hover block px-2 py-1" href={address}>
              {words}
            </a>
          </li>
        ))}
      </ul>
    </details>
  );
}

function Row({
  row,
  measured,
  open,
}: {
  row: ItemRow;
  measured: ReturnType<Virtual["measured"]>;
  open: string | undefined;
}) {
  const currency = useCurrency();
  const wide = open ? WIDE_ONLY : "";
  const moved =
    row.per_kg !== null && row.per_kg_before !== null ? Number(row.per_kg) - Number(row.per_kg_before) : 0;
  const price = perKilo(row.per_kg) ?? row.per_one;
  return (
    <tr {...measured} className={row.id === open ? "bg-base-300" : "hover:bg-base-200"}>
      <th scope="row" className="name">
        <Link to={`/buy/${row.id}`} data-row-link className="link link-hover">
          {row.name}
        </Link>
      </th>
      <td className={`quiet max-md:hidden ${wide}`}>{row.kind}</td>
      {!open && (
        <td className="name max-md:hidden">
          {row.offer ? (
            `${row.supplier}, ${row.offer.pack} for ${money(row.offer.price, currency)}`
          ) : (
            <span className="text-error">no price yet</span>
          )}
        </td>
      )}
      <td className="num">
        {price === null ? (
          <span className="text-error text-sm" title={row.lack ?? ""}>
            {row.offer ? "? its pack has no weight" : "? no price yet"}
          </span>
        ) : (
          <Figure
            ask={{ figure: `item/${row.id}/${row.counted ? "price_of_one" : "price_per_kg"}` }}
            text={`${money(price, currency)}${row.counted ? ` ${ofOne(row.counted)}` : ""}`}
            label={`price of ${row.counted ? `1 ${row.counted}` : aKilo()} of ${row.name}`}
            className="money"
            stop={false}
          />
        )}
        <span
          className={`text-xs inline-block w-4 ${moved > 0 ? "text-error" : "text-success"}`}
          title={moved === 0 ? undefined : "since the delivery before"}
        >
          {moved > 0 ? "▲" : moved < 0 ? "▼" : ""}
        </span>
      </td>
      <td>
        {row.usable.slice(0, open ? 1 : 3).map((usable) => (
          <div key={usable.preparation} className="whitespace-nowrap">
            <Figure
              ask={{ figure: `item/${row.id}/${usable.preparation}` }}
              text={money(perKilo(usable.per_kg), currency)}
              label={`usable ${kilo()} of ${row.name}, ${usable.name}`}
              className={`money ${usable.rests_on === "estimate" ? "unsure" : ""}`}
              stop={false}
            />{" "}
            {usable.name}{" "}
            <span className={`quiet ${open ? "hidden xl:inline" : ""}`}>yields {percent(usable.yield)}</span>
          </div>
        ))}
      </td>
      <td className={`num ${wide}`}>{row.used_by}</td>
    </tr>
  );
}
