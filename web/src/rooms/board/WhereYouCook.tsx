// One choice at the first start: it sets the currency, the units and the list of allergens together. Each can be changed later.

import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { refreshAll } from "../../api/asked";
import { api, inWords, type KitchenHead, type Settings, told } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { useSaving } from "../../parts/useSaving";

interface Region {
  name: string;
  currency: string;
  settings: Pick<
    Settings,
    "measure_system" | "allergen_list" | "food_code" | "date_style" | "decimal_sign" | "shown_units"
  >;
  words: string;
}

const REGIONS: Region[] = [
  {
    name: "Europe",
    currency: "EUR",
    settings: {
      measure_system: "metric",
      allergen_list: "eu14",
      food_code: null,
      date_style: "day_first",
      decimal_sign: "comma",
      shown_units: "metric",
    },
    words: "euro, 11,40, a cup of 250 ml, the 14 groups of the EU",
  },
  {
    name: "UK and Ireland",
    currency: "GBP",
    settings: {
      measure_system: "imperial",
      allergen_list: "eu14",
      food_code: "fsa",
      date_style: "day_first",
      decimal_sign: "point",
      shown_units: "metric",
    },
    words: "pound (Ireland: set euro under Kitchen), imperial pints, 14 groups, the UK's food code",
  },
  {
    name: "US",
    currency: "USD",
    settings: {
      measure_system: "us",
      allergen_list: "us9",
      food_code: "fda",
      date_style: "month_first",
      decimal_sign: "point",
      shown_units: "us",
    },
    words: "dollar, pounds and quarts, Nov 24, US cups, the 9 major allergens, the FDA's code",
  },
];

const isSet = (kitchen: KitchenHead, { currency, settings }: Region) =>
  kitchen.currency === currency &&
  (Object.keys(settings) as (keyof typeof settings)[]).every(
    (key) => kitchen.settings[key] === settings[key],
  );

export function WhereYouCook() {
  const kitchen = useKitchen().data;
  const client = useQueryClient();
  const [picked, setPicked] = useState<Region | null>(null);
  const choose = useSaving({
    mutationFn: ({ here, region }: { here: KitchenHead; region: Region }) =>
      told(
        api.PUT("/api/kitchen", {
          body: {
            name: here.name,
            currency: region.currency,
            settings: { ...here.settings, ...region.settings },
            was: here.settings,
            was_name: here.name,
            was_currency: here.currency,
          },
        }),
      ),
    onSuccess: () => refreshAll(client),
  });
  // Where something is written down already, its prices are in some money.
  if (!kitchen || kitchen.items > 0 || kitchen.recipes > 0) return null;
  return (
    <fieldset className="mb-6">
      <legend className="font-semibold">Where do you cook?</legend>
      <div className="flex flex-wrap gap-2 mt-1">
        {REGIONS.map((region) => (
          <label key={region.name} className="flex items-start gap-2 border border-base-300 rounded p-2 w-44">
            <input
              type="radio"
              name="region"
              className="radio radio-sm mt-1"
              checked={picked === null || choose.isError ? isSet(kitchen, region) : picked === region}
              onChange={() => {
                setPicked(region);
                choose.mutate({ here: kitchen, region });
              }}
            />
            <span>
              {region.name}
              <span className="quiet text-sm block">{region.words}</span>
            </span>
          </label>
        ))}
      </div>
      <p className="quiet text-sm">Each of it can be changed under Kitchen.</p>
      {choose.isError && (
        <p role="alert" className="text-error">
          {inWords(choose.error)}
        </p>
      )}
    </fieldset>
  );
}
