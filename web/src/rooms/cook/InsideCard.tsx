// What is in the pot: its salt, how thick it is, what a portion feeds, and for which of that a value is missing.

import { Link } from "react-router";
import { type CostSheet, inWords, type SheetLack, type SheetServing } from "../../api/client";
import { useKitchen } from "../../api/kitchen";
import { Figure } from "../../parts/Figure";
import { useFilling } from "../../parts/filling";
import { mass, NOT_KNOWN, percent, thickness, trimmed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { usePot } from "./usePot";

const NUTRIENTS = [
  ["energy_kcal", "energy"],
  ["fat_g", "fat"],
  ["saturates_g", "of which saturates"],
  ["carbohydrate_g", "carbohydrate"],
  ["sugars_g", "of which sugars"],
  ["fibre_g", "fibre"],
  ["protein_g", "protein"],
  ["salt_g", "salt"],
] as const;
// What has more in it than any soup is no liquid: croutons have no thickness.
const MOST_OF_A_SOUP = 250;
const CLASSES = { thin: "thin", medium: "medium thick", thick: "thick" };

export function InsideCard() {
  const { state, preview } = usePot();
  if (!preview) return null;
  const { sheet } = preview;
  const ask = (figure: string) => ({ figure, recipe: state.recipe.id, draft: state.recipe });
  const { batch } = sheet;
  return (
    <Panel label="In the pot" title="In the pot" look="tight" className="text-sm flex flex-col gap-1">
      <dl className="grid grid-cols-[1fr_auto]">
        <dt>salt</dt>
        <dd className="num" data-testid="salt-share">
          <Figure ask={ask("batch/salt_share")} text={percent(batch.salt_share, 2)} label="salt, by mass" />
          {batch.salt_g_at_least !== null && ` (at least ${mass(batch.salt_g_at_least)})`}
        </dd>
        {Number(batch.salt_to_add_g) > 0 && (
          <>
            <dt>to add</dt>
            <dd className="num" data-testid="salt-to-add">
              <Figure ask={ask("batch/salt_to_add_g")} text={mass(batch.salt_to_add_g)} label="salt to add" />
            </dd>
          </>
        )}
        {Number(batch.thickness_g_per_l ?? 0) < MOST_OF_A_SOUP && (
          <>
            <dt>thickness</dt>
            <dd className="num" data-testid="thickness">
              {batch.thickness_class && `${CLASSES[batch.thickness_class]}, `}
              <Figure
                ask={ask("batch/thickness_g_per_l")}
                text={thickness(batch.thickness_g_per_l, batch.thickness_at_least)}
                label="thickness, as grams of flour in a litre"
              />
            </dd>
          </>
        )}
        {Number(batch.alcohol_g) > 0 && (
          <>
            <dt title="What is left of it. Never call a pot with wine free of alcohol.">alcohol left</dt>
            <dd className="num">
              <Figure
                ask={ask("batch/alcohol_share")}
                text={percent(batch.alcohol_share, 2)}
                label="alcohol, by mass"
              />
            </dd>
          </>
        )}
        {batch.energy_kwh !== null && (
          <>
            <dt>energy to cook it</dt>
            <dd className="num">
              <Figure
                ask={ask("batch/energy_kwh")}
                text={`${trimmed(batch.energy_kwh, 1)} kWh`}
                label="energy of the batch"
              />
            </dd>
          </>
        )}
      </dl>
      <SaltNote sheet={sheet} />
      {sheet.servings.map((serving) => (
        <Portion key={serving.id} serving={serving} />
      ))}
      <Lacks sheet={sheet} />
      {batch.in_doubt.length > 0 && (
        <p className="quiet">
          Stated energy and its parts do not fit together, more than 10% apart: {batch.in_doubt.join(", ")}.
        </p>
      )}
      <p className="quiet text-xs">An aid for menus, no laboratory's analysis.</p>
    </Panel>
  );
}

/** Whether it is too salty already, and who brought that. */
function SaltNote({ sheet }: { sheet: CostSheet }) {
  const warnings = sheet.warnings.filter((one) => one.message_code.startsWith("salt_"));
  return warnings.map((one) => (
    <p key={one.message} className="font-semibold" data-testid="salt-warning">
      ⚠ {one.message}
    </p>
  ));
}

function Portion({ serving }: { serving: SheetServing }) {
  const { state } = usePot();
  const ask = (name: string) => ({
    figure: `serving/${serving.id}/${name}`,
    recipe: state.recipe.id,
    draft: state.recipe,
  });
  return (
    <details className="border-t border-base-300 pt-1">
      <summary className="cursor-pointer">
        a {serving.name}:{" "}
        {serving.energy_kcal !== null
          ? `${trimmed(serving.energy_kcal, 0)} kcal`
          : serving.energy_kcal_at_least !== null
            ? `at least ${trimmed(serving.energy_kcal_at_least, 0)} kcal`
            : "energy not known yet"}
        {serving.salt_g !== null && `, ${trimmed(serving.salt_g, 1)} g salt`}
      </summary>
      <dl className="grid grid-cols-[1fr_auto]">
        {NUTRIENTS.map(([name, label]) => {
          const value = serving[name];
          const unit = name === "energy_kcal" ? "kcal" : "g";
          const places = name === "energy_kcal" ? 0 : 1;
          const atLeast = (known: string | null) =>
            known === null ? NOT_KNOWN : `at least ${trimmed(known, places)} ${unit}`;
          return (
            <div key={name} className="contents">
              <dt className={label.startsWith("of") ? "pl-3" : ""}>{label}</dt>
              <dd className="num">
                <Figure
                  ask={ask(name)}
                  text={
                    value === null
                      ? atLeast(serving[`${name}_at_least`])
                      : `${trimmed(value, places)} ${unit}`
                  }
                  label={`${label} in a ${serving.name}`}
                  stop={false}
                />
              </dd>
            </div>
          );
        })}
        {Number(serving.alcohol_g) > 0 && (
          <>
            <dt>alcohol left</dt>
            <dd className="num">
              <Figure
                ask={ask("alcohol_g")}
                text={`${trimmed(serving.alcohol_g ?? "", 1)} g`}
                label="alcohol"
                stop={false}
              />
            </dd>
          </>
        )}
      </dl>
      <p className="quiet text-xs">
        With its garnish and what lies beside it. Health authorities advise at most 5 to 6 g of salt a day.
      </p>
    </details>
  );
}

/** The items without a value, each a way to give it one. */
function Lacks({ sheet }: { sheet: CostSheet }) {
  const kitchen = useKitchen();
  const fill = useFilling();
  const all = [...sheet.batch.lacks, ...sheet.servings.flatMap((one) => one.lacks)];
  const of = (some: (one: SheetLack) => boolean) =>
    new Map(all.filter(some).map((one) => [one.item, one.name]));
  const items = of((one) => one.lacks.some((name) => name !== "thickening"));
  const traces = of((one) => one.traces.length > 0 && !items.has(one.item));
  const known = [...of((one) => one.on_shelf).keys()];
  if (items.size + traces.size === 0 || !kitchen.data) return null;
  return (
    <p data-testid="lacks">
      {items.size > 0 && (
        <>
          <span className="font-semibold">what they hold is not known of:</span> <Named items={items} />
        </>
      )}{" "}
      {traces.size > 0 && (
        <span className="quiet">
          too little to matter, counted as none: <Named items={traces} />
        </span>
      )}{" "}
      {known.length > 0 && (
        <button
          type="button"
          className="btn btn-xs no-print"
          disabled={fill.isPending}
          onClick={() => fill.mutate(known)}
        >
          Fill from the shelf
        </button>
      )}
      {fill.isError && <span className="text-error"> {inWords(fill.error)}</span>}
    </p>
  );
}

/** Some items by name, each a way to it. */
function Named({ items }: { items: ReadonlyMap<string, string> }) {
  const shown = [...items].slice(0, 6);
  return (
    <>
      {shown.map(([item, name], at) => (
        <span key={item}>
          {at > 0 && ", "}
          <Link className="link" to={`/buy/${item}`}>
            {name}
          </Link>
        </span>
      ))}
      {items.size > shown.length && ` and ${items.size - shown.length} more`}
    </>
  );
}
