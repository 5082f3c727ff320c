// The picture of a pot's flow: what is bought on the left, portions on the right, losses hatched.

import { useMemo } from "react";
import type { FlowNode, PotFlow, Recipe } from "../../../api/client";
import { ChartFrame, type Spot } from "../../../parts/chart/ChartFrame";
import { useCurrency, useWorking } from "../../../parts/Figure";
import { mass, money } from "../../../parts/format";
import { amountOf, figureOf, type Measure, type PlacedNode, placed } from "./layout";

const WIDTH = 1220;
const MARGIN = 150;

const ELSEWHERE = "color-mix(in oklch, var(--color-base-content) 50%, var(--color-base-100))";
const COLOURS: Record<FlowNode["kind"], string> = {
  bought: "var(--color-secondary)",
  gained: "var(--color-info)",
  prepared: "var(--color-secondary)",
  stage: "var(--color-primary)",
  batch: "var(--color-primary)",
  serving: "var(--color-success)",
  loss: "url(#flow-lost)",
  taken_out: ELSEWHERE,
  credit: ELSEWHERE,
};

interface Props {
  flow: PotFlow;
  measure: Measure;
  draft: Recipe;
}

export function FlowChart({ flow, measure, draft }: Props) {
  const currency = useCurrency();
  const open = useWorking();
  const height = Math.max(430, Math.min(620, 26 * flow.nodes.length));
  const { nodes, links } = useMemo(
    () => placed(flow, measure, { left: MARGIN, right: WIDTH - MARGIN, top: 14, bottom: height - 12 }),
    [flow, measure, height],
  );
  const told = (value: string | number) =>
    measure === "mass" ? mass(String(value)) : money(String(value), currency);
  const named = new Map(flow.nodes.map((one) => [one.id, one]));
  if (nodes.length === 0) return <p className="p-3">Nothing of this pot carries {measure} yet.</p>;
  const spots: Spot[] = [
    ...nodes.map((one) => ({
      key: one.id,
      x: (one.x0 + one.x1) / 2,
      y: (one.y0 + one.y1) / 2,
      words: `${one.name}: ${told(one.value)}`,
    })),
    ...links.map((one) => ({
      key: one.source.id.startsWith("bought") ? one.source.id : one.target.id,
      x: one.x,
      y: one.y,
      words: `${one.source.name} → ${one.target.name}: ${told(one.value)}${one.lost ? ", lost" : ""}`,
    })),
  ];
  const working = (key: string) => {
    const node = named.get(key);
    if (node) open({ figure: figureOf(node, measure), recipe: draft.id, draft });
  };
  const rows = flow.links.flatMap((one) => {
    const amount = amountOf(one, measure);
    if (amount === null) return [];
    const [source, target] = [named.get(one.source)?.name ?? "", named.get(one.target)?.name ?? ""];
    return [[source, target, told(amount), one.lost ? "lost" : ""] as const];
  });
  return (
    <ChartFrame
      free
      plot={{ width: WIDTH, height, left: 0, right: WIDTH, top: 0, bottom: height }}
      label={`${draft.name} as a flow, in ${measure}`}
      across={[]}
      up={[]}
      spots={spots}
      open={working}
      heads={["From", "to", { text: measure, num: true }, ""]}
      rows={rows}
      legend={
        measure === "mass"
          ? "Brown: bought. Blue: in the pot. Grey: goes elsewhere. Hatched: lost. A click, or Enter, opens the working."
          : "A loss takes no money with it: what is left of a cost goes on with what is left of the pot. A click, or Enter, opens the working."
      }
    >
      <defs>
        <pattern
          id="flow-lost"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="5" height="5" fill="var(--color-base-200)" />
          <path d="M0 0 V5" stroke="var(--color-base-content)" strokeWidth="1.4" />
        </pattern>
      </defs>
      <g fill="none">
        {links.map((one) => (
          <path
            key={`${one.source.id} ${one.target.id}`}
            d={one.path}
            stroke={
              one.lost
                ? "url(#flow-lost)"
                : COLOURS[one.target.kind === "credit" ? "credit" : one.source.kind]
            }
            strokeOpacity={one.lost ? 0.7 : 0.32}
            strokeWidth={one.width}
          />
        ))}
      </g>
      {nodes.map((one) => (
        <g key={one.id}>
          <rect
            x={one.x0}
            y={one.y0}
            width={one.x1 - one.x0}
            height={Math.max(1, one.y1 - one.y0)}
            fill={COLOURS[one.kind]}
            stroke="currentColor"
            strokeOpacity="0.35"
          />
          <Label node={one} amount={told(one.value)} />
        </g>
      ))}
    </ChartFrame>
  );
}

const LONGEST = 24;
const shortened = (text: string) => (text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text);

/** The name of a node beside it: on the outer side at both edges, else to its right. */
function Label({ node, amount }: { node: PlacedNode; amount: string }) {
  const left = node.x0 <= MARGIN + 1;
  return (
    <text
      x={left ? node.x0 - 5 : node.x1 + 5}
      y={(node.y0 + node.y1) / 2}
      dy="0.35em"
      textAnchor={left ? "end" : "start"}
      fill="currentColor"
      className="text-[11px]"
      paintOrder="stroke"
      stroke="var(--color-base-100)"
      strokeWidth="3"
    >
      {shortened(node.name)} <tspan fontWeight="600">{amount}</tspan>
    </text>
  );
}
