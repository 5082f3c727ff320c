// Practice: kitchen arithmetic with the kitchen's own yields and prices; marked, explained, and kept score of.

import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Exercise, inWords, type MarkedReply, type PracticeReply, told } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { inUnit, trimmed } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Table } from "../../parts/kit/Table";
import { lastCook, rememberCook } from "./sheet";
import { ToBook } from "./ToBook";

type Kind = Exercise["kind"];
const PRACTICE = queryOptions({
  queryKey: ["practice"],
  queryFn: () => told<PracticeReply>(api.GET("/api/practice")),
});
const seedNow = () => (crypto.getRandomValues(new Uint32Array(1))[0] ?? 1) >>> 2;

export function PracticeRoom() {
  const found = useQuery(PRACTICE);
  const [kind, setKind] = useState<Kind>("edible");
  const [seed, setSeed] = useState(seedNow);
  const [cook, setCook] = useState(lastCook);
  if (found.isPending) return <p>Writing the sheet …</p>;
  if (found.isLoadingError) return <p role="alert">{inWords(found.error)}</p>;
  const { topics, scores } = found.data;
  const mine = scores.filter((one) => one.cook === (cook.trim() || "the kitchen"));
  return (
    <>
      <ToBook />
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">Practice</h1>
        <label className="flex items-center gap-2 text-sm">
          cook
          <input
            className="input input-sm w-36"
            placeholder="your name"
            value={cook}
            onChange={(event) => {
              setCook(event.target.value);
              rememberCook(event.target.value.trim());
            }}
          />
        </label>
        <span className="quiet text-sm">
          The yields and prices are the kitchen's own; the weights are invented.
        </span>
      </div>
      <div className="grid grid-cols-[18rem_minmax(0,1fr)] max-md:grid-cols-[minmax(0,1fr)] gap-4 items-start">
        <nav className="sheet p-2" aria-label="Kinds of question">
          {topics.map((topic) => {
            const score = mine.find((one) => one.kind === topic.kind);
            return (
              <button
                key={topic.kind}
                type="button"
                className={`w-full text-left px-3 py-2 rounded flex justify-between gap-2 ${topic.kind === kind ? "bg-primary text-primary-content" : "hover:bg-base-200"}`}
                aria-pressed={topic.kind === kind}
                onClick={() => {
                  setKind(topic.kind);
                  setSeed(seedNow());
                }}
              >
                <span>{topic.title}</span>
                <span className="num">{score ? `${score.right} of ${score.asked}` : "–"}</span>
              </button>
            );
          })}
          <Others scores={scores} me={cook.trim() || "the kitchen"} />
        </nav>
        <Question
          key={`${kind}/${seed}`}
          kind={kind}
          seed={seed}
          cook={cook.trim() || "the kitchen"}
          another={() => setSeed(seedNow())}
        />
      </div>
    </>
  );
}

/** How the other cooks did, all kinds together. */
function Others({ scores, me }: { scores: PracticeReply["scores"]; me: string }) {
  const cooks = [...new Set(scores.map((one) => one.cook))].filter((one) => one !== me);
  if (cooks.length === 0) return null;
  return (
    <div className="border-t border-base-300 mt-2 pt-2 px-3 text-sm">
      {cooks.map((cook) => {
        const all = scores.filter((one) => one.cook === cook);
        const sum = (key: "right" | "asked") => all.reduce((total, one) => total + one[key], 0);
        return (
          <p key={cook} className="flex justify-between">
            <span>{cook}</span>
            <span>
              {sum("right")} of {sum("asked")}
            </span>
          </p>
        );
      })}
    </div>
  );
}

interface QuestionProps {
  kind: Kind;
  seed: number;
  cook: string;
  another: () => void;
}

function Question({ kind, seed, cook, another }: QuestionProps) {
  const path = { kind, seed };
  const currency = useCurrency();
  const client = useQueryClient();
  const [answer, setAnswer] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const next = useRef<HTMLButtonElement>(null);
  const asked = useQuery({
    queryKey: ["practice", kind, seed],
    queryFn: () => told<Exercise>(api.GET("/api/practice/{kind}/{seed}", { params: { path } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const mark = useMutation({
    mutationFn: (given: string) =>
      told<MarkedReply>(
        api.POST("/api/practice/{kind}/{seed}", {
          params: { path },
          body: { answer: given, question: asked.data?.question ?? "", by: cook },
        }),
      ),
    onSuccess: ({ scores }) => {
      client.setQueryData<PracticeReply>(PRACTICE.queryKey, (old) => (old ? { ...old, scores } : old));
    },
  });
  const ready = asked.data !== undefined;
  useEffect(() => {
    if (ready) field.current?.focus();
  }, [ready]);
  const marked = mark.data?.marked;
  useEffect(() => {
    if (marked) next.current?.focus();
  }, [marked]);
  useKeys({ n: another });
  if (asked.isPending) return <p>Thinking of one …</p>;
  if (asked.isLoadingError)
    return (
      <p role="alert" className="sheet p-6">
        {inWords(asked.error)}
      </p>
    );
  const { question, given, unit, title } = asked.data;
  return (
    <section className="sheet p-6 max-w-2xl" aria-label={title}>
      <h2 className="font-semibold">{title}</h2>
      <p className="text-lg my-3">{question}</p>
      <Table caption="The numbers to work with" heads={[]} look="plain" className="mb-4">
        {given.map((one) => (
          <tr key={one.name}>
            <th scope="row" className="font-normal text-left pr-6 quiet">
              {one.name}
            </th>
            <td className="num">{one.value}</td>
          </tr>
        ))}
      </Table>
      <form
        className="flex gap-2 items-center"
        onSubmit={(event) => {
          event.preventDefault();
          if (answer.trim() && !marked) mark.mutate(answer);
        }}
      >
        <label className="flex gap-2 items-center">
          Answer
          <input
            ref={field}
            className="input h-11 w-36 text-right text-lg"
            inputMode="decimal"
            readOnly={marked !== undefined}
            value={answer}
            onChange={(event) => setAnswer(event.target.value)}
          />
          {unit === "money/kg" ? "a kilo" : unit === "money" ? currency : unit}
        </label>
        {marked ? (
          <button type="button" ref={next} className="btn btn-primary h-11" onClick={another}>
            Another <kbd className="text-base-content">N</kbd>
          </button>
        ) : (
          <button type="submit" className="btn btn-primary h-11" disabled={!answer.trim() || mark.isPending}>
            Check <kbd className="text-base-content">Enter</kbd>
          </button>
        )}
      </form>
      {mark.isError && (
        <p role="alert" className="text-error mt-2">
          {inWords(mark.error)}{" "}
          <button type="button" className="link" onClick={another}>
            Take another question
          </button>
        </p>
      )}
      {marked && <Explained marked={marked} />}
    </section>
  );
}

function Explained({ marked }: { marked: MarkedReply["marked"] }) {
  const currency = useCurrency();
  // Four places of money, so that what is shown of the way adds up to the answer.
  const shown = (value: string | null | undefined, unit: string) =>
    value != null && unit.startsWith("money")
      ? `${trimmed(value, 4)}${unit === "money" ? "" : " a kilo"}`
      : inUnit(value, unit, currency);
  const number = (text: string) => `${trimmed(text, 3)}${marked.unit === "%" ? "%" : ""}`;
  return (
    <div className="mt-4" aria-live="polite">
      <p
        className={`text-xl font-semibold ${marked.right ? "text-success" : "text-error"}`}
        data-testid="marked"
      >
        {marked.right ? "✓ Right" : `✗ Not yet: it is ${number(marked.expected)}`}
        {marked.unit === "kg" && !marked.right && " kg"}
      </p>
      <ol className="mt-2 grid gap-3">
        {marked.workings.map((working) => (
          <li key={working.figure} className="border-l-4 border-primary pl-3">
            <strong>{working.title}</strong> = {working.formula} ={" "}
            <span className={working.unit.startsWith("money") ? "money" : "font-semibold"}>
              {shown(working.value, working.unit)}
            </span>
            <div className="quiet text-sm">
              {(working.inputs ?? [])
                .map((input) => `${input.name} ${shown(input.value, input.unit)}`)
                .join(" · ")}
            </div>
          </li>
        ))}
      </ol>
    </div>
  );
}
