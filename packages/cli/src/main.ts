import type { Writable } from 'node:stream';
import {
  sheetJsonSchema,
  lintBoard,
  loadSheet,
  sheetIssueText,
  stopsUse,
  type Board,
  type SheetIssue,
} from '@jiko/core/board';
import { faultName, faultTroubleText, parseFault, withFaults, type Fault } from '@jiko/core/faults';
import {
  boardNetlist,
  dictionaryCsv,
  ipcD356,
  kicadNetlist,
  sheetAsJson,
  sheetAsYaml,
  spiceNetlist,
  tableCsv,
} from '@jiko/core/formats';
import {
  attachedIn,
  benchSetup,
  playFaulty,
  playInFull,
  usualSetup,
  type PlaySetup,
  type Snapshot,
} from '@jiko/core/play';
import { checkHealthyPlay } from '@jiko/core/expectations';
import { makeDictionary } from '@jiko/core/dictionary';
import { readCold } from '@jiko/core/cold';
import { phases, poweredPhases, usualMeter, type Phase } from '@jiko/core/readings';
import { diagnose } from './diagnose.ts';
import { importFile } from './import.ts';
import {
  fileText,
  playableBoardOf,
  print,
  read,
  rounded,
  type Options,
  type Say,
} from './words.ts';

const usage = `jiko lint SHEET
    what is wrong or doubtful about a board sheet
jiko play SHEET [--fault PART:mode ...] [--source ID] [--attached ID,ID|none|all]
          [--supply VOLTS@AMPS] [--phase cold|standby|pressed|trying|run]
    volts per net, amps from the source, heat, lights and events, healthy or with faults; cold:
    ohms and diode-mode
jiko diagnose SHEET --readings FILE.csv [--signs FILE.yaml] [--findings FILE.yaml]
    what each reading means, the first missing stage, the suspects, where to probe next
jiko export SHEET --as dictionary-csv|spice [--fault PART:mode ...] [--source ID] [--attached ...]
    every single fault's readings as a matrix; the running board's circuit as a SPICE netlist
jiko export SHEET --as kicad|ipc-d-356|json|yaml|parts-csv|nets-csv
    parts and nets for other programs, places, tables; the sheet itself in the other notation
jiko import FILE [--into SHEET] [--id ID]
    a KiCad netlist, IPC-D-356A, a CSV table or a schematic PDF into a sheet, or into a new one: what
    would change, what stays open, what could not be read; nothing is written but to standard output

jiko backup [FILE] | restore FILE [--replace] | upgrade | where
    the data as a whole: one file of everything, and back; what is there is never overwritten unasked
jiko schema
    the JSON Schema of a board sheet; docs/sheet.md says it in words
jiko export-job ID [FILE] | import-job FILE
    one job with its sheets and pictures, out of and into the Jiko that runs

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
    case 'diagnose':
      return diagnose(rest, out, say);
    case 'export':
      return exportAs(rest, out, say);
    case 'import':
      return importFile(rest, out, say);
    case 'schema':
      out.write(`${JSON.stringify(sheetJsonSchema(), null, 2)}\n`);
      return 0;
    case 'help':
    case '--help':
      messages.write(usage);
      return 0;
    default:
      messages.write(command ? `There is no command ${command}.\n\n${usage}` : usage);
      return 2;
  }
}

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

const benchOptions = {
  fault: { type: 'string', multiple: true },
  source: { type: 'string' },
  attached: { type: 'string' },
  supply: { type: 'string' },
} as const;

/** The sheet, the bench and the faults that were asked for; an exit code where something is wrong. */
function readBench(
  words: string[],
  options: NonNullable<Options>,
  say: Say,
):
  | {
      sheet: string;
      board: Board;
      setup: PlaySetup;
      faults: Fault[];
      values: Record<string, unknown>;
    }
  | number {
  const asked = read(words, { ...benchOptions, ...options }, say);
  if (!asked) return 2;
  const { source, attached, supply } = asked.values as Partial<Record<string, string>>;
  const board = playableBoardOf(asked.sheet, say);
  if (!board) return 1;
  if (source !== undefined && !board.sources.some((one) => one.id === source)) {
    say(`There is no source ${source}: one of ${board.sources.map((one) => one.id).join(', ')}.`);
    return 1;
  }
  const known = board.attachments.map((one) => one.id);
  const plugged =
    attached === undefined
      ? attachedIn(board, usualSetup(board, source))
      : attached === 'all'
        ? known
        : attached === 'none'
          ? []
          : attached.split(',');
  const strange = plugged.find((id) => !known.includes(id));
  if (strange !== undefined) {
    say(`There is nothing called ${strange} to attach: one of ${known.join(', ')}, none, all.`);
    return 1;
  }
  const bench = supply === undefined ? undefined : readSupply(supply);
  if (bench === null) {
    say(`"${supply}" is no supply setting: write volts and amps, such as 19.5@1.`);
    return 2;
  }
  const faults = readFaults(board, (asked.values['fault'] as string[] | undefined) ?? [], say);
  if (!faults) return 1;
  const setup = benchSetup(board, { source, attached: plugged, supply: bench });
  return { sheet: asked.sheet, board, setup, faults, values: asked.values };
}

function readSupply(text: string): { volts: number; limitAmps: number } | null {
  const [volts, amps, ...more] = text.split('@').map(Number);
  if (more.length > 0 || !volts || !amps || !(volts > 0) || !(amps > 0)) return null;
  return { volts, limitAmps: amps };
}

function play(words: string[], out: Writable, say: Say): number {
  const asked = readBench(words, { phase: { type: 'string' } }, say);
  if (typeof asked === 'number') return asked;
  const { board, setup, faults } = asked;
  const phase = asked.values['phase'] as string | undefined;
  if (phase !== undefined && !phases.includes(phase as Phase)) {
    say(`There is no phase ${phase}: one of ${phases.join(', ')}.`);
    return 2;
  }
  const played = playFaulty(board, setup, faults);
  if (played.status === 'invalid') say(`The play cannot be trusted: ${played.because}.`);
  const shown = poweredPhases.filter((one) => phase === undefined || one === phase);
  print(out, {
    sheet: { id: board.id, hash: board.hash },
    status: played.status,
    because: played.status === 'invalid' ? played.because : null,
    source: setup.source,
    attached: attachedIn(board, setup),
    faults: faults.map((fault) => ({ ...fault, name: faultName(fault) })),
    phases: Object.fromEntries(
      shown.flatMap((one) => {
        const snapshot = played.phases.get(one);
        return snapshot ? [[one, written(snapshot)]] : [];
      }),
    ),
    ...(phase === 'cold' ? { cold: coldReadings(board, setup, faults) } : {}),
    events: played.events.map((event) => ({ ...event, atSeconds: rounded(event.atSeconds, 6) })),
  });
  return 0;
}

const written = (snapshot: Snapshot): unknown => ({
  sourceAmps: rounded(snapshot.sourceAmps),
  volts: Object.fromEntries([...snapshot.volts].map(([net, volts]) => [net, rounded(volts)])),
  swinging: Object.fromEntries(
    [...snapshot.swinging].map(([net, { low, high }]) => [
      net,
      { low: rounded(low), high: rounded(high) },
    ]),
  ),
  watts: Object.fromEntries([...snapshot.watts].map(([part, watts]) => [part, rounded(watts, 3)])),
  lit: snapshot.lit,
  turning: snapshot.turning,
  phantom: snapshot.phantom,
});

/** Ohms and diode-mode (black on the point) per net; `OL` above the meter's range. */
function coldReadings(board: Board, setup: PlaySetup, faults: readonly Fault[]): unknown {
  const { ohms, diode } = readCold(board, setup, faults, usualMeter);
  const nets = board.nets.filter((net) => net.id !== board.ground);
  const list = (values: Float32Array, digits: number): Record<string, number | string | null> =>
    Object.fromEntries(
      nets.map((net, index) => {
        const value = values[index]!;
        return [
          net.id,
          value === Infinity ? 'OL' : Number.isNaN(value) ? null : rounded(value, digits),
        ];
      }),
    );
  return { ohms: list(ohms, 2), diode: list(diode, 3) };
}

function exportAs(words: string[], out: Writable, say: Say): number {
  const asked = readBench(words, { as: { type: 'string' } }, say);
  if (typeof asked === 'number') return asked;
  const { board, setup, faults } = asked;
  switch (asked.values['as']) {
    case 'dictionary-csv': {
      if (faults.length > 0) {
        say('A dictionary holds every single fault: leave --fault away.');
        return 2;
      }
      const making = makeDictionary(board, setup);
      let step = making.next();
      for (; !step.done; step = making.next()) {
        const { done, total } = step.value;
        if (done % 100 === 0) say(`${done} of ${total}`);
      }
      out.write(dictionaryCsv(step.value));
      return 0;
    }
    case 'spice': {
      const { circuit, volts } = playInFull(withFaults(board, faults), setup);
      out.write(spiceNetlist(circuit, volts, `${board.title} running`));
      return 0;
    }
    case 'kicad':
      out.write(kicadNetlist(boardNetlist(board)));
      return 0;
    case 'ipc-d-356': {
      const netlist = boardNetlist(board);
      if (netlist.places.length === 0) {
        say('The sheet gives no places: there is nothing this format could hold.');
        return 1;
      }
      out.write(ipcD356(netlist));
      return 0;
    }
    case 'json':
    case 'yaml':
    case 'parts-csv':
    case 'nets-csv': {
      const text = fileText(asked.sheet, say);
      if (text === null) return 1;
      out.write(sheetAs(asked.values['as'], text));
      return 0;
    }
    default:
      say(`Say what to export: --as one of ${exportFormats.join(', ')}.`);
      return 2;
  }
}

const exportFormats = [
  'dictionary-csv',
  'spice',
  'kicad',
  'ipc-d-356',
  'json',
  'yaml',
  'parts-csv',
  'nets-csv',
] as const;

function sheetAs(format: 'json' | 'yaml' | 'parts-csv' | 'nets-csv', text: string): string {
  switch (format) {
    case 'json':
      return sheetAsJson(text);
    case 'yaml':
      return sheetAsYaml(text);
    case 'parts-csv':
      return tableCsv(text, 'parts');
    case 'nets-csv':
      return tableCsv(text, 'nets');
  }
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
