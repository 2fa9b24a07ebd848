import { draw } from '@jiko/core/base';
import { findChip, findPart, type Board, type Chip, type NetId, type Part } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import { playBoard } from '@jiko/core/play';
import { follow, type Run } from './closed-loop.ts';
import { percent, type Bench, type Figure } from './hidden-faults.ts';

// What a sheet cannot know: mistakes in it, and faults that are in no list.

/** The board as it really is where its sheet has a mistake: a value, a part or two pins differ. */
function unlikeItsSheet(board: Board, chance: () => number): { real: Board; mistaken: string } {
  const fitted = board.parts.filter((part) => part.fitted);
  const change = (ref: string, edit: (part: Part) => Part) => ({
    real: { ...board, parts: board.parts.map((part) => (part.ref === ref ? edit(part) : part)) },
    mistaken: ref,
  });
  switch (Math.floor(chance() * 3)) {
    case 0: {
      const valued = fitted.filter((one) => one.kind === 'resistor' && one.value !== null);
      return change(draw(valued, chance).ref, (one) => ({ ...one, value: (one.value ?? 1) * 4.7 }));
    }
    case 1:
      return change(draw(fitted, chance).ref, (part) => ({ ...part, fitted: false }));
    default: {
      const chip = draw(
        board.chips.filter((one) => one.pins.size > 3),
        chance,
      );
      return { real: withSwappedPins(board, chip, chance), mistaken: chip.ref };
    }
  }
}

function withSwappedPins(board: Board, chip: Chip, chance: () => number): Board {
  const pins = [...chip.pins].filter(([, net]) => net !== board.ground);
  const [a, b] = [draw(pins, chance), draw(pins, chance)];
  const swapped = new Map(chip.pins).set(a[0], b[1]).set(b[0], a[1]);
  return {
    ...board,
    chips: board.chips.map((one) => (one.ref === chip.ref ? { ...one, pins: swapped } : one)),
  };
}

/** Two nets bridged by a drop of solder: in no list of single faults. */
function bridged(board: Board, chance: () => number): { board: Board; nets: NetId[] } {
  const nets = board.nets.filter((net) => net.id !== board.ground);
  const [a, b] = [draw(nets, chance).id, draw(nets, chance).id];
  const model = board.parts.find((part) => part.kind === 'resistor') as Part;
  const drop: Part = {
    ...model,
    ref: 'BRIDGE' as Part['ref'],
    value: 0.3,
    on: null,
    pins: [a, b].map((net, index) => ({ name: String(index + 1), net })),
  };
  return { board: { ...board, parts: [...board.parts, drop] }, nets: [a, b] };
}

/** Runs where the sheet is wrong, and where the fault is in no list. */
export function mistakeFigures(bench: Bench, count: number): Figure[] {
  const onWrongSheet: Run[] = [];
  while (onWrongSheet.length < count) {
    const blocker = bench.drawBlocker();
    const { fault, goal } = blocker;
    const { real, mistaken } = unlikeItsSheet(bench.board, bench.chance);
    const hidden = bench.hide([fault], real);
    if (hidden.play.status === 'invalid' || bench.reachesAllTheSame(hidden, blocker)) continue;
    const run = follow(bench.diagnoser, hidden, [fault], goal);
    // Where the mistake stops the board by itself, naming the part it is about is right as well.
    const named = run.leading?.faults ?? [];
    const right =
      run.right || named.some((one) => 'part' in one.fault && one.fault.part === mistaken);
    onWrongSheet.push({ ...run, right });
  }
  const unlisted: { run: Run; near: boolean }[] = [];
  while (unlisted.length < count) {
    const { board, nets } = bridged(bench.board, bench.chance);
    const play = playBoard(board, bench.setup);
    const goal = bench.board.goals.find(({ reached, phase }) =>
      reached.some(({ net, side, volts }) => {
        const here = play.phases.get(phase)?.volts.get(net) ?? 0;
        const healthy = bench.healthy.play.phases.get(phase)?.volts.get(net) ?? 0;
        return side === 'above'
          ? healthy > volts && here <= volts
          : healthy < volts && here >= volts;
      }),
    );
    if (!goal || play.status === 'invalid') continue;
    const run = follow(bench.diagnoser, bench.hide([], board), [], goal.id);
    unlisted.push({
      run,
      near: (run.leading?.faults ?? []).some(({ fault }) => touches(bench.board, fault, nets)),
    });
  }
  const sure = onWrongSheet.filter((run) => run.end === 'sure');
  const sureUnlisted = unlisted.filter(({ run }) => run.end === 'sure');
  const told = unlisted.filter(({ run }) => run.end !== 'sure').length;
  return [
    [
      `honesty on ${bench.board.title} where the sheet has a mistake (a wrong value, a part that is not there, two pins swapped)`,
      'confidently wrong under 2 %',
      `${count} runs: right group ${percent(onWrongSheet.filter((run) => run.right).length, count)}, confidently wrong ${percent(sure.filter((run) => !run.right).length, count)}`,
    ],
    [
      `honesty on ${bench.board.title} with a fault that is in no list (two nets bridged)`,
      '"none of these" or a region',
      `${count} runs: not sure of any ${percent(told, count)}, sure of a part on one of the two nets ${percent(sureUnlisted.filter((one) => one.near).length, count)}, confidently elsewhere ${percent(sureUnlisted.filter((one) => !one.near).length, count)}`,
    ],
  ];
}

function touches(board: Board, fault: Fault, nets: readonly NetId[]): boolean {
  if (fault.kind === 'nets-joined') return fault.nets.some((net) => nets.includes(net));
  if (!('part' in fault)) return 'net' in fault && nets.includes(fault.net);
  const pins = [
    ...(findPart(board, fault.part)?.pins.map((pin) => pin.net) ?? []),
    ...(findChip(board, fault.part)?.pins.values() ?? []),
  ];
  return pins.some((net) => nets.includes(net));
}
