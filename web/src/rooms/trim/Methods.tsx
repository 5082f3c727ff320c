// What each school of by-products makes of the same test, side by side.

import { useState } from "react";
import { Link } from "react-router";
import type { MethodOutcome, YieldReply } from "../../api/client";
import { Figure, useCurrency } from "../../parts/Figure";
import { aKilo, day, kilo, money, NOT_KNOWN, perKilo, rounded } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { METHOD_NAMES } from "../../parts/methods";
import { SmallChoice } from "../../parts/Small";

export function Methods({ found }: { found: YieldReply }) {
  const told = found.tests.filter((one) => one.methods.length > 0);
  const [chosen, setChosen] = useState("");
  const row = told.find((one) => one.test.id === chosen) ?? told[0];
  if (!row) return null;
  const ask = (figure: string) => ({ figure: `test/${row.test.id}/${figure}` });
  return (
    <Panel label="By-product methods">
      <div className="flex flex-wrap gap-x-5 items-baseline mb-1">
        <h2 className="font-semibold">What a test makes of the money</h2>
        <SmallChoice
          label="test of"
          value={row.test.id}
          choices={told.map((one) => [one.test.id, day(one.test.on)] as const)}
          set={setChosen}
        />
        <Money ask={ask} row={row} />
      </div>
      <MethodTable
        methods={row.methods}
        inUse={found.method}
        paid={row.money?.paid ?? null}
        item={found.item}
      />
    </Panel>
  );
}

function Money({
  row,
  ask,
}: {
  row: YieldReply["tests"][number];
  ask: (figure: string) => { figure: string };
}) {
  const currency = useCurrency();
  if (!row.money) return null;
  return (
    <>
      <span>
        EP cost{" "}
        <Figure
          ask={ask("usable_per_kg")}
          text={`${money(perKilo(row.money.usable_per_kg), currency)} ${aKilo()}`}
          label={`EP cost of a usable ${kilo()}`}
          className="money"
        />
      </span>
      <span>
        cost factor{" "}
        <Figure
          ask={ask("cost_factor")}
          text={row.money.cost_factor === null ? NOT_KNOWN : rounded(row.money.cost_factor, 3)}
          label="cost factor"
        />
      </span>
    </>
  );
}

interface TableProps {
  methods: MethodOutcome[];
  inUse?: string;
  paid: string | null;
  item?: string;
}

/** The four methods as columns: the usable part, each thing that fell off, and what was paid for all. */
export function MethodTable({ methods, inUse, paid, item }: TableProps) {
  const currency = useCurrency();
  const parts = methods.find((one) => one.parts.length > 0)?.parts ?? [];
  const cell = (method: MethodOutcome, text: string | null | undefined) =>
    method.lack ? "—" : money(text, currency);
  const lack = methods.find((one) => one.lack)?.lack;
  return (
    <>
      <Table
        caption="The cost of the same test by each method"
        look="rows"
        testid="methods"
        heads={[
          { text: "What", unseen: true },
          ...methods.map(({ method }) => ({
            key: method,
            text: METHOD_NAMES[method],
            note: method === inUse && <span className="text-primary">in use</span>,
            num: true,
          })),
        ]}
      >
        <tr>
          <th scope="row">a usable {kilo()}</th>
          {methods.map((one) => (
            <td key={one.method} className="num money">
              {cell(one, perKilo(one.usable_per_kg))}
            </td>
          ))}
        </tr>
        <tr>
          <th scope="row" className="font-normal">
            the usable part bears
          </th>
          {methods.map((one) => (
            <td key={one.method} className="num">
              {cell(one, one.usable_cost)}
            </td>
          ))}
        </tr>
        {parts.map((part, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two parts may be called the same
          <tr key={at}>
            <th scope="row" className="font-normal">
              {part.name} bears
            </th>
            {methods.map((one) => (
              <td key={one.method} className="num">
                {cell(one, one.parts[at]?.cost)}
              </td>
            ))}
          </tr>
        ))}
        <tr className="border-t-2">
          <th scope="row" className="font-normal">
            together, what was paid
          </th>
          {methods.map((one) => (
            <td key={one.method} className="num">
              {cell(one, paid)}
            </td>
          ))}
        </tr>
      </Table>
      {lack && item && (
        <p className="quiet text-sm">
          By market value: {lack}, with the yields of{" "}
          <Link className="link" to={`/buy/${item}`}>
            the item
          </Link>
          .
        </p>
      )}
    </>
  );
}
