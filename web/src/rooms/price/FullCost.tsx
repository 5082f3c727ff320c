// The full cost of a portion, drawn to scale: food, packaging, labour, energy, overhead, and what nobody told.

import type { Selling } from "../../api/client";
import { Figure, useCurrency } from "../../parts/Figure";
import { money, trimmed } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";
import { inPath } from "./words";

type Kind = Selling["full"]["parts"][number]["kind"];

const KINDS: readonly Kind[] = ["food", "packaging", "labour", "energy", "overhead"];
const INKS: Record<Kind, string> = {
  food: "var(--color-secondary)",
  packaging: "color-mix(in oklch, var(--color-secondary) 55%, var(--color-base-100))",
  labour: "var(--color-primary)",
  energy: "color-mix(in oklch, var(--color-primary) 55%, var(--color-base-100))",
  overhead: "color-mix(in oklch, var(--color-base-content) 35%, var(--color-base-100))",
};

export function FullCost({ selling }: { selling: Selling }) {
  const currency = useCurrency();
  const { parts, lacks, total } = selling.full;
  const kept = Number(selling.rows.find((row) => row.row === "in_force")?.kept ?? 0);
  const sums = KINDS.map((kind) => ({
    kind,
    parts: parts.filter((part) => part.kind === kind),
    sum: parts.filter((part) => part.kind === kind).reduce((sum, part) => sum + Number(part.cost), 0),
  }));
  const whole = sums.reduce((sum, one) => sum + one.sum, 0);
  const scale = Math.max(whole, kept) || 1;
  const left = kept - whole;
  const ask = (figure: string) => ({ figure, recipe: selling.recipe });
  return (
    <Panel
      label="Full cost"
      title="What a portion costs in full"
      look="tight"
      beside={
        <span className="text-lg">
          <Figure
            ask={ask(`serving/${selling.serving}/in/${inPath(selling.channel)}/full_cost`)}
            text={money(total, currency)}
            label="full cost of a portion"
            className="money"
            atLeast={lacks.length > 0}
          />
        </span>
      }
    >
      <div className="bar w-full h-4" aria-hidden="true">
        {sums.map((one) => (
          <div key={one.kind} style={{ width: `${(100 * one.sum) / scale}%`, background: INKS[one.kind] }} />
        ))}
        {left > 0 && (
          <div style={{ width: `${(100 * left) / scale}%`, background: "var(--color-base-100)" }} />
        )}
      </div>
      <ul className="flex flex-wrap gap-x-6 gap-y-1 mt-2 text-sm">
        {sums
          .filter((one) => one.parts.length > 0)
          .map((one) => (
            <li key={one.kind} className="flex items-baseline gap-1 flex-wrap">
              <span
                className="ink inline-block w-3 h-2 border border-base-content/60"
                style={{ background: INKS[one.kind] }}
                aria-hidden="true"
              />
              <span className="font-semibold">{one.kind}</span>
              {one.parts.map((part) => (
                <span key={part.figure} className="whitespace-nowrap">
                  {one.parts.length > 1 && <span className="quiet">{part.name} </span>}
                  <Figure
                    ask={ask(part.figure)}
                    text={money(part.cost, currency)}
                    label={`${one.kind}, ${part.name}`}
                    className="money"
                    stop={false}
                  />
                  {part.kwh != null && <span className="quiet"> {trimmed(part.kwh, 2)} kWh a batch</span>}
                </span>
              ))}
            </li>
          ))}
        {kept > 0 && (
          <li className="flex items-baseline gap-1">
            <span className="ink inline-block w-3 h-2 border border-base-content/60" aria-hidden="true" />
            <span className="font-semibold">{left >= 0 ? "left" : "short"}</span>
            {lacks.length > 0 && <span className="quiet">{left >= 0 ? "at most" : "at least"}</span>}
            <span className={`money ${left < 0 ? "text-error" : ""}`}>
              {money(String(Math.abs(left)), currency)}
            </span>
            <span className="quiet">of what is kept of the price in force</span>
          </li>
        )}
      </ul>
      {lacks.length > 0 && <p className="text-sm mt-1 unsure">Not in it: {lacks.join("; ")}.</p>}
    </Panel>
  );
}
