// How a stage works: method, vessel, time, what it takes from, how its mass changes, what is taken out.

import type { Change, Recipe, Stage } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { heatInWords, LIDS, type Lid, lidInWords } from "../../parts/cooked";
import { inUs, percent } from "../../parts/format";
import { SmallQuantity } from "../../parts/QuantityInput";
import { SmallChoice, SmallField } from "../../parts/Small";
import { cameOutOf, cameOutText } from "./cameOut";
import { changeStage } from "./draft";
import { ChangeFields, From } from "./StageChange";
import { HeatFields } from "./StageHeat";
import { withMinutes } from "./steam";
import { TakeOuts } from "./TakeOuts";
import { useIsBad, usePot } from "./usePot";

type LidChoice = Lid | "";
const LID_CHOICES: readonly (readonly [LidChoice, string])[] = [["", "not said"], ...LIDS];

/** A stage in one line: "from Roast · simmer · 30 min, 12 attended · lid off". */
export function summary(stage: Stage, recipe: Recipe): string {
  const nameOf = (id: string) => recipe.stages.find((one) => one.id === id)?.name ?? id;
  const from = stage.from.map((one) =>
    one.share === "1" ? nameOf(one.stage) : `${percent(one.share)} of ${nameOf(one.stage)}`,
  );
  const parts = [
    from.length ? `from ${from.join(" and ")}` : null,
    stage.method,
    stage.heat && stage.heat !== stage.method ? heatInWords(stage.heat) : null,
    stage.in_oven ? "in the oven" : null,
    stage.temperature_c ? `${stage.temperature_c} °C` : null,
    stage.minutes ? `${stage.minutes} min` : null,
    stage.attended_minutes !== "0" ? `${stage.attended_minutes} attended` : null,
    stage.lid ? lidInWords(stage.lid) : null,
    changeInWords(stage.change),
  ];
  return parts.filter(Boolean).join(" · ");
}

function changeInWords(change: Change): string | null {
  switch (change.rule) {
    case "keep":
      return null;
    case "yield":
      return `yields ${change.yield}`;
    case "evaporate":
      if (change.by === "vessel") return "steams by its vessel";
      return change.per_hour
        ? `${percent(change.per_hour)} an hour off`
        : `${change.kg_per_hour} kg an hour off`;
    case "reduce":
      return `reduced to ${change.to}`;
    case "top_up":
      return `topped up to ${change.to}`;
  }
}

export function StageDetails({ stage, place }: { stage: Stage; place: number }) {
  const { edit, state } = usePot();
  const kitchen = useKitchen();
  const set = (patch: Partial<Stage>, field?: string) =>
    edit(
      changeStage(place, (one) => ({ ...one, ...patch })),
      field && `${field}-${place}`,
    );
  const bad = (key: string) => `stages[${place}].${key}`;
  const badQuantity = useIsBad(bad("came_out.quantity"));
  const badDepth = useIsBad(bad("came_out.depth_cm"));
  const cameBad = badQuantity || badDepth;
  const vessels = (kitchen.data?.vessels ?? []).map((one) => [one.id, one.name] as const);
  return (
    <details className="px-3 text-sm">
      <summary className="cursor-pointer quiet w-fit" title="How it is done: open to change it">
        {summary(stage, state.recipe) || "how it is done"}
      </summary>
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-1">
        <SmallChoice
          label="vessel"
          value={stage.vessel ?? ""}
          choices={[["", "any"], ...vessels]}
          set={(vessel) => set({ vessel: vessel || null })}
        />
        <SmallChoice<LidChoice>
          label="lid"
          value={stage.lid ?? ""}
          choices={LID_CHOICES}
          set={(lid) => set({ lid: lid || null })}
        />
        <SmallField
          label="minutes"
          width="w-14"
          bad={useIsBad(bad("minutes"))}
          value={stage.minutes ?? null}
          set={(minutes) => set(withMinutes(stage, minutes), "minutes")}
        />
        <SmallField
          label="of which attended"
          width="w-14"
          bad={useIsBad(bad("attended_minutes"))}
          value={stage.attended_minutes}
          set={(attended) => set({ attended_minutes: attended ?? "0" }, "attended")}
        />
        <SmallField
          label="sticks to the pot"
          width="w-20"
          hint="e.g. 0.015"
          bad={useIsBad(bad("residue"))}
          value={stage.residue}
          set={(residue) => set({ residue: residue ?? "0" }, "residue")}
        />
      </div>
      <HeatFields stage={stage} place={place} set={set} />
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-1">
        <ChangeFields
          change={stage.change}
          path={bad("change")}
          set={(change, field) => set({ change }, field)}
        />
        <From
          stage={stage}
          earlier={state.recipe.stages.slice(0, place)}
          set={(from, field) => set({ from }, field)}
        />
      </div>
      <SmallQuantity
        label="came out"
        className="w-28"
        placeholder={inUs() ? "e.g. 9.5 qt or 3 in" : "e.g. 9.1 l or 7 cm"}
        usual={inUs() ? "9.5 qt" : "9.1 l"}
        title="Weighed, measured or dipped at the end: it counts in the place of the rule until it is let go"
        aria-invalid={cameBad}
        value={cameOutText(stage.came_out)}
        set={(text) => set({ came_out: cameOutOf(text, kitchen.data?.today ?? "") }, "came-out")}
      />
      <TakeOuts stage={stage} at={place} />
      {stage.take_out.length > 0 &&
        (kitchen.data?.settings.byproduct_method === "market_value" || stage.value_per_kg != null) && (
          <SmallField
            label="a kilo of what goes on is worth"
            width="w-16"
            value={stage.value_per_kg ?? null}
            set={(value_per_kg) => set({ value_per_kg }, "value")}
          />
        )}
      <SmallField
        label="note"
        width="w-full max-w-2xl"
        value={stage.note ?? null}
        set={(note) => set({ note }, "note")}
      />
    </details>
  );
}
