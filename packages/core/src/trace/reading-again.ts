import type { NetId } from '../board/index.ts';
import { type Phase, nothingVolts } from '../readings/index.ts';
import type { JudgedReading } from './judged.ts';
import type { Known } from './known.ts';

/** No adapter or supply gives more than so many times what is written on it (common practice, no source). */
const mostOfSource = 1.15;

/**
 * A single reading that cannot be, or that what stands behind it denies, with why: nothing follows from it
 * before it is read again. Null where there is none.
 */
export function doubtfulReading(known: Known): { judged: JudgedReading; why: string } | null {
  const volts = known.readings.filter(
    ({ standing, isHere, reading }) =>
      standing.kind === 'stands' &&
      !standing.wasBefore &&
      isHere &&
      reading.mode === 'volts' &&
      reading.phase !== 'cold' &&
      reading.reference === null,
  );
  for (const judged of volts) {
    const { at, phase } = judged.reading;
    const times = volts.filter(
      ({ reading }) => reading.at.net === at.net && reading.phase === phase,
    ).length;
    const why = times > 1 ? null : (beyondSource(known, judged) ?? deniedBehind(known, judged));
    if (why !== null) return { judged, why };
  }
  return null;
}

/** More than anything on the board is fed with, on a net that nothing lifts above it. */
function beyondSource({ healthy }: Known, { reading }: JudgedReading): string | null {
  const { value, at } = reading;
  const most = Math.max(...healthy.board.sources.map((source) => source.volts)) * mostOfSource;
  const isLifted = (['standby', 'run'] as const).some((phase) => {
    const usual = healthy.expect(at.net as NetId, 'volts', phase);
    return usual.kind === 'value' && usual.value > most;
  });
  if (value.kind !== 'number' || value.value <= most || isLifted) return null;
  return `${at.net} read more than any source of this board gives: check the range of the meter and what the tip stood on, and read it once more`;
}

/** A net that has no other feed than this one, and was read good in the phase; null where there is none. */
function fedBy({ healthy, status }: Known, net: string, phase: Phase): NetId | null {
  const fed = healthy.board.nets.find(({ id }) => {
    const feeds = healthy.upstream.of(id).filter(({ role }) => role === 'feed');
    if (feeds.length !== 1 || feeds[0]!.net !== net) return false;
    const behind = status(id);
    if (behind.kind !== 'good') return false;
    const { reading } = behind.reading;
    const isThere = reading.value.kind === 'number' && reading.value.value > nothingVolts;
    return isThere && reading.phase === phase;
  });
  return fed?.id ?? null;
}

/** Nets that something read as there needs, and what those need in turn: they have been there as well. */
export function provenBehind({ healthy, status }: Known): ReadonlySet<NetId> {
  const proven = new Set<NetId>();
  const queue = healthy.board.nets.flatMap(({ id }) => {
    const own = status(id);
    if (own.kind !== 'good') return [];
    const { value } = own.reading.reading;
    // What is good at nothing needs nothing.
    return value.kind === 'number' && value.value > nothingVolts ? [id] : [];
  });
  for (const net of queue)
    for (const { net: up, role } of healthy.upstream.of(net)) {
      // A body diode carries without its gate.
      if (role === 'gate' || proven.has(up)) continue;
      proven.add(up);
      queue.push(up);
    }
  return proven;
}

/** Whether something that this net alone feeds was read good in the phase it was read in. */
export function isCarrying(known: Known, net: NetId): boolean {
  const own = known.status(net);
  return own.kind !== 'unread' && fedBy(known, net, own.reading.reading.phase) !== null;
}

/** Next to nothing, while a net that has no other feed was read good in the same phase. */
function deniedBehind(known: Known, { reading, verdict }: JudgedReading): string | null {
  const { value, at, phase } = reading;
  if (verdict.kind !== 'missing' || value.kind !== 'number') return null;
  if (Math.abs(value.value) > nothingVolts) return null;
  const fed = fedBy(known, at.net, phase);
  return fed
    ? `${at.net} read nothing, and ${fed}, which is fed by it, is there: a tip that does not touch reads the same. Read it once more`
    : null;
}
