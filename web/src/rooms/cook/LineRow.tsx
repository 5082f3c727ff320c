// One line of a stage: as typed, what to buy, what is in the pot, what it costs.

import { type CSSProperties, useState } from "react";
import { flushSync } from "react-dom";
import type { Line, Named, SheetLine, Stage } from "../../api/client";
import { Figure, useCurrency, useWorking } from "../../parts/Figure";
import { mass, money } from "../../parts/format";
import { keyName } from "../../parts/keys";
import { Picker } from "../../parts/Picker";
import { QuantityInput } from "../../parts/QuantityInput";
import { useToast } from "../../parts/Toasts";
import { changeLine, type LinePlace, moveLine, removeLine, stepped } from "./draft";
import { handle, settled, useDropPlace } from "./dragging";
import { ExchangePanel } from "./ExchangePanel";
import { Mend } from "./Mend";
import { Preparations } from "./Preparations";
import { SplashRow } from "./SplashRow";
import { useIsBad, usePot } from "./usePot";

interface Props {
  line: Line;
  stage: Stage;
  stagePlace: number;
  place: number;
  sheet: SheetLine | undefined;
  names: Named[];
}

/** How much of a pot's money a line is, for the bar behind its cost. */
export function spent(cost: string | null | undefined, whole: string | null | undefined): CSSProperties {
  const of = Number(whole ?? 0);
  const share = of > 0 ? Math.max(0, Math.min(100, (100 * Number(cost ?? 0)) / of)) : 0;
  return { "--spent": `${share.toFixed(1)}%` } as CSSProperties;
}

export function LineRow({ line, stage, stagePlace, place, sheet, names }: Props) {
  const { edit, state, preview, saved } = usePot();
  const [picking, setPicking] = useState(false);
  const [trying, setTrying] = useState(false);
  const toast = useToast();
  const working = useWorking();
  const currency = useCurrency();
  const bad = useIsBad(`stages[${stagePlace}].lines[${place}].quantity`);
  const named = names.find(
    (one) => one.id === (line.item ?? line.recipe) && one.is_recipe === (line.recipe !== null),
  );
  // A measure of the ready thing is EP, whatever the line says.
  const isReady = (named?.ready_units ?? []).some((unit) => line.quantity.trim().endsWith(` ${unit}`));
  const name = sheet?.name ?? named?.name ?? line.item ?? line.recipe ?? "";
  const problems = (preview?.sheet.problems ?? []).filter(
    (one) => sheet && one.stage === stage.id && one.line === sheet.id,
  );
  const set = (patch: Partial<Line>, field?: string) => edit(changeLine(stagePlace, place, patch), field);
  const here = { stage: stagePlace, line: place };
  const move = (step: 1 | -1) => {
    const to = stepped(state.recipe, here, step);
    if (!to) return;
    // The row has to stand in its new place before it can have the focus there.
    flushSync(() => edit(moveLine(here, to)));
    const stages = document.querySelectorAll("section[data-stage]");
    stages[to.stage]?.querySelectorAll<HTMLInputElement>("input[data-quantity]")[to.line]?.focus();
  };
  const { over, place: drop } = useDropPlace<LinePlace>("line", (from, below) => {
    const before = from.stage === stagePlace ? from.line : null;
    edit(moveLine(from, { stage: stagePlace, line: settled(before, place, below) }));
  });
  const remove = () => edit(removeLine(stagePlace, place));
  const path = `line/${stage.id}/${sheet?.id ?? ""}`;
  const ask = (figure: string) => ({
    figure: `${path}/${figure}`,
    recipe: state.recipe.id,
    draft: state.recipe,
  });
  const onKeyDown = (event: React.KeyboardEvent) => {
    const acts: Record<string, () => void> = {
      "Alt+up": () => move(-1),
      "Alt+down": () => move(1),
      "Alt+w": () => working(ask("cost")),
      "Alt+i": () => sheet?.exchange && setTrying(true),
      "Alt+Delete": remove,
      "Alt+Backspace": remove,
    };
    const act = acts[keyName(event)];
    if (act) {
      event.preventDefault();
      act();
    }
  };
  const splash = line.by_eye
    ? preview?.splashes.find((one) => one.stage === stage.id && one.line === sheet?.id)
    : undefined;
  const was = saved.sheet.lines.find((one) => one.stage === stage.id && one.id === sheet?.id);
  return (
    <>
      <tr
        {...drop}
        onKeyDown={onKeyDown}
        data-line={sheet?.id}
        className={`hover:bg-base-200 ${over ? `dropped-${over}` : ""}`}
      >
        <td className="pl-3">
          <span className="flex flex-wrap items-center gap-1">
            <QuantityInput
              className="cell-input w-24 text-right"
              data-quantity
              aria-label={`Quantity of ${name}`}
              aria-invalid={bad}
              value={line.quantity}
              set={(quantity) => set({ quantity }, `quantity-${stagePlace}-${place}`)}
            />
            {picking ? (
              <Picker
                names={names}
                label="Another item or recipe"
                pick={(one) => {
                  set({
                    item: one.is_recipe ? null : one.id,
                    recipe: one.is_recipe ? one.id : null,
                    preparation: null,
                    byproduct: null,
                  });
                  setPicking(false);
                }}
                leave={() => setPicking(false)}
              />
            ) : (
              <button
                type="button"
                className="cell-input name text-left cursor-pointer"
                title="Take another item"
                onClick={() => setPicking(true)}
              >
                {name}
              </button>
            )}
            {line.note && <span className="quiet text-sm">{line.note}</span>}
            {line.by_eye && <span className="quiet text-sm">to {line.by_eye}, by eye</span>}
            {sheet?.rough && (
              <span className="unsure text-xs" title={sheet.rough}>
                rough<span className="sr-only">: {sheet.rough}</span>
              </span>
            )}
            {line.byproduct && <span className="quiet text-sm">left over elsewhere</span>}
            {line.item && !line.byproduct && (
              <>
                <button
                  type="button"
                  className="cell-input text-xs"
                  disabled={isReady}
                  aria-label={`${line.basis}: ${name} is measured ${line.basis === "AP" ? "as purchased" : "as it goes in"}; change`}
                  title={line.basis === "AP" ? "as purchased" : "edible portion, as it goes into the pot"}
                  onClick={() => set({ basis: line.basis === "AP" ? "EP" : "AP" })}
                >
                  {isReady ? "EP" : line.basis}
                </button>
                <Preparations line={line} named={named} set={set} name={name} />
              </>
            )}
          </span>
        </td>
        <td className="num" data-label="buy (AP)">
          {sheet && (
            <Figure ask={ask("ap_g")} text={mass(sheet.ap_g)} label={`${name} to buy`} stop={false} />
          )}
        </td>
        <td className="num" data-label="in pot (EP)">
          {sheet && (
            <Figure ask={ask("ep_g")} text={mass(sheet.ep_g)} label={`${name} in the pot`} stop={false} />
          )}
        </td>
        <td className="num" data-label="cost">
          {sheet && (
            <div className="spent" style={spent(sheet.cost, preview?.sheet.batch.food_cost)}>
              <Figure
                ask={ask("cost")}
                text={money(sheet.cost, currency)}
                atLeast={sheet.at_least}
                was={was && was.cost !== sheet.cost ? money(was.cost, currency) : undefined}
                label={`cost of ${name}`}
                className="money"
                stop={false}
              />
            </div>
          )}
        </td>
        <td className="tools text-right pl-4 pr-2 md:w-38 whitespace-nowrap no-print">
          <span
            {...handle("line", here, "tr")}
            className="cursor-grab px-1 max-md:hidden"
            title="Drag it to another place"
            aria-hidden="true"
          >
            ⠿
          </span>
          {sheet?.exchange && (
            <button
              type="button"
              className="btn btn-ghost btn-xs text-base-content"
              aria-label={`What could stand for ${name}`}
              title="What could stand for it (Alt I)"
              onClick={() => setTrying(true)}
            >
              ⇄
            </button>
          )}
          <button
            type="button"
            className="btn btn-ghost btn-xs text-base-content"
            tabIndex={-1}
            disabled={stepped(state.recipe, here, -1) === null}
            aria-label={`Move ${name} up`}
            title="Alt ↑"
            onClick={() => move(-1)}
          >
            ↑
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs text-base-content"
            tabIndex={-1}
            disabled={stepped(state.recipe, here, 1) === null}
            aria-label={`Move ${name} down`}
            title="Alt ↓"
            onClick={() => move(1)}
          >
            ↓
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-xs text-base-content"
            tabIndex={-1}
            aria-label={`Remove ${name}`}
            title="Alt Delete"
            onClick={remove}
          >
            ×
          </button>
        </td>
      </tr>
      {trying && sheet && (
        <tr>
          <td colSpan={5} className="p-0">
            <ExchangePanel
              recipe={state.recipe}
              stage={stage.id}
              line={sheet.id}
              leave={() => setTrying(false)}
              take={(recipe, taken) => {
                edit(() => recipe);
                setTrying(false);
                toast(`${taken} stands for ${name}`);
              }}
            />
          </td>
        </tr>
      )}
      {splash && (
        <SplashRow
          splash={splash}
          name={name}
          now={line.quantity}
          serving={state.recipe.servings[0]?.name}
          pour={(quantity) => set({ quantity })}
        />
      )}
      {problems.map((problem) => (
        <tr key={problem.message}>
          <td colSpan={5} className="pl-8 pb-1">
            <Mend problem={problem} />
          </td>
        </tr>
      ))}
    </>
  );
}
