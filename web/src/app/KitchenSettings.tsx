// What holds for the whole kitchen: name, currency, rates and targets.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, type Effects, inWords, type KitchenHead, type Settings, told } from "../api/client";
import { METHODS } from "../parts/methods";
import { EffectsTable } from "../rooms/buy/EffectsTable";
import { refreshAll } from "./kitchen";

const PAUSE = 400;
type Text = Extract<keyof Settings, string>;
const FIELDS: { key: Text; label: string; hint: string }[] = [
  { key: "target_food_cost", label: "Target food-cost share", hint: "0.30 is 30%" },
  { key: "labour_rate_per_hour", label: "Labour rate per hour", hint: "for attended time" },
  { key: "tax_rate", label: "Tax rate on sales", hint: "0.10 is 10%" },
  { key: "seasoning_allowance", label: "Seasoning allowance", hint: "share of the food cost" },
  { key: "serving_loss", label: "Serving loss", hint: "share of the batch" },
  { key: "overhead_rate_per_hour", label: "Overhead rate per attended hour", hint: "may be empty" },
  { key: "energy_price_per_kwh", label: "Energy price per kWh", hint: "may be empty" },
  { key: "old_price_days", label: "A price is old after (days)", hint: "marks old prices" },
];

export function KitchenSettings({ kitchen, close }: { kitchen: KitchenHead; close: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const [name, setName] = useState(kitchen.name);
  const [currency, setCurrency] = useState(kitchen.currency);
  // What stood there when the dialog opened, whatever is fetched since.
  const [was] = useState(kitchen.settings);
  const [settings, setSettings] = useState(was);
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: () => told(api.PUT("/api/kitchen", { body: { name, currency, settings, was } })),
    onSuccess: async () => {
      await refreshAll(client);
      close();
    },
  });
  // Every pot is costed anew for it, so it waits until the typing pauses.
  const [asked, setAsked] = useState(was);
  useEffect(() => {
    const timer = setTimeout(() => setAsked(settings), PAUSE);
    return () => clearTimeout(timer);
  }, [settings]);
  const changed = JSON.stringify(asked) !== JSON.stringify(was);
  const preview = useQuery({
    queryKey: ["kitchen-preview", asked],
    queryFn: () =>
      told<Effects>(api.POST("/api/kitchen/preview", { body: { name, currency, settings: asked, was } })),
    enabled: changed,
    placeholderData: keepPreviousData,
    retry: false,
    staleTime: 0,
  });
  const step = settings.price_ending?.step ?? "";
  return (
    <dialog ref={dialog} className="modal" onClose={close} aria-labelledby="kitchen-heading">
      <form
        className="modal-box max-w-2xl"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <h2 id="kitchen-heading" className="text-xl font-semibold mb-4">
          Kitchen
        </h2>
        <div className="grid grid-cols-2 gap-x-6 gap-y-3">
          <Field label="Name" value={name} change={setName} />
          <Field label="Currency" hint="three letters, such as EUR" value={currency} change={setCurrency} />
          {FIELDS.map(({ key, label, hint }) => (
            <Field
              key={key}
              label={label}
              hint={hint}
              value={String(settings[key] ?? "")}
              change={(text) => setSettings({ ...settings, [key]: text.trim() === "" ? null : text.trim() })}
            />
          ))}
          <Field
            label="Prices go up to a multiple of"
            hint={
              settings.price_ending?.cents
                ? `ending in ${settings.price_ending.cents.join(" or ")} now`
                : "0.10, or empty"
            }
            value={step}
            change={(text) =>
              setSettings({ ...settings, price_ending: text.trim() ? { step: text.trim() } : null })
            }
          />
          <label className="flex flex-col">
            <span>A bare "cup" is</span>
            <select
              className="select select-sm"
              value={settings.measure_system}
              onChange={(event) =>
                setSettings({ ...settings, measure_system: event.target.value as Settings["measure_system"] })
              }
            >
              <option value="metric">metric, 250 ml</option>
              <option value="us">US, 236.6 ml</option>
              <option value="imperial">imperial (metric cup, imperial pint)</option>
            </select>
          </label>
          <label className="flex flex-col">
            <span>List of allergens</span>
            <select
              className="select select-sm"
              value={settings.allergen_list}
              onChange={(event) =>
                setSettings({ ...settings, allergen_list: event.target.value as Settings["allergen_list"] })
              }
            >
              <option value="eu14">EU, 14 groups</option>
              <option value="us9">US, 9 groups</option>
            </select>
          </label>
          <label className="flex flex-col">
            <span>What is left over with a value</span>
            <select
              className="select select-sm"
              value={settings.byproduct_method}
              onChange={(event) =>
                setSettings({
                  ...settings,
                  byproduct_method: event.target.value as Settings["byproduct_method"],
                })
              }
            >
              {METHODS.map(([method, words]) => (
                <option key={method} value={method}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        </div>
        {changed && preview.data && (
          <section className="mt-4" aria-label="What that does">
            <h3 className="font-semibold">
              {preview.data.effects.length === 0
                ? "No portion changes"
                : `${preview.data.effects.length} portions change`}
            </h3>
            {preview.data.effects.length > 0 && (
              <div className="max-h-48 overflow-auto">
                <EffectsTable effects={preview.data.effects} />
              </div>
            )}
          </section>
        )}
        {save.isError && (
          <p role="alert" className="text-error mt-3">
            {inWords(save.error)}
          </p>
        )}
        <div className="modal-action">
          <a className="btn btn-sm mr-auto" href="/api/export">
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

interface FieldProps {
  label: string;
  hint?: string;
  value: string;
  change: (text: string) => void;
}

function Field({ label, hint, value, change }: FieldProps) {
  return (
    <label className="flex flex-col">
      <span>
        {label} {hint && <span className="quiet text-xs">{hint}</span>}
      </span>
      <input
        className="input input-sm w-full"
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
}
