// All that a recipe from paper names and the kitchen does not have, in one table: taken together, with one key.

import { useState } from "react";
import type { PasteAnswer, PasteLine } from "../../../api/client";
import { KindChoice } from "../../../parts/KindChoice";
import { Panel } from "../../../parts/kit/Panel";
import { Table } from "../../../parts/kit/Table";
import { answerOf, capital, type Said } from "./answers";

interface Props {
  lines: PasteLine[];
  answered: Record<string, PasteAnswer>;
  answerAll: (said: Record<string, Said>) => void;
}

const NEW = "new";

export function MissingTable({ lines, answered, answerAll }: Props) {
  const missing = lines.filter((one) => one.is_open && one.typed.unknown);
  // By line: what somebody chose, "" where they took back what was proposed.
  const [chosen, choose] = useState<Record<string, string>>({});
  const [kinds, setKinds] = useState<Record<string, string>>({});
  if (missing.length < 2) return null;
  const choiceOf = (one: PasteLine) => chosen[one.key] ?? (one.typed.only ? `shelf:${one.typed.only}` : "");
  const right = missing.filter((one) => choiceOf(one) !== "");
  const take = () =>
    answerAll(
      Object.fromEntries(
        right.map((one) => {
          const [way, id = ""] = choiceOf(one).split(":");
          const phrase = capital(one.typed.unknown ?? "");
          const said =
            way === NEW ? { new: phrase, kind: kinds[one.key] ?? "not known" } : { [way as "item"]: id };
          return [one.key, answerOf(said, answered[one.key])];
        }),
      ),
    );
  return (
    <Panel label="What the kitchen does not have" title="Not in the kitchen yet" look="tight">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <Table
          caption="What the kitchen does not have"
          look="plain"
          heads={["Line", "It is", "Allergens to read for"].map((text) => ({ text, className: "text-left" }))}
        >
          {missing.map((one) => {
            const now = choiceOf(one);
            const found = (one.typed.candidates ?? []).find((each) => `${each.kind}:${each.id}` === now);
            return (
              <tr key={one.key}>
                <th scope="row" className="font-normal text-left pr-3">
                  {one.text}
                </th>
                <td className="flex flex-wrap gap-2">
                  <select
                    className="cell-input"
                    aria-label={`What "${one.typed.unknown}" is`}
                    value={now}
                    onChange={(event) => choose({ ...chosen, [one.key]: event.target.value })}
                  >
                    <option value="">choose …</option>
                    {(one.typed.candidates ?? []).map((each) => (
                      <option key={`${each.kind}:${each.id}`} value={`${each.kind}:${each.id}`}>
                        {each.kind === "shelf" ? `new: ${each.name}` : each.name}
                      </option>
                    ))}
                    <option value={NEW}>new, nothing known of it: {one.typed.unknown}</option>
                  </select>
                  {now === NEW && (
                    <KindChoice
                      what={one.typed.unknown ?? ""}
                      kind={kinds[one.key] ?? "not known"}
                      choose={(kind) => setKinds({ ...kinds, [one.key]: kind })}
                    />
                  )}
                </td>
                <td className="quiet text-sm">{found?.allergens?.join(", ")}</td>
              </tr>
            );
          })}
        </Table>
        <button type="submit" className="btn btn-sm btn-primary mt-2" disabled={right.length === 0}>
          {right.length === missing.length ? "Take all" : "Take these"} {right.length > 0 && right.length}{" "}
          <kbd className="text-base-content">Enter</kbd>
        </button>
        <span className="quiet text-sm ml-3">
          {right.length < missing.length && `${missing.length - right.length} left to choose`}
        </span>
      </form>
    </Panel>
  );
}
