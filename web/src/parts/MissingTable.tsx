// All that something names and the kitchen does not have, in one table: taken together, with one key.

import { useState } from "react";
import type { Candidate } from "../api/client";
import { KindChoice } from "./KindChoice";
import { Panel } from "./kit/Panel";
import { Table } from "./kit/Table";
import { makeIt } from "./makeBase";

/** A thing that is missing: what stands there, what it would be called, what alone it can be, and all that it may be. */
export interface MissingThing {
  key: string;
  text: string;
  name: string;
  only: string | null;
  candidates: readonly Candidate[];
}

/** What somebody says that it is: one of the candidates, or new and of a kind. */
export interface Taken {
  key: string;
  as: Candidate["kind"] | "new";
  id: string;
  name: string;
  kind: string;
}

interface Props {
  things: readonly MissingThing[];
  take: (taken: Taken[]) => void;
  busy?: boolean;
  title?: string;
}

const NEW = "new";
/** How a candidate is offered: what is not there yet says so. */
export function called(one: Candidate): string {
  if (one.kind === "base") return makeIt(one.name);
  return one.kind === "shelf" ? `new: ${one.name}` : one.name;
}

const wayOf = (one: Candidate) => `${one.kind}:${one.id}`;

export function MissingTable({ things, take, busy = false, title = "Not in the kitchen yet" }: Props) {
  // By thing: what somebody chose, "" where they took back what was proposed.
  const [chosen, choose] = useState<Record<string, string>>({});
  const [kinds, setKinds] = useState<Record<string, string>>({});
  const choiceOf = (one: MissingThing) => chosen[one.key] ?? (one.only ? `shelf:${one.only}` : "");
  const right = things.filter((one) => choiceOf(one) !== "");
  const left = things.length - right.length;
  const taken = right.map((one): Taken => {
    const [as, id = ""] = choiceOf(one).split(":");
    return { key: one.key, as: as as Taken["as"], id, name: one.name, kind: kinds[one.key] ?? "not known" };
  });
  return (
    <Panel label="What the kitchen does not have" title={title} look="tight">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (taken.length > 0 && !busy) take(taken);
        }}
      >
        <Table
          caption="What the kitchen does not have"
          look="plain"
          cards
          heads={["What stands there", "It is", "Allergens to read for"].map((text) => ({
            text,
            className: "text-left pr-3",
          }))}
        >
          {things.map((one) => {
            const now = choiceOf(one);
            const found = one.candidates.find((each) => wayOf(each) === now);
            return (
              <tr key={one.key}>
                <th scope="row" className="below font-normal text-left pr-3 [overflow-wrap:anywhere]">
                  {one.text}
                </th>
                <td className="below">
                  <span className="flex flex-wrap gap-x-2">
                    <select
                      className="cell-input max-w-64"
                      aria-label={`What "${one.name}" is`}
                      value={now}
                      onChange={(event) => choose({ ...chosen, [one.key]: event.target.value })}
                    >
                      <option value="">choose …</option>
                      {one.candidates.map((each) => (
                        <option key={wayOf(each)} value={wayOf(each)}>
                          {called(each)}
                        </option>
                      ))}
                      <option value={NEW}>new, nothing known of it: {one.name}</option>
                    </select>
                    {now === NEW && (
                      <KindChoice
                        what={one.name}
                        kind={kinds[one.key] ?? "not known"}
                        choose={(kind) => setKinds({ ...kinds, [one.key]: kind })}
                      />
                    )}
                  </span>
                </td>
                <td className="below quiet text-sm">{found?.allergens?.join(", ")}</td>
              </tr>
            );
          })}
        </Table>
        <button type="submit" className="btn btn-sm btn-primary mt-2" disabled={right.length === 0 || busy}>
          {left === 0 ? "Take all" : "Take these"} {right.length > 0 && right.length}{" "}
          <kbd className="text-base-content">Enter</kbd>
        </button>
        <span className="quiet text-sm ml-3">{left > 0 && `${left} left to choose`}</span>
      </form>
    </Panel>
  );
}
