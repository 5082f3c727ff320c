// The tests of a yield over time, beside the band of the book and the interval of their own mean.

import type { YieldReply } from "../../api/client";
import { day, percent } from "../../parts/format";

const W = 640;
const H = 190;
const LEFT = 44;
const RIGHT = 12;
const TOP = 12;
const BOTTOM = 24;

const time = (on: string) => new Date(`${on}T12:00:00`).getTime();

export function TestsChart({ found }: { found: YieldReply }) {
  const tests = [...found.tests].sort((a, b) => a.test.on.localeCompare(b.test.on));
  const book = found.books.find((one) => one.low !== null && one.high !== null) ?? found.books[0];
  const own = found.own;
  const yields = tests.map((one) => Number(one.weights.yield));
  const ends = [book?.low, book?.high, book?.likely].filter((one) => one != null).map(Number);
  const low = Math.min(...yields, ...ends);
  const high = Math.max(...yields, ...ends);
  const room = Math.max(0.01, (high - low) * 0.12);
  const from = low - room;
  const to = high + room;
  const first = time(tests[0]?.test.on ?? "2026-01-01");
  const last = time(tests[tests.length - 1]?.test.on ?? "2026-01-01");
  const x = (on: string) =>
    first === last
      ? (LEFT + W - RIGHT) / 2
      : LEFT + 14 + ((W - LEFT - RIGHT - 28) * (time(on) - first)) / (last - first);
  const y = (share: number) => TOP + ((H - TOP - BOTTOM) * (to - share)) / (to - from);
  const clamp = (share: number) => Math.max(from, Math.min(to, share));
  const places = to - from < 0.06 ? 1 : 0;
  const steps = [from + room, (from + to) / 2, to - room];
  return (
    <figure>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={`${tests.length} tests from ${percent(String(Math.min(...yields)), 1)} to ${percent(String(Math.max(...yields)), 1)}`}
      >
        {book?.low != null && book.high != null && (
          <rect
            x={LEFT}
            width={W - LEFT - RIGHT}
            y={y(Number(book.high))}
            height={Math.max(1, y(Number(book.low)) - y(Number(book.high)))}
            fill="var(--color-secondary)"
            fillOpacity="0.16"
          />
        )}
        {book && (
          <path
            d={`M${LEFT} ${y(Number(book.likely))} H${W - RIGHT}`}
            stroke="var(--color-secondary)"
            strokeDasharray="6 4"
          />
        )}
        {own && (
          <path
            d={`M${LEFT} ${y(Number(own.mean))} H${W - RIGHT}`}
            stroke="var(--color-success)"
            strokeWidth="1.5"
          />
        )}
        {own?.low != null && own.high != null && (
          <path
            d={`M${W - RIGHT - 4} ${y(clamp(Number(own.low)))} V${y(clamp(Number(own.high)))}`}
            stroke="var(--color-success)"
            strokeWidth="4"
          />
        )}
        <g fontSize="11" fill="currentColor">
          {steps.map((share) => (
            <text key={share} x={LEFT - 6} y={y(share) + 4} textAnchor="end">
              {percent(String(share), places)}
            </text>
          ))}
          {tests.length > 0 && (
            <>
              <text x={LEFT} y={H - 6}>
                {day(tests[0]?.test.on ?? "")}
              </text>
              {first !== last && (
                <text x={W - RIGHT} y={H - 6} textAnchor="end">
                  {day(tests[tests.length - 1]?.test.on ?? "")}
                </text>
              )}
            </>
          )}
        </g>
        {tests.map((one) => {
          const out = one.test.left_out != null;
          const cx = x(one.test.on);
          const cy = y(Number(one.weights.yield));
          const words = `${day(one.test.on)}: ${percent(one.weights.yield, 1)}${one.supplier ? `, ${one.supplier}` : ""}`;
          return (
            <g key={one.test.id}>
              {one.outlier && (
                <>
                  <circle cx={cx} cy={cy} r="9" fill="none" stroke="var(--color-error)" strokeWidth="1.5" />
                  <text
                    x={cx > W - 90 ? cx - 13 : cx + 13}
                    y={cy + 4}
                    fontSize="11"
                    fill="var(--color-error)"
                    textAnchor={cx > W - 90 ? "end" : "start"}
                  >
                    far off
                  </text>
                </>
              )}
              {out ? (
                <path
                  d={`M${cx - 4} ${cy - 4} l8 8 M${cx - 4} ${cy + 4} l8 -8`}
                  stroke="currentColor"
                  strokeWidth="1.5"
                >
                  <title>{`${words}, left out: ${one.test.left_out}`}</title>
                </path>
              ) : (
                <circle cx={cx} cy={cy} r="4.5" fill="var(--color-primary)">
                  <title>{words}</title>
                </circle>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-xs quiet">
        dots: tests, crosses: left out · green: their mean, and the 95% interval at the right · copper:{" "}
        {book ? `${book.source}, its band shaded` : "no book"}
      </figcaption>
    </figure>
  );
}
