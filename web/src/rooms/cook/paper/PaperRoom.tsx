// A recipe from paper: pasted or typed whole, every line understood or asked about, saved together or not at all.

import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { refresh } from "../../../api/asked";
import {
  type AskedPortion,
  api,
  inWords,
  type PasteReply,
  type PasteSaved,
  type PortionAnswer,
  told,
} from "../../../api/client";
import { useKitchen } from "../../../api/kitchen";
import { useCurrency } from "../../../parts/Figure";
import { mass, money, trimmed, volume } from "../../../parts/format";
import { useKeys } from "../../../parts/keys";
import { Panel } from "../../../parts/kit/Panel";
import { MissingTable, type Taken } from "../../../parts/MissingTable";
import { useMakeBase } from "../../../parts/makeBase";
import { useToast } from "../../../parts/Toasts";
import { useSaving } from "../../../parts/useSaving";
import { summary } from "../StageDetails";
import { AskedGoodsTable } from "./AskedGoodsTable";
import { answerOf, capital, type Said } from "./answers";
import { FromFile, isForeign, useForeign } from "./FromFile";
import { PaperLine } from "./PaperLine";
import { bodyOf, usePaper } from "./usePaper";

const HINT = `Leek & potato soup

Sweat 12 min:
2.5 kg leeks, trimmed and sliced
500 g onions, diced
150 g butter

Simmer 30 min:
2.5 kg potatoes, peeled
6 l vegetable stock`;

export function PaperRoom() {
  const paper = usePaper();
  const paperField = useRef<HTMLTextAreaElement>(null);
  useEffect(() => paperField.current?.focus(), []);
  const { text, name, answers, found } = paper;
  const [aside, setAside] = useState<readonly string[]>([]);
  const put = (written: string, left: readonly string[] = []) => {
    paper.setText(written);
    paper.setName("");
    setAside(left);
  };
  const foreign = useForeign((recipe) => put(recipe.text, recipe.aside));
  const kitchen = useKitchen();
  const client = useQueryClient();
  const navigate = useNavigate();
  const toast = useToast();
  const reply = text.trim() ? found.data : undefined;
  const save = useSaving({
    mutationFn: () =>
      told<PasteSaved>(api.POST("/api/pasted-recipe/save", { body: bodyOf(text, name, answers) })),
    onSuccess: async (saved) => {
      paper.clear();
      await refresh(client, "item", "price", "recipe", "supplier");
      const parts = [
        saved.items > 0 ? `${saved.items} new ${saved.items === 1 ? "item" : "items"}` : "",
        saved.prices > 0 ? `${saved.prices} ${saved.prices === 1 ? "price" : "prices"}` : "",
      ].filter(Boolean);
      toast(`Put on${parts.length > 0 ? `, with ${parts.join(" and ")}` : ""}`);
      navigate(`/cook/${saved.recipe}`);
    },
  });
  const wrong = reply?.goods.some((one) => one.problem) ?? false;
  const ready =
    reply !== undefined &&
    reply.open === 0 &&
    !wrong &&
    reply.lines.some((one) => !one.left_out) &&
    !save.isPending;
  useKeys({ "Ctrl+s": () => ready && save.mutate() });
  return (
    <>
      <div className="flex flex-wrap items-center gap-4 mb-3">
        <h1 className="text-xl font-semibold">A soup from paper</h1>
        <input
          className="cell-input font-semibold text-lg w-80"
          aria-label="What it is called"
          placeholder={reply?.recipe.name ?? "its name"}
          value={name}
          onChange={(event) => paper.setName(event.target.value)}
        />
        <span className="ml-auto flex gap-2">
          <Link className="btn btn-sm" to="/cook">
            All recipes
          </Link>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!ready}
            onClick={() => save.mutate()}
          >
            {save.isPending ? "Putting it on …" : "Put it on"} <kbd className="text-base-content">Ctrl S</kbd>
          </button>
        </span>
      </div>
      {save.isError && (
        <p role="alert" className="text-error mb-2">
          {inWords(save.error)}
        </p>
      )}
      <div className="grid gap-3 grid-cols-1 lg:grid-cols-[minmax(18rem,24rem)_1fr] items-start">
        <Panel label="The paper" title="As it stands on paper" look="tight">
          <textarea
            className="textarea w-full h-[26rem] font-[inherit] leading-snug"
            aria-label="The recipe, line by line"
            ref={paperField}
            placeholder={HINT}
            value={text}
            onChange={(event) => {
              const written = event.target.value;
              // A page's source or a file's text, pasted: what it holds is put down in its place.
              if (isForeign(written)) foreign.read.mutate(written);
              else paper.setText(written);
            }}
          />
          <p className="quiet text-sm mt-2">
            A line each; "For the roast:" or "Simmer 30 min" begins a pot. Sentences do what they say: "simmer
            8 hours, no lid", "strain", "reduce by half". "Makes 6 l" and "Serves 12" count.
          </p>
          <FromFile foreign={foreign} setText={put} aside={aside} />
        </Panel>
        <div className="flex flex-col gap-3">
          {found.isError && text.trim() && (
            <p role="alert" className="text-error">
              {inWords(found.error)}
            </p>
          )}
          {!reply && !found.isError && (
            <p className="quiet">Paste or type it on the left: nothing is saved before you say so.</p>
          )}
          {reply && (
            <>
              <Sum reply={reply} />
              {reply.portion && <Portion portion={reply.portion} answer={paper.answerPortion} />}
              <Missing reply={reply} answered={answers.lines} answerAll={paper.answerAll} />
              <Asked reply={reply} />
              <AskedGoodsTable
                goods={reply.goods}
                told={answers.goods}
                tell={paper.tell}
                supplierOf={paper.supplierOf}
                suppliers={kitchen.data?.suppliers ?? []}
              />
              <Lines reply={reply} answer={paper.answer} answered={answers.lines} />
            </>
          )}
        </div>
      </div>
    </>
  );
}

interface MissingProps {
  reply: PasteReply;
  answered: ReturnType<typeof usePaper>["answers"]["lines"];
  answerAll: ReturnType<typeof usePaper>["answerAll"];
}

/** What several lines name and the kitchen does not have, to be taken together. */
function Missing({ reply, answered, answerAll }: MissingProps) {
  const things = reply.lines.flatMap(({ key, text, typed, is_open }) =>
    is_open && typed.unknown
      ? [
          {
            key,
            text,
            name: capital(typed.unknown),
            only: typed.only ?? null,
            candidates: typed.candidates ?? [],
          },
        ]
      : [],
  );
  const makeBase = useMakeBase();
  const take = useSaving({
    mutationFn: async (taken: Taken[]) => {
      const said: Record<string, Said> = {};
      // Two lines may name one stock: it is made once.
      const made = new Map<string, string>();
      for (const { key, as, id, name, kind } of taken) {
        if (as === "base" && !made.has(id)) made.set(id, await makeBase(id, name));
        const recipe = as === "base" ? made.get(id) : undefined;
        const what = recipe ? { recipe } : as === "new" ? { new: name, kind } : { [as]: id };
        said[key] = answerOf(what, answered[key]);
      }
      answerAll(said);
    },
  });
  if (things.length < 2) return null;
  return (
    <>
      <MissingTable things={things} take={take.mutate} busy={take.isPending} />
      {take.isError && (
        <p role="alert" className="text-error">
          {inWords(take.error)}
        </p>
      )}
    </>
  );
}

function Sum({ reply }: { reply: PasteReply }) {
  const currency = useCurrency();
  const { batch, complete, servings } = reply.sheet;
  const portion = servings[0];
  const waiting = reply.lines.filter((one) => one.is_open).length;
  const bound = complete && reply.open === 0 ? "" : "at least ";
  return (
    <p className="sheet p-3 flex flex-wrap gap-x-6 items-baseline" aria-live="polite">
      <span className={reply.open > 0 ? "text-error font-semibold" : "font-semibold"}>
        {reply.open === 0
          ? "every line is understood"
          : waiting > 0
            ? `? ${waiting} ${waiting === 1 ? "line waits" : "lines wait"} for an answer`
            : "? the size of a portion waits for an answer"}
      </span>
      <span>
        {volume(batch.volume_ml)} · {mass(batch.mass_g)}
        {batch.basis === "written" && (
          <span className="quiet"> as written; the pot reckons {mass(batch.computed_g)}</span>
        )}
      </span>
      <span>
        food cost {bound}
        <span className="money font-semibold">{money(batch.food_cost, currency)}</span>
      </span>
      {portion?.food_cost && (
        <span>
          a bowl of {reply.recipe.servings[0]?.size} {bound}
          <span className="money font-semibold">{money(portion.food_cost, currency)}</span>
        </span>
      )}
      {!complete && reply.open === 0 && (
        <span className="quiet">some prices or weights are not known yet</span>
      )}
    </p>
  );
}

interface PortionProps {
  portion: AskedPortion;
  answer: (said: PortionAnswer) => void;
}

/** How many portions the paper says there are, and how large that makes each; asked where it says two things. */
function Portion({ portion, answer }: PortionProps) {
  const { portions, said } = portion;
  const many = `${trimmed(portion.portions, 1)} portions`;
  if (portion.size === null && said === null)
    return (
      <p className="quiet text-sm">
        {many}: how large each is shows once every line and its weight is known; until then the pot has no
        serving.
      </p>
    );
  if (said === null)
    return (
      <p className="quiet text-sm">
        {many}, as the paper says: {portion.size} each.
      </p>
    );
  if (portion.size === null && portion.by === "size")
    return (
      <p className="quiet text-sm">
        {many} of {said}, as the paper says: whether the pot makes as many shows once every line and its
        weight is known.
      </p>
    );
  return (
    <p className="flex flex-wrap gap-2 items-baseline" role={portion.by === null ? "alert" : undefined}>
      <span className={portion.by === null ? "text-error font-semibold" : "quiet"}>
        {portion.by === null && "? "}
        {portion.size === null
          ? `${many} of ${said}, as the paper says.`
          : `${many} of this pot are ${portion.size} each; the paper says ${said}.`}
      </span>
      {(["size", "count"] as const).map((by) => (
        <button
          key={by}
          type="button"
          className="btn btn-xs"
          aria-pressed={portion.by === by}
          onClick={() => answer({ portions, said, by })}
        >
          {by === "size" ? `${said} each` : many}
        </button>
      ))}
    </p>
  );
}

/** What the pot asks: saved with it, and answered there. */
function Asked({ reply }: { reply: PasteReply }) {
  const told = reply.sheet.warnings.filter((one) =>
    ["asked", "written_is_far"].includes(one.message_code ?? ""),
  );
  const nameOf = (id: string | null | undefined) => reply.recipe.stages.find((one) => one.id === id)?.name;
  if (told.length === 0) return null;
  return (
    <Panel label="What the pot asks" title="To answer in the pot" look="tight">
      <ul className="text-sm">
        {told.map((one) => (
          <li key={`${one.stage} ${one.message}`}>
            {nameOf(one.stage) && <b>{nameOf(one.stage)}: </b>}
            {one.message.replace("to answer: ", "")}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

interface LinesProps {
  reply: PasteReply;
  answer: ReturnType<typeof usePaper>["answer"];
  answered: ReturnType<typeof usePaper>["answers"]["lines"];
}

function Lines({ reply, answer, answered }: LinesProps) {
  return (
    <Panel label="As it was understood" title="As it was understood" look="tight">
      {reply.recipe.stages.map((stage, place) => (
        <section key={stage.id} className="mb-2" aria-label={stage.name ?? stage.id}>
          <h3 className="font-semibold">
            {stage.name}{" "}
            <span className="quiet text-sm font-normal">
              {summary(stage, reply.recipe)}
              {stage.take_out.length > 0 && ` · out: ${stage.take_out.map((one) => one.name).join(", ")}`}
            </span>
          </h3>
          {reply.lines
            .filter((line) => line.stage === place)
            .map((line) => (
              <PaperLine
                key={line.key}
                line={line}
                said={answered[line.key]}
                answer={(said) => answer(line.key, said)}
              />
            ))}
          {stage.note && <p className="quiet text-sm whitespace-pre-line">{stage.note}</p>}
        </section>
      ))}
    </Panel>
  );
}
