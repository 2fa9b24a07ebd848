import type { NetId, PartRef } from '../board/index.ts';
import type { HealthyBoard, Role } from '../expectations/index.ts';

/** What stands about a net: what it needs, through which parts, and what waits for it. */
export interface Neighbourhood {
  nets: NeighbourNet[];
  links: NeighbourLink[];
}

export interface NeighbourNet {
  net: NetId;
  /** The net itself; what it needs; what waits for it. */
  place: 'centre' | 'needed' | 'served';
}

export interface NeighbourLink {
  from: NetId;
  to: NetId;
  role: Role;
  /** The part or chip between. */
  via: PartRef;
  threshold: { side: 'above' | 'below'; volts: number } | null;
}

/** More than this cannot be taken in beside a microscope. */
const mostNeeded = 7;
const mostServed = 3;

export function neighbourhoodOf(
  { board, upstream, stages }: HealthyBoard,
  net: NetId,
): Neighbourhood {
  const nets: NeighbourNet[] = [];
  const links: NeighbourLink[] = [];
  const has = (id: NetId): boolean => nets.some((one) => one.net === id);
  nets.push({ net, place: 'centre' });

  const link = (from: NetId, to: NetId, one: Omit<NeighbourLink, 'from' | 'to'>): void => {
    const { role, via, threshold } = one;
    links.push({ from, to, role, via, threshold });
  };
  let needed = 0;
  /** Adds what a net needs; further out only what is fed or asked for first. */
  const addNeeds = (to: NetId, most: number): NetId[] => {
    const added: NetId[] = [];
    for (const one of upstream.of(to).slice(0, most)) {
      if (!has(one.net)) {
        if (needed === mostNeeded) continue;
        nets.push({ net: one.net, place: 'needed' });
        added.push(one.net);
        needed++;
      }
      link(one.net, to, one);
    }
    return added;
  };
  for (const id of addNeeds(net, mostNeeded)) addNeeds(id, 1);

  let served = 0;
  for (const { stage } of stages) {
    for (const id of stage.gives) {
      if (has(id)) continue;
      const waits = upstream.of(id).filter((one) => one.net === net);
      if (waits.length === 0 || served === mostServed) continue;
      nets.push({ net: id, place: 'served' });
      served++;
      for (const one of waits) link(one.net, id, one);
    }
  }
  return {
    nets: nets.filter((one) => one.net !== board.ground),
    links: links.filter((one) => has(one.from) && has(one.to)),
  };
}
