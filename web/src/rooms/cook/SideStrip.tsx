// The side strip: batch yield, cost per litre and kilo, and what each serving costs and sells for.

import { useState } from "react";
import type { SheetServing, Uncertainty } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { newServing } from "../../parts/blank";
import { EffectsTable } from "../../parts/EffectsTable";
import { Figure, useCurrency } from "../../parts/Figure";
import { aKilo, aLitre, mass, minutes, money, perKilo, perLitre, volume } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { SmallQuantity } from "../../parts/QuantityInput";
import { SchoolTerms } from "../../parts/SchoolTerms";
import { SmallField } from "../../parts/Small";
import { Sure } from "../../parts/Sure";
import { AllergenCard } from "./AllergenCard";
import { Consumables } from "./Consumables";
import { InsideCard } from "./InsideCard";
import { ServingCard } from "./ServingCard";
import { WhatMatters } from "./Spread";
import { useHowSure } from "./useHowSure";
import { useIsBad, usePot } from "./usePot";

export function SideStrip() {
  const pot = usePot();
  const { state, edit, preview, saved } = pot;
  const recipe = state.recipe;
  const sheets = new Map<string, SheetServing>((preview?.sheet.servings ?? []).map((one) => [one.id, one]));
  const sure = useHowSure(recipe);
  const before = new Map<string, SheetServing>(saved.sheet.servings.map((one) => [one.id, one]));
  return (
    <aside
      className="sticky top-3 flex flex-col gap-3 max-h-[calc(100vh-4.5rem)] overflow-y-auto pr-1"
      aria-label="What it comes to"
    >
      <BatchCard />
      {recipe.servings.map((serving, place) => (
        <ServingCard
          key={serving.id}
          serving={serving}
          place={place}
          sheet={sheets.get(serving.id)}
          was={before.get(serving.id)}
          sure={sure.get(serving.id)}
        />
      ))}
      <button
        type="button"
        className="btn btn-sm no-print"
        onClick={() =>
          edit((one) => {
            let number = one.servings.length + 1;
            while (one.servings.some((serving) => serving.id === `size-${number}`)) number++;
            return { ...one, servings: [...one.servings, newServing(`size-${number}`, "Cup", "200 ml")] };
          })
        }
      >
        + Another serving size
      </button>
      <InsideCard />
      <Knowledge sure={sure} />
      <AllergenCard />
      {preview && preview.above.length > 0 && (
        <Panel label="Other pots" title="Saving this moves" look="tight">
          <EffectsTable effects={preview.above} />
        </Panel>
      )}
    </aside>
  );
}

const BASIS = {
  measured: "as measured",
  written: "as the recipe is written",
  computed: "as the pot reckons",
};

function BatchCard() {
  const { state, preview, saved, bad } = usePot();
  const currency = useCurrency();
  const sheet = preview?.sheet;
  if (!sheet) return <section className="sheet p-3">Costing …</section>;
  const { batch } = sheet;
  const was = saved.sheet.batch;
  const ask = (name: string) => ({ figure: `batch/${name}`, recipe: state.recipe.id, draft: state.recipe });
  const rows = [
    [
      `${aLitre()} costs`,
      "cost_per_l",
      money(perLitre(batch.cost_per_l), currency),
      money(perLitre(was.cost_per_l), currency),
      "money",
    ],
    [
      `${aKilo()} costs`,
      "cost_per_kg",
      money(perKilo(batch.cost_per_kg), currency),
      money(perKilo(was.cost_per_kg), currency),
      "money",
    ],
    ["food cost", "food_cost", money(batch.food_cost, currency), money(was.food_cost, currency), "money"],
    ["attended", "attended_minutes", minutes(batch.attended_minutes), minutes(was.attended_minutes), ""],
  ] as const;
  return (
    <section className={`sheet p-3 ${bad ? "opacity-70" : ""}`} aria-label="Batch">
      <div className="flex items-baseline justify-between">
        <h2 className="font-semibold text-lg">Batch</h2>
        <span className="text-lg" data-testid="batch-volume">
          {sheet.problems.some((one) => one.affects_mass) && batch.basis === "computed" && "at least "}
          <Figure
            ask={ask("volume_ml")}
            text={volume(batch.volume_ml)}
            was={volume(was.volume_ml)}
            label="volume of the batch"
          />
          {" · "}
          <Figure ask={ask("mass_g")} text={mass(batch.mass_g)} label="mass of the batch" />
        </span>
      </div>
      {(batch.measured_g || batch.written_g) && (
        <p className="text-sm quiet" data-testid="batch-basis">
          {BASIS[batch.basis]};{" "}
          {[
            batch.basis !== "measured" && batch.measured_g && `it really gave ${mass(batch.measured_g)}`,
            batch.basis !== "written" && batch.written_g && `the recipe says ${mass(batch.written_g)}`,
            batch.basis !== "computed" && `the pot reckons ${mass(batch.computed_g)}`,
          ]
            .filter(Boolean)
            .join(", ")}
        </p>
      )}
      <dl className="grid grid-cols-[1fr_auto] mt-1">
        {rows.map(([label, name, text, before, tone]) => (
          <div key={name} className="contents">
            <dt>{label}</dt>
            <dd className="num">
              <Figure
                ask={ask(name)}
                text={text}
                was={before}
                label={label}
                className={tone}
                atLeast={tone === "money" && !sheet.complete}
              />
            </dd>
          </div>
        ))}
      </dl>
      <BatchFields />
      <OwnTerms />
    </section>
  );
}

/** This pot's own terms for some schools of pricing, in the place of the kitchen's. */
function OwnTerms() {
  const { state, edit } = usePot();
  const { pricings } = state.recipe;
  return (
    <details className="text-sm no-print">
      <summary className="cursor-pointer quiet w-fit">own terms of pricing ({pricings.length})</summary>
      <ul>
        <SchoolTerms
          pricings={pricings}
          set={(next) => edit((one) => ({ ...one, pricings: next }), "pricings")}
        />
      </ul>
    </details>
  );
}

function namesIn(text: string | null): string[] {
  return (text ?? "")
    .split(",")
    .map((one) => one.trim())
    .filter(Boolean);
}

function BatchFields() {
  const { state, edit } = usePot();
  const today = useKitchen().data?.today ?? "";
  const recipe = state.recipe;
  const measured = recipe.measured_yield ?? null;
  const told = (recipe.allowance_covers ?? []).join(", ");
  const [written, setCovers] = useState<string | null>(told || null);
  // As it was typed, until something else changes it: a line "to taste", or an undo.
  const covers = namesIn(written).join(", ") === told ? written : told || null;
  return (
    <details className="text-sm no-print">
      <summary className="cursor-pointer quiet w-fit">density, measured batch, seasoning</summary>
      <div className="flex flex-wrap gap-x-4">
        <SmallField
          label="kg per litre"
          width="w-14"
          bad={useIsBad("density")}
          value={recipe.density}
          set={(density) => edit((one) => ({ ...one, density: density ?? "" }), "density")}
        />
        <SmallField
          label="seasoning"
          width="w-14"
          hint="kitchen's"
          bad={useIsBad("seasoning_allowance")}
          value={recipe.seasoning_allowance ?? null}
          set={(seasoning_allowance) => edit((one) => ({ ...one, seasoning_allowance }), "seasoning")}
        />
        <SmallField
          label="it covers"
          width="w-44"
          hint="e.g. celery salt, curry powder"
          bad={useIsBad("allowance_covers")}
          value={covers}
          set={(text) => {
            setCovers(text);
            const allowance_covers = namesIn(text);
            edit((one) => ({ ...one, allowance_covers }), "covers");
          }}
        />
        <label className="flex items-center gap-1" title="minutes a kilo, noted with each preparation">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={recipe.prep_minutes}
            onChange={(event) => {
              const prep_minutes = event.target.checked;
              edit((one) => ({ ...one, prep_minutes }));
            }}
          />
          count the minutes of preparing by the kilo
        </label>
        <SmallQuantity
          label="the recipe says it makes"
          placeholder="e.g. 6 l"
          usual="6 l"
          aria-invalid={useIsBad("written_yield")}
          value={recipe.written_yield ?? ""}
          set={(quantity) => edit((one) => ({ ...one, written_yield: quantity || null }), "written")}
        />
        <SmallQuantity
          label="a batch really gave"
          placeholder="e.g. 8.2 l"
          usual="8.2 l"
          aria-invalid={useIsBad("measured_yield.quantity")}
          value={measured?.quantity ?? ""}
          set={(quantity) =>
            edit((one) => {
              const on = one.measured_yield?.on ?? today;
              return {
                ...one,
                measured_yield: quantity ? { quantity, on } : null,
                use_measured_yield: quantity ? one.use_measured_yield : false,
              };
            }, "measured")
          }
        />
        {measured && (
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={recipe.use_measured_yield}
              onChange={(event) => edit((one) => ({ ...one, use_measured_yield: event.target.checked }))}
            />
            reckon with it
          </label>
        )}
      </div>
      <Consumables />
    </details>
  );
}

function Knowledge({ sure: spreads }: { sure: ReadonlyMap<string, Uncertainty> }) {
  const { preview } = usePot();
  if (!preview) return null;
  const { sheet, sure } = preview;
  const first = sheet.servings[0];
  const spread = first && spreads.get(first.id);
  return (
    <Panel label="How sure" look="tight" className="text-sm flex flex-col gap-1">
      <p>
        <span className="font-semibold">sure:</span> <Sure sure={sure} />
      </p>
      <p>
        <span className="font-semibold">not known yet:</span>{" "}
        {sheet.problems.length === 0 ? "—" : sheet.problems.map((one) => one.message).join("; ")}
      </p>
      {first?.food_cost != null && spread && (
        <WhatMatters name={first.name} cost={first.food_cost} sure={spread} />
      )}
      {sheet.warnings
        .filter((one) => one.serving)
        .map((one) => (
          <p key={one.message}>⚠ {one.message}</p>
        ))}
    </Panel>
  );
}
