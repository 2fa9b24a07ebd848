import type { Board, Goal, GoalId } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { saysSomething, type Job, type TriedThing } from '../record/index.ts';
import { drawBand } from '../safety/index.ts';

/** What a device does not do though every net of its goal reads right. */
export type Lack = 'start' | 'picture' | 'storage' | 'charge';

export interface Lacking {
  what: Lack;
  /** Whether code runs, by beeps and by the draw; null where nothing says it. */
  runsCode: boolean | null;
  /** A picture shows under a torch: its light is missing. */
  isFaint: boolean;
  /** What was tried since the board was last changed. */
  answers: ReadonlyMap<TriedThing, Job['tried'][number]['body']['result']>;
}

/**
 * What is lacking where the goal's nets all read right: by the last look at its picture, or because the check
 * of the goal failed. Null where nothing says that it is lacking.
 */
export function lackingOf(healthy: HealthyBoard, job: Job, id: GoalId): Lacking | null {
  const goal = healthy.board.goals.find((one) => one.id === id);
  if (!goal) return null;
  const seen = job.signs.filter(
    (sign) => sign.struck === null && !sign.beforeRepair && !sign.inGrace,
  );
  const checked = job.verified.findLast(
    (check) => check.body.item === 'goal' && !check.beforeRepair,
  );
  if (checked?.body.result === 'passed') return null;
  const picture = seen.findLast(({ body }) => body.seen.picture !== undefined)?.body.seen.picture;
  const faint = seen.findLast(({ body }) => body.seen.faintPicture !== undefined);
  const isFaint = faint?.body.seen.faintPicture === true && picture !== true;
  const isDark = (isFaint || picture === false) && isToShow(goal);
  if (!isDark && checked?.body.result !== 'failed') return null;
  return {
    what: isDark ? 'picture' : lackOf(healthy.board, goal),
    runsCode: runsCode(healthy, seen),
    isFaint,
    answers: new Map(
      job.tried
        .filter((tried) => !tried.beforeRepair)
        .map(({ body }) => [body.thing, body.result] as const),
    ),
  };
}

/** A board that boots shows a picture; one that only charges does not. */
const isToShow = (goal: Goal): boolean =>
  goal.shows === 'picture' || (goal.phase === 'run' && goal.with.length === 0);

function lackOf(board: Board, goal: Goal): Lack {
  if (goal.shows === 'picture') return 'picture';
  if (goal.with.includes('battery')) return 'charge';
  const isStorage = (id: string): boolean =>
    id === 'storage' || board.chips.some((chip) => chip.on === id && chip.kind === 'storage');
  return goal.with.some(isStorage) || /storage/i.test(goal.title) ? 'storage' : 'start';
}

/** Firmware beeps; a board that runs no code draws less than its sheet says of one that runs. */
function runsCode(
  { board, play }: HealthyBoard,
  seen: readonly Job['signs'][number][],
): boolean | null {
  if (seen.some(({ body }) => body.seen.picture === true || body.seen.faintPicture === true))
    return true;
  if (seen.some(({ body }) => saysSomething(body.seen.beeps) === true)) return true;
  const drawn = seen.findLast(
    ({ body }) =>
      body.drawAmps !== null &&
      (body.phase === 'run' || body.phase === 'trying') &&
      body.drawShape !== 'pulsing',
  )?.body.drawAmps;
  const usual = play.phases.get('run')?.sourceAmps;
  if (drawn === undefined || drawn === null || usual === undefined || board.guessed.length > 0)
    return null;
  return drawn > usual * drawBand.less;
}
