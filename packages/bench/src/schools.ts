import type { GoalId, NetId } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { PoweredPhase, ReadingValue } from '@jiko/core/readings';
import type { Probe } from './closed-loop.ts';

// How others would find the first wrong reading, to be held against.

type Read = (probe: Probe) => ReadingValue;

/** What the stages on the way to the goal give, in the order of waking, each in its phase. */
function pointsOf(healthy: HealthyBoard, goal: GoalId): Probe[] {
  return healthy
    .path(goal)
    .flatMap(({ stage, phase }) =>
      stage.gives.map((net): Probe => ({ net, phase: phase === 'standby' ? 'standby' : 'trying' })),
    );
}

function isWrong(
  healthy: HealthyBoard,
  net: NetId,
  phase: PoweredPhase,
  value: ReadingValue,
): boolean {
  const expected = healthy.expect(net, 'volts', phase);
  if (value.kind === 'swinging') return true;
  return (
    expected.kind === 'value' &&
    value.kind === 'number' &&
    (value.value < expected.low || value.value > expected.high)
  );
}

/** From the input on, stage by stage, until one is wrong. Gives how many were read. */
export function walk(healthy: HealthyBoard, goal: GoalId, read: Read): number {
  let readings = 0;
  for (const probe of pointsOf(healthy, goal)) {
    readings++;
    if (isWrong(healthy, probe.net, probe.phase, read(probe))) break;
  }
  return readings;
}

/** Always the middle of what is left between the last right point and the first wrong one. */
export function halve(healthy: HealthyBoard, goal: GoalId, read: Read): number {
  const points = pointsOf(healthy, goal);
  let readings = 0;
  let [right, wrong] = [-1, points.length];
  while (wrong - right > 1) {
    const middle = (right + wrong) >> 1;
    const { net, phase } = points[middle] as Probe;
    readings++;
    if (isWrong(healthy, net, phase, read({ net, phase }))) wrong = middle;
    else right = middle;
  }
  return readings;
}
