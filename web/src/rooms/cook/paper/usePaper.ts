// What is typed and answered of a recipe from paper, kept in the tab until the pot is saved; and what the server makes of it.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import {
  api,
  type Paste,
  type PasteAnswer,
  type PasteGoods,
  type PasteReply,
  type PortionAnswer,
  told,
} from "../../../api/client";
import { useKeptText } from "../../../parts/kept";

export interface Answers {
  lines: Record<string, PasteAnswer>;
  goods: Record<string, PasteGoods>;
  /** The supplier that was named last: proposed for what is still open. */
  supplier: string;
  /** By what the size of a portion goes, where the paper says two things: of those, and of no others. */
  portion: PortionAnswer | null;
}

const NONE: Answers = { lines: {}, goods: {}, supplier: "", portion: null };

function read(kept: string): Answers {
  try {
    return { ...NONE, ...(JSON.parse(kept) as Partial<Answers>) };
  } catch {
    return NONE;
  }
}

export function usePaper() {
  const [text, setText] = useKeptText("paper/text");
  const [name, setName] = useKeptText("paper/name");
  const [kept, keep] = useKeptText("paper/answers");
  const answers = read(kept);
  const set = (change: Partial<Answers>) => keep(JSON.stringify({ ...answers, ...change }));
  const answer = (line: string, said: Omit<PasteAnswer, "line"> | null) => {
    const { [line]: _, ...others } = answers.lines;
    set({ lines: said ? { ...others, [line]: { line, ...said } } : others });
  };
  const answerAll = (said: Record<string, Omit<PasteAnswer, "line">>) => {
    const added = Object.entries(said).map(([line, one]) => [line, { line, ...one }]);
    set({ lines: { ...answers.lines, ...Object.fromEntries(added) } });
  };
  const tell = (item: string, said: Partial<PasteGoods>) => {
    const was = answers.goods[item] ?? { item, pack: "", price: "", supplier: "", weights: {} };
    const goods = { ...answers.goods, [item]: { ...was, ...said } };
    set(said.supplier !== undefined ? { goods, supplier: said.supplier } : { goods });
  };
  const supplierOf = (item: string, proposed: string) =>
    answers.goods[item]?.supplier || answers.supplier || proposed;
  const answerPortion = (portion: PortionAnswer) => set({ portion });
  const clear = () => {
    setText("");
    setName("");
    keep("");
  };
  const body = useDeferredValue(bodyOf(text, name, answers));
  const found = useQuery({
    queryKey: ["paper", body],
    queryFn: () => told<PasteReply>(api.POST("/api/pasted-recipe", { body })),
    enabled: text.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  return {
    text,
    setText,
    name,
    setName,
    answers,
    answer,
    answerAll,
    tell,
    supplierOf,
    answerPortion,
    clear,
    found,
  };
}

/** What is sent, as it was typed; who was named last is the supplier where none is. */
export function bodyOf(text: string, name: string, answers: Answers): Paste {
  const goods = Object.values(answers.goods).map((one) => ({
    ...one,
    supplier: one.supplier || answers.supplier,
  }));
  return {
    rows: text.split("\n"),
    name: name.trim() || null,
    answers: Object.values(answers.lines),
    goods,
    portion: answers.portion,
  };
}
