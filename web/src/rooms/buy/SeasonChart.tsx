// What a price does over the year, once there is a year of it: each month beside the year's mean.

import { scaleBand, scaleLinear } from "d3-scale";
import type { Season } from "../../api/client";
import { ChartFrame, plotOf } from "../../parts/chart/ChartFrame";
import { percent } from "../../parts/format";

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const PLOT = plotOf(440, 110);

const name = (month: number) => MONTHS[month - 1] ?? "";

function beside(share: string | undefined): string {
  const text = percent(String(Number(share ?? 1) - 1));
  return text.startsWith("−") ? text : `+${text}`;
}

export function SeasonChart({ season }: { season: Season | null | undefined }) {
  if (!season) return null;
  const { months, cheapest, dearest } = season;
  const x = scaleBand(MONTHS, [PLOT.left, PLOT.right]).padding(0.2);
  const y = scaleLinear([0, Math.max(...months.map(Number), 1)], [PLOT.bottom, PLOT.top]);
  const words = `cheapest in ${name(cheapest)} (${beside(months[cheapest - 1])}), dearest in ${name(dearest)} (${beside(months[dearest - 1])})`;
  const middle = (month: string) => (x(month) ?? 0) + x.bandwidth() / 2;
  return (
    <section className="mt-3">
      <h3 className="font-semibold">Over the year</h3>
      <ChartFrame
        plot={PLOT}
        label={`Price over the year: ${words}`}
        across={MONTHS.map((month) => ({ at: middle(month), text: month }))}
        up={[{ at: y(1), text: "mean" }]}
        spots={months.map((share, at) => ({
          key: name(at + 1),
          x: middle(name(at + 1)),
          y: y(Number(share)),
          words: `${name(at + 1)}: ${beside(share)} beside the year's mean`,
        }))}
        heads={["Month", { text: "beside the mean", num: true }]}
        rows={months.map((share, at) => [name(at + 1), beside(share)] as const)}
        legend={`${words} of the year's mean.`}
      >
        {months.map((share, at) => (
          <rect
            key={name(at + 1)}
            x={x(name(at + 1))}
            width={x.bandwidth()}
            y={y(Number(share))}
            height={PLOT.bottom - y(Number(share))}
            fill="var(--color-secondary)"
            fillOpacity={at + 1 === cheapest || at + 1 === dearest ? 1 : 0.55}
          />
        ))}
      </ChartFrame>
    </section>
  );
}
