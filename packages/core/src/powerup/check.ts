import { netOf, sheetLines, type Board, type SheetIssue } from '../board/index.ts';
import type { HealthyBoard } from './healthy.ts';

/** What the healthy play finds wrong with a sheet: stages that never come up, volts that differ. */
export function checkHealthyPlay(healthy: HealthyBoard, text: string): SheetIssue[] {
  const lineOf = sheetLines(text);
  const { board, play } = healthy;
  const issues: SheetIssue[] = [];
  const place = (path: string[]): { line: number; path: string } => ({
    line: lineOf(path),
    path: path.join(' › '),
  });
  for (const { stage, phase } of healthy.stages) {
    if (phase !== null) continue;
    issues.push({
      code: 'stage-never-up',
      stage: stage.title,
      because: firstFailure(healthy, board, stage.gives[0] as string),
      ...place(['stages', stage.id]),
    });
  }
  for (const net of board.nets) {
    if (net.volts === null || net.kind !== 'rail') continue;
    const played = play.phases.get('run')?.volts.get(net.id) ?? 0;
    const allowed = (net.tolerance ?? 0.05) * net.volts + 0.02;
    if (played > 0.3 && Math.abs(played - net.volts) > allowed) {
      issues.push({
        code: 'volts-differ',
        net: net.id,
        statedVolts: net.volts,
        playedVolts: Number(played.toFixed(3)),
        ...place(['nets', net.id]),
      });
    }
  }
  for (const goal of board.goals) {
    const missed = goal.reached.find(({ net, side, volts }) => {
      const played = play.phases.get(goal.phase)?.volts.get(net) ?? 0;
      return side === 'above' ? played <= volts : played >= volts;
    });
    if (missed) {
      issues.push({
        code: 'goal-not-reached',
        goal: goal.title,
        net: missed.net,
        ...place(['goals', goal.id]),
      });
    }
  }
  return issues;
}

/** Walks up from a net that does not come to the first need that fails. */
function firstFailure({ upstream, play }: HealthyBoard, board: Board, net: string): string {
  const volts = (id: string): number => play.phases.get('run')?.volts.get(id as never) ?? 0;
  let here = net;
  const seen = new Set<string>();
  while (!seen.has(here)) {
    seen.add(here);
    const missing = upstream.of(here as never).find(({ net: up, threshold }) => {
      if (threshold === null) return volts(up) < 0.3;
      return threshold.side === 'above'
        ? volts(up) <= threshold.volts
        : volts(up) >= threshold.volts;
    });
    if (!missing) break;
    const up = netOf(board, missing.net);
    if (missing.threshold && volts(up.id) > 0.3) {
      return `${missing.via} wants ${up.id} ${missing.threshold.side} ${missing.threshold.volts} V, and it is ${volts(up.id).toFixed(2)} V`;
    }
    here = up.id;
  }
  return here === net ? 'nothing makes it' : `${here} does not come`;
}
