// One line of a recipe from paper: what was understood, or what it may mean.

import type { PasteAnswer, PasteLine } from "../../../api/client";

interface Props {
  line: PasteLine;
  answered: boolean;
  answer: (said: Omit<PasteAnswer, "line"> | null) => void;
}

const LONGEST_NAME = 200;
const NOTHING = { item: null, recipe: null, shelf: null, new: null, text: null, left_out: false };

export function PaperLine({ line, answered, answer }: Props) {
  const { typed } = line;
  const say = (said: Partial<PasteAnswer>) => answer({ ...NOTHING, ...said });
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
  if (!line.is_open) {
    const how = typed.line?.preparation;
    return (
      <p className="text-sm py-0.5 flex flex-wrap gap-x-2">
        <span>{typed.line?.quantity}</span>
        <span className="font-semibold">{typed.name}</span>
        <span className="quiet">
          {[
            typed.line?.basis === "EP" ? "ready to use" : "",
            how ? [how].flat().join(", ") : "",
            typed.line?.note ?? "",
          ]
            .filter(Boolean)
            .join(" · ")}
        </span>
        {answered && (
          <button type="button" className="link quiet" onClick={() => answer(null)}>
            ask again
          </button>
        )}
      </p>
    );
  }
  const phrase = typed.unknown;
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
            onClick={() =>
              say(
                one.kind === "item"
                  ? { item: one.id }
                  : one.kind === "recipe"
                    ? { recipe: one.id }
                    : one.kind === "shelf"
                      ? { shelf: one.id }
                      : { text: `${line.text}, ${one.name}` },
              )
            }
          >
            {one.kind === "shelf" ? `new: ${one.name}` : one.name}
          </button>
        ))}
        {phrase && phrase.length <= LONGEST_NAME && (
          <button
            type="button"
            className="btn btn-xs btn-outline"
            onClick={() => say({ new: phrase.charAt(0).toUpperCase() + phrase.slice(1) })}
          >
            a new item "{phrase}"
          </button>
        )}
        <button type="button" className="btn btn-xs" onClick={() => say({ left_out: true })}>
          leave it out
        </button>
      </span>
    </div>
  );
}
