import type { NetId } from '../board/index.ts';
import { netsOfFinding, type Diagnosis } from '../diagnosis/index.ts';
import type { Trace } from '../trace/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { isBad } from '../readings/index.ts';
import type { Found } from '../record/index.ts';

/** What a finding could have to do with the fault at hand. */
export interface FindingEffect {
  finding: Found;
  /** One line: `sits on 3V3_ALW, which is missing`. */
  text: string;
  /** How the lines are sorted: likelier first. */
  weight: number;
  /** Probability of faults at this part, by all that was read; null before anything is diagnosed. */
  suspicion: number | null;
  /** Drawn but not populated on this board: its absence is right. */
  byDesign: boolean;
}

/** Findings that stand, the one that could do most to the fault at hand first. */
export function findingEffects(
  healthy: HealthyBoard,
  trace: Trace,
  diagnosis: Diagnosis | null,
  findings: readonly Found[],
): FindingEffect[] {
  const missing = trace.firstMissing;
  const needed = missing ? aboveOf(healthy, missing.net) : new Map<NetId, number>();
  const wrong = new Map(
    trace.readings
      .filter(
        ({ standing, verdict, reading }) =>
          standing.kind === 'stands' && isBad(verdict) && reading.reference === null,
      )
      .map(({ reading, verdict }) => [reading.at.net as NetId, verdict.kind]),
  );
  const onPath = new Set(
    trace.stages.filter((one) => one.onPath).flatMap((one) => one.stage.gives),
  );
  return findings
    .filter((one) => one.struck === null && one.harmless === null)
    .map((finding) => {
      const { part } = finding.body;
      const suspicion = part === null || !diagnosis ? null : suspicionOf(diagnosis, part);
      const owner = [...healthy.board.parts, ...healthy.board.chips].find(
        (one) => one.ref === part,
      );
      const byDesign = owner?.fitted === false && finding.body.kind === 'missing';
      const { text, near } = byDesign
        ? { text: 'not fitted by design on this board: its absence is right', near: 0 }
        : tie(healthy, part, finding.net, missing?.net ?? null, needed, onPath, wrong);
      return {
        finding,
        text,
        suspicion,
        byDesign,
        weight: byDesign ? -1 : near + (suspicion ?? 0),
      };
    })
    .sort((a, b) => b.weight - a.weight);
}

const suspicionOf = (diagnosis: Diagnosis, part: string): number =>
  diagnosis.suspects
    .flatMap((one) => one.faults)
    .filter(({ fault }) => 'part' in fault && fault.part === part)
    .reduce((sum, one) => sum + one.probability, 0);

/** All a net needs, with how many steps above it stands. */
function aboveOf(healthy: HealthyBoard, net: NetId): Map<NetId, number> {
  const found = new Map<NetId, number>([[net, 0]]);
  const queue = [net];
  for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
    for (const { net: up } of healthy.upstream.of(at)) {
      if (found.has(up)) continue;
      found.set(up, (found.get(at) ?? 0) + 1);
      queue.push(up);
    }
  }
  return found;
}

function tie(
  healthy: HealthyBoard,
  ref: string | null,
  on: string | null,
  missing: NetId | null,
  needed: ReadonlyMap<NetId, number>,
  onPath: ReadonlySet<NetId>,
  wrong: ReadonlyMap<NetId, string>,
): { text: string; near: number } {
  if (ref === null && on === null)
    return { text: 'at no part or net yet: say which it is, and it counts', near: 0 };
  const { board } = healthy;
  const nets = netsOfFinding(board, { part: ref, net: on }).filter((net) => net !== board.ground);
  if (nets.length === 0) return { text: `${ref ?? on} is not on the sheet`, near: 0 };
  const bad = nets.find((net) => wrong.has(net));
  if (bad && bad !== missing)
    return { text: `sits on ${bad}, which reads ${wrong.get(bad)}`, near: 1.5 };
  if (missing !== null) {
    if (nets.includes(missing)) return { text: `sits on ${missing}, which is missing`, near: 2 };
    const nearest = nets
      .filter((net) => needed.has(net))
      .sort((a, b) => needed.get(a)! - needed.get(b)!)[0];
    if (nearest)
      return {
        text: `sits on ${nearest}, which ${missing} needs`,
        near: 1 / (1 + needed.get(nearest)!),
      };
    return { text: `${missing} needs nothing it sits on`, near: 0 };
  }
  const stage = nets.map((net) => healthy.stageOfNet(net)).find((one) => one !== null);
  if (nets.some((net) => onPath.has(net)))
    return { text: `sits on the way to the goal: ${stage?.title ?? nets[0]}`, near: 0.3 };
  return stage
    ? { text: `sits beside the way to the goal: ${stage.title}`, near: 0.1 }
    : { text: `sits on ${nets[0]}`, near: 0.1 };
}
