// Which lines of a list to show: those that wait for a person, all, or those of one state.

import type { ReviewReply } from "../../../api/client";
import { ORDER, STATES } from "./states";
import type { Show } from "./useReview";

interface Props {
  head: ReviewReply;
  show: Show;
  setShow: (show: Show) => void;
  waiting: number;
}

export function StateTabs({ head, show, setShow, waiting }: Props) {
  const credit = head.row.kind === "credit_note";
  const tabs: [Show, string][] = [];
  if (waiting > 0 && head.row.state !== "recorded") tabs.push(["open", `for you ${waiting}`]);
  tabs.push(["all", `all ${head.total}`]);
  for (const state of ORDER) {
    const count = head.counts[state];
    const words = credit && state === "same" ? "credited" : STATES[state].text;
    if (count) tabs.push([state, `${words} ${count}`]);
  }
  return (
    <fieldset className="flex flex-wrap gap-1">
      <legend className="sr-only">Which lines to show</legend>
      {tabs.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={show === key}
          className={`btn btn-xs ${show === key ? "btn-primary" : ""}`}
          onClick={() => setShow(key)}
        >
          {words}
        </button>
      ))}
    </fieldset>
  );
}
