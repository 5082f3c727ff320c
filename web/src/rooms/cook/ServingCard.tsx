// One serving size: what a portion costs, what it sells for, what is left.

import { useState } from "react";
import type { Line, Pricing, Serving, SheetServing } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { ShareScale } from "../../parts/Bars";
import { moverOf } from "../../parts/drift";
import { Figure, useCurrency } from "../../parts/Figure";
import { day, mass, money, percent, signed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { QuantityInput } from "../../parts/QuantityInput";
import { Remove, SmallChoice, SmallField } from "../../parts/Small";
import { inField, outOfField } from "../../parts/way";
import { changeServing, removeServing, replacedAt, withoutPlace } from "./draft";
import { Mend } from "./Mend";
import { TargetProposal } from "./TargetProposal";
import { TypedInput } from "./TypedInput";
import { useIsBad, usePot } from "./usePot";

interface Props {
  serving: Serving;
  place: number;
  sheet: SheetServing | undefined;
  was: SheetServing | undefined;
}

export function ServingCard({ serving, place, sheet, was }: Props) {
  const { state, edit, preview } = usePot();
  const currency = useCurrency();
  const kitchen = useKitchen();
  const set = (patch: Partial<Serving>, field?: string) =>
    edit(changeServing(place, patch), field && `${field}-serving-${place}`);
  const ask = (name: string) => ({
    figure: `serving/${serving.id}/${name}`,
    recipe: state.recipe.id,
    draft: state.recipe,
  });
  const badSize = useIsBad(`servings[${place}].size`);
  const badPrice = useIsBad(`servings[${place}].price`);
  const drift = preview?.drifts[serving.id];
  const today = kitchen.data?.today ?? null;
  const suggested = sheet?.suggested_price ?? null;
  const setPrice = (price: string | null, field?: string) =>
    set({ price, price_set_on: price === null ? null : today }, field);
  return (
    <Panel label={`Serving ${serving.name}`} look="tight" data-serving={serving.id}>
      <div className="flex items-center gap-1">
        <input
          className="cell-input font-semibold w-32"
          aria-label="Name of the serving"
          value={serving.name}
          onChange={(event) => set({ name: event.target.value }, "name")}
        />
        <QuantityInput
          className="cell-input w-20"
          aria-label={`Size of ${serving.name}`}
          aria-invalid={badSize}
          value={serving.size}
          set={(size) => set({ size }, "size")}
        />
        <Remove
          label={`Remove serving ${serving.name}`}
          remove={() => edit(removeServing(place))}
          look="btn-xs ml-auto no-print"
        />
      </div>
      {sheet && (
        <dl className="grid grid-cols-[1fr_auto] gap-y-0.5 mt-1">
          <dt>
            a portion costs{" "}
            <span className="quiet text-sm">
              {sheet.whole_portions !== null && (
                <>
                  of{" "}
                  <Figure
                    ask={ask("portions")}
                    text={String(sheet.whole_portions)}
                    label={`portions of ${serving.name}`}
                    stop={false}
                  />
                </>
              )}
            </span>
          </dt>
          <dd className="num text-lg" data-testid={`cost-${serving.id}`}>
            <Figure
              atLeast={preview?.sheet.complete === false}
              ask={ask("food_cost")}
              text={money(sheet.food_cost, currency)}
              was={was && money(was.food_cost, currency)}
              label={`cost of a ${serving.name}`}
              className="money"
            />
          </dd>
          <dt>
            <label htmlFor={`price-${serving.id}`}>set price</label>
            {serving.price_set_on && <span className="quiet text-sm"> of {day(serving.price_set_on)}</span>}
          </dt>
          <dd className="num">
            <input
              id={`price-${serving.id}`}
              data-set-price
              className="cell-input w-16 text-right money"
              aria-invalid={badPrice}
              value={inField(serving.price ?? "")}
              onChange={(event) => setPrice(outOfField(event.target.value.trim()) || null, "price")}
            />
          </dd>
          <dt>computed price</dt>
          <dd className="num">
            {suggested !== null && suggested !== serving.price && (
              <button
                type="button"
                className="link text-sm mr-2 no-print"
                onClick={() => setPrice(outOfField(money(suggested, currency)))}
              >
                set it
              </button>
            )}
            <Figure
              ask={ask("suggested_price")}
              text={money(suggested, currency)}
              label={`computed price of ${serving.name}`}
              className="money"
            />
          </dd>
          {kitchen.data && kitchen.data.settings.target_food_cost == null && serving.pricing == null && (
            <TargetProposal kitchen={kitchen.data} />
          )}
          <dt>food-cost share</dt>
          <dd className="num" data-testid={`share-${serving.id}`}>
            <ShareScale share={sheet.food_cost_share} target={sheet.target_share} />{" "}
            <Figure
              ask={ask("food_cost_share")}
              text={percent(sheet.food_cost_share, 1)}
              was={was && percent(was.food_cost_share, 1)}
              label={`food-cost share of ${serving.name}`}
            />
            {sheet.target_share && <span className="quiet text-xs"> of {percent(sheet.target_share)}</span>}
          </dd>
          <dt title="1 less the food-cost share: many kitchens price by it">gross profit</dt>
          <dd className="num">
            <Figure
              ask={ask("gross_profit_share")}
              text={percent(sheet.gross_profit_share, 1)}
              label={`gross profit of ${serving.name}`}
            />
          </dd>
          <dt title="the contribution: what a portion leaves after food and packaging">margin</dt>
          <dd className="num">
            <Figure
              ask={ask("contribution")}
              text={money(sheet.contribution, currency)}
              label={`contribution of ${serving.name}`}
              className="money"
            />
          </dd>
          <dt>labour</dt>
          <dd className="num">
            <Figure
              ask={ask("labour_cost")}
              text={money(sheet.labour_cost, currency)}
              label={`labour of ${serving.name}`}
              className="money"
            />
          </dd>
          {drift?.change && (
            <>
              <dt>since priced</dt>
              <dd className="flex items-baseline justify-end gap-2">
                <span className="quiet text-sm max-w-32 truncate">{moverOf(drift)}</span>
                <Figure
                  ask={ask("drift")}
                  text={signed(drift.change, currency)}
                  label={`change since ${serving.name} was priced`}
                  className="money"
                />
              </dd>
            </>
          )}
        </dl>
      )}
      <Beside serving={serving} set={set} sheet={sheet} />
      <Printed serving={serving} sheet={sheet} />
    </Panel>
  );
}

const ROLES = [
  ["garnish", "garnish", "garnish: 5 g hazelnuts"],
  ["accompaniments", "beside it", "beside it: 1 bread roll"],
  ["packaging", "packaging", "packaging: 1 soup cup"],
] as const;

interface BesideProps {
  serving: Serving;
  sheet: SheetServing | undefined;
  set: (patch: Partial<Serving>, field?: string) => void;
}

/** What is added to each portion, and how the price is worked out. */
function Beside({ serving, sheet, set }: BesideProps) {
  const count = serving.garnish.length + serving.accompaniments.length + serving.packaging.length;
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
      <PricingFields serving={serving} set={set} />
    </details>
  );
}

/** The same on paper. */
function Printed({ serving, sheet }: { serving: Serving; sheet: SheetServing | undefined }) {
  const currency = useCurrency();
  return (
    <ul className="only-print text-sm mt-1">
      {ROLES.flatMap(([role, words]) =>
        serving[role].map((line, at) => {
          const extra = sheet?.extras.filter((one) => one.role === role)[at];
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
  role: (typeof ROLES)[number][0];
  at: number;
}

function BesideLine({ line, role, at, serving, sheet, set }: BesideLineProps) {
  const currency = useCurrency();
  const extra = sheet?.extras.filter((one) => one.role === role)[at];
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
        <span className="money">{money(extra?.cost, currency)}</span>
        <Remove label={`Remove ${name}`} remove={() => set({ [role]: withoutPlace(serving[role], at) })} />
      </div>
      {lacks.map((problem) => (
        <Mend key={problem.message} problem={problem} />
      ))}
    </>
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
const NO_TERMS = { share: null, factor: null, amount: null, overhead_share: null, profit_share: null };
const STARTS: Record<Pricing["method"], Pricing> = {
  food_cost_share: { ...NO_TERMS, method: "food_cost_share", share: "0.30" },
  factor: { ...NO_TERMS, method: "factor", factor: "3.5" },
  contribution: { ...NO_TERMS, method: "contribution", amount: "2.50" },
  prime_cost_share: { ...NO_TERMS, method: "prime_cost_share", share: "0.60" },
  full_cost: { ...NO_TERMS, method: "full_cost", overhead_share: "0.20", profit_share: "0.10" },
};

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
        set={(method) => set({ pricing: method === "" ? null : STARTS[method] })}
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
