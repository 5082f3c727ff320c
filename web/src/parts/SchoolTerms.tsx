// The numbers that a kitchen, or a pot, gives the schools of pricing: one set of terms a school.

import type { Pricing } from "../api/client";
import { SmallField } from "./Small";
import { type Method, SCHOOLS } from "./schools";

const NO_TERMS = { share: null, factor: null, amount: null, overhead_share: null, profit_share: null };
/** What each school begins with where somebody chooses it, to be changed. */
export const TERMS_TO_START: Record<Method, Pricing> = {
  food_cost_share: { ...NO_TERMS, method: "food_cost_share", share: "0.30" },
  factor: { ...NO_TERMS, method: "factor", factor: "3.5" },
  contribution: { ...NO_TERMS, method: "contribution", amount: "2.50" },
  prime_cost_share: { ...NO_TERMS, method: "prime_cost_share", share: "0.60" },
  full_cost: { ...NO_TERMS, method: "full_cost", overhead_share: "0.20", profit_share: "0.10" },
};
// The share is the kitchen's target, or the serving's own.
const SCHOOLS_HERE: readonly Method[] = ["factor", "contribution", "prime_cost_share", "full_cost"];
const TERM_WORDS = {
  share: "share",
  factor: "times",
  amount: "to be left",
  overhead_share: "overhead",
  profit_share: "profit",
} as const;

interface Props {
  pricings: readonly Pricing[];
  set: (pricings: Pricing[]) => void;
}

/** A line for each school, to be ticked where it has terms here. */
export function SchoolTerms({ pricings, set }: Props) {
  const change = (method: Method, pricing: Pricing | null) =>
    set([...pricings.filter((one) => one.method !== method), ...(pricing === null ? [] : [pricing])]);
  return SCHOOLS_HERE.map((method) => {
    const pricing = pricings.find((one) => one.method === method);
    const keys = (Object.keys(TERM_WORDS) as (keyof typeof TERM_WORDS)[]).filter(
      (key) => pricing?.[key] != null,
    );
    return (
      <li key={method} className="flex flex-wrap gap-x-3">
        <label className="w-32 font-semibold flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={pricing !== undefined}
            onChange={(event) => change(method, event.target.checked ? TERMS_TO_START[method] : null)}
          />
          {SCHOOLS[method].name}
        </label>
        {pricing &&
          keys.map((key) => (
            <SmallField
              key={key}
              label={TERM_WORDS[key]}
              width="w-14"
              aria-label={`${SCHOOLS[method].name}: ${TERM_WORDS[key]}`}
              value={pricing[key] ?? null}
              set={(value) => change(method, { ...pricing, [key]: value ?? "0" })}
            />
          ))}
      </li>
    );
  });
}
