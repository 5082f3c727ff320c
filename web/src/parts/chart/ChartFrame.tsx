// The frame of every chart: axes with their ticks, the value under the pointer or the arrow keys, and a table as alternative.

import { type PointerEvent, type ReactNode, useState } from "react";
import { type Head, Table } from "../kit/Table";

/** The room inside the axes [px of the drawing]. */
export interface Plot {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export function plotOf(width: number, height: number, left = 46): Plot {
  return { width, height, left, right: width - 12, top: 10, bottom: height - 20 };
}

export interface Tick {
  at: number;
  text: string;
}

/** One value of the chart: where it stands, and what is said of it. */
export interface Spot {
  key: string;
  x: number;
  y: number;
  words: string;
}

interface Props {
  plot: Plot;
  /** What the chart shows, in words, for those who do not see it. */
  label: string;
  across: readonly Tick[];
  up: readonly Tick[];
  spots: readonly Spot[];
  heads: readonly (string | Head)[];
  rows: readonly (readonly [string, ...ReactNode[]])[];
  legend?: ReactNode;
  children: ReactNode;
  /** A picture of places rather than of values over time: no axis, and what is nearest is nearest in both directions. */
  free?: boolean;
  /** Opens the working of a value, by a click or by Enter. */
  open?: (key: string) => void;
}

export function ChartFrame(props: Props) {
  const { plot, label, across, up, spots, heads, rows, legend, children, free = false, open } = props;
  const [at, setAt] = useState<number | null>(null);
  const spot = at === null ? undefined : spots[at];
  const flat = free ? 1 : 4;
  const point = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = ((event.clientX - box.left) * plot.width) / box.width;
    const y = ((event.clientY - box.top) * plot.height) / box.height;
    const far = (one: Spot) => (one.x - x) ** 2 + ((one.y - y) / flat) ** 2;
    setAt(spots.reduce((best, one, place) => (far(one) < far(spots[best] ?? one) ? place : best), 0));
  };
  return (
    <figure className="chart mt-3">
      {/* The arrow keys go through the values; what it is on is said below the picture, and out loud. */}
      <input
        type="range"
        className="sr-only"
        aria-label={`Values of: ${label}`}
        aria-valuetext={spot?.words ?? ""}
        min={0}
        max={Math.max(0, spots.length - 1)}
        value={at ?? 0}
        onFocus={() => setAt(0)}
        onBlur={() => setAt(null)}
        onChange={(event) => setAt(Number(event.target.value))}
        onKeyDown={(event) => {
          if (event.key === "Enter" && spot) open?.(spot.key);
        }}
      />
      <svg
        viewBox={`0 0 ${plot.width} ${plot.height}`}
        className="w-full block"
        role="img"
        aria-label={label}
        onPointerMove={point}
        onPointerLeave={() => setAt(null)}
        onPointerUp={() => spot && open?.(spot.key)}
      >
        <g stroke="currentColor" strokeOpacity="0.2">
          {up.map((tick) => (
            <path key={tick.at} d={`M${plot.left} ${tick.at} H${plot.right}`} />
          ))}
        </g>
        {!free && (
          <path d={`M${plot.left} ${plot.bottom} H${plot.right}`} stroke="currentColor" strokeOpacity="0.6" />
        )}
        <g className="ticks" fill="currentColor">
          {up.map((tick) => (
            <text key={tick.at} x={plot.left - 6} y={tick.at + 4} textAnchor="end">
              {tick.text}
            </text>
          ))}
          {across.map((tick) => (
            <text key={tick.at} x={tick.at} y={plot.height - 5} textAnchor={anchor(tick.at, plot)}>
              {tick.text}
            </text>
          ))}
        </g>
        {children}
        {spot && (
          <g stroke="currentColor" fill="none">
            {!free && (
              <path d={`M${spot.x} ${plot.top} V${plot.bottom}`} strokeDasharray="2 3" strokeOpacity="0.6" />
            )}
            <circle cx={spot.x} cy={spot.y} r="7" strokeWidth="1.5" />
          </g>
        )}
      </svg>
      <p className="text-sm min-h-5" data-testid="chart-value">
        {spot?.words}
      </p>
      {legend && <figcaption className="text-xs quiet">{legend}</figcaption>}
      <details className="text-sm no-print">
        <summary className="link cursor-pointer w-fit list-none">As a table</summary>
        <div className="max-h-60 overflow-auto">
          <Table caption={label} heads={heads} look="small">
            {rows.map(([name, ...cells], place) => (
              // Two values may be called the same; their order is fixed.
              // biome-ignore lint/suspicious/noArrayIndexKey: see above
              <tr key={place}>
                <th scope="row" className="font-normal">
                  {name}
                </th>
                {cells.map((cell, column) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the columns of a table are fixed
                  <td key={column} className={numOf(heads[column + 1])}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </Table>
        </div>
      </details>
    </figure>
  );
}

const numOf = (head: string | Head | undefined) => (typeof head === "object" && head.num ? "num" : "");

function anchor(x: number, plot: Plot): "start" | "middle" | "end" {
  if (x < plot.left + 16) return "start";
  return x > plot.right - 16 ? "end" : "middle";
}
