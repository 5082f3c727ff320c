// One price of the round.

import type { ReactNode } from "react";
import { Link } from "react-router";
import type { RepricingRow, RoundEffect } from "../../api/client";
import { ShareScale } from "../../parts/Bars";
import { Figure, useCurrency } from "../../parts/Figure";
import { day, money, percent } from "../../parts/format";
import { MARKS } from "../../parts/marks";
import { SCHOOLS } from "../../parts/schools";
import { inField } from "../../parts/way";
import { inPath } from "./words";

interface Props {
  row: RepricingRow;
  index: number;
  measure: (row: Element | null) => void;
  typed: string;
  type: (text: string) => void;
  /** What the typed price does, once that is known. */
  then: RoundEffect["rows"][number] | undefined;
  sold: ReactNode;
}

export function RepricingLine({ row, index, measure, typed, type, then, sold }: Props) {
  const currency = useCurrency();
  const label = `${row.name}, ${row.serving_name}, ${row.channel_name}`;
  const ask = (name: string) => ({
    figure: `serving/${row.serving}/in/${inPath(row.channel)}/${name}`,
    recipe: row.recipe,
  });
  const to = `/price/${row.recipe}/${row.serving}${row.channel === null ? "" : `?channel=${row.channel}`}`;
  const method = row.method;
  return (
    <tr ref={measure} data-index={index} className="hover:bg-base-200">
      <th scope="row" className="name font-semibold">
        <Link to={to} data-row-link className="link link-hover" aria-label={label}>
          {row.name}
        </Link>
      </th>
      <td>
        {row.serving_name} <span className="quiet whitespace-nowrap">{row.size}</span>
      </td>
      <td>{row.channel_name}</td>
      <td className="below">
        {row.lack && (
          <span className="text-error mr-2" title={row.lack}>
            ? incomplete
          </span>
        )}
        {row.reasons.map((mark) => (
          <span
            key={mark}
            className={`${MARKS[mark].tone} inline-block whitespace-nowrap mr-2`}
            title={MARKS[mark].why}
          >
            {MARKS[mark].sign} {MARKS[mark].text}
          </span>
        ))}
        {row.coming && (
          <span className="quiet inline-block whitespace-nowrap">
            <span className="money">{money(row.coming.price, currency)}</span> from {day(row.coming.on)}
          </span>
        )}
      </td>
      <td className="num" data-label="cost">
        <Figure
          ask={ask("food_cost")}
          text={money(row.lack ? null : row.food_cost, currency)}
          label={`cost of ${label}`}
          className="money"
          stop={false}
        />
      </td>
      <td className="num" data-label="price">
        <Figure
          ask={ask("in_force/price")}
          text={money(row.price, currency)}
          label={`price of ${label}`}
          className={row.is_set ? "money" : "money unsure"}
          stop={false}
        />
      </td>
      <td className="num" data-label="share">
        <span className="max-lg:hidden">
          <ShareScale share={row.share} target={row.target} />{" "}
        </span>
        <Figure
          ask={ask("in_force/food_cost_share")}
          text={percent(row.share)}
          label={`food-cost share of ${label}`}
          stop={false}
        />
        {row.share !== null && (
          <span className="quiet text-xs" title="gross profit: 1 less the food-cost share">
            {" "}
            gp {percent(String(1 - Number(row.share)))}
          </span>
        )}
      </td>
      <td className="num" data-label="proposed">
        {method && row.proposed !== null ? (
          <button
            type="button"
            tabIndex={-1}
            className="link money"
            title={`By ${SCHOOLS[method].name}: take it over`}
            aria-label={`Accept ${money(row.proposed, currency)} for ${label}`}
            onClick={() => type(money(row.proposed, currency))}
          >
            {money(row.proposed, currency)}
          </button>
        ) : (
          <span className="quiet">—</span>
        )}
      </td>
      <td className="num" data-label="new">
        <input
          className="cell-input w-16 text-right money"
          aria-label={`New price of ${label}`}
          inputMode="decimal"
          value={inField(typed)}
          onChange={(event) => type(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== "ArrowDown" && event.key !== "ArrowUp" && event.key !== "Enter") return;
            if (event.altKey) return;
            event.preventDefault();
            besides(event.currentTarget, event.key === "ArrowUp" ? -1 : 1)?.focus();
          }}
        />
      </td>
      <td className="num" data-label="then">
        {then ? percent(then.share) : ""}
        {then?.share != null && (
          <span className="quiet text-xs"> gp {percent(String(1 - Number(then.share)))}</span>
        )}
      </td>
      <td className="num money max-md:hidden">{then ? money(then.contribution, currency) : ""}</td>
      <td className="num" data-label="a week">
        {sold}
      </td>
    </tr>
  );
}

/** The field of the next row, or the one before. */
function besides(field: HTMLInputElement, step: number): HTMLInputElement | undefined {
  const all = [...(field.closest("tbody")?.querySelectorAll<HTMLInputElement>("input.money") ?? [])];
  return all[all.indexOf(field) + step];
}
