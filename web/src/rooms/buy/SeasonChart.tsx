// What a price does over the year, once there is a year of it: each month beside the year's mean.

import type { Season } from "../../api/client";
import { percent } from "../../parts/format";

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const STEP = 34;
const HEIGHT = 70;
const BASE = 56;
const TALLEST = 48;

const name = (month: number) => MONTHS[month - 1] ?? "";
const beside = (share: string | undefined) => percent(String(Number(share ?? 1) - 1));

export function SeasonChart({ season }: { season: Season | null | undefined }) {
  if (!season) return null;
  const shares = season.months.map(Number);
  const most = Math.max(...shares, 1);
  const height = (share: number) => (TALLEST * share) / most;
  const words = `cheapest in ${name(season.cheapest)} (${beside(season.months[season.cheapest - 1])}), dearest in ${name(season.dearest)} (+${beside(season.months[season.dearest - 1])})`;
  return (
    <figure className="mt-3">
      <h3 className="font-semibold">Over the year</h3>
      <svg
        viewBox={`0 0 ${STEP * 12} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={`Price over the year: ${words}`}
      >
        {shares.map((share, at) => (
          <rect
            key={MONTHS[at]}
            x={at * STEP + 4}
            width={STEP - 8}
            y={BASE - height(share)}
            height={height(share)}
            fill="var(--color-secondary)"
            fillOpacity={at + 1 === season.cheapest || at + 1 === season.dearest ? 1 : 0.55}
          />
        ))}
        <path
          d={`M0 ${BASE - height(1)} H${STEP * 12}`}
          stroke="currentColor"
          strokeDasharray="2 3"
          strokeOpacity="0.6"
        />
        <g fontSize="10" fill="currentColor" textAnchor="middle">
          {MONTHS.map((month, at) => (
            <text key={month} x={at * STEP + STEP / 2} y={HEIGHT - 3}>
              {month}
            </text>
          ))}
        </g>
      </svg>
      <figcaption className="text-sm quiet">{words} of the year's mean.</figcaption>
    </figure>
  );
}
