// The tests one by one: weights, yield, who and where from; one may be left out, but only with a reason.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refresh } from "../../api/asked";
import { api, inWords, type TestRow, told, type YieldReply } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { Figure } from "../../parts/Figure";
import { aKilo, dayOf, mass, percent, perKilo, trimmed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { Table } from "../../parts/kit/Table";
import { useToast } from "../../parts/Toasts";
import { useSaving } from "../../parts/useSaving";

export function TestsTable({ found }: { found: YieldReply }) {
  return (
    <Panel label="Tests">
      <Table
        caption="Tests with their weights"
        heads={[
          "When, who",
          { text: "Before", num: true },
          { text: "Usable", num: true },
          "Beside it",
          { text: "Unaccounted", num: true },
          { text: `Min ${aKilo()}`, num: true },
          { text: "Yield", num: true },
          { text: "Change", unseen: true },
        ]}
        look="rows"
      >
        {found.tests.map((one) => (
          <Row key={one.test.id} row={one} />
        ))}
      </Table>
    </Panel>
  );
}

function Row({ row }: { row: TestRow }) {
  const { test } = row;
  const kitchen = useKitchen();
  const [asking, setAsking] = useState(false);
  const out = test.left_out != null;
  return (
    <>
      <tr className={out ? "opacity-80" : ""}>
        <th scope="row" className="name font-normal">
          {dayOf(test.on, kitchen.data?.today ?? "")}
          <div className="quiet text-xs">{[test.by, row.supplier].filter(Boolean).join(", ")}</div>
        </th>
        <td className="num">{mass(row.weights.before)}</td>
        <td className="num">{mass(row.weights.after)}</td>
        <td>
          {(test.parts ?? []).map((part) => `${part.name} ${part.mass}`).join(", ")}
          {test.note && <div className="quiet text-xs">{test.note}</div>}
        </td>
        <td className="num">
          <Figure
            ask={{ figure: `test/${test.id}/unaccounted` }}
            text={mass(row.weights.unaccounted)}
            label="unaccounted for"
            stop={false}
          />
          <div className={`text-xs ${row.weights.asks_again ? "text-error" : "quiet"}`}>
            {percent(row.weights.unaccounted_share, 1)}
          </div>
        </td>
        <td className="num">{row.minutes_per_kg == null ? "" : trimmed(perKilo(row.minutes_per_kg), 1)}</td>
        <td className="num">
          <Figure
            ask={{ figure: `test/${test.id}/yield` }}
            text={percent(row.weights.yield, 1)}
            label="yield of this test"
            className={out ? "line-through" : "font-semibold"}
            stop={false}
          />
          {row.outlier && !out && <div className="text-error text-xs">far off</div>}
        </td>
        <td className="text-right">
          {out ? (
            <Count row={row} />
          ) : (
            <button type="button" className="btn btn-xs" onClick={() => setAsking(!asking)}>
              Leave out
            </button>
          )}
        </td>
      </tr>
      {(asking || out) && (
        <tr>
          <td colSpan={8} className="pl-8">
            {out ? (
              <span className="quiet text-sm">left out: {test.left_out}</span>
            ) : (
              <Reason row={row} done={() => setAsking(false)} />
            )}
          </td>
        </tr>
      )}
    </>
  );
}

function useStanding(row: TestRow) {
  const client = useQueryClient();
  return useSaving({
    mutationFn: (left_out: string | null) =>
      told(
        api.PUT("/api/bench-tests/{test_id}/standing", {
          params: { path: { test_id: row.test.id } },
          body: { left_out },
        }),
      ),
    onSuccess: () => refresh(client, "test"),
  });
}

function Count({ row }: { row: TestRow }) {
  const standing = useStanding(row);
  return (
    <button type="button" className="btn btn-xs" onClick={() => standing.mutate(null)}>
      Count it
    </button>
  );
}

function Reason({ row, done }: { row: TestRow; done: () => void }) {
  const [why, setWhy] = useState("");
  const standing = useStanding(row);
  const toast = useToast();
  return (
    <form
      className="flex gap-2 items-center text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        if (why.trim())
          standing.mutate(why.trim(), {
            onSuccess: () => {
              toast("Left out", { undo: () => standing.mutate(null) });
              done();
            },
          });
      }}
    >
      <label className="flex gap-2 items-center grow">
        Why does it not count?
        <input
          className="input input-sm grow"
          // Opened by the person's own action.
          // biome-ignore lint/a11y/noAutofocus: focus follows the person's own action
          autoFocus
          value={why}
          placeholder="e.g. weighed wet, after the storm"
          onChange={(event) => setWhy(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && done()}
        />
      </label>
      <button type="submit" className="btn btn-sm" disabled={!why.trim()}>
        Leave out
      </button>
      {standing.isError && <span className="text-error">{inWords(standing.error)}</span>}
    </form>
  );
}
