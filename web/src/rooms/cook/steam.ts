// What a stage that is cooked in liquid loses, once it is said how long: a new one steams by its vessel.

import type { Heat, Stage } from "../../api/client";
import { KEEP } from "../../parts/blank";

/** How hot a pot is kept that is cooked so, where nobody says. Common practice, no source. */
const HEATS: Record<string, Heat> = {
  simmer: "simmer",
  boil: "boil",
  poach: "hold",
  braise: "simmer",
  stew: "simmer",
  slow: "hold",
};

/** The stage with its minutes. Where they are said for the first time, what goes up is reckoned, as an estimate that says so. */
export function withMinutes(stage: Stage, minutes: string | null): Stage {
  const heat = HEATS[stage.method ?? ""];
  const begins = stage.minutes == null && Number(minutes) > 0;
  if (!begins || !heat || stage.change.rule !== "keep") return { ...stage, minutes };
  const hot = stage.heat != null || stage.temperature_c != null;
  return {
    ...stage,
    minutes,
    heat: stage.heat ?? (hot ? null : heat),
    change: { ...KEEP, rule: "evaporate", by: "vessel" },
  };
}
