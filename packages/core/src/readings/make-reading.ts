import { fail, ok, type Result } from '../base/index.ts';
import { findNet, type Board } from '../board/index.ts';
import { entryTroubleText, parseEntry, saysNoShort } from './entry-line.ts';
import { usualMeter, type Meter } from './meter.ts';
import type { Phase } from './phase.ts';
import { readingSchema, type Mode, type ProbePlace, type Reading } from './reading.ts';
import { splitRemarks } from './split-remarks.ts';

/** What was typed, and where the leads stood. */
export interface Typed {
  at: ProbePlace;
  /** Null: against ground. */
  reference?: ProbePlace | null;
  mode: Mode;
  text: string;
  /** As the mode is usually taken where it is missing: black on the point in diode-mode. */
  polarity?: Reading['polarity'] | undefined;
  note?: string;
}

/** How the bench stood when it was read. */
export interface BenchMoment {
  phase: Phase;
  /** Id of what feeds the board; null where nobody said. Nothing does cold. */
  source: string | null;
  attached: readonly string[];
  lifted: readonly string[];
  meter?: Meter;
  /** What a bench supply was set to; else as the sheet says. */
  supply?: { volts: number | null; limitAmps: number | null };
}

/**
 * The one way from what was typed to a reading: for every page, for files and for the command line.
 * What cannot be read is said and not taken; all that is wrong at once. What is strange but may be true is
 * asked for by `oddReading`.
 */
export function makeReading(
  board: Board,
  typed: Typed,
  { phase, source, attached, lifted, meter = usualMeter, supply }: BenchMoment,
): Result<Reading, string[]> {
  const troubles: string[] = [];
  const { mode } = typed;
  const value = parseEntry(typed.text, mode, meter);
  if (!value.ok) troubles.push(entryTroubleText(value.error));
  if (typed.reference && saysNoShort(typed.text))
    troubles.push(
      `"${typed.text.trim()}" may mean whole or no short between two points: type what the meter shows.`,
    );
  const onNet = (place: ProbePlace): ProbePlace => {
    const net = findNet(board, place.net);
    if (!net) troubles.push(`There is no net ${place.net} on this board.`);
    return net ? { ...place, net: net.id } : place;
  };
  const at = onNet(typed.at);
  const reference = typed.reference ? onNet(typed.reference) : null;
  if (!value.ok || troubles.length > 0) return fail(troubles);
  const fed = phase === 'cold' ? undefined : board.sources.find((one) => one.id === source);
  const made = readingSchema.safeParse({
    at,
    reference,
    polarity: typed.polarity ?? (mode === 'diode' ? 'black-on-point' : 'red-on-point'),
    mode,
    phase,
    value: value.value,
    source: fed
      ? {
          id: fed.id,
          volts: supply ? supply.volts : fed.volts,
          limitAmps: supply ? supply.limitAmps : fed.limitAmps,
        }
      : null,
    attached: [...attached],
    lifted: [...lifted],
    meter,
    sheet: board.hash,
    note: typed.note ?? '',
    ...splitRemarks(typed.text).remarks,
  });
  return made.success
    ? ok(made.data)
    : fail(made.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}.`));
}
