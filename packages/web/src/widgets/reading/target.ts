import { type NetId, pinText, type Board } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import {
  expectationText,
  type Mode,
  type Phase,
  type ProbePlace,
  type Reading,
} from '@jiko/core/readings';
import type { CheckStep, PinRow } from '@jiko/core/taking-apart';
import { probePlace, type JudgedReading, type Trace } from '@jiko/core/trace';

/** One reading to take on this page. */
export interface Target {
  key: string;
  /** What it is called here: the pin, the net, the step of a check. */
  title: string;
  where: string;
  at: ProbePlace;
  reference: ProbePlace | null;
  mode: Mode;
  phase: Phase;
  polarity?: Reading['polarity'];
  expected: string;
}

const keyOf = (
  at: ProbePlace,
  reference: ProbePlace | null,
  mode: Mode,
  phase: Phase,
  polarity: string,
): string =>
  [at.net, at.part, at.pin, reference?.part, reference?.pin, mode, phase, polarity].join(' ');

export function netTarget(
  healthy: HealthyBoard,
  gone: readonly string[],
  { net, mode, phase }: { net: NetId; mode: Mode; phase: Phase },
): Target {
  const place = probePlace(healthy.board, net, gone);
  const at = { net, part: place.part, pin: place.pin };
  return {
    key: keyOf({ net, part: null, pin: null }, null, mode, phase, ''),
    title: net,
    where: `${place.text}${place.side ? ` · ${place.side} side` : ''}`,
    at,
    reference: null,
    mode,
    phase,
    expected: expectationText(healthy.expect(net, mode, phase)),
  };
}

export function pinTarget(
  board: Board,
  ref: string,
  row: PinRow,
  mode: Mode,
  phase: Phase,
): Target {
  const at = { net: row.net, part: ref, pin: row.pin };
  return {
    key: keyOf(at, null, mode, phase, ''),
    title: `${ref} pin ${pinText(board, ref, row.pin)}`,
    where: `${row.net} · ${row.role} · on the pin itself`,
    at,
    reference: null,
    mode,
    phase,
    expected: row.expected,
  };
}

export function stepTarget(ref: string, step: CheckStep): Target {
  return {
    key: keyOf(step.at, step.reference, step.mode, step.phase, step.polarity),
    title: `${ref}: ${step.text}`,
    where: step.reference ? `${step.at.net} against ${step.reference.net}` : step.at.net,
    at: step.at,
    reference: step.reference,
    mode: step.mode,
    phase: step.phase,
    polarity: step.polarity,
    expected: step.good,
  };
}

/** The last reading that stands of just this target, with the same parts off the board. */
export function readAt(
  trace: Trace,
  target: Target,
  lifted: readonly string[],
): JudgedReading | null {
  const off = [...lifted].sort().join();
  return (
    trace.readings.findLast(({ standing, reading }) => {
      if (standing.kind !== 'stands') return false;
      const { at, reference, mode, phase, polarity } = reading;
      return (
        at.net === target.at.net &&
        at.part === target.at.part &&
        at.pin === target.at.pin &&
        (reference?.net ?? null) === (target.reference?.net ?? null) &&
        mode === target.mode &&
        [...reading.lifted].sort().join() === off &&
        phase === target.phase &&
        (target.polarity === undefined || mode !== 'diode' || polarity === target.polarity)
      );
    }) ?? null
  );
}

/** The same leads as a reading that was taken before. */
export function againTarget(
  healthy: HealthyBoard,
  { reading }: Pick<JudgedReading, 'reading'>,
): Target {
  const { at, reference, mode, phase, polarity } = reading;
  const place = probePlace(healthy.board, at.net as NetId);
  return {
    key: keyOf(at, reference, mode, phase, polarity),
    title: `${at.net}${reference ? ` against ${reference.net}` : ''}`,
    where: at.part ? `${at.part}${at.pin ? ` pin ${at.pin}` : ''}` : place.text,
    at,
    reference,
    mode,
    phase,
    polarity,
    expected: reference
      ? 'what the part itself reads'
      : expectationText(healthy.expect(at.net as NetId, mode, phase)),
  };
}
