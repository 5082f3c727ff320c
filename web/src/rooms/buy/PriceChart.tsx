// The price of a kilo over time: a step at each offer, a dot where it was recorded, a gap where none was in force.

import type { ItemReply } from "../../api/client";
import { useCurrency } from "../../parts/Figure";
import { day, dayOf, money } from "../../parts/format";

const WIDTH = 420;
const HEIGHT = 110;
const LEFT = 34;
const RIGHT = 8;
const TOP = 10;
const BOTTOM = 18;
const DAY = 86_400_000;
/** A dot where a price was recorded, a diamond where goods came with it. */
const RECORDED = "M-3 0 a3 3 0 1 0 6 0 a3 3 0 1 0 -6 0";
const DELIVERED = "M0 -5 L5 0 L0 5 L-5 0 Z";

const time = (text: string) => new Date(`${text}T12:00:00`).getTime();

export function PriceChart({ reply, today }: { reply: ItemReply; today: string }) {
  const currency = useCurrency();
  const points = reply.history.filter((point) => point.per_kg !== null).toReversed();
  const prices = points.map((point) => Number(point.per_kg));
  if (points.length < 2) return null;
  const first = time(points[0]?.offer.on ?? today);
  const last = Math.max(time(today), ...points.map((point) => time(point.offer.on)));
  const high = Math.max(...prices) * 1.1 || 1;
  const x = (at: number) => LEFT + ((WIDTH - LEFT - RIGHT) * (at - first)) / Math.max(last - first, DAY);
  const y = (price: number) => HEIGHT - BOTTOM - ((HEIGHT - TOP - BOTTOM) * price) / high;
  const suppliers = [...new Set(points.map((point) => point.supplier))];
  const runs = suppliers.map((supplier) => {
    const own = points.filter((point) => point.supplier === supplier);
    return own
      .map((point, at) => {
        const next = own[at + 1];
        const until = point.offer.until ? Math.min(time(point.offer.until) + DAY, last) : last;
        const end = next ? Math.min(time(next.offer.on), until) : until;
        return `M${x(time(point.offer.on))} ${y(Number(point.per_kg))} H${x(end)}`;
      })
      .join(" ");
  });
  const dashes = ["", "6 3", "2 3", "8 3 2 3"];
  return (
    <figure className="mt-3">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="w-full"
        role="img"
        aria-label={inWords(reply, currency)}
      >
        <g stroke="currentColor" strokeOpacity="0.35">
          <path d={`M${LEFT} ${y(0)} H${WIDTH - RIGHT}`} />
          <path d={`M${LEFT} ${y(high / 1.1)} H${WIDTH - RIGHT}`} strokeDasharray="1 4" />
        </g>
        <g fontSize="10" fill="currentColor">
          <text x={LEFT - 4} y={y(0)} textAnchor="end">
            0
          </text>
          <text x={LEFT - 4} y={y(high / 1.1) + 3} textAnchor="end">
            {money(String(high / 1.1), currency)}
          </text>
          <text x={LEFT} y={HEIGHT - 4}>
            {dayOf(points[0]?.offer.on ?? today, today)}
          </text>
          <text x={WIDTH - RIGHT} y={HEIGHT - 4} textAnchor="end">
            {day(today)}
          </text>
        </g>
        {runs.map((run, at) => (
          <path
            key={suppliers[at]}
            d={run}
            fill="none"
            stroke="var(--color-secondary)"
            strokeWidth="2"
            strokeDasharray={dashes[at % dashes.length]}
          />
        ))}
        {points.map((point) => (
          <path
            key={point.offer.id}
            transform={`translate(${x(time(point.offer.on))} ${y(Number(point.per_kg))})`}
            d={point.offer.delivered ? DELIVERED : RECORDED}
            fill={point.offer.delivered ? "var(--color-primary)" : "var(--color-secondary)"}
          >
            <title>{`${dayOf(point.offer.on, today)}: ${money(point.per_kg, currency)} a kilo, ${point.supplier}${point.offer.source ? `, ${point.offer.source}` : ""}`}</title>
          </path>
        ))}
      </svg>
      {points.some((point) => point.offer.delivered) && (
        <figcaption className="text-xs quiet">
          <span className="text-primary">◆</span> delivered, <span className="text-secondary">●</span> a price
          only
        </figcaption>
      )}
      {suppliers.length > 1 && (
        <figcaption className="text-xs quiet">
          {suppliers
            .map((supplier, at) => `${supplier} ${["solid", "dashed", "dotted", "dash and dot"][at % 4]}`)
            .join(", ")}
        </figcaption>
      )}
    </figure>
  );
}

function inWords(reply: ItemReply, currency: string): string {
  const known = reply.history.filter((point) => point.per_kg !== null);
  const newest = known[0];
  const oldest = known[known.length - 1];
  return `Price of a kilo of ${reply.item.name}: ${money(oldest?.per_kg, currency)} on ${day(oldest?.offer.on ?? "")}, ${money(newest?.per_kg, currency)} on ${day(newest?.offer.on ?? "")}`;
}
