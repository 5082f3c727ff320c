// One line of a recipe from paper: what was understood, or what it may mean.

import { type FormEvent, useState } from "react";
import { type Candidate, inWords, type PasteAnswer, type PasteLine } from "../../../api/client";
import { KindChoice } from "../../../parts/KindChoice";
import { called } from "../../../parts/MissingTable";
import { useMakeBase } from "../../../parts/makeBase";
import { useSaving } from "../../../parts/useSaving";
import { answerOf, capital, type Said } from "./answers";

interface Props {
  line: PasteLine;
  said: PasteAnswer | undefined;
  answer: (said: Said | null) => void;
}

const LONGEST_NAME = 200;

export function PaperLine({ line, said, answer }: Props) {
  if (line.left_out) {
    return (
      <p className="text-sm py-0.5">
        <s>{line.text}</s> <span className="quiet">left out, kept as a note</span>{" "}
        <button type="button" className="link quiet" onClick={() => answer(null)}>
          take it in
        </button>
      </p>
    );
  }
  return line.is_open ? (
    <Question line={line} said={said} answer={answer} />
  ) : (
    <Understood line={line} said={said} answer={answer} />
  );
}

function Understood({ line, said, answer }: Props) {
  const { typed } = line;
  const how = typed.line?.preparation;
  const covers = typed.covers ?? [];
  const asides = [
    typed.line?.basis === "EP" ? "ready to use" : "",
    how ? [how].flat().join(", ") : "",
    typed.line?.by_eye ? `to ${typed.line.by_eye}, by eye` : "",
    typed.line?.note ?? "",
    typed.by_target ? "to taste: weighed by the target once every line is known" : "",
    covers.length > 0
      ? `${typed.line || typed.by_target ? `${covers.join(", ")} ` : ""}to taste: nothing is put in, the seasoning allowance stands for it`
      : "",
  ];
  return (
    <p className="text-sm py-0.5 flex flex-wrap gap-x-2">
      <span>{typed.line?.quantity}</span>
      <span className="font-semibold">{typed.name}</span>
      <span className="quiet">{asides.filter(Boolean).join(" · ")}</span>
      {said && (
        <button type="button" className="link quiet" onClick={() => answer(null)}>
          ask again
        </button>
      )}
    </p>
  );
}

function Question({ line, said, answer }: Props) {
  const { typed } = line;
  const [kind, setKind] = useState("not known");
  const written = said?.text ?? line.text;
  const [again, setAgain] = useState(written);
  const phrase = typed.unknown && typed.unknown.length <= LONGEST_NAME ? typed.unknown : null;
  const makeBase = useMakeBase();
  const make = useSaving({
    mutationFn: (one: Candidate) => makeBase(one.id, one.name),
    onSuccess: (recipe) => answer(answerOf({ recipe }, said)),
  });
  const take = (one: Candidate) => {
    if (one.kind === "base") make.mutate(one);
    else if (one.kind === "preparation") answer(answerOf({ text: `${written}, ${one.name}` }));
    else answer(answerOf({ [one.kind]: one.id }, said));
  };
  const rewrite = (event: FormEvent) => {
    event.preventDefault();
    if (again.trim() && again.trim() !== written) answer(answerOf({ text: again.trim() }));
  };
  return (
    <div className="text-sm py-1 border-l-4 border-error pl-2 my-1">
      <p>
        <span className="font-semibold">{line.text}</span>{" "}
        <span className="text-error">? {typed.problem}</span>
      </p>
      <span className="flex flex-wrap gap-2 items-center mt-1">
        {(typed.candidates ?? []).map((one) => (
          <button
            key={`${one.kind}-${one.id}`}
            type="button"
            className={`btn btn-xs ${one.kind === "shelf" ? "btn-outline" : ""}`}
            disabled={make.isPending}
            onClick={() => take(one)}
          >
            {called(one)}
          </button>
        ))}
        {phrase && (
          <>
            <button
              type="button"
              className="btn btn-xs btn-outline"
              onClick={() => answer(answerOf({ new: capital(phrase), kind }, said))}
            >
              a new item "{phrase}"
            </button>
            <KindChoice what={phrase} kind={kind} choose={setKind} />
          </>
        )}
        <button type="button" className="btn btn-xs" onClick={() => answer(answerOf({ left_out: true }))}>
          leave it out
        </button>
        <form onSubmit={rewrite} className="flex items-center gap-1">
          <span className="quiet">or write it otherwise</span>
          <input
            className="cell-input w-56"
            aria-label={`Write "${line.text}" otherwise`}
            value={again}
            onChange={(event) => setAgain(event.target.value)}
          />
        </form>
      </span>
      {make.isError && (
        <p role="alert" className="text-error">
          {inWords(make.error)}
        </p>
      )}
    </div>
  );
}
