import { findPart, type NetId, type StageId } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import type { Job } from '../record/index.ts';

/**
 * Stages that must have come, by what was seen since the last repair: the furthest one noted, those a
 * picture stands on, those that feed a light that was lit. What they need has come as well. They are
 * enough for what was seen, not read as good.
 */
export function provenBySigns(healthy: HealthyBoard, job: Job): Set<StageId> {
  const { board, stages } = healthy;
  const proven = new Set<StageId>();
  const stageOf = new Map(stages.map((one) => [one.stage.id, one]));
  const prove = (id: StageId): void => {
    if (proven.has(id) || !stageOf.has(id)) return;
    proven.add(id);
    stageOf.get(id)!.needs.forEach(prove);
  };
  const proveNet = (net: NetId): void => {
    const giver = healthy.stageOfNet(net);
    if (giver) prove(giver.id);
    // A net of no stage stands on what it is made from.
    else
      for (const { net: up, role } of healthy.upstream.of(net))
        if (role === 'feed' || role === 'pull-up') {
          const stage = healthy.stageOfNet(up);
          if (stage) prove(stage.id);
        }
  };
  for (const { struck, beforeRepair, inGrace, body } of job.signs) {
    if (struck !== null || beforeRepair || inGrace || body.phase === 'cold') continue;
    const { reached, picture, lights } = body.seen;
    if (reached) prove(reached as StageId);
    if (picture) {
      const shows = board.goals.find((goal) => goal.shows === 'picture');
      shows?.reached.forEach(({ net }) => proveNet(net));
      // Code draws it: the board runs, whatever else it was brought in for.
      for (const goal of board.goals)
        if (goal === shows || (goal.phase === 'run' && goal.with.length === 0))
          healthy.path(goal.id).forEach(({ stage }) => prove(stage.id));
    }
    for (const ref of lights ?? []) {
      const anode = findPart(board, ref)?.pins.find((pin) => pin.name === 'A');
      if (anode) proveNet(anode.net);
    }
  }
  return proven;
}
