import type { NetId, PartRef } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';

/** One net on the way of the current, and the part or chip it comes through. */
export interface PathHop {
  net: NetId;
  /** Null for the source's own net. */
  via: PartRef | null;
}

/** The way of the current from the source to a net, source first; only the net itself where nothing feeds it. */
export function powerPath(healthy: HealthyBoard, to: NetId): PathHop[] {
  const hops: PathHop[] = [];
  const seen = new Set<NetId>();
  let net: NetId | undefined = to;
  while (net !== undefined && !seen.has(net)) {
    seen.add(net);
    const above = healthy.upstream.of(net);
    // A signal has no feed: what supplies its chip is how current gets there.
    const feed: (typeof above)[number] | undefined =
      above.find((one) => one.role === 'feed' && !seen.has(one.net)) ??
      above.find((one) => one.role === 'supply' && !seen.has(one.net)) ??
      above.find((one) => one.role === 'pull-up' && !seen.has(one.net));
    const isSource: boolean = healthy.upstream.distance(net) === 0;
    hops.push({ net, via: isSource ? null : (feed?.via ?? null) });
    net = isSource ? undefined : feed?.net;
  }
  return hops.reverse();
}
