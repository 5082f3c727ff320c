// The yields of the whole shelf, each with its band and its source, whether the kitchen buys the thing or not.

import type { ShelfYield } from "../../api/client";
import { finder } from "../../parts/find";
import { percent } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { useVirtual } from "../../parts/kit/useVirtual";
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
  const list = useVirtual(found.length);
  const shown = found.slice(list.from, list.to);
  return (
    <>
      <p className="mb-2">
        {found.length} yields of books and common practice. An own test counts more than any of them.
      </p>
      <Table
        list={list}
        caption="Yields of the shelf with band and source"
        heads={[
          "What",
          { text: "What remains", className: "w-40" },
          { text: "Yield", num: true },
          { text: "Band", num: true },
          "Source",
        ]}
      >
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
      </Table>
    </>
  );
}
