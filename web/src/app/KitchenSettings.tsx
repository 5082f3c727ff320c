// What holds for the whole kitchen: name, currency, rates and targets.

import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { FormProvider, type UseFormRegister, useForm } from "react-hook-form";
import { refreshAll } from "../api/asked";
import { api, type Effects, inWords, type KitchenHead, Refusal, type Settings, told } from "../api/client";
import { EffectsTable } from "../parts/EffectsTable";
import { Choice, Field, orNull } from "../parts/kit/Field";
import { METHODS } from "../parts/methods";
import { useRested } from "../parts/useRested";
import { useSaving } from "../parts/useSaving";
import { eachText, inField, outOfField } from "../parts/way";
import { Backups } from "./Backups";
import { ownRows, type VesselRow, Vessels, vesselsOf } from "./Vessels";

const PAUSE = 400;
type Text = Extract<keyof Settings, string>;
const FIELDS: { key: Text; label: string; hint: string }[] = [
  { key: "target_food_cost", label: "Target food-cost share", hint: "0.30 is 30%" },
  { key: "labour_rate_per_hour", label: "Labour rate per hour", hint: "for attended time" },
  { key: "tax_rate", label: "Tax rate on sales", hint: "0.10 is 10%" },
  { key: "seasoning_allowance", label: "Seasoning allowance", hint: "share of the food cost" },
  { key: "serving_loss", label: "Serving loss", hint: "share of the batch" },
  { key: "energy_price_per_kwh", label: "Energy price per kWh", hint: "may be empty" },
  { key: "old_price_days", label: "A price is old after (days)", hint: "marks old prices" },
];
const AROUND: typeof FIELDS = [
  { key: "salt_target", label: "Salt of a finished soup", hint: "0.007 is 0.7%" },
  { key: "altitude_m", label: "Metres above the sea", hint: "water boils cooler up there" },
  { key: "room_c", label: "Kitchen, °C", hint: "around the pots" },
  { key: "relative_humidity", label: "Its relative humidity", hint: "0.5 is half humid" },
  { key: "air_speed", label: "Its draught, m/s", hint: "0.1 is still air" },
];
const LIDS = [
  ["off", "Without a lid"],
  ["ajar", "Lid ajar"],
  ["on", "Lid on"],
] as const;
/** Where the server may find fault with one field. */
const FAULTS = new Set([
  "name",
  "currency",
  "settings.price_ending.step",
  "settings.price_ending.cents",
  ...[...FIELDS, ...AROUND].map(({ key }) => `settings.${key}`),
  ...LIDS.map(([key]) => `settings.lid_factors.${key}`),
]);
const CUPS = [
  ["metric", "metric, 250 ml"],
  ["us", "US, 236.6 ml"],
  ["imperial", "imperial (metric cup, imperial pint)"],
] as const;
/** The time zones that this browser knows, and the kitchen's own. */
const zones = (own: string): [string, string][] =>
  [...new Set([own, "UTC", ...Intl.supportedValuesOf("timeZone")])]
    .sort()
    .map((name) => [name, name.replaceAll("_", " ")]);
const DATES = [
  ["day_first", "24 Nov 2026"],
  ["month_first", "Nov 24, 2026"],
  ["year_first", "2026-11-24"],
] as const;
const SIGNS = [
  ["point", "with a point, 11.40"],
  ["comma", "with a comma, 11,40"],
] as const;
const UNITS = [
  ["metric", "grams, kilos, litres"],
  ["us", "ounces, pounds, quarts"],
] as const;
const ALLERGENS = [
  ["eu14", "EU, 14 groups"],
  ["us9", "US, 9 groups"],
] as const;

const CODES = [
  ["", "not said: both are told"],
  ["fsa", "UK Food Standards Agency"],
  ["fda", "US FDA Food Code"],
] as const;

interface Values {
  name: string;
  currency: string;
  settings: Settings;
  ending: "none" | "step" | "cents";
  step: string | null;
  cents: string | null;
  vessels: VesselRow[];
  suppliers: { name: string }[];
}

const ENDINGS = [
  ["none", "as they come out"],
  ["step", "up to a multiple of"],
  ["cents", "up to the next that ends in"],
] as const;

interface AroundProps {
  register: UseFormRegister<Values>;
  problem: (field: string) => string | undefined;
}

/** What the pots steam into, and how salty they become. */
function Around({ register, problem }: AroundProps) {
  return (
    <fieldset className="mt-4">
      <legend className="font-semibold">Around the pots</legend>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
        {AROUND.map(({ key, label, hint }) => (
          <Field
            key={key}
            label={label}
            hint={hint}
            problem={problem(`settings.${key}`)}
            {...register(`settings.${key}`, orNull)}
          />
        ))}
      </div>
      <p className="mt-2">The share of the steam that each lid lets go:</p>
      <div className="grid grid-cols-3 gap-x-6">
        {LIDS.map(([key, label]) => (
          <Field
            key={key}
            label={label}
            problem={problem(`settings.lid_factors.${key}`)}
            {...register(`settings.lid_factors.${key}`)}
          />
        ))}
      </div>
    </fieldset>
  );
}

export function KitchenSettings({ kitchen, close }: { kitchen: KitchenHead; close: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  // What stood there when the dialog opened, whatever is fetched since.
  const [{ name, currency, settings: was, vessels, suppliers }] = useState(kitchen);
  const ending = was.price_ending ?? null;
  const form = useForm<Values>({
    defaultValues: {
      name,
      currency,
      settings: eachText(was, inField),
      ending: ending?.step ? "step" : ending?.cents ? "cents" : "none",
      step: inField(ending?.step ?? "0.10"),
      cents: (ending?.cents ?? ["0.90"]).map(inField).join(" "),
      vessels: ownRows(vessels),
      suppliers: suppliers.map((one) => ({ name: one.name })),
    },
  });
  const { register, handleSubmit, watch, formState } = form;
  const client = useQueryClient();
  const bodyOf = (values: Values) => {
    const cents = (values.cents ?? "")
      .split(/[\s;]+/)
      .filter(Boolean)
      .map(outOfField);
    const step = outOfField(values.step ?? "");
    const price_ending = { none: null, step: { step }, cents: { cents } }[values.ending];
    const kept = vesselsOf(values.vessels);
    const renamed = suppliers.flatMap((one, at) => {
      const called = values.suppliers[at]?.name.trim() || one.name;
      return called === one.name ? [] : [{ ...one, name: called }];
    });
    return {
      name: values.name,
      currency: values.currency,
      settings: { ...eachText(values.settings, outOfField), price_ending },
      was,
      was_name: name,
      was_currency: currency,
      ...(JSON.stringify(kept) === JSON.stringify(vesselsOf(ownRows(vessels)))
        ? { vessels: null, was_vessels: null }
        : { vessels: kept, was_vessels: vessels }),
      suppliers: renamed,
      were_suppliers: suppliers.filter((one) => renamed.some((now) => now.id === one.id)),
    };
  };
  const save = useSaving({
    mutationFn: (values: Values) => told(api.PUT("/api/kitchen", { body: bodyOf(values) })),
    onSuccess: async () => {
      await refreshAll(client);
      close();
    },
  });
  const now = JSON.stringify(bodyOf(watch()));
  // Every pot is costed anew for it, so it waits until the typing pauses.
  const asked = useRested(now, PAUSE);
  const changed = formState.isDirty;
  const preview = useQuery({
    queryKey: ["kitchen-preview", asked],
    queryFn: () => told<Effects>(api.POST("/api/kitchen/preview", { body: JSON.parse(asked) })),
    enabled: changed,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const refused = save.error ?? (changed ? preview.error : null);
  const where = refused instanceof Refusal ? refused.problem.where : null;
  const problem = (field: string) => (where === field ? inWords(refused) : undefined);
  return (
    <dialog ref={dialog} className="modal" onClose={close} aria-labelledby="kitchen-heading">
      <form className="modal-box max-w-2xl" onSubmit={handleSubmit((values) => save.mutate(values))}>
        <h2 id="kitchen-heading" className="text-xl font-semibold mb-4">
          Kitchen
        </h2>
        <div className="grid grid-cols-2 gap-x-6 gap-y-3">
          <Field label="Name" problem={problem("name")} {...register("name")} />
          <Field
            label="Currency"
            hint="three letters, such as EUR"
            problem={problem("currency")}
            {...register("currency")}
          />
          {FIELDS.map(({ key, label, hint }) => (
            <Field
              key={key}
              label={label}
              hint={hint}
              problem={problem(`settings.${key}`)}
              {...register(`settings.${key}`, orNull)}
            />
          ))}
          <Choice label="Prices go" choices={ENDINGS} {...register("ending")} />
          {watch("ending") === "step" && (
            <Field
              label="A multiple of"
              hint="such as 0.10"
              problem={problem("settings.price_ending.step")}
              {...register("step", orNull)}
            />
          )}
          {watch("ending") === "cents" && (
            <Field
              label="Ending in"
              hint="parts of one, such as 0.50 0.90"
              problem={problem("settings.price_ending.cents")}
              {...register("cents", orNull)}
            />
          )}
          <Choice label='A bare "cup" is' choices={CUPS} {...register("settings.measure_system")} />
          <Choice label="Figures are shown in" choices={UNITS} {...register("settings.shown_units")} />
          <Choice label="Decimals are written" choices={SIGNS} {...register("settings.decimal_sign")} />
          <Choice label="Days are written" choices={DATES} {...register("settings.date_style")} />
          <Choice
            label="Its clock is that of"
            choices={zones(was.time_zone)}
            problem={problem("settings.time_zone")}
            {...register("settings.time_zone")}
          />
          <Choice label="List of allergens" choices={ALLERGENS} {...register("settings.allergen_list")} />
          <Choice
            label="Cautions go by the code of"
            choices={CODES}
            {...register("settings.food_code", orNull)}
          />
          <Choice
            label="What is left over with a value"
            choices={METHODS}
            {...register("settings.byproduct_method")}
          />
        </div>
        <Around {...{ register, problem }} />
        <FormProvider {...form}>
          <Vessels />
        </FormProvider>
        {suppliers.length > 0 && (
          <fieldset className="mt-4">
            <legend className="font-semibold">Suppliers</legend>
            <div className="grid grid-cols-2 gap-x-6">
              {suppliers.map((one, at) => (
                <input
                  key={one.id}
                  className="cell-input"
                  aria-label={`Name of ${one.name}`}
                  {...register(`suppliers.${at}.name`)}
                />
              ))}
            </div>
          </fieldset>
        )}
        {changed && preview.data && !preview.isError && (
          <section className="mt-4" aria-label="What that does">
            <h3 className="font-semibold">
              {preview.data.effects.length === 0
                ? "No portion changes"
                : `${preview.data.effects.length} ${preview.data.effects.length === 1 ? "portion changes" : "portions change"}`}
            </h3>
            {preview.data.effects.length > 0 && (
              <div className="max-h-48 overflow-auto">
                <EffectsTable effects={preview.data.effects} />
              </div>
            )}
          </section>
        )}
        {refused && !FAULTS.has(where ?? "") && (
          <p role="alert" className="text-error mt-3">
            {inWords(refused)}
          </p>
        )}
        <Backups today={kitchen.today} />
        <div className="modal-action sticky -bottom-6 -mx-6 px-6 py-3 border-t border-base-300 bg-base-100 z-10">
          <a
            className="btn btn-sm mr-auto"
            href="/api/export"
            title="One open file. Lists that were read in, revisions and history are in a back-up only."
          >
            Export the kitchen
          </a>
          <button type="button" className="btn btn-sm" onClick={() => dialog.current?.close()}>
            Leave <kbd>Esc</kbd>
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={save.isPending}>
            Save
          </button>
        </div>
      </form>
    </dialog>
  );
}
