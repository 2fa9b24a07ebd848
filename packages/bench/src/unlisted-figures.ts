import { findChip, findPart, type NetId } from '@jiko/core/board';
import type { Fault } from '@jiko/core/faults';
import type { HiddenBoard } from './hidden/hidden-board.ts';
import { playBoard } from '@jiko/core/play';
import { follow, type Run } from './closed-loop.ts';
import { mean, percent, type Bench, type Figure } from './hidden-faults.ts';
import { ways, type Failing, type Way } from './unlisted-ways.ts';

/** A hidden board that fails in a way no list has, and where the search ended. */
export interface UnlistedRun {
  way: string;
  failing: Failing;
  run: Run;
  /** The leading suspect names the part or the net it sits at, or leads to it. */
  right: boolean;
  /** "None of these" leads, and says the net. */
  placed: boolean;
}

export function unlistedRuns(
  bench: Bench,
  perWay: number,
  tried: Readonly<Record<string, Way>> = ways,
  /** What is drawn for a run, and who reads it. */
  reads: {
    begin: (way: string, found: number) => void;
    by: (hidden: HiddenBoard) => HiddenBoard;
  } = {
    begin: () => undefined,
    by: (hidden) => hidden,
  },
): UnlistedRun[] {
  const runs: UnlistedRun[] = [];
  for (const [way, make] of Object.entries(tried)) {
    let found = 0;
    reads.begin(way, found);
    for (let tries = 0; found < perWay && tries < 60 * perWay; tries++) {
      const failing = make(bench.board, bench.chance);
      if (!failing) continue;
      const play = playBoard(failing.board, bench.setup);
      if (play.status === 'invalid') continue;
      const goal = bench.board.goals.find(({ reached, phase, with: needs }) =>
        needs.length > 0
          ? false
          : reached.some(({ net, side, volts }) => {
              const here = play.phases.get(phase)?.volts.get(net) ?? 0;
              const healthy = bench.healthy.play.phases.get(phase)?.volts.get(net) ?? 0;
              return side === 'above'
                ? healthy > volts && here <= volts
                : healthy < volts && here >= volts;
            }),
      );
      if (!goal) continue;
      found++;
      const run = follow(bench.diagnoser, reads.by(bench.hide([], failing.board)), [], goal.id);
      reads.begin(way, found);
      const named = run.leading?.faults.slice(0, 12) ?? [];
      runs.push({
        way,
        failing,
        run,
        right: named.some(({ fault }) => isThere(bench, fault, failing)),
        placed:
          run.none > (run.sure ?? 0) && run.elsewhere.some((net) => failing.nets.includes(net)),
      });
    }
  }
  return runs;
}

/** Whether a suspect is at the place: the part itself, or something that sits on the net at fault. */
function isThere({ board }: Bench, fault: Fault, { parts, nets }: Failing): boolean {
  if ('part' in fault && parts.includes(fault.part)) return true;
  const on = (list: readonly NetId[]): boolean => list.some((net) => nets.includes(net));
  switch (fault.kind) {
    case 'short':
    case 'break':
      return on([fault.net]);
    case 'nets-joined':
      return on(fault.nets);
    case 'warm':
      return false;
    case 'source':
      return on(board.sources.filter((one) => one.id === fault.source).map((one) => one.net));
    default: {
      const chip = findChip(board, fault.part);
      const part = findPart(board, fault.part);
      if ('pin' in fault) {
        const net = chip?.pins.get(fault.pin);
        return net !== undefined && on([net]);
      }
      const pins = [...(chip?.pins.values() ?? []), ...(part?.pins.map((pin) => pin.net) ?? [])];
      return on(pins);
    }
  }
}

const wrong = (one: UnlistedRun): boolean => one.run.end === 'sure' && !one.right;

export function unlistedRows(title: string, runs: readonly UnlistedRun[]): Figure[] {
  const row = (name: string, list: readonly UnlistedRun[]): Figure => [
    `${title}: ${name}, which is in no list`,
    'right 80 %; confidently wrong under 5 %',
    `${list.length} boards: right ${percent(list.filter((one) => one.right).length, list.length)}, confidently wrong ${percent(list.filter(wrong).length, list.length)}, none of these leads ${percent(list.filter((one) => one.run.none > one.run.sure).length, list.length)} (its place right ${list.filter((one) => one.placed).length}); ${mean(list.map((one) => one.run.probes)).toFixed(1)} probes`,
  ];
  return [
    row('all ways together', runs),
    ...Object.keys(ways).flatMap((way) => {
      const list = runs.filter((one) => one.way === way);
      return list.length > 0 ? [row(way, list)] : [];
    }),
  ];
}
