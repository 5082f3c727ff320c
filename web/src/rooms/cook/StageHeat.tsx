// How hot a stage is kept, and what its flame and its surface do: fields that few stages need are there where they count.

import type { Heat, Stage } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { HEATS } from "../../parts/cooked";
import { SmallChoice, SmallField } from "../../parts/Small";
import { useIsBad } from "./usePot";

type Choice = Heat | "";
const CHOICES: readonly (readonly [Choice, string])[] = [["", "not said"], ...HEATS];

interface Props {
  stage: Stage;
  place: number;
  set: (patch: Partial<Stage>, field?: string) => void;
}

export function HeatFields({ stage, place, set }: Props) {
  const of = (key: string) => `stages[${place}].${key}`;
  const bad = {
    temperature_c: useIsBad(of("temperature_c")),
    start_c: useIsBad(of("start_c")),
    power_share: useIsBad(of("power_share")),
    open_minutes: useIsBad(of("open_minutes")),
    energy_kwh: useIsBad(of("energy_kwh")),
  };
  const vessel = useKitchen().data?.vessels.find((one) => one.id === stage.vessel);
  const steams = stage.change.by === "vessel" || stage.change.rule === "reduce";
  return (
    <div className="flex flex-wrap gap-x-4 gap-y-1 py-1">
      <SmallChoice<Choice>
        label="heat"
        value={stage.heat ?? ""}
        choices={CHOICES}
        set={(heat) => set({ heat: heat || null })}
      />
      <SmallField
        label={stage.in_oven ? "oven °C" : "°C"}
        width="w-14"
        bad={bad.temperature_c}
        value={stage.temperature_c ?? null}
        set={(temperature_c) => set({ temperature_c }, "temperature")}
      />
      <SmallField
        label="starts at °C"
        width="w-20"
        hint="as put in"
        bad={bad.start_c}
        value={stage.start_c ?? null}
        set={(start_c) => set({ start_c }, "start")}
      />
      {(vessel?.power_kw || stage.power_share) && (
        <SmallField
          label="flame turned up"
          width="w-20"
          hint="as needed"
          bad={bad.power_share}
          value={stage.power_share ?? null}
          set={(power_share) => set({ power_share }, "power")}
        />
      )}
      {stage.lid === "covered_then_open" && (
        <SmallField
          label="minutes open"
          width="w-14"
          bad={bad.open_minutes}
          value={stage.open_minutes ?? null}
          set={(open_minutes) => set({ open_minutes }, "open")}
        />
      )}
      {(steams || stage.fat_layer) && (
        <Tick
          words="fat or a thick skin on top"
          on={stage.fat_layer}
          set={(fat_layer) => set({ fat_layer })}
        />
      )}
      {(FRIES.has(stage.method ?? "") || stage.roux) && (
        <SmallChoice
          label="roux"
          value={stage.roux ?? ""}
          choices={ROUX}
          set={(roux) => set({ roux: roux || null })}
        />
      )}
      <Tick words="in the oven" on={stage.in_oven} set={(in_oven) => set({ in_oven })} />
      <Tick words="spirits are flamed" on={stage.flamed} set={(flamed) => set({ flamed })} />
      <SmallField
        label="kWh, measured"
        width="w-14"
        bad={bad.energy_kwh}
        value={stage.energy_kwh ?? null}
        set={(energy_kwh) => set({ energy_kwh }, "energy")}
      />
    </div>
  );
}

// Where flour may be fried in fat.
const FRIES: ReadonlySet<string> = new Set(["fry", "brown", "toast", "sweat"]);
// The darker flour is fried, the less it thickens.
const ROUX = [
  ["", "not said"],
  ["white", "white"],
  ["blond", "blond"],
  ["brown", "brown"],
  ["dark", "dark"],
] as const;

function Tick({ words, on, set }: { words: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="flex items-center gap-1">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      <span className="quiet">{words}</span>
    </label>
  );
}
