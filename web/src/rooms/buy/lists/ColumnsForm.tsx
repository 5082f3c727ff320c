// Which column of a supplier's table means what, and what else a file does not tell of itself: the sheet, the row of heads,
// what parts the cells, what the prices are of. Remembered of the supplier's tables of these heads once the list is recorded.

import { useState } from "react";
import type { ReviewReply } from "../../../api/client";
import { Table } from "../../../parts/kit/Table";

const MEANINGS: [string, string][] = [
  ["name", "what it is"],
  ["price", "price, net"],
  ["pack", "pack"],
  ["size", "size of one"],
  ["unit", "unit"],
  ["per", "what its price is of"],
  ["code", "supplier's code"],
  ["gtin", "GTIN"],
  ["quantity", "packs delivered"],
  ["amount", "amount of the line"],
  ["on", "from"],
  ["until", "until"],
  ["drained", "drained weight"],
  ["discount", "discount"],
  ["currency", "currency"],
];

const PRICE_OF: [string, string][] = [
  ["", "as each line says"],
  ["pack", "the pack"],
  ["1 kg", "1 kg"],
  ["100 g", "100 g"],
  ["1 l", "1 litre"],
  ["1 lb", "1 pound"],
  ["1 each", "1 piece"],
  ["unit", "the unit in its column"],
];
const OUNCES: [string, string][] = [
  ["", "not said"],
  ["weight", "ounces by weight"],
  ["fluid", "fluid ounces"],
];
const DELIMITERS: [string, string][] = [
  [";", "semicolons"],
  [",", "commas"],
  ["\t", "tabs"],
  ["|", "upright bars"],
];

interface Props {
  review: ReviewReply;
  set: (columns: Record<string, string>) => void;
}

export function ColumnsForm({ review, set }: Props) {
  // What was opened, or once had to be, stays open until it is closed by hand: more than one thing may be to say.
  const [open, setOpen] = useState(review.missing.length > 0);
  // What was said last counts, whether the server has answered yet or not.
  const [said, setSaid] = useState<Record<string, string>>({});
  if (review.heads.length === 0) return null;
  const missing = review.missing as string[];
  const columns: Record<string, string> = { ...review.columns, ...said };
  const places = [...Array(Math.max(...review.sample.map((row) => row.length), 1)).keys()];
  const headRow = Number(said.head_row ?? review.head_row);
  const choose = (meaning: string, value: string) => {
    setSaid({ ...said, [meaning]: value });
    set({ ...columns, [meaning]: value });
  };
  const kept = (words: [string, string][], value: string): [string, string][] =>
    words.some(([one]) => one === value) ? words : [...words, [value, value]];
  return (
    <details
      className="sheet p-3"
      open={open || missing.length > 0}
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="cursor-pointer font-semibold">
        Columns{" "}
        <span className="quiet font-normal text-sm">
          {missing.includes("sheet") && "say which sheet counts"}
          {missing.length > 0 &&
            !missing.includes("sheet") &&
            "say which is which: it is remembered of this supplier"}
          {missing.length === 0 &&
            review.heads.filter((head) => Object.values(review.columns).includes(head)).join(", ")}
        </span>
      </summary>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-x-4 gap-y-1 mt-2 text-sm">
        {review.sheets.length > 1 && (
          <Choice
            words="sheet"
            label="Sheet"
            missing={missing.includes("sheet")}
            value={columns.sheet ?? ""}
            choices={[["", "all with lines"], ...review.sheets.map((one): [string, string] => [one, one])]}
            set={(sheet) => choose("sheet", sheet)}
          />
        )}
        {MEANINGS.map(([meaning, words]) => (
          <Choice
            key={meaning}
            words={words}
            label={`Column of ${words}`}
            missing={missing.includes(meaning)}
            value={columns[meaning] ?? ""}
            choices={[["", "none"], ...review.heads.map((one): [string, string] => [one, one])]}
            set={(head) => choose(meaning, head)}
          />
        ))}
        <Choice
          words="its prices are of"
          label="Its prices are of"
          value={columns.price_per ?? ""}
          choices={kept(PRICE_OF, columns.price_per ?? "")}
          set={(per) => choose("price_per", per)}
        />
        <Choice
          words="ounces of liquids are"
          label="Ounces of liquids are"
          value={columns.ounces ?? ""}
          choices={OUNCES}
          set={(ounces) => choose("ounces", ounces)}
        />
        {review.delimiter && (
          <Choice
            words="cells are parted by"
            label="Cells are parted by"
            value={review.delimiter}
            choices={DELIMITERS}
            set={(delimiter) => choose("delimiter", delimiter)}
          />
        )}
      </div>
      <p className="quiet text-sm mt-2">
        The first rows of the file. Where another row holds the heads, choose it.
      </p>
      <div className="overflow-auto max-h-60">
        <Table
          caption="The first rows of the file, and what its columns are read as"
          look="small"
          heads={[
            { text: "Heads", key: "heads" },
            ...places.map((at) => ({
              key: String(at),
              text: MEANINGS.find(([one]) => columns[one] && columns[one] === review.heads[at])?.[1] ?? "—",
            })),
          ]}
        >
          {review.sample.map((row, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row of a file is known by its place
            <tr key={at} className={at + 1 === headRow ? "font-semibold" : ""}>
              <td>
                <input
                  type="radio"
                  name="head-row"
                  aria-label={`Row ${at + 1} holds the heads`}
                  checked={at + 1 === headRow}
                  onChange={() => choose("head_row", String(at + 1))}
                />
              </td>
              {places.map((column) => (
                <td key={column} className="max-w-48 truncate" title={row[column]}>
                  {row[column]}
                </td>
              ))}
            </tr>
          ))}
        </Table>
      </div>
    </details>
  );
}

interface ChoiceProps {
  words: string;
  label: string;
  missing?: boolean;
  value: string;
  choices: [string, string][];
  set: (value: string) => void;
}

function Choice({ words, label, missing = false, value, choices, set }: ChoiceProps) {
  return (
    <label className="flex items-center justify-between gap-2">
      <span className={missing ? "text-error font-semibold" : "quiet"}>{words}</span>
      <select
        className="cell-input w-36"
        aria-label={label}
        value={value}
        onChange={(event) => set(event.target.value)}
      >
        {choices.map(([one, said]) => (
          <option key={one} value={one}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}
