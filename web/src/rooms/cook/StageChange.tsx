// What happens to the mass of a stage, and what it takes from earlier ones.

import type { Change, Stage } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { KEEP } from "../../parts/blank";
import { SmallQuantity } from "../../parts/QuantityInput";
import { SmallChoice, SmallField } from "../../parts/Small";
import { useIsBad } from "./usePot";

const RULES = [
  ["keep", "nothing"],
  ["evaporate", "boils off"],
  ["reduce", "reduced to"],
  ["top_up", "topped up to"],
  ["yield", "a share is left"],
] as const;

const WAYS = [
  ["vessel", "its vessel, lid and heat tell"],
  ["per_hour", "a share of it an hour (5% or 0.05)"],
  ["kg_per_hour", "kg an hour"],
] as const;
const STARTS: Record<(typeof WAYS)[number][0], Change> = {
  vessel: { ...KEEP, rule: "evaporate", by: "vessel" },
  per_hour: { ...KEEP, rule: "evaporate", per_hour: "" },
  kg_per_hour: { ...KEEP, rule: "evaporate", kg_per_hour: "" },
};

interface ChangeProps {
  change: Change;
  /** Where it stands in the recipe, as the server calls it. */
  path: string;
  set: (change: Change, field?: string) => void;
}

export function ChangeFields({ change, path, set }: ChangeProps) {
  const names = useNames();
  const bad = {
    yield: useIsBad(`${path}.yield`),
    per_hour: useIsBad(`${path}.per_hour`),
    kg_per_hour: useIsBad(`${path}.kg_per_hour`),
    to: useIsBad(`${path}.to`),
  };
  const choose = (rule: Change["rule"]) => {
    const water = names.data?.find((one) => one.kind === "water") ?? names.data?.[0];
    const blanks: Record<Change["rule"], Change> = {
      keep: KEEP,
      // What nobody has said yet is empty, and asked: a figure of ours would look like theirs.
      evaporate: STARTS.vessel,
      yield: { ...KEEP, rule: "yield", yield: "" },
      reduce: { ...KEEP, rule: "reduce", to: "" },
      top_up: {
        ...KEEP,
        rule: "top_up",
        to: "",
        with: { item: water?.id ?? "water", recipe: null, preparation: null },
      },
    };
    set(blanks[rule]);
  };
  const by = change.by === "vessel" ? "vessel" : change.per_hour != null ? "per_hour" : "kg_per_hour";
  return (
    <>
      <SmallChoice label="what happens" value={change.rule} choices={RULES} set={choose} />
      {change.rule === "yield" && (
        <SmallField
          label="times"
          width="w-14"
          bad={bad.yield}
          value={change.yield ?? null}
          set={(text) => set({ ...change, yield: text ?? "" }, "yield")}
        />
      )}
      {change.rule === "evaporate" && (
        <>
          {by !== "vessel" && (
            <SmallField
              label="so much"
              width="w-14"
              bad={bad[by]}
              value={(by === "per_hour" ? change.per_hour : change.kg_per_hour) ?? null}
              set={(text) => set({ ...change, [by]: text ?? "" }, "evaporate")}
            />
          )}
          <SmallChoice label="counted as" value={by} choices={WAYS} set={(way) => set(STARTS[way])} />
        </>
      )}
      {(change.rule === "reduce" || change.rule === "top_up") && (
        <SmallQuantity
          label="to"
          className="w-16"
          placeholder="e.g. 9 l"
          aria-invalid={bad.to}
          value={change.to ?? ""}
          set={(to) => set({ ...change, to }, "to")}
        />
      )}
      {change.rule === "top_up" && (
        <SmallChoice
          label="with"
          value={change.with?.recipe ? `recipe ${change.with.recipe}` : `item ${change.with?.item ?? ""}`}
          choices={(names.data ?? []).map(
            (one) => [`${one.is_recipe ? "recipe" : "item"} ${one.id}`, one.name] as const,
          )}
          set={(chosen) => {
            const [kind, id = ""] = chosen.split(" ");
            const item = kind === "item" ? id : null;
            set({ ...change, with: { item, recipe: item === null ? id : null, preparation: null } });
          }}
        />
      )}
    </>
  );
}

interface FromProps {
  stage: Stage;
  earlier: Stage[];
  set: (from: Stage["from"], field?: string) => void;
}

export function From({ stage, earlier, set }: FromProps) {
  if (earlier.length === 0) return null;
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="quiet">takes from</span>
      {earlier.map((one) => {
        const inflow = stage.from.find((taken) => taken.stage === one.id);
        const title = one.name ?? one.id;
        return (
          <span key={one.id} className="flex items-center gap-1">
            <label className="flex items-center gap-1">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={inflow !== undefined}
                onChange={() =>
                  set(
                    inflow
                      ? stage.from.filter((taken) => taken !== inflow)
                      : [...stage.from, { stage: one.id, share: "1" }],
                  )
                }
              />
              {title}
            </label>
            {inflow && (
              <input
                className="cell-input w-12"
                aria-label={`Share taken from ${title}`}
                value={inflow.share}
                onChange={(event) =>
                  set(
                    stage.from.map((taken) =>
                      taken === inflow ? { ...taken, share: event.target.value } : taken,
                    ),
                    `from-${one.id}`,
                  )
                }
              />
            )}
          </span>
        );
      })}
    </span>
  );
}
