// What a stage tells beside its masses: what steams off, how long that takes, what energy, how salty it then is.

import type { SheetStage, Stage } from "../../api/client";
import { Figure, useCurrency } from "../../parts/Figure";
import { kilos, mass, money, NOT_KNOWN, percent, trimmed } from "../../parts/format";
import { CameOutFacts } from "./CameOutFacts";
import { usePot } from "./usePot";

const anHour = (kg: string) => `${kilos(kg)} an hour`;
const minutes = (text: string) => `${trimmed(text, 0)} min`;

export function StageFacts({ sheet, stage }: { sheet: SheetStage; stage: Stage }) {
  const { state } = usePot();
  const figure = (name: string, text: string, label: string) => (
    <Figure
      ask={{ figure: `stage/${stage.id}/${name}`, recipe: state.recipe.id, draft: state.recipe }}
      text={text}
      label={label}
      stop={false}
    />
  );
  const steam = sheet.evaporation_kg_per_hour;
  const timed = [
    ["minutes_needed", "to reduce it so far"],
    ["minutes_to_heat", "to get hot"],
    ["minutes_to_dry", "to drive the water off"],
  ] as const;
  const times = timed.filter(([name]) => Number(sheet[name] ?? 0) >= 1);
  const salty = Number(sheet.salt_share ?? 0) >= 0.0005;
  const stands = sheet.came_out_g !== null || sheet.dipstick_cm !== null;
  const told =
    times.length > 0 || sheet.energy_kwh !== null || sheet.energy_lack || salty || sheet.done || stands;
  if (steam === null && !told) return null;
  return (
    <p className="px-3 pb-2 text-sm flex flex-wrap gap-x-4" data-facts={stage.id}>
      {steam !== null && (
        <span>
          steams {figure("evaporation_kg_per_hour", anHour(steam), "steam an hour")}{" "}
          <span className="quiet">
            {whence(sheet)}
            {!stage.lid &&
              sheet.evaporation_by !== "stated" &&
              Number(steam) > 0 &&
              " lid not said: as without one"}
          </span>
        </span>
      )}
      {times.map(([name, words]) => (
        <span key={name}>
          {figure(name, minutes(sheet[name] ?? "0"), `time ${words}`)} {words}
        </span>
      ))}
      {sheet.energy_kwh !== null && (
        <span>{figure("energy_kwh", `${trimmed(sheet.energy_kwh, 2)} kWh`, "energy of the stage")}</span>
      )}
      {sheet.energy_kwh === null && sheet.energy_lack && (
        <span className="quiet">
          energy {NOT_KNOWN}: {sheet.energy_lack}
        </span>
      )}
      <CameOutFacts sheet={sheet} stage={stage} />
      {sheet.done && (
        <span title={sheet.done.source}>
          <span className="quiet">
            {sheet.done.item}: {trimmed(sheet.done.low, 0)} to {trimmed(sheet.done.high, 0)} min, done when
          </span>{" "}
          {sheet.done.when}
        </span>
      )}
      {salty && (
        <span>{figure("salt_share", percent(sheet.salt_share, 2), "salt after the stage")} salt</span>
      )}
    </p>
  );
}

/** Where what goes on goes, where that is more than one way, or some of it goes nowhere. */
export function GoesOn({ sheet }: { sheet: SheetStage }) {
  const currency = useCurrency();
  const [only, ...more] = sheet.goes_to;
  if (!only || (more.length === 0 && only.share === "1")) return null;
  return (
    <ul className="px-3 pb-2 text-sm flex flex-wrap gap-x-4" aria-label="Where it goes">
      {sheet.goes_to.map((way) => (
        <li key={way.stage ?? ""} className={way.stage === null ? "text-error" : ""}>
          → {percent(way.share)} to {way.name}{" "}
          <span className="quiet">
            {mass(way.mass_g)}, <span className="money">{money(way.cost, currency)}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** Where a rate is from: stated, or physics with its band. */
function whence(sheet: SheetStage): string {
  const { evaporation_by: by, evaporation_low: low, evaporation_high: high } = sheet;
  const band = low === null || high === null ? "" : `${anHour(low)} to ${anHour(high)}`;
  if (by === "stated") return band ? `(stated; its vessel, lid and heat would let ${band} go)` : "(stated)";
  if (by === null || !band) return "";
  if (by === "learned") return `(as it was weighed here: ${band})`;
  return `(${WAYS[by]}, an estimate: ${band})`;
}

const WAYS = {
  surface: "physics",
  rolling: "a rolling boil",
  heat: "by the power of its flame",
  oven: "by the heat of the oven",
};
