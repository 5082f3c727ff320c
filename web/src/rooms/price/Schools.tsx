// The five schools side by side, the price in force, and one that is being typed: what each is on the card and what it leaves.

import type { ReactNode } from "react";
import type { PriceRow, Selling } from "../../api/client";
import { ShareScale } from "../../parts/Bars";
import { Figure, useCurrency } from "../../parts/Figure";
import { day, money, percent } from "../../parts/format";
import { Table } from "../../parts/kit/Table";
import { SCHOOLS } from "../../parts/schools";
import { inField } from "../../parts/way";
import { inPath, nameOfRow, termsOf } from "./words";

interface Props {
  selling: Selling;
  typed: string;
  type: (text: string) => void;
  /** What is wrong with it. */
  wrong: string | null;
  /** The mark by which a school is made the one that decides. */
  choose: (row: PriceRow) => ReactNode;
}

export function Schools({ selling, typed, type, wrong, choose }: Props) {
  const schools = selling.rows.filter((row) => row.method !== null && row.row === row.method);
  const without = selling.rows.filter(
    (row) => row.row !== row.method && !row.row.startsWith("at-") && row.row !== "in_force",
  );
  const inForce = selling.rows.find((row) => row.row === "in_force");
  const tried = selling.rows.find((row) => row.row.startsWith("at-"));
  const decides = selling.decides === null ? null : SCHOOLS[selling.decides];
  return (
    <section aria-label="Schools side by side">
      <Table
        caption="How it is priced, and what each price leaves"
        heads={[
          { text: "Decides", unseen: true },
          "How it is priced",
          { text: "On the card", num: true },
          { text: "Share", num: true },
          { text: "Gross profit", num: true },
          { text: "Contribution", num: true },
          { text: "A minute of work", num: true },
          { text: "Left of it all", num: true, note: "after labour, energy, overhead" },
        ]}
        cards
      >
        {[...schools, ...without].map((row) => (
          <Row key={row.row} row={row} selling={selling} mark={choose(row)} />
        ))}
        {inForce && (
          <Row
            row={inForce}
            selling={selling}
            name={
              selling.is_set
                ? `in force${selling.price_set_on ? ` since ${day(selling.price_set_on)}` : ""}`
                : "in force: computed, none is set"
            }
            strong
          />
        )}
        <Row
          row={tried ?? NOTHING}
          selling={selling}
          name={
            <label className="flex items-center gap-2">
              try
              <input
                className="cell-input w-20 text-right money"
                inputMode="decimal"
                aria-label="A price to try"
                aria-invalid={wrong !== null}
                value={inField(typed)}
                onChange={(event) => type(event.target.value)}
              />
            </label>
          }
        />
      </Table>
      {wrong && (
        <p role="alert" className="text-error text-sm mt-1">
          {wrong}
        </p>
      )}
      {decides && <p className="text-sm quiet mt-1">{decides.forgets}</p>}
      <details className="text-sm no-print">
        <summary className="cursor-pointer quiet w-fit">what each school forgets</summary>
        <dl>
          {Object.values(SCHOOLS).map((school) => (
            <div key={school.name} className="mt-1">
              <dt className="font-semibold inline">{school.name}: </dt>
              <dd className="inline quiet">{school.forgets}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
}

const NOTHING: PriceRow = {
  row: "at-",
  method: null,
  pricing: null,
  whose: null,
  price: null,
  kept: null,
  food_cost_share: null,
  gross_profit_share: null,
  contribution: null,
  per_minute: null,
  profit: null,
  profit_at_most: false,
  lack: null,
};

interface RowProps {
  row: PriceRow;
  selling: Selling;
  mark?: ReactNode;
  name?: ReactNode;
  strong?: boolean;
}

function Row({ row, selling, mark, name, strong = false }: RowProps) {
  const currency = useCurrency();
  const ask = (figure: string) => ({
    figure: `serving/${selling.serving}/in/${inPath(selling.channel)}/${row.row}/${figure}`,
    recipe: selling.recipe,
  });
  const words = nameOfRow(row);
  const cell = (figure: string, value: string | null, text: string, label: string, money = false) =>
    value === null ? (
      <span className="quiet">{row.row === "at-" ? "" : "—"}</span>
    ) : (
      <Figure
        ask={ask(figure)}
        text={text}
        label={`${label}, ${words}`}
        className={money ? "money" : ""}
        stop={false}
      />
    );
  return (
    <tr className={strong ? "font-semibold" : ""} data-school={row.row}>
      <td>{mark}</td>
      <th scope="row" className="name font-normal">
        {name ?? (
          <span title={row.method ? SCHOOLS[row.method].forgets : ""}>
            {words} <span className="quiet">{termsOf(row.pricing, currency)}</span>
            {row.whose !== null && row.whose !== "kitchen" && (
              <span className="quiet text-xs"> of this {row.whose}</span>
            )}
          </span>
        )}
        {row.lack && <span className="block text-xs unsure whitespace-normal">{row.lack}</span>}
      </th>
      <td className="num" data-label="card">
        {cell("price", row.price, money(row.price, currency), "price on the card", true)}
      </td>
      <td className="num" data-label="share">
        {row.food_cost_share !== null && (
          <span className="max-lg:hidden">
            <ShareScale share={row.food_cost_share} target={selling.target} />{" "}
          </span>
        )}
        {cell("food_cost_share", row.food_cost_share, percent(row.food_cost_share, 1), "food-cost share")}
      </td>
      <td className="num" data-label="gross profit">
        {cell(
          "gross_profit_share",
          row.gross_profit_share,
          percent(row.gross_profit_share, 1),
          "gross profit",
        )}
      </td>
      <td className="num" data-label="contribution">
        {cell("contribution", row.contribution, money(row.contribution, currency), "contribution", true)}
      </td>
      <td className="num" data-label="a minute">
        {cell(
          "per_minute",
          row.per_minute,
          money(row.per_minute, currency),
          "contribution of a minute",
          true,
        )}
      </td>
      <td className="num" data-label="left">
        {row.profit_at_most && <span className="quiet text-xs">at most </span>}
        {cell("profit", row.profit, money(row.profit, currency), "left of it all", true)}
      </td>
    </tr>
  );
}
