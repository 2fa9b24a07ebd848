import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { Writable } from 'node:stream';
import {
  lintBoard,
  loadSheet,
  sheetIssueText,
  stopsUse,
  type Board,
  type SheetIssue,
} from '@jiko/core/board';
import { faultName, faultTroubleText, parseFault, withFaults, type Fault } from '@jiko/core/faults';
import { checkHealthyPlay, playBoard, usualSetup } from '@jiko/core/powerup';
import { poweredPhases, type PoweredPhase } from '@jiko/core/readings';

const usage = `jiko lint SHEET
    what is wrong or doubtful about a board sheet
jiko play SHEET [--fault PART:mode ...] [--source ID] [--phase standby|pressed|trying|run]
    volts per net, amps from the source and events, healthy or with faults

JSON on standard output, messages on standard error. Exit codes: 0 done, 1 bad input, 2 usage.
docs/cli.md says more.
`;

/** Runs one command; returns the exit code: 0 done, 1 bad input, 2 usage. */
export async function main(words: string[], out: Writable, messages: Writable): Promise<number> {
  const [command, ...rest] = words;
  const say = (text: string): void => void messages.write(`${text}\n`);
  switch (command) {
    case 'lint':
      return lint(rest, out, say);
    case 'play':
      return play(rest, out, say);
    case 'help':
    case '--help':
      messages.write(usage);
      return 0;
    default:
      messages.write(command ? `There is no command ${command}.\n\n${usage}` : usage);
      return 2;
  }
}

type Say = (text: string) => void;

function lint(words: string[], out: Writable, say: Say): number {
  const asked = read(words, {}, say);
  if (!asked) return 2;
  const text = fileText(asked.sheet, say);
  if (text === null) return 1;
  const loaded = loadSheet(text);
  const issues: SheetIssue[] = loaded.ok
    ? [...lintBoard(loaded.value, text), ...checkHealthyPlay(loaded.value, text)]
    : loaded.error;
  for (const issue of issues) say(sheetIssueText(issue));
  print(out, {
    sheet: loaded.ok
      ? { id: loaded.value.id, title: loaded.value.title, hash: loaded.value.hash }
      : null,
    usable: loaded.ok,
    issues: issues.map((issue) => ({
      code: issue.code,
      line: issue.line,
      path: issue.path,
      stops: stopsUse(issue),
      text: sheetIssueText(issue),
    })),
  });
  return loaded.ok ? 0 : 1;
}

function play(words: string[], out: Writable, say: Say): number {
  const asked = read(
    words,
    {
      fault: { type: 'string', multiple: true },
      source: { type: 'string' },
      phase: { type: 'string' },
    },
    say,
  );
  if (!asked) return 2;
  const { source, phase } = asked.values as { source?: string; phase?: string };
  if (phase !== undefined && !poweredPhases.includes(phase as PoweredPhase)) {
    say(`There is no phase ${phase}: one of ${poweredPhases.join(', ')}.`);
    return 2;
  }
  const text = fileText(asked.sheet, say);
  if (text === null) return 1;
  const loaded = loadSheet(text);
  if (!loaded.ok) {
    loaded.error.forEach((issue) => say(sheetIssueText(issue)));
    return 1;
  }
  const board = loaded.value;
  if (source !== undefined && !board.sources.some((one) => one.id === source)) {
    say(`There is no source ${source}: one of ${board.sources.map((one) => one.id).join(', ')}.`);
    return 1;
  }
  const faults = readFaults(board, (asked.values['fault'] as string[] | undefined) ?? [], say);
  if (!faults) return 1;

  const played = playBoard(withFaults(board, faults), usualSetup(board, source));
  if (played.status === 'invalid') say(`The play cannot be trusted: ${played.because}.`);
  const shown = poweredPhases.filter((one) => phase === undefined || one === phase);
  print(out, {
    sheet: { id: board.id, hash: board.hash },
    status: played.status,
    because: played.status === 'invalid' ? played.because : null,
    source: played.setup.source,
    faults: faults.map((fault) => ({ ...fault, name: faultName(fault) })),
    phases: Object.fromEntries(
      shown.map((one) => {
        const snapshot = played.phases.get(one);
        return [
          one,
          {
            sourceAmps: rounded(snapshot?.sourceAmps ?? 0),
            volts: Object.fromEntries(
              [...(snapshot?.volts ?? [])].map(([net, volts]) => [net, rounded(volts)]),
            ),
            swinging: Object.fromEntries(
              [...(snapshot?.swinging ?? [])].map(([net, swing]) => [
                net,
                { low: rounded(swing.low), high: rounded(swing.high) },
              ]),
            ),
          },
        ];
      }),
    ),
    events: played.events.map((event) => ({ ...event, atSeconds: rounded(event.atSeconds, 6) })),
  });
  return 0;
}

function readFaults(board: Board, texts: readonly string[], say: Say): Fault[] | null {
  const faults: Fault[] = [];
  let bad = false;
  for (const text of texts) {
    const parsed = parseFault(board, text);
    if (parsed.ok) faults.push(parsed.value);
    else {
      say(faultTroubleText(parsed.error));
      bad = true;
    }
  }
  return bad ? null : faults;
}

type Options = NonNullable<Parameters<typeof parseArgs>[0]>['options'];

function read(
  words: string[],
  options: NonNullable<Options>,
  say: Say,
): { sheet: string; values: Record<string, unknown> } | null {
  try {
    const { positionals, values } = parseArgs({ args: words, options, allowPositionals: true });
    const [sheet, ...more] = positionals;
    if (sheet !== undefined && more.length === 0) return { sheet, values };
    say(sheet === undefined ? 'Name the sheet file.' : `Too many words: ${more.join(' ')}.`);
  } catch (error) {
    say((error as Error).message);
  }
  return null;
}

function fileText(path: string, say: Say): string | null {
  try {
    return readFileSync(path, 'utf8');
  } catch (error) {
    say(`${path} cannot be read: ${(error as Error).message}`);
    return null;
  }
}

const rounded = (value: number, digits = 4): number => Number(value.toFixed(digits));

function print(out: Writable, value: unknown): void {
  out.write(`${JSON.stringify(value, null, 2)}\n`);
}
