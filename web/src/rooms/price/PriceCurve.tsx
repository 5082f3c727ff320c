// What a price does: contribution and food-cost share over a range of prices, with the target and the price in force.

import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import type { Selling } from "../../api/client";
import { ChartFrame, plotOf } from "../../parts/chart/ChartFrame";
import { useCurrency } from "../../parts/Figure";
import { money, percent } from "../../parts/format";
import { Panel } from "../../parts/kit/Panel";

const PLOT = plotOf(300, 170, 40);

export function PriceCurve({ selling }: { selling: Selling }) {
  const currency = useCurrency();
  const points = selling.curve.filter((one) => one.food_cost_share !== null);
  const inForce = selling.rows.find((row) => row.row === "in_force");
  if (points.length < 2) return null;
  const prices = points.map((one) => Number(one.price));
  const shares = points.map((one) => Math.min(1, Number(one.food_cost_share)));
  const x = scaleLinear([Math.min(...prices), Math.max(...prices)], [PLOT.left, PLOT.right]);
  const left = scaleLinear(
    [
      Math.min(0, ...points.map((one) => Number(one.contribution))),
      Math.max(...points.map((one) => Number(one.contribution))),
    ],
    [PLOT.bottom, PLOT.top],
  ).nice(4);
  const share = scaleLinear([0, Math.max(...shares)], [PLOT.bottom, PLOT.top]).nice(4);
  const contribution = line<number>()
    .x((at) => x(prices[at] ?? 0))
    .y((at) => left(Number(points[at]?.contribution ?? 0)));
  const food = line<number>()
    .x((at) => x(prices[at] ?? 0))
    .y((at) => share(shares[at] ?? 0));
  const all = points.map((_, at) => at);
  const words = (at: number) =>
    `${money(points[at]?.price, currency)}: leaves ${money(points[at]?.contribution, currency)}, share ${percent(points[at]?.food_cost_share, 1)}`;
  return (
    <Panel label="What the price does" title="What the price does" look="tight">
      <ChartFrame
        plot={PLOT}
        label={`From ${money(points[0]?.price, currency)} to ${money(points.at(-1)?.price, currency)}: contribution of a portion, and food-cost share`}
        across={x.ticks(5).map((price) => ({ at: x(price), text: money(String(price), currency) }))}
        up={left.ticks(4).map((sum) => ({ at: left(sum), text: money(String(sum), currency) }))}
        spots={all.map((at) => ({
          key: String(at),
          x: x(prices[at] ?? 0),
          y: left(Number(points[at]?.contribution ?? 0)),
          words: words(at),
        }))}
        heads={["Price", { text: "leaves", num: true }, { text: "share", num: true }]}
        rows={all.map(
          (at) =>
            [
              money(points[at]?.price, currency),
              money(points[at]?.contribution, currency),
              percent(points[at]?.food_cost_share, 1),
            ] as const,
        )}
        legend="Solid: what a portion leaves. Dashed: food-cost share, from nothing to its most. Dotted across: the target share. Upright: the price in force."
      >
        <path d={contribution(all) ?? ""} fill="none" stroke="var(--color-secondary)" strokeWidth="2" />
        <path
          d={food(all) ?? ""}
          fill="none"
          stroke="var(--color-primary)"
          strokeWidth="1.5"
          strokeDasharray="5 3"
        />
        {selling.target !== null && Number(selling.target) <= (share.domain()[1] ?? 1) && (
          <path
            d={`M${PLOT.left} ${share(Number(selling.target))} H${PLOT.right}`}
            stroke="var(--color-primary)"
            strokeDasharray="1 4"
          />
        )}
        {inForce?.price != null && (
          <path
            d={`M${x(Number(inForce.price))} ${PLOT.top} V${PLOT.bottom}`}
            stroke="currentColor"
            strokeWidth="1.5"
          />
        )}
      </ChartFrame>
    </Panel>
  );
}
