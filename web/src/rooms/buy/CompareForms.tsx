// The usable kilo (or ready litre): the same need met by several forms, side by side. The address holds the comparison.

import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { api, inWords, type Named, told, type UsableComparison, type UsableForm } from "../../api/client";
import { useNames } from "../../api/kitchen";
import { compareAddress } from "../../parts/addresses";
import { Figure, type Question, useCurrency } from "../../parts/Figure";
import { aKilo, aLitre, inUs, kilo, litre, mass, money, perKilo, perUnit, trimmed } from "../../parts/format";
import { useKeys } from "../../parts/keys";
import { Table } from "../../parts/kit/Table";
import { Picker } from "../../parts/Picker";
import { Remove, SmallChoice } from "../../parts/Small";
import { useComparisons } from "./comparisons";
import { KeepComparison } from "./KeepComparison";
import { KeptComparisons } from "./KeptComparisons";

const heads = (unit: string, strong: boolean) => [
  { text: "Cost", num: true },
  { text: "Labour", num: true },
  { text: "Together", num: true },
  // Its working tells of a kilo or a litre, wherever the kitchen lies.
  { text: "Salt in it", num: true, ...(inUs() ? { note: `of 1 ${unit}` } : {}) },
  { text: `A ${kilo()} as bought`, num: true },
  ...(strong ? [{ text: "As strong", num: true }] : []),
  { text: "Wins below", num: true },
];

/** The forms of the address as it is by now: whoever is quick may pick the next before the last is on the page. */
const formsNow = () => new URLSearchParams(window.location.search).getAll("form");

export function CompareForms() {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const [picking, setPicking] = useState(false);
  const names = useNames();
  const forms = search.getAll("form");
  const unit = search.get("unit") === "l" ? "l" : "kg";
  const kept = useComparisons();
  const id = search.get("kept") ?? undefined;
  const write = (next: string[], nextUnit: "kg" | "l" = unit) =>
    navigate(compareAddress({ id, unit: nextUnit, forms: [...new Set(next)] }));
  const found = useQuery({
    queryKey: ["usable", unit, forms],
    queryFn: () =>
      told<UsableComparison>(api.GET("/api/usable", { params: { query: { form: forms, unit } } })),
    enabled: forms.length > 0,
    placeholderData: keepPreviousData,
  });
  useKeys({ n: () => setPicking(true) });
  const words = unit === "kg" ? `a usable ${kilo()}` : `a ready ${litre()}`;
  const rows = found.data?.forms ?? [];
  const strong = rows.some((one) => one.as_strong !== null);
  const most = Math.max(...rows.map((row) => Number(row.total ?? 0)), 0.01);
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 mb-3">
        <h1 className="text-xl font-semibold">What {words} costs</h1>
        <SmallChoice
          label="for"
          value={unit}
          choices={[
            ["kg", `${aKilo()}, trimmed`],
            ["l", `${aLitre()}, ready`],
          ]}
          set={(next) => write(forms, next)}
        />
        {picking ? (
          <Picker
            names={names.data ?? []}
            label="Another form"
            pick={(one) => {
              write([...formsNow(), formOf(one)]);
              setPicking(false);
            }}
            leave={() => setPicking(false)}
          />
        ) : (
          <button type="button" className="btn btn-sm btn-primary" onClick={() => setPicking(true)}>
            Another form <kbd className="text-base-content">N</kbd>
          </button>
        )}
        {forms.length > 0 && (
          <Link className="btn btn-sm ml-auto" to="/buy/compare">
            All comparisons
          </Link>
        )}
        <Link className={`btn btn-sm ${forms.length > 0 ? "" : "ml-auto"}`} to="/buy">
          Back to Buy
        </Link>
      </div>
      {found.isError && (
        <p role="alert" className="text-error">
          {inWords(found.error)}
        </p>
      )}
      {forms.length === 0 ? (
        <p className="sheet p-6 max-w-2xl">
          Pick the forms in which one thing can be had: whole, ready cut, frozen, canned; or stock as carton,
          cube, base and your own. They stand side by side, with the labour of trimming and without. Keep them
          under a name, and they are here again tomorrow, at tomorrow's prices.
        </p>
      ) : (
        <Table
          caption="Forms side by side"
          heads={[
            "Form",
            { text: "Cost and labour", className: "w-56" },
            ...heads(unit, strong),
            { text: "Change", unseen: true },
          ]}
        >
          {rows.map((row) => (
            <Row
              key={row.form}
              row={row}
              unit={unit}
              strong={strong}
              most={most}
              comparison={rows.length > 1 ? found.data : undefined}
              ask={(name) => ({
                figure: `usable/${unit}/${name}/${[row.form, ...forms.filter((one) => one !== row.form)]}`,
              })}
              named={names.data?.find((one) => formOf(one).split(":")[0] === row.form.split(":")[0])}
              change={(next) =>
                write(forms.flatMap((form) => (form !== row.form ? [form] : next ? [next] : [])))
              }
            />
          ))}
        </Table>
      )}
      {rows.length > 1 && found.data && <Verdict comparison={found.data} />}
      {forms.length > 0 && kept.data && (
        <KeepComparison
          key={id ?? "new"}
          unit={unit}
          forms={forms}
          kept={kept.data.find((one) => one.comparison.id === id)?.comparison ?? null}
        />
      )}
      {forms.length === 0 && <KeptComparisons />}
      {rows.length === 1 && (
        <p className="mt-3">
          Set another form beside it: ready-cut, frozen, canned, or the same thing in another preparation.
        </p>
      )}
    </>
  );
}

/** A picked name as a form; an item comes with its first preparation. */
function formOf(one: Named): string {
  if (one.is_recipe) return `recipe/${one.id}`;
  const first = one.preparations[0];
  return first ? `${one.id}:${first.id}` : one.id;
}

interface RowProps {
  row: UsableForm;
  unit: "kg" | "l";
  /** Whether some of the forms give the same taste. */
  strong: boolean;
  most: number;
  comparison: UsableComparison | undefined;
  ask: (name: string) => Question;
  named: Named | undefined;
  change: (form: string | null) => void;
}

function Row({ row, unit, strong, most, comparison, ask, named, change }: RowProps) {
  const currency = useCurrency();
  const figure = (name: string, label: string, text: string) => (
    <Figure ask={ask(name)} text={text} label={`${label} of ${row.name}`} className="money" />
  );
  const width = (value: string | null) => `${(100 * Number(value ?? 0)) / most}%`;
  const [item = "", steps = ""] = row.form.split(":");
  return (
    <tr data-form={row.form}>
      <th scope="row">
        {row.name}
        {comparison?.cheapest === row.form && <span className="text-success font-normal"> ✓ cheapest</span>}
        {comparison?.cheapest_with_labour === row.form && (
          <span className="text-success font-normal"> ✓ cheapest with labour</span>
        )}
        {row.lack && <div className="text-error font-normal text-sm">{row.lack}</div>}
        {named && named.preparations.length > 0 && (
          <div className="font-normal">
            <SmallChoice
              label="prepared"
              value={steps}
              choices={[
                ["", "as it is"],
                ...named.preparations.map((one) => [one.id, one.name] as const),
                ...(steps.includes("+") ? [[steps, steps.replaceAll("+", ", then ")] as const] : []),
              ]}
              set={(next) => change(next ? `${item}:${next}` : item)}
            />
          </div>
        )}
      </th>
      <td>
        <div className="bar" aria-hidden="true">
          <div style={{ width: width(row.cost), background: "var(--color-secondary)" }} />
          <div style={{ width: width(row.labour), background: "var(--color-primary)" }} />
        </div>
      </td>
      <td className="num">
        {row.cost !== null && figure("cost", "cost", money(perUnit(row.cost, unit), currency))}
      </td>
      <td className="num">
        {row.labour !== null && figure("labour", "labour", money(perUnit(row.labour, unit), currency))}
      </td>
      <td className="num">
        {row.total !== null && figure("total", "cost and labour", money(perUnit(row.total, unit), currency))}
      </td>
      <td className="num">
        {row.salt_g !== null && (
          <Figure ask={ask("salt_g")} text={saltWords(row)} label={`salt in ${row.name}`} />
        )}
      </td>
      <td className="num">
        {row.per_kg !== null && (
          <Figure
            ask={{ figure: `item/${item}/price_per_kg` }}
            text={money(perKilo(row.per_kg), currency)}
            label={`price of ${aKilo()} of ${row.name}`}
            className="money"
          />
        )}
      </td>
      {strong && (
        <td className="num">
          {row.as_strong !== null && (
            <>
              {figure("as_strong", "for the same strength", money(perKilo(row.as_strong), currency))}
              <span className="quiet block text-xs">{strengthWords(row)}</span>
            </>
          )}
        </td>
      )}
      <td className="num">
        {row.wins_at !== null &&
          figure("wins_at", "price at which it wins", money(perKilo(row.wins_at), currency))}
      </td>
      <td>
        <Remove label={`Leave out ${row.name}`} remove={() => change(null)} />
      </td>
    </tr>
  );
}

/** How strong a form is beside the usual one of the same taste, with its band. */
function strengthWords(row: UsableForm): string {
  const [likely, low, high] = [row.strength, row.strength_low, row.strength_high].map((one) =>
    trimmed(one ?? "0", 1),
  );
  return low === high ? "the usual form" : `${likely} times as strong, ${low} to ${high}`;
}

/** Of what is made here, only the salt is known that its ingredients have noted. */
function saltWords(row: UsableForm): string {
  if (!row.form.startsWith("recipe/")) return mass(row.salt_g);
  return Number(row.salt_g) > 0 ? `${mass(row.salt_g)} noted` : "none noted";
}

function Verdict({ comparison }: { comparison: UsableComparison }) {
  const nameOf = (form: string | null) => comparison.forms.find((one) => one.form === form)?.name;
  const { cheapest, cheapest_with_labour: withLabour } = comparison;
  if (cheapest === null || withLabour === null) return null;
  return (
    <p className="mt-3" data-testid="verdict">
      {cheapest === withLabour
        ? `Cheapest with labour and without: ${nameOf(cheapest)}.`
        : `Cheapest to buy: ${nameOf(cheapest)}. With the labour: ${nameOf(withLabour)}.`}{" "}
      <span className="quiet text-sm">
        "Wins below" is the price of {aKilo()} as bought at which a form would cost as much as the cheapest
        other, labour included.
      </span>
    </p>
  );
}
