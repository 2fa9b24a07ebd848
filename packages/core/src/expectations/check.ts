import {
  netOf,
  sheetLines,
  type Board,
  type Goal,
  type NetId,
  type SheetIssue,
} from '../board/index.ts';
import { usualMeter, somethingVolts } from '../readings/index.ts';
import { makeColdMeter, type ColdReading } from '../cold/index.ts';
import { studyHealthyBoard, type HealthyBoard } from './healthy.ts';
import { attachedIn, benchSetup, usualSetup } from '../play/index.ts';

/** Further than this from what the drawn parts and chips read together, a stated cold value cannot be meant. */
const statedOhmsPart = 0.35;
const statedDiodeVolts = 0.08;

/**
 * What healthy plays find wrong with a sheet: stages that never come up, volts that differ, goals
 * that are not reached. What needs a battery or the like plugged in is asked of a play with all of it.
 */
export function checkHealthyPlay(board: Board, text: string): SheetIssue[] {
  const lineOf = sheetLines(text);
  const issues: SheetIssue[] = [];
  const place = (path: string[]): { line: number; path: string } => ({
    line: lineOf(path),
    path: path.join(' › '),
  });
  if (board.sources.length === 0) return [{ code: 'no-source', ...place(['sources']) }];
  const usual = studyHealthyBoard(board);
  const attached = attachedIn(board, usual.play.setup);
  let full: HealthyBoard | null = null;
  const studyWith = (needed: readonly string[]): HealthyBoard => {
    if (needed.every((id) => attached.includes(id))) return usual;
    const all = board.attachments.map((one) => one.id);
    return (full ??= studyHealthyBoard(board, benchSetup(board, { attached: all })));
  };
  for (const stage of board.stages) {
    const healthy = studyWith(stage.with);
    const played = healthy.stages.find((one) => one.stage.id === stage.id);
    if (!played || played.phase !== null) continue;
    issues.push({
      code: 'stage-never-up',
      stage: stage.title,
      because: firstFailure(healthy, board, stage.gives[0] as NetId),
      reached: board.goals
        .filter((goal) => goal.phase === 'run' && !missedBy(goal, healthy))
        .map((goal) => goal.title),
      ...place(['stages', stage.id]),
    });
  }
  for (const net of board.nets) {
    if (net.volts === null || net.kind !== 'rail') continue;
    const played = usual.play.phases.get('run')?.volts.get(net.id) ?? 0;
    const allowed = (net.tolerance ?? 0.05) * net.volts + 0.02;
    if (played > somethingVolts && Math.abs(played - net.volts) > allowed) {
      issues.push({
        code: 'volts-differ',
        net: net.id,
        statedVolts: net.volts,
        playedVolts: Number(played.toFixed(3)),
        heldBy: whoHolds(usual, net.id),
        ...place(['nets', net.id]),
      });
    }
  }
  const meter = makeColdMeter(board, usualMeter);
  for (const net of board.nets) {
    const differs = (
      mode: 'ohms' | 'diode',
      stated: number | null,
      read: ColdReading,
      allowed: number,
    ): void => {
      if (stated === null || read.kind === 'unsettled') return;
      const played = read.kind === 'over' ? Infinity : read.value;
      if (Math.abs(played - stated) <= allowed) return;
      issues.push({
        code: 'cold-differs',
        net: net.id,
        mode,
        stated,
        played: Number(played.toPrecision(3)),
        ...place(['nets', net.id]),
      });
    };
    differs('ohms', net.coldOhms, meter.ohms(net.id), (net.coldOhms ?? 0) * statedOhmsPart);
    differs('diode', net.coldDiodeVolts, meter.diode(net.id, 'black-on-point'), statedDiodeVolts);
  }
  for (const goal of board.goals) {
    const missed = missedBy(goal, studyWith(goal.with));
    if (missed) {
      issues.push({
        code: 'goal-not-reached',
        goal: goal.title,
        net: missed.net,
        ...place(['goals', goal.id]),
      });
    }
  }
  for (const source of board.sources) {
    // A coin cell keeps a clock: nothing wakes by it, and nothing is meant to.
    if (source.stays) continue;
    const alone = studyHealthyBoard(board, usualSetup(board, source.id));
    if (alone.stages.some((one) => one.phase !== null)) continue;
    issues.push({
      code: 'source-for-nothing',
      source: source.title,
      net: source.net,
      ...place(['sources', source.id]),
    });
  }
  return issues;
}

/** The first thing a goal wants that a healthy play does not give. */
function missedBy(goal: Goal, { play }: HealthyBoard): Goal['reached'][number] | undefined {
  return goal.reached.find(({ net, side, volts }) => {
    const played = play.phases.get(goal.phase)?.volts.get(net) ?? 0;
    return side === 'above' ? played <= volts : played >= volts;
  });
}

/** Who gives a net its volts, in words: `PU9 makes it from 5V_ALW`. Empty where nothing does. */
function whoHolds({ upstream, play }: HealthyBoard, net: NetId): string {
  const volts = (one: NetId): string =>
    `${(play.phases.get('run')?.volts.get(one) ?? 0).toFixed(2)} V`;
  return upstream
    .of(net)
    .filter(({ role }) => role === 'feed' || role === 'pull-up')
    .map(({ net: up, via, role }) =>
      role === 'feed'
        ? `${via} gives it from ${up} (${volts(up)})`
        : `${via} pulls it up to ${up} (${volts(up)})`,
    )
    .join(', ');
}

/** Looks up from a net that does not come for the first need that fails, through gates as well. */
function firstFailure({ upstream, play }: HealthyBoard, board: Board, start: NetId): string {
  const volts = (net: NetId): number => play.phases.get('run')?.volts.get(net) ?? 0;
  const seen = new Set<NetId>();
  let deepest = start;
  const search = (net: NetId): string | null => {
    seen.add(net);
    const needs = upstream.of(net).filter((one) => !seen.has(one.net));
    for (const { net: up, via, threshold } of needs) {
      if (threshold === null || volts(up) < 0.1) continue;
      const met =
        threshold.side === 'above' ? volts(up) > threshold.volts : volts(up) < threshold.volts;
      if (!met) {
        return `${via} wants ${netOf(board, up).id} ${threshold.side} ${threshold.volts} V, and it is ${volts(up).toFixed(2)} V`;
      }
    }
    // Nets that are not there first, then the gates that keep a path shut.
    const dead = needs.filter((one) => volts(one.net) < somethingVolts);
    const shut = needs.filter((one) => one.role === 'gate' || one.role === 'feed');
    for (const { net: up } of [...dead, ...shut]) {
      if (seen.has(up)) continue;
      if (volts(up) < somethingVolts) deepest = up;
      const found = search(up);
      if (found) return found;
    }
    return null;
  };
  return search(start) ?? (deepest === start ? 'nothing makes it' : `${deepest} does not come`);
}
