// One serving on the board.

import { memo } from "react";
import { Link } from "react-router";
import type { BoardRow, SureServing } from "../../api/client";
import { PriceBar, ShareScale } from "../../parts/Bars";
import { moverOf, whyUnknown } from "../../parts/drift";
import { Figure, useCurrency } from "../../parts/Figure";
import { day, money, percent, signed } from "../../parts/format";
import { MARKS } from "../../parts/marks";
import { Sure } from "../../parts/Sure";
import { chance, mayBeOver } from "../../parts/sure";

interface Props {
  row: BoardRow;
  first: boolean;
  /** Tells the list how high it is; its place there. */
  measure: (row: Element | null) => void;
  index: number;
  /** What pushed it past its target, where nobody has looked since. */
  pushed: string | undefined;
  /** How far it may be off, once that is known. */
  sure: SureServing | undefined;
}

export const BoardLine = memo(function BoardLine({ row, first, measure, index, pushed, sure }: Props) {
  const currency = useCurrency();
  const ask = (name: string) => ({ figure: `serving/${row.serving}/${name}`, recipe: row.recipe });
  const label = `${row.name}, ${row.serving_name}`;
  return (
    <tr
      ref={measure}
      data-index={index}
      className="hover:bg-base-200"
      data-row={`${row.recipe}/${row.serving}`}
    >
      <th scope="row" className="name font-semibold">
        <Link
          to={`/cook/${row.recipe}`}
          data-row-link
          className={first ? "link link-hover" : "link link-hover quiet font-normal"}
          aria-label={label}
        >
          {first ? row.name : `· ${row.name}`}
        </Link>
      </th>
      <td className="max-md:row-start-2">
        {row.serving_name} <span className="quiet whitespace-nowrap">{row.size}</span>
      </td>
      <td className="max-md:hidden">
        <PriceBar food={row.food_cost} labour={row.labour_cost} kept={row.net_kept} />
      </td>
      <td className="num" data-label="cost">
        <Figure
          atLeast={!row.complete}
          ask={ask("food_cost")}
          text={money(row.food_cost, currency)}
          label={`cost of ${label}`}
          className={`money ${row.complete ? "" : "unsure"}`}
          stop={false}
        />
      </td>
      <td className="num" data-label="price">
        <Figure
          ask={ask("price")}
          text={money(row.price, currency)}
          label={`price of ${label}`}
          className="money"
          stop={false}
        />
      </td>
      <td className="num" data-label="share">
        <span className="max-md:hidden">
          <ShareScale share={row.food_cost_share} target={row.target_share} band={sure?.share} />{" "}
        </span>
        <Figure
          ask={ask("food_cost_share")}
          text={percent(row.food_cost_share)}
          label={`food-cost share of ${label}`}
          stop={false}
        />
      </td>
      <td className="num max-md:hidden">
        <Figure
          ask={ask("contribution")}
          text={money(row.contribution, currency)}
          label={`contribution of ${label}`}
          className="money"
          stop={false}
        />
      </td>
      <td className="num beside">
        <Since row={row} currency={currency} />
      </td>
      <td className="hidden xl:table-cell">
        <Sure sure={row.sure} />
      </td>
      <td className="below">
        {pushed && (
          <div
            className="bg-error text-error-content rounded px-1 w-fit max-w-48"
            title={`Pushed past its target by: ${pushed}`}
          >
            <span aria-hidden="true">▲ </span>
            <span className="sr-only">pushed past its target: </span>
            {pushed}
          </div>
        )}
        {sure &&
          !row.marks.some((one) => one === "over_target" || one === "no_set_price") &&
          mayBeOver(sure.over_target) && (
            <span
              className="inline-block whitespace-nowrap mr-2"
              title={`It passes its target ${chance(sure.over_target ?? "0")}, by what is unsure of it`}
            >
              △ might be over
            </span>
          )}
        {row.coming && (
          <span className="quiet inline-block whitespace-nowrap mr-2" title="A price that is set already">
            {money(row.coming.price, currency)} from {day(row.coming.on)}
          </span>
        )}
        {row.marks.map((mark) => (
          <span
            key={mark}
            className={`${MARKS[mark].tone} inline-block whitespace-nowrap mr-2`}
            title={markTitle(row, mark)}
          >
            {MARKS[mark].sign} {MARKS[mark].text}
          </span>
        ))}
      </td>
    </tr>
  );
});

function markTitle(row: BoardRow, mark: BoardRow["marks"][number]): string {
  return mark === "incomplete" ? row.missing.join("; ") : MARKS[mark].why;
}

function Since({ row, currency }: { row: BoardRow; currency: string }) {
  const { drift } = row;
  if (!drift) return <span className="quiet">—</span>;
  const cause = moverOf(drift);
  if (drift.change === null) return <span className="quiet text-sm">{whyUnknown(drift)}</span>;
  return (
    <>
      <Figure
        ask={{ figure: `serving/${row.serving}/drift`, recipe: row.recipe }}
        text={signed(drift.change, currency)}
        label={`change of cost of ${row.name} since its price was set`}
        className="money"
        stop={false}
      />
      {cause && (
        <span className="quiet inline-flex w-24 xl:w-36 ml-2 text-left whitespace-normal leading-tight">
          {cause}
        </span>
      )}
    </>
  );
}
