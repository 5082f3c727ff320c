// A list under review: what is new, changed, odd or not matched, and what it does to every pot, before it is recorded.

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { inWords, type Named, type ReviewLine, type ReviewReply } from "../../../api/client";
import { useNames } from "../../../api/kitchen";
import { kilo } from "../../../parts/format";
import { placeIn, useKeys, walk } from "../../../parts/keys";
import { Table } from "../../../parts/kit/Table";
import { Find } from "../../../parts/rows";
import { NewItem } from "../NewItem";
import { ColumnsForm } from "./ColumnsForm";
import { type LineActions, LineRow } from "./LineRow";
import { ListTitle } from "./ListTitle";
import { MissingLines } from "./MissingLines";
import { Outcome } from "./Outcome";
import { StateTabs } from "./StateTabs";
import { capital, WAITING } from "./states";
import { type Show, useRecord, useReview, useSay } from "./useReview";

const LINES = "button[data-line]";
/** A list of so many lines is shown whole at first. */
const SHORT = 60;

export function ReviewRoom() {
  const { number } = useParams();
  return <Review key={number} number={Number(number)} />;
}

function Review({ number }: { number: number }) {
  const [chosen, setShow] = useState<Show | null>(null);
  const [find, setFind] = useState("");
  const all = useReview(number, chosen ?? "open", find);
  const head = all.data?.pages[0];
  if (all.isLoadingError) {
    return (
      <p role="alert" className="sheet p-6">
        {inWords(all.error)}{" "}
        <Link className="link" to="/buy/lists">
          Back to the lists
        </Link>
      </p>
    );
  }
  if (!head) return <p>Reading the list …</p>;
  const lines = all.data?.pages.flatMap((page) => page.lines) ?? [];
  return (
    <Loaded
      number={number}
      head={head}
      lines={lines}
      show={chosen ?? "open"}
      setShow={setShow}
      chosen={chosen !== null}
      find={find}
      setFind={setFind}
      more={all.hasNextPage ? () => void all.fetchNextPage() : null}
    />
  );
}

interface Props {
  number: number;
  head: ReviewReply;
  lines: ReviewLine[];
  show: Show;
  setShow: (show: Show) => void;
  chosen: boolean;
  find: string;
  setFind: (text: string) => void;
  more: (() => void) | null;
}

function Loaded({ number, head, lines, show, setShow, chosen, find, setFind, more }: Props) {
  const names = useNames();
  const items = useMemo(() => (names.data ?? []).filter((one) => !one.is_recipe), [names.data]);
  const { say, ofLine } = useSay(number);
  const { record, undo } = useRecord(number);
  const [picking, setPicking] = useState<number | null>(null);
  const [adding, setAdding] = useState<ReviewLine | null>(null);
  const [making, setMaking] = useState(false);
  const body = useRef<HTMLTableSectionElement>(null);
  const search = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const settled = head.row.state === "recorded";
  const credit = head.row.kind === "credit_note";
  const waiting = WAITING.reduce((sum, state) => sum + (head.counts[state] ?? 0), 0);
  // A short list is looked through as it stands; of a long one, what waits for a person.
  useEffect(() => {
    if (!chosen) setShow(settled || waiting === 0 || head.total <= SHORT ? "all" : "open");
  }, [chosen, settled, waiting, head.total, setShow]);
  // A line that was dealt with may leave the ones shown: the next is then in its place.
  const at = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the new lines that count
  useEffect(() => {
    if (at.current === null || say.isPending) return;
    const all = body.current?.querySelectorAll<HTMLElement>(LINES);
    if (all?.length) all[Math.min(at.current, all.length - 1)]?.focus();
    at.current = null;
  }, [lines]);

  const act = useActions(ofLine, setAdding);
  // While something is said of a line, what was seen of it is not what there is.
  const ready = head.blocked === null && !record.isPending && !say.isPending && (!settled || head.writes > 0);
  // Of a recorded list, what was left out can still be dealt with.
  const open = !settled || waiting > 0 || head.writes > 0;
  const toRecord = () => ready && record.mutate(head.seen);
  const current = () => lines[placeIn(body.current, LINES)];
  const onLine = (what: (line: ReviewLine) => void) => () => {
    const line = current();
    if (!line || line.recorded) return;
    at.current = placeIn(body.current, LINES) + (show === "all" ? 1 : 0);
    what(line);
  };
  useKeys({
    f: () => search.current?.focus(),
    down: () => walk(body.current, LINES, 1),
    up: () => walk(body.current, LINES, -1),
    c: onLine((line) => line.item && act.confirm(line)),
    i: () => {
      const line = current();
      if (line && !line.recorded) setPicking(line.place);
    },
    x: onLine(act.pass),
    p: () =>
      placeIn(body.current, LINES) >= 0 &&
      document.activeElement?.closest("tr")?.querySelector("input")?.focus(),
    n: onLine((line) => act.add(line)),
    m: () => open && (head.counts.unmatched ?? 0) > 1 && setMaking((now) => !now),
    "Ctrl+Enter": toRecord,
    escape: () => navigate("/buy/lists"),
    // From a field to its line; what was typed there is taken.
    "field+escape": (event) => {
      const line = (event.target as Element).closest("tr")?.querySelector<HTMLElement>(LINES);
      (line ?? document.getElementById("room"))?.focus();
    },
  });

  return (
    <div className="grid grid-cols-[minmax(0,1fr)_17rem] max-lg:grid-cols-[minmax(0,1fr)] xl:grid-cols-[minmax(0,1fr)_21rem] gap-4 items-start">
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <ListTitle head={head} set={(said) => say.mutate(said)} settled={settled} />
        {!settled && <ColumnsForm review={head} set={(columns) => say.mutate({ columns })} />}
        {head.missing.length === 0 && (
          <>
            <div className="flex flex-wrap items-center gap-2">
              <StateTabs head={head} show={show} setShow={setShow} waiting={waiting} />
              <div className="ml-auto">
                <Find
                  field={search}
                  value={find}
                  set={setFind}
                  enter={() => walk(body.current, LINES, 1)}
                  width="w-36"
                />
              </div>
            </div>
            {open && (
              <p className="quiet text-sm">
                <span className="keys">
                  <kbd>↑</kbd> <kbd>↓</kbd> choose a line, <kbd>C</kbd> it is right, <kbd>I</kbd> another
                  item, <kbd>N</kbd> a new item, <kbd>P</kbd> its pack, <kbd>X</kbd> pass over
                </span>
                {(head.counts.unmatched ?? 0) > 1 && (
                  <button
                    type="button"
                    className="btn btn-xs ml-3"
                    aria-expanded={making}
                    onClick={() => setMaking(!making)}
                  >
                    Make items of the {head.counts.unmatched} without one{" "}
                    <kbd className="text-base-content">M</kbd>
                  </button>
                )}
              </p>
            )}
            {making && <MissingLines number={number} say={say} leave={() => setMaking(false)} />}
            <Table
              caption="Lines of the list"
              cards
              heads={[
                "The list says",
                "Item",
                "Pack",
                { text: "Price", num: true },
                { text: `A ${kilo()}`, num: true },
                { text: "Change", num: true },
                "What it is",
                { text: "What to do", unseen: true },
              ]}
              body={body}
            >
              {lines.map((line) => (
                <LineRow
                  key={`${line.place}/${line.pack}/${line.price}/${line.item}`}
                  line={line}
                  items={items}
                  act={act}
                  settled={line.recorded}
                  credit={credit}
                  picking={picking === line.place}
                  pick={setPicking}
                />
              ))}
            </Table>
            {lines.length === 0 && (
              <p className="sheet p-6">
                {find ? "No line is called so." : "No line is like this."}{" "}
                <button
                  type="button"
                  className="link"
                  onClick={() => {
                    setFind("");
                    setShow("all");
                  }}
                >
                  Show all {head.total}
                </button>
              </p>
            )}
            {more && (
              <button type="button" className="btn btn-sm justify-self-start" onClick={more}>
                Show more of {head.found} lines
              </button>
            )}
          </>
        )}
        {say.isError && (
          <p role="alert" className="text-error">
            {inWords(say.error)}
          </p>
        )}
      </div>
      <Outcome
        head={head}
        settled={settled}
        waiting={waiting}
        ready={ready}
        record={toRecord}
        undo={() => undo.mutate()}
        wrong={record.error ?? undo.error}
      />
      {adding && (
        <NewItem
          start={sentence(adding.text, adding.pack ?? "")}
          leave={() => setAdding(null)}
          made={(id) => ofLine(adding, { item: id, pack: saidPack(adding) }, `${adding.text} is a new item`)}
        />
      )}
    </div>
  );
}

/** The pack that somebody said: what the list shows is no answer of theirs. */
const saidPack = (line: ReviewLine) => line.chosen?.pack ?? null;

type OfLine = ReturnType<typeof useSay>["ofLine"];

function useActions(ofLine: OfLine, add: (line: ReviewLine) => void): LineActions {
  const latest = useRef(ofLine);
  latest.current = ofLine;
  const say = useCallback<OfLine>((...args) => latest.current(...args), []);
  return useMemo(
    () => ({
      confirm: (line) =>
        say(
          line,
          { item: line.item ?? null, confirmed: line.state === "suspicious", pack: saidPack(line) },
          `${line.text} is ${line.name}`,
        ),
      match: (line, item: Named) =>
        say(line, { item: item.id, pack: saidPack(line) }, `${line.text} is ${item.name}`),
      pack: (line, pack) =>
        say(
          line,
          { item: line.how === "chosen" ? (line.item ?? null) : null, pack },
          `The pack of ${line.text} is ${pack}`,
        ),
      price: (line, price) =>
        say(
          line,
          {
            item: line.how === "chosen" ? (line.item ?? null) : null,
            pack: saidPack(line),
            price,
          },
          `The price of ${line.text} is ${price}`,
        ),
      pass: (line) => say(line, { pass_over: true }, `${line.text} is passed over`),
      back: (line) => say(line, { item: line.item ?? null }, `${line.text} is bought again`),
      add,
    }),
    [say, add],
  );
}

/** "CHERVIL ROOT 2KG" is a name in capitals: "Chervil root". */
function sentence(text: string, pack: string): string {
  const bare = text.replace(pack, "").replace(/\b\d[\w.,]*\b/g, " ");
  const words = bare.replace(/\s+/g, " ").trim().toLowerCase();
  return capital(words);
}
