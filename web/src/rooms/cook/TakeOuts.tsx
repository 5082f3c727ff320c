// What is strained, skimmed or picked out of a stage.

import type { PreviewReply, Stage, TakeOut } from "../../api/client";
import { newTakeOut } from "../../parts/blank";
import { replacedAt, withoutPlace } from "../../parts/places";
import { SmallQuantity } from "../../parts/QuantityInput";
import { Remove, SmallField } from "../../parts/Small";
import { changeTakeOuts, isKeptForGarnish, keepForGarnish, linesUpTo } from "./garnish";
import { usePot } from "./usePot";

interface Props {
  stage: Stage;
  /** Its place in the run of the pot. */
  at: number;
}

/** What each portion could get of it: as much as there is, in whole grams; ten where that is not known. */
function fairShare(preview: PreviewReply | undefined, stage: number, place: number): string {
  const mass = Number(preview?.sheet.stages[stage]?.taken_out[place]?.mass_g ?? 0);
  const portions = Math.max(0, ...(preview?.sheet.servings ?? []).map((one) => Number(one.portions ?? 0)));
  return mass > 0 && portions > 0 ? `${Math.max(1, Math.floor(mass / portions))} g` : "10 g";
}

export function TakeOuts({ stage, at }: Props) {
  const { preview, state, edit } = usePot();
  const set = (taken: TakeOut[], field?: string) =>
    edit(changeTakeOuts(at, taken), field && `${field}-${at}`);
  const upTo = preview?.sheet.stages.findIndex((one) => one.id === stage.id) ?? -1;
  const choices = linesUpTo(stage.id, preview);
  return (
    <div className="py-1">
      {stage.take_out.map((taken, place) => {
        if (taken.assumed) return null;
        const patch = (change: Partial<TakeOut>, field?: string) =>
          set(
            replacedAt(stage.take_out, place, (one) => ({ ...one, ...change })),
            field && `take-${place}-${field}`,
          );
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: take-outs have no lasting name
          <div key={place} className="flex flex-wrap gap-x-3 items-center">
            <SmallField
              label="taken out"
              width="w-32"
              value={taken.name}
              set={(name) => patch({ name: name ?? "" }, "name")}
            />
            {taken.mass !== null && taken.mass !== undefined ? (
              <SmallQuantity
                label="weighing"
                value={taken.mass}
                set={(mass) => patch({ mass: mass || "0" }, "mass")}
              />
            ) : (
              <>
                <SmallField
                  label={`${taken.of.join(", ")} at`}
                  width="w-24"
                  hint="as it then weighs"
                  value={taken.spent_factor ?? null}
                  set={(factor) => patch({ spent_factor: factor }, "factor")}
                />
                <span className="quiet">of what went in</span>
              </>
            )}
            <select
              className="cell-input"
              aria-label={`What ${taken.name} is made of`}
              value=""
              onChange={(event) => {
                const id = event.target.value;
                if (id === "mass") patch({ mass: "500 g", of: [], spent_factor: null });
                else if (id)
                  patch({
                    mass: null,
                    of: taken.of.includes(id) ? taken.of : [...taken.of, id],
                    spent_factor: taken.spent_factor ?? null,
                  });
              }}
            >
              <option value="">of …</option>
              <option value="mass">a given weight</option>
              {choices.map((line) => (
                <option key={`${line.stage}/${line.id}`} value={line.id}>
                  the spent {line.name}
                </option>
              ))}
            </select>
            {isKeptForGarnish(state.recipe, taken.name) ? (
              <span title="Its cost goes with the portions that get it: see garnish beside the servings">
                kept for garnish, at what it cost
              </span>
            ) : (
              <>
                <SmallField
                  label="worth a kilo"
                  width="w-16"
                  value={taken.value_per_kg}
                  set={(value) => patch({ value_per_kg: value ?? "0" }, "value")}
                />
                <SmallField
                  label="for"
                  width="w-24"
                  value={taken.use ?? null}
                  set={(use) => patch({ use }, "use")}
                />
                {state.recipe.servings.length > 0 && (
                  <button
                    type="button"
                    className="link"
                    onClick={() => edit(keepForGarnish(at, place, fairShare(preview, upTo, place)))}
                  >
                    keep for garnish
                  </button>
                )}
              </>
            )}
            <label
              className="flex items-center gap-1"
              title="Bones and lifted fat carry no salt of the pot away"
            >
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={taken.dry ?? false}
                onChange={(event) => patch({ dry: event.target.checked || null })}
              />
              <span className="quiet">carries no salt</span>
            </label>
            <Remove
              label={`Leave ${taken.name} in`}
              remove={() => set(withoutPlace(stage.take_out, place))}
            />
          </div>
        );
      })}
      <button type="button" className="link quiet" onClick={() => set([...stage.take_out, newTakeOut()])}>
        + take something out
      </button>
    </div>
  );
}
