// The numbers that a kitchen, or a pot, gives the schools of pricing: one set of terms a school.

import type { Pricing } from "../api/client";
import { SmallField } from "./Small";
import { type Method, SCHOOLS } from "./schools";

const NO_TERMS = { share: null, factor: null, amount: null, overhead_share: null, profit_share: null };
const STARTS: Partial<Record<Method, Pricing>> = {
  factor: { ...NO_TERMS, method: "factor", factor: "3.4" },
  contribution: { ...NO_TERMS, method: "contribution", amount: "2.50" },
  prime_cost_share: { ...NO_TERMS, method: "prime_cost_share", share: "0.62" },
  full_cost: { ...NO_TERMS, method: "full_cost", overhead_share: "0.22", profit_share: "0.09" },
};
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
  /** Those that may have terms here. */
  methods?: readonly Method[];
}

/** A line for each school, to be ticked where it has terms here. */
export function SchoolTerms({ pricings, set, methods = Object.keys(STARTS) as Method[] }: Props) {
  const change = (method: Method, pricing: Pricing | null) =>
    set([...pricings.filter((one) => one.method !== method), ...(pricing === null ? [] : [pricing])]);
  return methods.map((method) => {
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
            onChange={(event) => change(method, event.target.checked ? (STARTS[method] ?? null) : null)}
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
