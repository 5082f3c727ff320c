// What is added to each portion (garnish, what lies beside it, packaging), and how its price is worked out.

import { useState } from "react";
import type { Line, Serving, SheetServing } from "../../api/client";
import { useKitchen, useNames } from "../../api/kitchen";
import { useCurrency } from "../../parts/Figure";
import { mass, money } from "../../parts/format";
import { replacedAt, withoutPlace } from "../../parts/places";
import { QuantityInput } from "../../parts/QuantityInput";
import { TERMS_TO_START } from "../../parts/SchoolTerms";
import { Remove, SmallChoice, SmallField } from "../../parts/Small";
import { TypedInput } from "../../parts/TypedInput";
import { Mend } from "./Mend";
import { usePot } from "./usePot";

const ROLES = [
  ["garnish", "garnish", "garnish: 5 g hazelnuts"],
  ["accompaniments", "beside it", "beside it: 1 bread roll"],
  ["packaging", "packaging", "packaging: 1 soup cup"],
] as const;

type Role = (typeof ROLES)[number][0];

/** What was worked out of a line beside the portion. */
const extraOf = (sheet: SheetServing | undefined, role: Role, at: number) =>
  sheet?.extras.filter((one) => one.role === role)[at];

interface BesideProps {
  serving: Serving;
  sheet: SheetServing | undefined;
  set: (patch: Partial<Serving>, field?: string) => void;
}

/** What is added to each portion, and how the price is worked out. */
export function Beside({ serving, sheet, set }: BesideProps) {
  const count = [serving.garnish, serving.accompaniments, serving.packaging, serving.add_ons].flat().length;
  // Of a new pot, garnish and price are in sight.
  const isNew = usePot().state.revision === 1 && count === 0 && serving.price === null;
  const [open, setOpen] = useState(isNew);
  return (
    <details className="text-sm no-print" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer quiet w-fit">garnish, packaging ({count}), pricing</summary>
      {ROLES.map(([role, words, hint]) => (
        <div key={role}>
          {serving[role].map((line, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no lasting name
            <BesideLine key={at} line={line} role={role} at={at} serving={serving} sheet={sheet} set={set} />
          ))}
          <TypedInput
            label={`${words} of ${serving.name}`}
            hint={hint}
            add={(line) => set({ [role]: [...serving[role], line] })}
          />
        </div>
      ))}
      <AddOns serving={serving} set={set} />
      <PricingFields serving={serving} set={set} />
      <HoldFields serving={serving} set={set} />
    </details>
  );
}

/** The same on paper. */
export function Printed({ serving, sheet }: { serving: Serving; sheet: SheetServing | undefined }) {
  const currency = useCurrency();
  return (
    <ul className="only-print text-sm mt-1">
      {ROLES.flatMap(([role, words]) =>
        serving[role].map((line, at) => {
          const extra = extraOf(sheet, role, at);
          const name = line.byproduct ?? extra?.name ?? line.item ?? line.recipe;
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: lines have no lasting name
            <li key={`${role}-${at}`} className="flex justify-between gap-2">
              <span>
                {words}: {line.quantity} {name}
              </span>
              <span className="money">{money(extra?.cost, currency)}</span>
            </li>
          );
        }),
      )}
    </ul>
  );
}

interface BesideLineProps extends BesideProps {
  line: Line;
  role: Role;
  at: number;
}

function BesideLine({ line, role, at, serving, sheet, set }: BesideLineProps) {
  const currency = useCurrency();
  const extra = extraOf(sheet, role, at);
  const { preview } = usePot();
  const name = extra?.name ?? line.item ?? line.recipe ?? "";
  const lacks = (preview?.sheet.problems ?? []).filter(
    (one) => !one.stage && one.item && one.item === line.item && one.line === extra?.id,
  );
  return (
    <>
      <div className="flex items-center gap-1">
        <QuantityInput
          className="cell-input w-16 text-right"
          aria-label={`Quantity of ${name}`}
          value={line.quantity}
          set={(quantity) => {
            const lines = replacedAt(serving[role], at, (one) => ({ ...one, quantity }));
            set({ [role]: lines }, `${role}-${at}`);
          }}
        />
        <span className="grow">
          {line.byproduct ?? name}{" "}
          <span className="quiet text-xs">
            {role === "accompaniments" ? "beside it" : role}
            {extra?.kept_g && ` · ${mass(extra.kept_g)} kept for each`}
          </span>
        </span>
        <SmallField
          label="taken by"
          width="w-10"
          title="The share of the guests that take it: 1 is all of them"
          aria-label={`Share of the guests that take ${name}`}
          value={line.taken_by}
          set={(taken_by) => {
            const lines = replacedAt(serving[role], at, (one) => ({ ...one, taken_by: taken_by ?? "1" }));
            set({ [role]: lines }, `taken-${role}-${at}`);
          }}
        />
        <span className="money">{money(extra?.cost, currency)}</span>
        <Remove label={`Remove ${name}`} remove={() => set({ [role]: withoutPlace(serving[role], at) })} />
      </div>
      {lacks.map((problem) => (
        <Mend key={problem.message} problem={problem} />
      ))}
    </>
  );
}

/** What a guest may have with it for a surcharge: no part of what the portion costs. */
function AddOns({ serving, set }: { serving: Serving; set: BesideProps["set"] }) {
  const names = useNames().data ?? [];
  const lines = serving.add_ons;
  const put = (at: number, patch: Partial<Line>, field: string) =>
    set({ add_ons: replacedAt(lines, at, (one) => ({ ...one, ...patch })) }, `${field}-add-on-${at}`);
  return (
    <div>
      {lines.map((line, at) => {
        const name =
          line.byproduct ??
          names.find((one) => one.id === (line.item ?? line.recipe))?.name ??
          line.item ??
          "";
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no lasting name
          <div key={at} className="flex flex-wrap items-center gap-1">
            <QuantityInput
              className="cell-input w-16 text-right"
              aria-label={`Quantity of ${name} as an add-on`}
              value={line.quantity}
              set={(quantity) => put(at, { quantity }, "quantity")}
            />
            <span className="grow">
              {name} <span className="quiet text-xs">add-on</span>
            </span>
            <SmallField
              label="for"
              width="w-12 money"
              aria-label={`Surcharge for ${name}`}
              value={line.surcharge ?? null}
              set={(surcharge) => put(at, { surcharge }, "surcharge")}
            />
            <SmallField
              label="taken by"
              width="w-10"
              aria-label={`Share of the guests that take ${name} for a surcharge`}
              value={line.taken_by}
              set={(taken_by) => put(at, { taken_by: taken_by ?? "1" }, "taken")}
            />
            <Remove label={`Remove ${name}`} remove={() => set({ add_ons: withoutPlace(lines, at) })} />
          </div>
        );
      })}
      <TypedInput
        label={`add-on of ${serving.name}`}
        hint="for a surcharge: 30 g cheddar grated"
        add={(line) => set({ add_ons: [...lines, line] })}
      />
    </div>
  );
}

const METHODS = [
  ["", "kitchen's target"],
  ["food_cost_share", "food-cost share"],
  ["factor", "factor"],
  ["contribution", "contribution"],
  ["prime_cost_share", "prime-cost share"],
  ["full_cost", "full cost"],
] as const;
const HOLD_LIDS = [
  ["", "no lid"],
  ["off", "lid off"],
  ["ajar", "lid ajar"],
  ["on", "lid on"],
] as const;
type HoldLid = (typeof HOLD_LIDS)[number][0];

/** How long it stands hot while it is served, and in what. */
function HoldFields({ serving, set }: { serving: Serving; set: BesideProps["set"] }) {
  const vessels = useKitchen().data?.vessels ?? [];
  return (
    <div className="flex flex-wrap gap-x-3 mt-1">
      <SmallField
        label="stands hot, hours"
        width="w-12"
        value={serving.hold_hours ?? null}
        set={(hold_hours) => set({ hold_hours }, "hold-hours")}
      />
      {serving.hold_hours && (
        <>
          <SmallChoice
            label="in"
            value={serving.hold_vessel ?? ""}
            choices={[["", "not said"], ...vessels.map((one) => [one.id, one.name] as const)]}
            set={(vessel) => set({ hold_vessel: vessel || null })}
          />
          <SmallChoice<HoldLid>
            label="lid"
            value={serving.hold_lid ?? ""}
            choices={HOLD_LIDS}
            set={(lid) => set({ hold_lid: lid || null })}
          />
          <SmallField
            label="at °C"
            width="w-12"
            value={serving.hold_c}
            set={(text) => set({ hold_c: text ?? "75" }, "hold-c")}
          />
        </>
      )}
    </div>
  );
}

function PricingFields({ serving, set }: { serving: Serving; set: BesideProps["set"] }) {
  const pricing = serving.pricing ?? null;
  const terms = (["share", "factor", "amount", "overhead_share", "profit_share"] as const).filter(
    (key) => pricing?.[key] != null,
  );
  return (
    <div className="flex flex-wrap gap-x-3 mt-1">
      <SmallChoice
        label="priced by"
        value={pricing?.method ?? ""}
        choices={METHODS}
        set={(method) => set({ pricing: method === "" ? null : TERMS_TO_START[method] })}
      />
      {pricing &&
        terms.map((key) => (
          <SmallField
            key={key}
            label={key.replace("_", " ")}
            width="w-14"
            value={pricing[key] ?? null}
            set={(text) => set({ pricing: { ...pricing, [key]: text ?? "0" } }, `pricing-${key}`)}
          />
        ))}
      <SmallField
        label="portioning, seconds"
        width="w-12"
        value={serving.portioning_seconds}
        set={(text) => set({ portioning_seconds: text ?? "0" }, "seconds")}
      />
      <SmallField
        label="channel commission"
        width="w-12"
        value={serving.commission}
        set={(text) => set({ commission: text ?? "0" }, "commission")}
      />
    </div>
  );
}
