// The yields of the whole shelf, each with its band and its source, whether the kitchen buys the thing or not.

import type { ShelfYield } from "../../api/client";
import { finder } from "../../parts/find";
import { percent } from "../../parts/format";
import { useGrowing } from "../../parts/useGrowing";
import { bandText, type Treatment, treatmentName } from "./words";
import { YieldBar } from "./YieldBar";

export function ShelfYields({
  rows,
  find,
  kind,
}: {
  rows: ShelfYield[];
  find: string;
  kind: Treatment | "";
}) {
  const holds = finder(find);
  const found = rows.filter(
    (row) =>
      (kind === "" || row.treatment === kind) &&
      holds(`${row.item_name} ${row.name} ${row.kind} ${row.book.source}`),
  );
  const [count, end] = useGrowing(found.length, `${find} ${kind}`);
  const shown = found.slice(0, count);
  return (
    <>
      <p className="mb-2">
        {found.length} yields of books and common practice. An own test counts more than any of them.
      </p>
      <table className="table table-sm sheet board">
        <caption className="sr-only">Yields of the shelf with band and source</caption>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col" className="w-40">
              What remains
            </th>
            <th scope="col" className="num">
              Yield
            </th>
            <th scope="col" className="num">
              Band
            </th>
            <th scope="col">Source</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((row) => (
            <tr key={`${row.item}/${row.sort}/${row.of}`}>
              <th scope="row">
                {row.item_name}
                <span className="font-normal"> {row.name}</span>
                <span className="quiet font-normal text-xs"> {treatmentName(row.treatment)}</span>
              </th>
              <td>
                <YieldBar value={row.book.likely} low={row.book.low} high={row.book.high} />
              </td>
              <td className="num">{percent(row.book.likely)}</td>
              <td className="num quiet">{bandText(row.book.low, row.book.high)}</td>
              <td>{row.book.source}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div ref={end} />
    </>
  );
}
