import type { Board } from '../board/index.ts';
import type { Job } from '../record/index.ts';
import { safetyLines, type DeviceFacts, type SafetyLine } from '../safety/index.ts';

/** One line of the safety list as its job stands. */
export interface SafetyStep extends Pick<SafetyLine, 'item' | 'kind' | 'title' | 'why'> {
  state: 'done' | 'none-here' | 'open';
  /** It concerns this job more than others: the history says so. */
  pressing: boolean;
}

/** Somebody looked, and this device has no battery. */
export const hasNoBattery = (job: Job): boolean =>
  job.safety.some(({ body }) => body.item === 'battery-out' && body.state === 'none-here');

/** The safety list for a board as its job stands: steps first, then what to look out for. */
export function safetySteps(board: Board, job: Job): SafetyStep[] {
  const stateOf = (item: string): SafetyStep['state'] =>
    job.safety.find((said) => said.body.item === item)?.body.state ?? 'open';
  const device: DeviceFacts = {
    hasNoBattery: hasNoBattery(job),
    hasCoinCell: board.sources.some((source) => source.kind === 'coin-cell')
      ? true
      : // A sheet of rails alone says nothing of a coin cell: it is asked for there.
        board.depth === 'rails'
        ? null
        : false,
    hasStorage: board.attachments.some((attachment) => attachment.id === 'storage'),
    happened: job.intake?.happened ?? [],
  };
  return safetyLines
    .filter((line) => line.asked(device))
    .map((line) => ({
      item: line.item,
      kind: line.kind,
      title: line.title,
      why: line.why,
      state: stateOf(line.item),
      pressing: line.presses(device),
    }));
}

/** Steps nobody noted as done; before cold checks they are named, never taken as done. */
export const openSteps = (board: Board, job: Job): SafetyStep[] =>
  safetySteps(board, job).filter((one) => one.kind === 'step' && one.state === 'open');
