// The tests of a yield over time, beside the band of the book and the interval of their own mean.

import { scaleLinear, scaleTime } from "d3-scale";
import { symbol, symbolCircle, symbolTimes } from "d3-shape";
import { addDays, max, min } from "date-fns";
import type { TestRow, YieldReply } from "../../api/client";
import { ChartFrame, plotOf } from "../../parts/chart/ChartFrame";
import { dayAt, dayTicks } from "../../parts/chart/days";
import { day, percent } from "../../parts/format";

const PLOT = plotOf(640, 190);
const COUNTED = symbol(symbolCircle, 62)() ?? "";
const LEFT_OUT = symbol(symbolTimes, 60)() ?? "";

const words = ({ test, weights, supplier }: TestRow) =>
  `${day(test.on)}: ${percent(weights.yield, 1)}${supplier ? `, ${supplier}` : ""}${test.left_out == null ? "" : `, left out: ${test.left_out}`}`;

export function TestsChart({ found }: { found: YieldReply }) {
  const tests = [...found.tests].sort((a, b) => a.test.on.localeCompare(b.test.on));
  const book = found.books.find((one) => one.low !== null && one.high !== null) ?? found.books[0];
  const own = found.own;
  const yields = tests.map((one) => Number(one.weights.yield));
  const ends = [book?.low, book?.high, book?.likely].filter((one) => one != null).map(Number);
  const room = Math.max(0.01, (Math.max(...yields, ...ends) - Math.min(...yields, ...ends)) * 0.12);
  const y = scaleLinear(
    [Math.min(...yields, ...ends) - room, Math.max(...yields, ...ends) + room],
    [PLOT.bottom, PLOT.top],
  ).clamp(true);
  const days = tests.map((one) => dayAt(one.test.on));
  const [first, last] = [min(days), max(days)];
  // Of tests on one day, the day stands in the middle.
  const margin = first.getTime() === last.getTime() ? 1 : 0;
  const x = scaleTime([addDays(first, -margin), addDays(last, margin)], [PLOT.left + 14, PLOT.right - 14]);
  const ticks = y.ticks(5);
  const places = (ticks[1] ?? 1) - (ticks[0] ?? 0) < 0.01 ? 1 : 0;
  const lowest = percent(String(Math.min(...yields)), 1);
  const label = `${tests.length} tests from ${lowest} to ${percent(String(Math.max(...yields)), 1)}`;
  const level = (share: string) => `M${PLOT.left} ${y(Number(share))} H${PLOT.right}`;
  return (
    <ChartFrame
      plot={PLOT}
      label={label}
      across={dayTicks(margin ? [first] : x.ticks(Math.min(6, tests.length)), x)}
      up={ticks.map((share) => ({ at: y(share), text: percent(String(share), places) }))}
      spots={tests.map((one) => ({
        key: one.test.id,
        x: x(dayAt(one.test.on)),
        y: y(Number(one.weights.yield)),
        words: words(one),
      }))}
      heads={["Test", { text: "yield", num: true }, "supplier", "left out"]}
      rows={tests.map(
        (one) =>
          [
            day(one.test.on),
            percent(one.weights.yield, 1),
            one.supplier ?? "",
            one.test.left_out ?? "",
          ] as const,
      )}
      legend={
        <>
          dots: tests, crosses: left out · green: their mean, and the 95% interval at the right · copper:{" "}
          {book ? `${book.source}, its band shaded` : "no book"}
        </>
      }
    >
      {book?.low != null && book.high != null && (
        <rect
          x={PLOT.left}
          width={PLOT.right - PLOT.left}
          y={y(Number(book.high))}
          height={Math.max(1, y(Number(book.low)) - y(Number(book.high)))}
          fill="var(--color-secondary)"
          fillOpacity="0.16"
        />
      )}
      {book && <path d={level(book.likely)} stroke="var(--color-secondary)" strokeDasharray="6 4" />}
      {own && <path d={level(own.mean)} stroke="var(--color-success)" strokeWidth="1.5" />}
      {own?.low != null && own.high != null && (
        <path
          d={`M${PLOT.right - 4} ${y(Number(own.low))} V${y(Number(own.high))}`}
          stroke="var(--color-success)"
          strokeWidth="4"
        />
      )}
      {tests.map((one) => (
        <Mark key={one.test.id} row={one} x={x(dayAt(one.test.on))} y={y(Number(one.weights.yield))} />
      ))}
    </ChartFrame>
  );
}

function Mark({ row, x, y }: { row: TestRow; x: number; y: number }) {
  const late = x > PLOT.width - 90;
  return (
    <g transform={`translate(${x} ${y})`}>
      {row.outlier && (
        <g stroke="none" fill="var(--color-error)" className="ticks">
          <circle r="9" fill="none" stroke="var(--color-error)" strokeWidth="1.5" />
          <text x={late ? -13 : 13} y="4" textAnchor={late ? "end" : "start"}>
            far off
          </text>
        </g>
      )}
      {row.test.left_out == null ? (
        <path d={COUNTED} fill="var(--color-primary)" />
      ) : (
        <path d={LEFT_OUT} stroke="currentColor" strokeWidth="1.5" />
      )}
    </g>
  );
}
