// How a stage works: method, vessel, time, what it takes from, how its mass changes, what is taken out.

import type { Change, Recipe, Stage } from "../../api/client";
import { useKitchen, useNames } from "../../api/kitchen";
import { KEEP } from "../../parts/blank";
import { percent } from "../../parts/format";
import { SmallQuantity } from "../../parts/QuantityInput";
import { SmallChoice, SmallField } from "../../parts/Small";
import { changeStage } from "./draft";
import { TakeOuts } from "./TakeOuts";
import { useIsBad, usePot } from "./usePot";

const LIDS = [
  ["", "not said"],
  ["off", "off"],
  ["ajar", "ajar"],
  ["on", "on"],
  ["sealed", "sealed"],
  ["covered_then_open", "covered, then open"],
] as const;
type Lid = (typeof LIDS)[number][0];

/** A stage in one line: "from Roast · simmer · 30 min, 12 attended · lid off". */
export function summary(stage: Stage, recipe: Recipe): string {
  const nameOf = (id: string) => recipe.stages.find((one) => one.id === id)?.name ?? id;
  const from = stage.from.map((one) =>
    one.share === "1" ? nameOf(one.stage) : `${percent(one.share)} of ${nameOf(one.stage)}`,
  );
  const parts = [
    from.length ? `from ${from.join(" and ")}` : null,
    stage.method,
    stage.temperature_c ? `${stage.temperature_c} °C` : null,
    stage.minutes ? `${stage.minutes} min` : null,
    stage.attended_minutes !== "0" ? `${stage.attended_minutes} attended` : null,
    stage.lid ? `lid ${LIDS.find(([key]) => key === stage.lid)?.[1]}` : null,
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
        <SmallChoice<Lid>
          label="lid"
          value={stage.lid ?? ""}
          choices={LIDS}
          set={(lid) => set({ lid: lid || null })}
        />
        <SmallField
          label="°C"
          width="w-14"
          bad={useIsBad(bad("temperature_c"))}
          value={stage.temperature_c ?? null}
          set={(temperature_c) => set({ temperature_c }, "temperature")}
        />
        <SmallField
          label="minutes"
          width="w-14"
          bad={useIsBad(bad("minutes"))}
          value={stage.minutes ?? null}
          set={(minutes) => set({ minutes }, "minutes")}
        />
        <SmallField
          label="of which attended"
          width="w-14"
          bad={useIsBad(bad("attended_minutes"))}
          value={stage.attended_minutes}
          set={(attended) => set({ attended_minutes: attended ?? "0" }, "attended")}
        />
        <SmallField
          label="kWh"
          width="w-14"
          bad={useIsBad(bad("energy_kwh"))}
          value={stage.energy_kwh ?? null}
          set={(energy_kwh) => set({ energy_kwh }, "energy")}
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
      <div className="flex flex-wrap gap-x-4 gap-y-1 py-1">
        <ChangeFields change={stage.change} set={(change, field) => set({ change }, field)} />
        <From
          stage={stage}
          earlier={state.recipe.stages.slice(0, place)}
          set={(from, field) => set({ from }, field)}
        />
      </div>
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

const RULES = [
  ["keep", "nothing"],
  ["evaporate", "boils off"],
  ["reduce", "reduced to"],
  ["top_up", "topped up to"],
  ["yield", "a share is left"],
] as const;

function ChangeFields({ change, set }: { change: Change; set: (change: Change, field?: string) => void }) {
  const names = useNames();
  const choose = (rule: Change["rule"]) => {
    const water = names.data?.find((one) => one.kind === "water") ?? names.data?.[0];
    const blanks: Record<Change["rule"], Change> = {
      keep: KEEP,
      evaporate: { ...KEEP, rule: "evaporate", per_hour: "0.05" },
      yield: { ...KEEP, rule: "yield", yield: "0.95" },
      reduce: { ...KEEP, rule: "reduce", to: "1 l" },
      top_up: {
        ...KEEP,
        rule: "top_up",
        to: "10 l",
        with: { item: water?.id ?? "water", recipe: null, preparation: null },
      },
    };
    set(blanks[rule]);
  };
  const by = change.per_hour !== null && change.per_hour !== undefined ? "per_hour" : "kg_per_hour";
  return (
    <>
      <SmallChoice label="what happens" value={change.rule} choices={RULES} set={choose} />
      {change.rule === "yield" && (
        <SmallField
          label="times"
          width="w-14"
          value={change.yield ?? null}
          set={(text) => set({ ...change, yield: text ?? "1" }, "yield")}
        />
      )}
      {change.rule === "evaporate" && (
        <>
          <SmallField
            label="so much"
            width="w-14"
            value={(by === "per_hour" ? change.per_hour : change.kg_per_hour) ?? null}
            set={(text) => set({ ...change, [by]: text ?? "0" }, "evaporate")}
          />
          <SmallChoice
            label="counted as"
            value={by}
            choices={[
              ["per_hour", "a share of it an hour (5% or 0.05)"],
              ["kg_per_hour", "kg an hour"],
            ]}
            set={(way) => set({ ...KEEP, rule: "evaporate", [way]: way === "per_hour" ? "0.05" : "0.5" })}
          />
        </>
      )}
      {(change.rule === "reduce" || change.rule === "top_up") && (
        <SmallQuantity
          label="to"
          className="w-16"
          placeholder="e.g. 9 l"
          value={change.to ?? ""}
          set={(to) => set({ ...change, to: to || "0" }, "to")}
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

function From({ stage, earlier, set }: FromProps) {
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
