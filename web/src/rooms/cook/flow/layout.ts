// Where the nodes and links of a pot's flow stand, in mass or in money.

import { sankey, sankeyCenter, sankeyLinkHorizontal } from "d3-sankey";
import type { FlowNode, PotFlow } from "../../../api/client";

export type Measure = "mass" | "money";

export interface PlacedNode extends FlowNode {
  x0: number;
  x1: number;
  y0: number;
  y1: number;
  /** What passes it, in the measure of the picture. */
  value: number;
}

export interface PlacedLink {
  source: PlacedNode;
  target: PlacedNode;
  value: number;
  width: number;
  path: string;
  lost: boolean;
  /** Its middle. */
  x: number;
  y: number;
}

interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

interface Placed {
  nodes: PlacedNode[];
  links: PlacedLink[];
}

const NODE = 12;

/** The amount that a link carries, as it came from the server. */
export const amountOf = (link: PotFlow["links"][number], measure: Measure): string | null =>
  measure === "mass" ? link.mass_g : link.cost;

/** The layout in a box; of a flow that carries nothing in this measure, nothing. */
export function placed(flow: PotFlow, measure: Measure, box: Box): Placed {
  // What is laid out is changed by it: it gets copies.
  const links = flow.links.flatMap((one) => {
    const value = Number(amountOf(one, measure) ?? 0);
    return value > 0 ? [{ source: one.source, target: one.target, value, lost: one.lost }] : [];
  });
  const touched = new Set(links.flatMap((one) => [one.source, one.target]));
  const nodes = flow.nodes.filter((one) => touched.has(one.id)).map((one) => ({ ...one }));
  if (links.length === 0) return { nodes: [], links: [] };
  const layout = sankey<FlowNode, { lost: boolean }>()
    .nodeId((one) => one.id)
    .nodeAlign(sankeyCenter)
    .nodeWidth(NODE)
    .nodePadding(Math.max(7, Math.min(18, (0.5 * (box.bottom - box.top)) / nodes.length)))
    .extent([
      [box.left, box.top],
      [box.right, box.bottom],
    ])
    .iterations(24);
  const graph = layout({ nodes, links });
  const path = sankeyLinkHorizontal<FlowNode, { lost: boolean }>();
  return {
    nodes: graph.nodes as unknown as PlacedNode[],
    links: graph.links.map((one) => {
      const [source, target] = [one.source, one.target] as unknown as [PlacedNode, PlacedNode];
      return {
        source,
        target,
        value: one.value,
        width: Math.max(1, one.width ?? 1),
        path: path(one) ?? "",
        lost: one.lost,
        x: (source.x1 + target.x0) / 2,
        y: ((one.y0 ?? 0) + (one.y1 ?? 0)) / 2,
      };
    }),
  };
}

/** The working of what passes a node: its mass, or its money. */
export function figureOf(node: FlowNode, measure: Measure): string {
  if (measure === "mass") return node.figure;
  if (node.figure === "batch/mass_g") return "batch/food_cost";
  if (/^line\//.test(node.figure)) return node.figure.replace(/(ap_g|ep_g)$/, "cost");
  if (/taken_\d+_mass_g$/.test(node.figure)) return node.figure.replace(/_mass_g$/, "_value");
  if (/^stage\//.test(node.figure)) return node.figure.replace(/\/[^/]+$/, "/cost");
  return node.figure;
}
