import type { Board, Goal, NetId } from '../board/index.ts';
import { voltsPlace, type Dictionary } from '../powerup/index.ts';
import type { PoweredPhase } from '../readings/index.ts';
import type { Observation, Signs } from './evidence.ts';
import { amps } from './likelihood.ts';
import type { BenchOf } from './other-bench.ts';
import { swingAt, type Table } from './table.ts';

const tellsTrue = 0.95;
/** A yes-or-no sign: rarely is what was seen not so. */
const yesNo = (agrees: boolean): number => Math.log(agrees ? tellsTrue : 1 - tellsTrue);

/** Whether several nets that come after the press come and go again: one that hiccups is no restart. */
function comesAndGoes(dictionary: Dictionary, row: number): boolean {
  const at = (of: number, phase: PoweredPhase, net: number): number =>
    dictionary.volts[voltsPlace(dictionary, of, phase, net)]!;
  let count = 0;
  for (let net = 0; net < dictionary.nets.length; net++) {
    const up = at(0, 'run', net);
    const swing = swingAt(dictionary, voltsPlace(dictionary, row, 'run', net));
    if (swing && swing[1] > 0.8 * up && at(0, 'standby', net) < 0.3 * up) count++;
  }
  return count >= 3;
}

/** Whether a net has at some time what it has on a running healthy board. */
function isUp({ dictionary, placeOf }: Table, row: number, net: NetId): boolean {
  const place = placeOf.get(net);
  if (place === undefined) return true;
  const healthy = dictionary.volts[voltsPlace(dictionary, 0, 'run', place)]!;
  return (['trying', 'run'] as const).some(
    (phase) =>
      Math.abs(dictionary.volts[voltsPlace(dictionary, row, phase, place)]! - healthy) <
      Math.max(0.3, 0.2 * healthy),
  );
}

export function reachesGoal({ dictionary, placeOf }: Table, goal: Goal, row: number): boolean {
  return goal.reached.every(({ net, side, volts }) => {
    const place = placeOf.get(net);
    if (place === undefined) return true;
    const here = dictionary.volts[voltsPlace(dictionary, row, goal.phase, place)]!;
    return side === 'above' ? here > volts : here < volts;
  });
}

/** Whether a source feeds the same net with about the same volts as the one the plays were made with. */
function isLikeSource(
  board: Board,
  { id, volts }: { id: string; volts: number | null },
  here: string | null,
): boolean {
  const then = board.sources.find((one) => one.id === id);
  const now = board.sources.find((one) => one.id === here);
  if (!then || !now || then.net !== now.net) return id === here;
  return Math.abs((volts ?? then.volts) - now.volts) < 0.1 * now.volts;
}

/** What was seen from outside, held against every row. */
export function signObservations(table: Table, signs: Signs, here: BenchOf): Observation[] {
  const { board, dictionary, singles, neighbours } = table;
  const { rows, phaseCount } = { rows: dictionary.rows, phaseCount: 4 };
  const phaseOrder: readonly PoweredPhase[] = ['standby', 'pressed', 'trying', 'run'];
  const list: Observation[] = [];
  const add = (text: string, byNone: number, of: (row: number) => number): void => {
    const byRow = new Float64Array(rows);
    for (let row = 0; row < rows; row++) byRow[row] = of(row);
    list.push({ id: null, text, byRow, byNone });
  };
  const look = (row: number, phase: PoweredPhase): boolean => {
    for (let net = 0; net < dictionary.nets.length; net++)
      if (swingAt(dictionary, voltsPlace(dictionary, row, phase, net))) return true;
    return false;
  };
  const swings = (row: number, phase: PoweredPhase): boolean => {
    if (row >= singles) return look(row, phase);
    let known = table.swinging.get(phase);
    if (!known) {
      known = Uint8Array.from({ length: singles }, (_, one) => Number(look(one, phase)));
      table.swinging.set(phase, known);
    }
    return known[row] === 1;
  };
  for (const { phase, amps: drawn, shape, source } of signs.draw) {
    // Drawn elsewhere, or at other volts, the amps are no measure of these plays.
    if (source && !isLikeSource(board, source, here.source)) continue;
    const index = phaseOrder.indexOf(phase);
    const of = (row: number): number => dictionary.amps[row * phaseCount + index]!;
    // What pulses is drawn between its mean and its peak: only a steady draw is held to the amp.
    if (drawn !== null && shape === 'limited')
      // The supply held it down: without its limit the board would draw as much or more.
      add(`draw in ${phase} held at its limit`, Math.log(0.2), (row) =>
        of(row) > 0.8 * drawn ? Math.log(0.9) : Math.log(0.06),
      );
    else if (drawn !== null && shape !== 'pulsing')
      add(`draw in ${phase}`, Math.log(1 / 5), (row) =>
        amps(drawn, {
          value: of(row),
          swing: null,
          span: null,
          between: row < singles ? neighbours[row]!.map(of) : [],
        }),
      );
    if (shape === 'pulsing' || shape === 'steady')
      add(`draw in ${phase} is ${shape}`, Math.log(0.5), (row) =>
        // A slow supply shows an average: what swings is often called steady, seldom the other way.
        Math.log(
          swings(row, phase)
            ? shape === 'pulsing'
              ? 0.65
              : 0.35
            : shape === 'pulsing'
              ? 0.08
              : 0.92,
        ),
      );
  }
  const { lights, fan, offAfterSeconds, startsOnConnect, restarts, picture, reached } = signs;
  if (lights !== null) {
    const mask = dictionary.lights.reduce(
      (sum, ref, bit) => sum + (lights.includes(ref) ? 2 ** bit : 0),
      0,
    );
    add('lights', Math.log(0.4), (row) => yesNo(dictionary.lit[row] === mask));
  }
  if (fan !== null)
    add('fan', Math.log(0.5), (row) => yesNo((dictionary.turning[row] === 1) === fan));
  if (offAfterSeconds !== null)
    add('goes off by itself', Math.log(0.4), (row) =>
      yesNo(!Number.isNaN(dictionary.offAfter[row]!)),
    );
  if (startsOnConnect !== null)
    add('starts on connection', Math.log(0.2), (row) =>
      yesNo((dictionary.startsItself[row] === 1) === startsOnConnect),
    );
  if (restarts !== null)
    add('goes off and on again', Math.log(0.3), (row) =>
      yesNo(comesAndGoes(dictionary, row) === restarts),
    );
  const shows = board.goals.find((one) => one.shows === 'picture');
  if (picture !== null && shows && reachesGoal(table, shows, 0))
    add(picture ? 'a picture is seen' : 'no picture', Math.log(0.4), (row) =>
      yesNo(reachesGoal(table, shows, row) === picture),
    );
  const stage = board.stages.find((one) => one.id === reached);
  if (stage)
    // It came at least so far.
    add(`${stage.title} was reached`, Math.log(0.4), (row) =>
      yesNo(stage.gives.every((net) => isUp(table, row, net))),
    );
  return list;
}
