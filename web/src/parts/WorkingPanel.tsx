// The working of a figure: formula in words, its numbers, and where each came from; numbers lead on to their own.

import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api, inWords, told, type Working } from "../api/client";
import { type Question, useCurrency } from "./Figure";
import { inUnit } from "./format";
import { Table } from "./kit/Table";

export function WorkingPanel({ question, close }: { question: Question; close: () => void }) {
  const [trail, setTrail] = useState<Question[]>([question]);
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const current = trail[trail.length - 1] ?? question;
  const working = useQuery({
    queryKey: ["working", current],
    queryFn: () =>
      told<Working>(
        api.POST("/api/working", {
          body: { figure: current.figure, recipe: current.recipe ?? null, draft: current.draft ?? null },
        }),
      ),
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const follow = (figure: string, recipe: string | null | undefined) =>
    setTrail([...trail, recipe && recipe !== current.recipe ? { figure, recipe } : { ...current, figure }]);
  return (
    <dialog ref={dialog} className="modal modal-end" onClose={close} aria-label="Working">
      <div className="modal-box max-w-lg w-full rounded-none p-5">
        <div className="flex items-center justify-between mb-3">
          <button
            type="button"
            className="btn btn-sm"
            disabled={trail.length < 2}
            onClick={() => setTrail(trail.slice(0, -1))}
          >
            ← Back
          </button>
          <form method="dialog">
            <button className="btn btn-sm" type="submit">
              Close <kbd>Esc</kbd>
            </button>
          </form>
        </div>
        {working.isPending && <p>Working it out …</p>}
        {working.isError && <p role="alert">{inWords(working.error)}</p>}
        {working.data && <Body working={working.data} follow={follow} close={close} />}
      </div>
      <form method="dialog" className="modal-backdrop">
        <button type="submit" tabIndex={-1}>
          close
        </button>
      </form>
    </dialog>
  );
}

/** Where a fact can be seen: the supplier's list that a price was read from, and the prices of the item. */
function Ground({ input, close }: { input: NonNullable<Working["inputs"]>[number]; close: () => void }) {
  if (input.list == null && (input.offer == null || input.item == null)) return null;
  return (
    <span className="whitespace-nowrap">
      {input.list != null && (
        <Link className="link" to={`/buy/lists/${input.list}`} onClick={close}>
          the list
        </Link>
      )}
      {input.list != null && input.item != null && ", "}
      {input.offer != null && input.item != null && (
        <Link className="link" to={`/buy/${input.item}`} onClick={close}>
          its prices
        </Link>
      )}
    </span>
  );
}

function Body({
  working,
  follow,
  close,
}: {
  working: Working;
  follow: (figure: string, recipe: string | null | undefined) => void;
  close: () => void;
}) {
  const currency = useCurrency();
  return (
    <>
      <h2 className="text-lg font-semibold">{working.title}</h2>
      <p className="text-3xl money my-2" data-testid="working-value">
        {working.at_least && working.value !== null && <span className="text-lg quiet">at least </span>}
        {inUnit(working.value, working.unit, currency)}
      </p>
      <p className="border-l-4 border-primary pl-3 my-3">= {working.formula}</p>
      <Table
        caption="The numbers of the formula"
        heads={["Number", { text: "Value", num: true }]}
        look="rows"
      >
        {(working.inputs ?? []).map((input, place) => (
          // The order of the inputs is fixed for one working.
          // biome-ignore lint/suspicious/noArrayIndexKey: inputs have no other name
          <tr key={place}>
            <td>
              {input.figure ? (
                <button
                  type="button"
                  className="link text-left"
                  onClick={() => follow(input.figure ?? "", input.recipe)}
                >
                  {input.name}
                </button>
              ) : (
                input.name
              )}
              <div className="quiet text-xs">
                {input.source} <Ground input={input} close={close} />
              </div>
            </td>
            <td className={`num align-top ${input.unit.startsWith("money") ? "money" : ""}`}>
              {inUnit(input.value, input.unit, currency)}
            </td>
          </tr>
        ))}
      </Table>
      {working.note && <p className="mt-3">{working.note}</p>}
    </>
  );
}
