// Which column of a supplier's table means what; remembered of the supplier once the list is recorded.

import { useState } from "react";
import type { ReviewReply } from "../../../api/client";
import { Table } from "../../../parts/kit/Table";

const MEANINGS: [string, string][] = [
  ["name", "what it is"],
  ["price", "price of a pack, net"],
  ["pack", "pack"],
  ["size", "size of one"],
  ["unit", "unit"],
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

interface Props {
  review: ReviewReply;
  set: (columns: Record<string, string>) => void;
  open: boolean;
}

export function ColumnsForm({ review, set, open }: Props) {
  // What was said last counts, whether the server has answered yet or not.
  const [said, setSaid] = useState<Record<string, string>>({});
  if (review.heads.length === 0) return null;
  const missing = review.missing as string[];
  const columns = { ...review.columns, ...said };
  const choose = (meaning: string, head: string) => {
    setSaid({ ...said, [meaning]: head });
    set({ ...columns, [meaning]: head });
  };
  return (
    <details className="sheet p-3" open={open}>
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
      <div className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-4 gap-y-1 mt-2 text-sm">
        {review.sheets.length > 1 && (
          <label className="flex items-center justify-between gap-2">
            <span className={missing.includes("sheet") ? "text-error font-semibold" : "quiet"}>sheet</span>
            <select
              className="cell-input w-28"
              aria-label="Sheet"
              value={columns.sheet ?? ""}
              onChange={(event) => choose("sheet", event.target.value)}
            >
              <option value="">all with lines</option>
              {review.sheets.map((sheet) => (
                <option key={sheet}>{sheet}</option>
              ))}
            </select>
          </label>
        )}
        {MEANINGS.map(([meaning, words]) => (
          <label key={meaning} className="flex items-center justify-between gap-2">
            <span className={missing.includes(meaning) ? "text-error font-semibold" : "quiet"}>{words}</span>
            <select
              className="cell-input w-28"
              aria-label={`Column of ${words}`}
              value={columns[meaning] ?? ""}
              onChange={(event) => choose(meaning, event.target.value)}
            >
              <option value="">none</option>
              {review.heads.map((head) => (
                <option key={head}>{head}</option>
              ))}
            </select>
          </label>
        ))}
      </div>
      <div className="overflow-x-auto mt-2">
        <Table caption="The first rows of the file" look="small" heads={review.heads}>
          {review.sample.map((row) => (
            <tr key={row.join("|")}>
              {review.heads.map((head, at) => (
                <td key={head}>{row[at]}</td>
              ))}
            </tr>
          ))}
        </Table>
      </div>
    </details>
  );
}
