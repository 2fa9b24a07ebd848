import { draw } from '@jiko/core/base';
import type { NetId } from '@jiko/core/board';
import { noSigns, type Finding } from '@jiko/core/diagnosis';
import type { Fault } from '@jiko/core/faults';
import { makeSweep } from '@jiko/core/prepare';
import { plainReading } from '@jiko/testing';
import type { HiddenBoard } from '@jiko/bench';
import type { Reading } from '@jiko/core/readings';
import { drawOf, follow, type Known } from './closed-loop.ts';
import { mean, percent, type Bench, type Figure } from './hidden-faults.ts';

// What the steps before the trace are worth: the same hidden faults, found with nothing written down
// before, and with signs, findings and cold checks.

/** How often damage is seen at the part at fault, and how often somewhere else: guesses. */
const seenAtFault = 0.4;
const seenElsewhere = 0.5;

function knownOf(bench: Bench, hidden: HiddenBoard, fault: Fault): Known {
  const { board, healthy, chance } = bench;
  const run = hidden.play.phases.get('run');
  const findings: Finding[] = [];
  if ('part' in fault && chance() < seenAtFault)
    findings.push({ kind: 'corrosion', part: fault.part });
  if (chance() < seenElsewhere)
    findings.push({ kind: 'corrosion', part: draw(board.parts, chance).ref });
  return {
    signs: {
      ...drawOf(hidden),
      lights: [...(run?.lit ?? [])],
      fan: (run?.turning.length ?? 0) > 0,
    },
    findings,
    readings: makeSweep(healthy).map((point): Reading => {
      // Along a body diode red stands on the point: the meter of the bench has black there.
      const isTurned = point.polarity === 'red-on-point' && point.mode === 'diode';
      const [at, against] = isTurned
        ? [point.reference as NetId, point.net]
        : [point.net, point.reference];
      const value = hidden.read(at, point.mode, 'cold', against);
      return plainReading(at, point.mode, 'cold', value, { attached: hidden.attached, against });
    }),
  };
}

/** The same `count` hidden faults with nothing known before, and prepared. */
export function preparedRows(bench: Bench, count: number): Figure[] {
  const nothing: Known = { signs: noSigns, findings: [], readings: [] };
  const bare: number[] = [];
  const prepared: number[] = [];
  let right = 0;
  let fewer = 0;
  let more = 0;
  for (let run = 0; run < count; run++) {
    const { fault, goal, hidden } = bench.hideBlocker();
    const without = follow(bench.diagnoser, hidden, [fault], goal, undefined, nothing);
    const known = knownOf(bench, hidden, fault);
    const withAll = follow(bench.diagnoser, hidden, [fault], goal, undefined, known);
    bare.push(without.powered);
    prepared.push(withAll.powered);
    if (withAll.right) right++;
    if (withAll.powered < without.powered) fewer++;
    if (withAll.powered > without.powered) more++;
  }
  return [
    [
      `powered readings to a hidden fault's group on ${bench.board.title}, with signs, findings and the cold sweep entered before`,
      'fewer than with nothing entered',
      `${count} faults: ${mean(prepared).toFixed(1)} on average against ${mean(bare).toFixed(1)} with nothing entered; fewer for ${percent(fewer, count)}, more for ${percent(more, count)}; none at all for ${percent(prepared.filter((one) => one === 0).length, count)} (${percent(bare.filter((one) => one === 0).length, count)}); right group ${percent(right, count)}`,
    ],
  ];
}
