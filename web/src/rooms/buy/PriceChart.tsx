// The price of a kilo over time: a step at each offer, a mark where it was recorded, a gap where none was in force.

import { scaleLinear, scaleTime } from "d3-scale";
import { curveStepAfter, line, symbol, symbolCircle, symbolDiamond } from "d3-shape";
import { addDays, max, min } from "date-fns";
import type { ItemReply } from "../../api/client";
import { ChartFrame, plotOf } from "../../parts/chart/ChartFrame";
import { dayAt, dayTicks } from "../../parts/chart/days";
import { useCurrency } from "../../parts/Figure";
import { aKilo, day, dayOf, money, ofOne, perKilo } from "../../parts/format";

const PLOT = plotOf(440, 150);
const RECORDED = symbol(symbolCircle, 30)() ?? "";
const DELIVERED = symbol(symbolDiamond, 44)() ?? "";
const DASHES = ["", "6 3", "2 3", "8 3 2 3"];
const DASH_WORDS = ["solid", "dashed", "dotted", "dash and dot"];

type Point = ItemReply["history"][number];
const priceOf = (point: Point) => perKilo(point.per_kg) ?? point.per_one;
/** A price from a day on; null where it ends and no other follows. */
type Step = [Date, number | null];

export function PriceChart({ reply, today }: { reply: ItemReply; today: string }) {
  const currency = useCurrency();
  const points = reply.history.filter((point) => priceOf(point) !== null).toReversed();
  if (points.length < 2) return null;
  const days = points.map((point) => dayAt(point.offer.on));
  const last = max([dayAt(today), ...days]);
  const x = scaleTime([min(days), last], [PLOT.left, PLOT.right]);
  const y = scaleLinear(
    [0, Math.max(...points.map((point) => Number(priceOf(point))))],
    [PLOT.bottom, PLOT.top],
  ).nice(4);
  const suppliers = [...new Set(points.map((point) => point.supplier))];
  const path = line<Step>()
    .defined(([, price]) => price !== null)
    .x(([on]) => x(on))
    .y(([, price]) => y(price ?? 0))
    .curve(curveStepAfter);
  const words = (point: Point) =>
    `${dayOf(point.offer.on, today)}: ${money(priceOf(point), currency)} ${ofOne(reply.row.counted)}, ${point.supplier}${point.offer.source ? `, ${point.offer.source}` : ""}`;
  return (
    <ChartFrame
      plot={PLOT}
      label={inWords(reply, points, currency)}
      across={dayTicks(x.ticks(5), x)}
      up={y.ticks(4).map((price) => ({ at: y(price), text: money(String(price), currency) }))}
      spots={points.map((point) => ({
        key: point.offer.id ?? point.offer.on,
        x: x(dayAt(point.offer.on)),
        y: y(Number(priceOf(point))),
        words: words(point),
      }))}
      heads={["From", { text: ofOne(reply.row.counted), num: true }, "supplier"]}
      rows={points
        .toReversed()
        .map(
          (point) => [dayOf(point.offer.on, today), money(priceOf(point), currency), point.supplier] as const,
        )}
      legend={<Legend points={points} suppliers={suppliers} />}
    >
      {suppliers.map((supplier, at) => (
        <path
          key={supplier}
          d={
            path(
              stepsOf(
                points.filter((point) => point.supplier === supplier),
                last,
              ),
            ) ?? ""
          }
          fill="none"
          stroke="var(--color-secondary)"
          strokeWidth="2"
          strokeDasharray={DASHES[at % DASHES.length]}
        />
      ))}
      {points.map((point) => (
        <path
          key={point.offer.id}
          transform={`translate(${x(dayAt(point.offer.on))} ${y(Number(priceOf(point)))})`}
          d={point.offer.delivered ? DELIVERED : RECORDED}
          fill={point.offer.delivered ? "var(--color-primary)" : "var(--color-secondary)"}
        />
      ))}
    </ChartFrame>
  );
}

/** The prices of one supplier, each from its day until it ends or the next begins. */
function stepsOf(points: Point[], last: Date): Step[] {
  return points.flatMap((point, at): Step[] => {
    const price = Number(priceOf(point));
    const next = points[at + 1];
    const over = point.offer.until ? min([addDays(dayAt(point.offer.until), 1), last]) : last;
    const end = next ? min([dayAt(next.offer.on), over]) : over;
    const begun: Step[] = [
      [dayAt(point.offer.on), price],
      [end, price],
    ];
    return next && end >= dayAt(next.offer.on) ? begun : [...begun, [end, null]];
  });
}

function Legend({ points, suppliers }: { points: Point[]; suppliers: string[] }) {
  return (
    <>
      {points.some((point) => point.offer.delivered) && (
        <span className="block">
          <span className="text-primary">◆</span> delivered, <span className="text-secondary">●</span> a price
          only
        </span>
      )}
      {suppliers.length > 1 &&
        suppliers.map((supplier, at) => `${supplier} ${DASH_WORDS[at % 4]}`).join(", ")}
    </>
  );
}

function inWords(reply: ItemReply, points: Point[], currency: string): string {
  const told = (point: Point | undefined) =>
    `${money(point && priceOf(point), currency)} on ${day(point?.offer.on ?? "")}`;
  return `Price of ${reply.row.counted ? `1 ${reply.row.counted}` : aKilo()} of ${reply.item.name}: ${told(points[0])}, ${told(points[points.length - 1])}`;
}
