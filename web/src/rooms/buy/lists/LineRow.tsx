// One line of a list: what the supplier says, which item it is, what it does to the price of a kilo, what is to do.

import { memo, useState } from "react";
import type { Named, ReviewLine } from "../../../api/client";
import { useCurrency } from "../../../parts/Figure";
import { aKilo, money, percent, perKilo, trimmed } from "../../../parts/format";
import { Picker } from "../../../parts/Picker";
import { WeighOne } from "../../../parts/WeighOne";
import { STATES, WAITING } from "./states";

export interface LineActions {
  confirm: (line: ReviewLine) => void;
  match: (line: ReviewLine, item: Named) => void;
  pack: (line: ReviewLine, pack: string) => void;
  price: (line: ReviewLine, price: string) => void;
  pass: (line: ReviewLine) => void;
  back: (line: ReviewLine) => void;
  add: (line: ReviewLine) => void;
}

interface Props {
  line: ReviewLine;
  items: Named[];
  act: LineActions;
  settled: boolean;
  credit: boolean;
  picking: boolean;
  pick: (place: number | null) => void;
}

export const LineRow = memo(function LineRow({ line, items, act, settled, credit, picking, pick }: Props) {
  const currency = useCurrency();
  const words = STATES[line.state];
  return (
    <tr className="hover:bg-base-200 align-top" data-state={line.state} data-place={line.place}>
      <th scope="row" className="below font-normal min-w-20 max-w-64 [overflow-wrap:anywhere]">
        <button type="button" data-line={line.place} className="text-left cursor-default">
          {line.text}
        </button>
        <div className="quiet text-xs">
          {line.code}
          {line.quantity &&
            ` · ${trimmed(line.quantity, 3)} ${Number(line.quantity) === 1 ? "pack" : "packs"}`}
        </div>
      </th>
      <td className="below min-w-20 max-w-56 [overflow-wrap:anywhere]">
        {picking ? (
          <Picker
            names={items}
            label={`Item of ${line.text}`}
            start=""
            pick={(one) => {
              pick(null);
              act.match(line, one);
            }}
            leave={() => pick(null)}
          />
        ) : (
          <ItemOf line={line} settled={settled} pick={() => pick(line.place)} items={items} act={act} />
        )}
      </td>
      <td className="whitespace-nowrap" data-label="pack">
        <PackOf line={line} settled={settled} set={(text) => act.pack(line, text)} />
      </td>
      <td className="num money" data-label="price">
        <PriceOf line={line} settled={settled || credit} set={(text) => act.price(line, text)} />
        {credit && line.quantity !== null && <span className="quiet text-xs font-normal"> back</span>}
      </td>
      <td className="num whitespace-nowrap" data-label={aKilo()}>
        {line.was !== null && !credit && (
          <span className="quiet hidden xl:inline">{money(perKilo(line.was), currency)} → </span>
        )}
        <span className="money">{line.now !== null && money(perKilo(line.now), currency)}</span>
      </td>
      <td className="num">
        {line.change !== null && !credit && Number(line.change) !== 0 && <Change change={line.change} />}
      </td>
      <td className="below max-w-72 [overflow-wrap:anywhere]">
        <span className={`${words.tone} whitespace-nowrap`} title={words.why}>
          {words.sign}{" "}
          {credit && line.state !== "likely" && line.goods_back !== null ? creditWords(line) : words.text}
        </span>
        {line.doubts.map((doubt) => (
          <div key={doubt} className={`text-xs ${settled ? "quiet" : "text-error"}`}>
            {doubt}
          </div>
        ))}
        {line.notes.map((note) => (
          <div key={note} className="text-xs quiet">
            {note}
          </div>
        ))}
        {line.needs_weight && line.item && (
          <WeighOne
            item={line.item}
            unit={line.needs_weight}
            message={`${line.name} has no weight for 1 ${line.needs_weight}`}
          />
        )}
      </td>
      <td className={`below text-right xl:min-w-44 ${WAITING.includes(line.state) ? "" : "tools"}`}>
        {!settled && (
          <span className="flex flex-wrap gap-1 justify-end">
            <Buttons line={line} act={act} pick={() => pick(line.place)} />
          </span>
        )}
      </td>
    </tr>
  );
});

function creditWords(line: ReviewLine): string {
  return line.goods_back ? "goods went back" : "price lowered";
}

function Change({ change }: { change: string }) {
  const up = Number(change) > 0;
  return (
    <span className={up ? "text-error" : "text-success"}>
      {up ? "▲" : "▼"} {percent(change.replace("-", ""), 1)}
    </span>
  );
}

function ItemOf({
  line,
  settled,
  pick,
  items,
  act,
}: {
  line: ReviewLine;
  settled: boolean;
  pick: () => void;
  items: Named[];
  act: LineActions;
}) {
  if (line.state === "passed_over") return <span className="quiet">—</span>;
  if (line.name) {
    return (
      <>
        {settled ? (
          line.name
        ) : (
          <button type="button" className="figure text-left" title="Match it to another item" onClick={pick}>
            {line.name}
          </button>
        )}
        <div className="quiet text-xs">{HOW[line.how]}</div>
        {line.state === "likely" && <Differs line={line} />}
      </>
    );
  }
  if (settled) return <span className="quiet">no item</span>;
  const near = line.others.flatMap((id) => items.find((one) => one.id === id) ?? []);
  return (
    <div className="text-sm">
      <button type="button" className="link" onClick={pick}>
        choose an item
      </button>
      {near.length > 0 && (
        <div className="quiet text-xs">
          or{" "}
          {near.slice(0, 2).map((one, at) => (
            <span key={one.id}>
              {at > 0 && ", "}
              <button type="button" className="link text-left" onClick={() => act.match(line, one)}>
                {one.name}
              </button>
            </span>
          ))}
        </div>
      )}
    </div>
  );
}

/** What the two names do not share: a likeness is taken once somebody has looked at that. */
function Differs({ line }: { line: ReviewLine }) {
  return (
    <div className="text-xs">
      {line.more.length > 0 && (
        <div>
          only the list says <b>{line.more.join(", ")}</b>
        </div>
      )}
      {line.less.length > 0 && (
        <div>
          only the item says <b>{line.less.join(", ")}</b>
        </div>
      )}
    </div>
  );
}

const HOW: Record<ReviewLine["how"], string> = {
  chosen: "as you said",
  item: "by its id",
  code: "by its code",
  gtin: "by its GTIN",
  name: "by its exact name",
  likely: "its name is like it",
  none: "",
};

function PackOf({ line, settled, set }: { line: ReviewLine; settled: boolean; set: (text: string) => void }) {
  const [text, setText] = useState(line.pack ?? "");
  if (settled || line.state === "passed_over") return line.pack;
  const changed = text.trim() !== (line.pack ?? "");
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (changed && text.trim()) set(text.trim());
      }}
    >
      <input
        className="cell-input w-24"
        aria-label={`Pack of ${line.text}`}
        aria-invalid={line.state === "unusable" && !line.pack}
        placeholder="e.g. 5 kg"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => changed && text.trim() && set(text.trim())}
      />
    </form>
  );
}

/** The price of the pack. Where the list has it wrong, it is typed over; the list keeps what it said. */
function PriceOf({
  line,
  settled,
  set,
}: {
  line: ReviewLine;
  settled: boolean;
  set: (text: string) => void;
}) {
  const currency = useCurrency();
  const shown = line.price === null ? "" : money(line.price, currency);
  const [text, setText] = useState(shown);
  if (settled || line.state === "passed_over" || line.state === "none_today") return shown;
  const changed = text.trim() !== "" && text.trim() !== shown;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (changed) set(text.trim());
      }}
    >
      <input
        className="cell-input w-20 text-right money"
        aria-label={`Price of ${line.text}`}
        aria-invalid={line.state === "unusable" && line.price === null}
        inputMode="decimal"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => changed && set(text.trim())}
      />
    </form>
  );
}

function Buttons({ line, act, pick }: { line: ReviewLine; act: LineActions; pick: () => void }) {
  const small = "btn btn-xs";
  switch (line.state) {
    case "likely":
    case "suspicious":
      return (
        <>
          <button type="button" className={`${small} btn-primary`} onClick={() => act.confirm(line)}>
            It is right
          </button>
          <NewOne line={line} act={act} />
          <PassOver line={line} act={act} />
        </>
      );
    case "unmatched":
      return (
        <>
          <NewOne line={line} act={act} />
          <PassOver line={line} act={act} />
        </>
      );
    case "passed_over":
      return (
        <button type="button" className={small} onClick={() => act.back(line)}>
          We do buy it
        </button>
      );
    case "none_today":
      return null;
    case "unusable":
      return line.name ? <PassOver line={line} act={act} /> : null;
    default:
      return (
        <>
          <button type="button" className={small} onClick={pick}>
            Not this
          </button>
          <NewOne line={line} act={act} />
        </>
      );
  }
}

function NewOne({ line, act }: { line: ReviewLine; act: LineActions }) {
  return (
    <button type="button" className="btn btn-xs" onClick={() => act.add(line)}>
      New item
    </button>
  );
}

function PassOver({ line, act }: { line: ReviewLine; act: LineActions }) {
  return (
    <button
      type="button"
      className="btn btn-xs"
      title="Not bought here: passed over in later lists too"
      onClick={() => act.pass(line)}
    >
      Pass over
    </button>
  );
}
