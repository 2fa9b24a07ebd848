import { parse } from 'yaml';
import { z } from 'zod';
import { fail, ok, type Result } from '../base/index.ts';
import { choosableGoals, type Board, type GoalId, type StageId } from '../board/index.ts';
import { noSigns, type Finding, type Signs, type Tried } from '../diagnosis/index.ts';
import { poweredPhases } from '../readings/index.ts';
import { findingKinds, saysSomething, simpleResults, triedThings } from '../record/index.ts';
import { positionOf } from './yaml-lines.ts';
import type { FileTrouble } from './csv/readings-csv.ts';

const drawSchema = z.strictObject({
  amps: z.number().min(0).max(50).optional(),
  shape: z.enum(['steady', 'pulsing', 'limited', 'rising']).optional(),
  /** Volts at the plug, as a cable meter or the supply shows them. */
  shows: z.number().min(0).max(60).optional(),
});

/** First signs as written in a file; what is left away was not looked at. */
const signsSchema = z.strictObject({
  source: z.string().optional(),
  attached: z.array(z.string()).optional(),
  goal: z.string().optional(),
  draw: z.partialRecord(z.enum(poweredPhases), drawSchema).default({}),
  lights: z.array(z.string()).optional(),
  fan: z.boolean().optional(),
  beeps: z.string().optional(),
  picture: z.boolean().optional(),
  faintPicture: z.boolean().optional(),
  reached: z.string().optional(),
  offAfterSeconds: z.number().min(0).optional(),
  goesOff: z.boolean().optional(),
  restarts: z.boolean().optional(),
  startsOnConnect: z.boolean().optional(),
  answers: z.boolean().optional(),
  tried: z
    .array(z.strictObject({ thing: z.enum(triedThings), result: z.enum(simpleResults) }))
    .default([]),
});

export interface SignsFile {
  source: string | undefined;
  attached: string[] | undefined;
  goal: GoalId | null;
  signs: Signs;
  /** Beeps or blinks as written; undefined where nobody wrote of them. */
  beeps: string | undefined;
  /** Simple things tried, and what came of them. */
  tried: Tried[];
}

/** Signs from YAML; every name is held against the board. */
export function parseSignsYaml(board: Board, text: string): Result<SignsFile, FileTrouble[]> {
  const read = readYaml(text, signsSchema);
  if (!read.ok) return read;
  const file = read.value;
  const troubles: FileTrouble[] = [];
  const check = (key: string, name: string | undefined, known: readonly string[]): void => {
    if (name !== undefined && !known.includes(name))
      troubles.push({
        line: positionOf(text, [key]),
        text: `${key}: there is no ${name} on this board: one of ${known.join(', ')}.`,
      });
  };
  check(
    'source',
    file.source,
    board.sources.map((one) => one.id),
  );
  check(
    'goal',
    file.goal,
    choosableGoals(board).map((one) => one.id),
  );
  check(
    'reached',
    file.reached,
    board.stages.map((one) => one.id),
  );
  const leds = board.parts.filter((part) => part.kind === 'led').map((part) => part.ref);
  file.lights?.forEach((light) => check('lights', light, leds));
  file.attached?.forEach((one) =>
    check(
      'attached',
      one,
      board.attachments.map(({ id }) => id),
    ),
  );
  if (troubles.length > 0) return fail(troubles);
  return ok({
    source: file.source,
    attached: file.attached,
    goal: (file.goal as GoalId | undefined) ?? null,
    signs: {
      ...noSigns,
      draw: poweredPhases.flatMap((phase) => {
        const draw = file.draw[phase];
        return draw
          ? [
              {
                phase,
                amps: draw.amps ?? null,
                shape: draw.shape ?? null,
                shownVolts: draw.shows,
              },
            ]
          : [];
      }),
      lights: file.lights ?? null,
      fan: file.fan ?? null,
      faintPicture: file.faintPicture ?? null,
      offAfterSeconds: file.offAfterSeconds ?? null,
      goesOff: file.goesOff ?? null,
      startsOnConnect: file.startsOnConnect ?? null,
      answers: file.answers ?? null,
      restarts: file.restarts ?? null,
      picture: file.picture ?? null,
      speaks: saysSomething(file.beeps),
      reached: (file.reached as StageId | undefined) ?? null,
    },
    beeps: file.beeps,
    tried: file.tried,
  });
}

const findingsSchema = z.array(
  z.strictObject({
    part: z.string().nullable().default(null),
    net: z.string().nullable().default(null),
    kind: z.enum(findingKinds),
    text: z.string().optional(),
  }),
);

/** Findings from YAML: a list of `{ part: C6, kind: burnt }`, or `{ net: VMAIN, kind: corrosion }`. */
export function parseFindingsYaml(board: Board, text: string): Result<Finding[], FileTrouble[]> {
  const read = readYaml(text, findingsSchema);
  if (!read.ok) return read;
  const known = new Set<string>([...board.parts, ...board.chips].map((one) => one.ref));
  const nets = new Set<string>(board.nets.map(({ id }) => id));
  const troubles = read.value.flatMap(({ part, net }, index): FileTrouble[] => {
    const line = positionOf(text, [index]);
    if (part !== null && !known.has(part))
      return [{ line, text: `there is no part ${part} on this board.` }];
    return net === null || nets.has(net)
      ? []
      : [{ line, text: `there is no net ${net} on this board.` }];
  });
  return troubles.length > 0
    ? fail(troubles)
    : ok(read.value.map(({ part, net, kind }) => ({ part, net, kind })));
}

function readYaml<S extends z.ZodType>(
  text: string,
  schema: S,
): Result<z.output<S>, FileTrouble[]> {
  let raw: unknown;
  try {
    raw = parse(text) ?? {};
  } catch (error) {
    const at = (error as { linePos?: { line: number }[] }).linePos?.[0]?.line ?? 1;
    return fail([
      { line: at, text: `this is not readable YAML: ${(error as Error).message.split('\n')[0]}` },
    ]);
  }
  const checked = schema.safeParse(raw);
  if (checked.success) return ok(checked.data);
  return fail(
    checked.error.issues.map((issue) => ({
      line: positionOf(text, issue.path),
      text: `${issue.path.join(' › ') || 'the file'}: ${issue.message}.`,
    })),
  );
}
