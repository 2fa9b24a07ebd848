import type { GoalId, PartRef, StageId } from '../../board/index.ts';
import { poweredPhases, type PoweredPhase } from '../../readings/index.ts';
import {
  goneParts,
  isChange,
  saysSomething,
  standingOf,
  type Habit,
  type Job,
  type Seen,
} from '../../record/index.ts';
import type { Finding } from './finding.ts';
import type { DrawSign, Evidence } from './evidence.ts';

/**
 * The evidence a job holds about the board as it is now: what was read and seen after the last
 * repair. A replaced part is cleared. `habits` come from closed jobs on the same board.
 */
export function evidenceOf(
  job: Job,
  habits: readonly Habit[],
  /** Parts worked on without effect, by what was read again. */
  doubted: readonly string[],
  /** Whether what was read and seen shows that it does what it came for. */
  goalReached = false,
): Evidence {
  const slipped = job.slips.filter((one) => one.struck === null);
  const slipParts = new Set(slipped.flatMap(({ body }) => body.parts));
  const repairs = job.repairs.filter(
    ({ struck, body }) => struck === null && isChange(body.action),
  );
  const gone = goneParts(job);
  const draw = job.signs.flatMap(({ body, struck, beforeRepair, inGrace }): DrawSign[] =>
    struck === null &&
    !beforeRepair &&
    !inGrace &&
    isPowered(body.phase) &&
    (body.drawAmps !== null || body.drawShape || body.seen.shownVolts !== undefined)
      ? [
          {
            phase: body.phase,
            amps: body.drawAmps,
            shape: body.drawShape,
            shownVolts: body.seen.shownVolts,
            source: body.source ?? undefined,
          },
        ]
      : [],
  );
  // What was seen last of each kind counts; lights and the like are played after the press.
  const seen = Object.assign(
    {},
    ...job.signs.flatMap(({ body: { phase, seen }, struck, beforeRepair, inGrace }): Seen[] => {
      if (struck !== null || beforeRepair || inGrace) return [];
      // Where nothing changes after the press there is nothing to go off.
      if (seen.answers === false) return [withoutContrary(seen)];
      // Whoever says what it does while it stays on says that it stays on.
      if (phase === 'run') return [withoutContrary({ goesOff: false, ...seen })];
      if (phase !== 'standby' && phase !== 'cold') return [withoutContrary(seen)];
      const { startsOnConnect } = seen;
      return startsOnConnect === undefined ? [] : [{ startsOnConnect }];
    }),
  ) as Seen;
  return {
    readings: standingOf(job).map(({ id, reading }) => ({ id, reading })),
    signs: {
      draw,
      lights: seen.lights ?? null,
      fan: seen.fan ?? null,
      offAfterSeconds: seen.offAfterSeconds ?? null,
      goesOff: seen.goesOff ?? null,
      startsOnConnect: seen.startsOnConnect ?? null,
      answers: seen.answers ?? null,
      restarts: seen.restarts ?? null,
      picture: seen.picture ?? null,
      faintPicture: seen.faintPicture ?? null,
      speaks: saysSomething(seen.beeps),
      reached: (seen.reached as StageId | undefined) ?? null,
    },
    findings: [
      ...job.findings
        .filter((one) => one.struck === null && one.harmless === null)
        // What was put back is not missing any more.
        .filter(({ body: { kind, part } }) => kind !== 'missing' || !part || gone.includes(part))
        .map(({ body: { kind, part }, net }) => ({ kind, part, net })),
      // What got warm while its rail was fed is as suspect as what was found hot.
      ...job.warm
        .filter((one) => one.struck === null && !one.beforeRepair && one.body.part !== null)
        .map(({ body: { part } }) => ({ kind: 'hot' as const, part })),
      // So is what was measured as hot.
      ...job.readings.flatMap(({ standing, reading: { mode, value, at } }) =>
        standing.kind === 'stands' &&
        mode === 'celsius' &&
        at.part !== null &&
        value.kind === 'number' &&
        value.value >= hotCelsius
          ? [{ kind: 'hot' as const, part: at.part }]
          : [],
      ),
      // A slip reopens suspicion where it happened.
      ...slipped.flatMap(({ body }) =>
        body.parts.map((part) => ({ kind: slipFinding[body.what], part })),
      ),
    ],
    doubted,
    tried: job.tried
      .filter((one) => !one.beforeRepair)
      .map(({ body: { thing, result } }) => ({ thing, result })),
    habits,
    cleared: repairs.flatMap(({ body }) =>
      body.action === 'replaced' || body.action === 'jumper'
        ? (body.parts as PartRef[]).filter((one) => !slipParts.has(one))
        : [],
    ),
    gone,
    lifted: [...new Set(job.readings.flatMap(({ reading }) => reading.lifted))],
    goal: (job.intake?.goal as GoalId | undefined) ?? null,
    goalReached,
  };
}

/** Hardly anything gets so hot on a good board that does not run under load (common practice, no source). */
const hotCelsius = 80;

/** What is seen now takes back what was seen before of the same. */
function withoutContrary(seen: Seen): Seen {
  // What changes nothing neither stays on nor goes off.
  if (seen.answers === false) return { goesOff: undefined, offAfterSeconds: undefined, ...seen };
  const now: Seen = { answers: undefined, ...seen };
  if (now.offAfterSeconds !== undefined) return { ...now, goesOff: undefined };
  return now.goesOff === false ? { ...now, offAfterSeconds: undefined } : now;
}

const slipFinding: Record<Job['slips'][number]['body']['what'], Finding['kind']> = {
  'bridged-pads': 'bridged',
  'burnt-part': 'burnt',
  'lifted-pad': 'lifted-pad',
  'lost-part': 'missing',
  other: 'reworked',
};

const isPowered = (phase: string): phase is PoweredPhase =>
  (poweredPhases as readonly string[]).includes(phase);
