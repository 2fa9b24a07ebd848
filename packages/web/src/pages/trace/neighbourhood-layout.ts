import { Graph, layout } from '@dagrejs/dagre';
import type { NetId } from '@jiko/core/board';
import type { NeighbourNet, Neighbourhood } from '@jiko/core/trace';
import type { Role } from '@jiko/core/expectations';

export const netSize = { width: 132, height: 40 };
const partHeight = 22;
const partWidth = (ref: string): number => 14 + 7.5 * ref.length;

export interface PlacedNet extends NeighbourNet {
  x: number;
  y: number;
  /** What it is to the next one on the way; null for the centre. */
  role: Role | null;
}

export interface Drawing {
  width: number;
  height: number;
  nets: PlacedNet[];
  parts: { key: string; ref: string; x: number; y: number; width: number; height: number }[];
  lines: { key: string; path: string; role: Role }[];
  /** Nets that wait for the centre: named below, not drawn. */
  served: NetId[];
}

/** Lays the needed nets out from left to right towards the centre; x and y are middles, in pixels. */
export function drawNeighbourhood({ nets, links }: Neighbourhood): Drawing {
  const drawn = nets.filter((one) => one.place !== 'served');
  const placeOf = new Map(drawn.map((one) => [one.net, one.place]));
  const graph = new Graph();
  graph.setGraph({ rankdir: 'LR', nodesep: 8, ranksep: 16, edgesep: 4, marginx: 2, marginy: 2 });
  graph.setDefaultEdgeLabel(() => ({}));
  for (const { net } of drawn) graph.setNode(net, { ...netSize });
  const refs = new Map<string, string>();
  const lines = new Map<string, { from: string; to: string; role: Role }>();
  for (const { from, to, via, role } of links) {
    if (!placeOf.has(from) || !placeOf.has(to)) continue;
    // A chip is drawn once before all it makes here, and again where it also makes what is needed.
    const part = placeOf.get(to) === 'centre' ? `part ${via}` : `part ${via} to ${to}`;
    refs.set(part, via);
    graph.setNode(part, { width: partWidth(via), height: partHeight });
    // What the centre in its turn gives to what it needs stands left of it all the same.
    const isBack = placeOf.get(from) === 'centre';
    graph.setEdge(isBack ? part : from, isBack ? from : part);
    graph.setEdge(isBack ? to : part, isBack ? part : to);
    lines.set(`${from} ${part}`, { from, to: part, role });
    if (!lines.has(`${part} ${to}`)) lines.set(`${part} ${to}`, { from: part, to, role });
  }
  layout(graph);
  const at = (id: string): { x: number; y: number; width: number; height: number } => {
    const { x = 0, y = 0, width = 0, height = 0 } = graph.node(id);
    return { x, y, width, height };
  };
  const { width = 0, height = 0 } = graph.graph();
  return {
    width,
    height,
    nets: drawn.map((one) => ({
      ...one,
      ...at(one.net),
      role: links.find((link) => link.from === one.net && placeOf.has(link.to))?.role ?? null,
    })),
    parts: [...refs].map(([key, ref]) => ({ key, ref, ...at(key) })),
    lines: [...lines].map(([key, { from, to, role }]) => ({
      key,
      role,
      path: lineBetween(at(from), at(to)),
    })),
    served: nets.filter((one) => one.place === 'served').map((one) => one.net),
  };
}

type Box = ReturnType<() => { x: number; y: number; width: number; height: number }>;

/** A line that leaves and arrives level. */
function lineBetween(from: Box, to: Box): string {
  const back = to.x < from.x ? -1 : 1;
  const x1 = from.x + (back * from.width) / 2;
  const x2 = to.x - (back * to.width) / 2;
  const middle = (x1 + x2) / 2;
  return `M${x1} ${from.y}C${middle} ${from.y} ${middle} ${to.y} ${x2} ${to.y}`;
}

/** The net an arrow key leads to from another one; null where there is none on that side. */
export function netBeside(
  { nets }: Drawing,
  from: NetId,
  direction: 'left' | 'right' | 'up' | 'down',
): NetId | null {
  const here = nets.find((one) => one.net === from);
  if (!here) return nets.find((one) => one.place === 'centre')?.net ?? null;
  const along = direction === 'left' || direction === 'right';
  const sign = direction === 'left' || direction === 'up' ? -1 : 1;
  let best: { net: NetId; far: number } | null = null;
  for (const { net, x, y } of nets) {
    const ahead = sign * (along ? x - here.x : y - here.y);
    const aside = Math.abs(along ? y - here.y : x - here.x);
    if (ahead < 4 || (!along && aside > netSize.width / 2)) continue;
    const far = ahead + 2 * aside;
    if (!best || far < best.far) best = { net, far };
  }
  return best?.net ?? null;
}
