// Which lines of a list to show: those that wait for a person, all, or those of one state.

import type { ReviewReply } from "../../../api/client";
import { Tabs } from "../../../parts/kit/Tabs";
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
  return <Tabs label="Which lines to show" tabs={tabs} shown={show} show={setShow} />;
}
