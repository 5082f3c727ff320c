// One serving size: what a portion costs, what it sells for, what is left.

import { Link } from "react-router";
import type { Serving, SheetServing, Uncertainty } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { ShareScale } from "../../parts/Bars";
import { moverOf } from "../../parts/drift";
import { Figure, useCurrency } from "../../parts/Figure";
import { day, money, percent, signed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { QuantityInput } from "../../parts/QuantityInput";
import { Remove } from "../../parts/Small";
import { inField, outOfField } from "../../parts/way";
import { Beside, Printed } from "./Beside";
import { changeServing, removeServing } from "./draft";
import { Hold } from "./Hold";
import { Spread } from "./Spread";
import { TargetProposal } from "./TargetProposal";
import { useIsBad, usePot } from "./usePot";

interface Props {
  serving: Serving;
  place: number;
  sheet: SheetServing | undefined;
  was: SheetServing | undefined;
  sure: Uncertainty | undefined;
}

export function ServingCard({ serving, place, sheet, was, sure }: Props) {
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
  // What is in a bowl may hold no bone: where nobody said that they come out, there are fewer portions than reckoned.
  const bonesAreIn = preview?.sheet.warnings.some((one) => one.params?.about === "bones") ?? false;
  // A loss that nobody told, or a question that is open: the price it proposes rests on that.
  const unsaid =
    preview?.sheet.warnings.filter((one) => ["asked", "no_loss_known"].includes(one.message_code)).length ??
    0;
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
                  of {bonesAreIn && "at most "}
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
          {serving.coming && (
            <>
              <dt>
                from <span className="quiet text-sm">{day(serving.coming.on)}</span>
              </dt>
              <dd className="num money">{money(serving.coming.price, currency)}</dd>
            </>
          )}
          <dt>
            computed price{" "}
            {unsaid > 0 && (
              <span
                className="quiet text-xs"
                title="It rests on what nobody has said of this pot yet: see what is asked at its stages"
              >
                {unsaid === 1 ? "one thing" : `${unsaid} things`} not said
              </span>
            )}
          </dt>
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
            <dd className="col-span-2">
              <TargetProposal kitchen={kitchen.data} />
            </dd>
          )}
          <dt>food-cost share</dt>
          <dd className="num" data-testid={`share-${serving.id}`}>
            <ShareScale share={sheet.food_cost_share} target={sheet.target_share} band={sure?.share} />{" "}
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
      {sheet && (
        <Link className="link text-sm no-print" to={`/price/${state.recipe.id}/${serving.id}`}>
          schools, channels, break-even
        </Link>
      )}
      {sheet && sure && <Spread sure={sure} priced={sheet.price_is_set} />}
      {sheet?.food_cost_if_all_take_it != null && (
        <p className="text-sm quiet">
          if all take everything:{" "}
          <Figure
            ask={ask("food_cost_if_all_take_it")}
            text={money(sheet.food_cost_if_all_take_it, currency)}
            label={`cost of a ${serving.name}, if all take everything`}
            className="money"
            stop={false}
          />
        </p>
      )}
      {sheet?.hold && <Hold hold={sheet.hold} />}
      <Beside serving={serving} set={set} sheet={sheet} />
      <Printed serving={serving} sheet={sheet} />
    </Panel>
  );
}
