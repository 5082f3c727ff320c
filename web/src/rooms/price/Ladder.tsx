// From soup to meal: each serving, what goes with it for nothing, and what a guest may have for a surcharge.

import { Link } from "react-router";
import type { Rung, Selling } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { money, percent } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";

export function Ladder({ selling }: { selling: Selling }) {
  const rungs = selling.ladder;
  const pays = best(rungs);
  return (
    <Panel label="From soup to meal" title="From soup to meal" look="tight" className="mt-3">
      <Table
        caption="Each step from a soup to a meal"
        look="rows"
        heads={[
          "Step",
          { text: "Costs", num: true },
          { text: "Guest pays", num: true },
          { text: "Leaves", num: true },
          { text: "Taken by", num: true },
          { text: "Expected", num: true, note: "of each portion" },
          "Brings",
        ]}
        cards
      >
        {rungs.map((rung, at) => (
          // Steps have no names of their own.
          // biome-ignore lint/suspicious/noArrayIndexKey: see above
          <Step key={at} rung={rung} best={rung === pays} />
        ))}
      </Table>
      <p className="text-sm quiet mt-1">
        Allergens are an aid, not clearance: read the labels.{" "}
        {rungs.every((rung) => rung.kind !== "add_on") && (
          <Link className="link" to={`/cook/${selling.recipe}`}>
            Add what a guest may have for a surcharge, in the pot
          </Link>
        )}
      </p>
    </Panel>
  );
}

function best(rungs: readonly Rung[]): Rung | undefined {
  return rungs
    .filter((rung) => rung.kind === "add_on" && Number(rung.contribution ?? 0) > 0)
    .sort((a, b) => Number(b.expected) - Number(a.expected))[0];
}

function Step({ rung, best }: { rung: Rung; best: boolean }) {
  const currency = useCurrency();
  const serving = rung.kind === "serving";
  const loses = rung.contribution !== null && Number(rung.contribution) < 0;
  return (
    <tr className={serving ? "font-semibold" : ""}>
      <th scope="row" className={`name ${serving ? "" : "font-normal pl-6"}`}>
        {serving ? "" : "+ "}
        {rung.name} {rung.size && <span className="quiet font-normal">{rung.size}</span>}
        {rung.kind === "included" && <span className="quiet text-sm font-normal"> goes with it</span>}
        {best && <span className="text-success text-sm font-normal"> ● pays best</span>}
        {rung.kind === "add_on" && loses && (
          <span className="text-error text-sm font-normal"> ▲ costs more than it brings</span>
        )}
        {rung.short && <span className="block text-error text-sm font-normal">{rung.short}</span>}
        {rung.lack && <span className="block unsure text-sm font-normal whitespace-normal">{rung.lack}</span>}
      </th>
      <td className="num money" data-label="costs">
        {money(rung.cost, currency)}
      </td>
      <td className="num money" data-label="pays">
        {rung.kind === "included" ? <span className="quiet">given</span> : money(rung.price, currency)}
      </td>
      <td className="num money" data-label="leaves">
        {money(rung.contribution, currency)}
      </td>
      <td className="num" data-label="taken by">
        {serving ? "" : percent(rung.uptake)}
      </td>
      <td className="num money" data-label="expected">
        {serving ? "" : money(rung.expected, currency)}
      </td>
      <td className="below whitespace-normal text-sm">
        {rung.brings.join(", ")}
        {rung.unread && <span className="text-error"> ? read the label</span>}
      </td>
    </tr>
  );
}
