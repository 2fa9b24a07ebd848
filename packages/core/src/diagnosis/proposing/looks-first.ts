import type { Board } from '../../board/index.ts';
import type { Diagnosis } from './diagnosis.ts';
import type { Proposal } from './next-probe.ts';
import { netsOfFinding, type Finding } from '../evidence/finding.ts';

/** A reading at a part where something was seen. */
export interface LookedFirst {
  proposal: Proposal;
  finding: Finding;
}

/** Less than this a reading at a damaged part is not worth going there first. */
const leastBits = 0.02;

/**
 * The school that looks first: of the readings at parts where something was seen, the one at the
 * likeliest suspect; null where no such reading tells anything (any more).
 */
export function looksFirst(
  board: Board,
  findings: readonly Finding[],
  diagnosis: Diagnosis,
): LookedFirst | null {
  const suspicion = ({ part }: Finding): number =>
    diagnosis.suspects
      .flatMap((one) => one.faults)
      .filter(({ fault }) => 'part' in fault && fault.part === part)
      .reduce((sum, one) => sum + one.probability, 0);
  const byFinding = findings
    .map((finding) => ({
      finding,
      suspicion: suspicion(finding),
      nets: netsOfFinding(board, finding),
    }))
    .sort((a, b) => b.suspicion - a.suspicion);
  for (const { finding, nets } of byFinding) {
    const proposal = diagnosis.next.find(
      (one) => one.gainBits > leastBits && nets.includes(one.net),
    );
    if (proposal) return { proposal, finding };
  }
  return null;
}
