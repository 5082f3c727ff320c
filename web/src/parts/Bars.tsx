// Bars drawn to scale: what remains is solid, what is lost is hatched; where the price goes; a share beside its target.

import { percent } from "./format";

const width = (part: number, whole: number) => `${Math.max(0, Math.min(100, (100 * part) / (whole || 1)))}%`;

interface MassParts {
  /** What goes on; of that, `juice` is what the lines gave to the pot as juice, liquor and fat. */
  out: number;
  juice: number;
  /** What went up, as the lines cooked and as the stage did. */
  up: number;
  /** What was taken out or sticks to the vessel. */
  aside: number;
}

/** A stage's mass drawn to scale: what stays is solid, the juice in it paler, what went up hatched, what was taken out plain. */
export function MassBar({ out, juice, up, aside }: MassParts) {
  const of = Math.max(0, out) + Math.max(0, up) + Math.max(0, aside);
  const stayed = Math.max(0, Math.min(juice, out));
  return (
    <div className="bar w-full" aria-hidden="true">
      <div style={{ width: width(out - stayed, of), background: "var(--color-primary)" }} />
      <div className="juice" style={{ width: width(stayed, of) }} />
      <div className="lost" style={{ width: width(up, of) }} />
      <div style={{ width: width(aside, of), background: "var(--color-base-100)" }} />
    </div>
  );
}

export function PriceBar({
  food,
  labour,
  kept,
}: {
  food: string | null;
  labour: string | null;
  kept: string | null;
}) {
  if (food === null || kept === null) return <span className="quiet text-sm">not known yet</span>;
  const whole = Number(kept);
  const cost = Number(food) + Number(labour ?? 0);
  return (
    <div
      className="bar w-full"
      title="food, labour, left over: drawn to scale of the net price"
      aria-hidden="true"
    >
      <div
        style={{ width: width(Number(food), Math.max(whole, cost)), background: "var(--color-secondary)" }}
      />
      <div
        style={{
          width: width(Number(labour ?? 0), Math.max(whole, cost)),
          background: "var(--color-primary)",
        }}
      />
      <div
        style={{ width: width(whole - cost, Math.max(whole, cost)), background: "var(--color-base-100)" }}
      />
    </div>
  );
}

/** A food-cost share on a scale from nothing to twice its target, with the target's tick in the middle and its band. */
export function ShareScale({
  share,
  target,
  band,
}: {
  share: string | null;
  target: string | null;
  band?: { p10: string; p90: string } | null | undefined;
}) {
  if (share === null || target === null) return <span className="w-16 inline-block" />;
  const over = Number(share) > Number(target);
  const at = (value: string) => Math.min(100, (50 * Number(value)) / Number(target));
  const place = at(share);
  return (
    <span
      className="ink relative inline-block h-3 w-16 border-b border-base-content/60 align-baseline"
      role="img"
      aria-label={`${percent(share, 1)} against a target of ${percent(target)}${band ? `, 8 times in 10 from ${percent(band.p10, 1)} to ${percent(band.p90, 1)}` : ""}`}
    >
      {band && (
        <span
          className="absolute -bottom-1.5 h-3 min-w-px bg-base-content/30"
          style={{ left: `${at(band.p10)}%`, right: `${100 - at(band.p90)}%` }}
        />
      )}
      <span className="absolute bottom-0 left-1/2 h-3 w-0.5 bg-base-content" />
      <span
        className={`absolute -bottom-1 h-2 ${band ? "w-1 -ml-0.5" : "w-2 -ml-1"} ${over ? "bg-error" : "bg-success rounded-full"}`}
        style={{ left: `${place}%` }}
      />
    </span>
  );
}
