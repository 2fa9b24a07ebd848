import { findNet, netOf, type NetId } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { isGood, type Phase } from '../readings/index.ts';
import { phaseFor, type JudgedReading } from './judged.ts';
import type { Known, TracedNeed } from './known.ts';

// What a sheet made by choices may have guessed wrong, and where to look before somebody is sent to a
// part because of it. Each is common practice, no source.

/** Made before the button on most boards, after it on those where only an LDO runs before it. */
const alwaysOn = ['5V_ALW', '3V3_ALW'];

/** The 5 V and 3.3 V of a sheet made by choices, under either of their names. */
export const alwaysOnRails = ({ board }: HealthyBoard): NetId[] =>
  board.choices === null ? [] : alwaysOn.flatMap((name) => findNet(board, name)?.id ?? []);

/**
 * Nets that a sheet made by choices puts before the button only because nobody said how the always-on
 * rails are made: those rails, and what stands on them. One of the rails read good at rest settles it.
 */
export function mayComeLater(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
): ReadonlySet<NetId> {
  const { board, upstream } = healthy;
  if (board.choices === null || board.choices['alwaysOn']) return new Set();
  const rails = alwaysOnRails(healthy);
  const isAtRest = readings.some(
    ({ reading, standing, verdict }) =>
      standing.kind === 'stands' &&
      reading.mode === 'volts' &&
      reading.phase === ('standby' satisfies Phase) &&
      rails.includes(reading.at.net as NetId) &&
      isGood(verdict),
  );
  if (isAtRest) return new Set();
  const later = new Set<NetId>(rails);
  for (let before = 0; before < later.size;) {
    before = later.size;
    for (const { id } of board.nets)
      if (!later.has(id) && upstream.of(id).some((up) => later.has(up.net))) later.add(id);
  }
  // What lets the rails themselves on may come as late.
  for (const rail of rails)
    for (const up of upstream.of(rail)) if (isDriven(up.role)) later.add(up.net);
  return later;
}

const isDriven = (role: string): boolean => role === 'enable' || role === 'power-good';

/** Rails behind a line that lets them on, read cold before its maker is blamed. */
const mostBehind = 3;

/** A sheet whose figures nobody looked up. */
export const isGuessed = ({ healthy }: Pick<Known, 'healthy'>): boolean =>
  healthy.board.guessed.length > 0;

/**
 * The way to a converter's feed or enable pin is a guess on a sheet made by choices: an always-on rail
 * that is not proven may lead there as well. Null where there is none.
 */
export function sisterOf(
  known: Known,
  net: NetId,
  needs: readonly TracedNeed[],
  seen: ReadonlySet<NetId>,
): NetId | null {
  if (netOf(known.healthy.board, net).origin !== 'guess') return null;
  if (!needs.some((one) => one.role === 'feed' && one.status.kind === 'good')) return null;
  return (
    alwaysOnRails(known.healthy).find(
      (rail) =>
        !seen.has(rail) &&
        ['unread', 'bad'].includes(known.status(rail).kind) &&
        // What it is made from does not hang on it.
        !standsOn(known, rail, net),
    ) ?? null
  );
}

/** Whether a net needs another, directly or through others. */
function standsOn(known: Known, net: NetId, other: NetId): boolean {
  const needed = new Set<NetId>([net]);
  for (const one of needed) for (const up of known.healthy.upstream.of(one)) needed.add(up.net);
  return needed.has(other);
}

/**
 * The line behind a converter's pin, read before the pin itself while a power-good it waits for was not
 * read as there: it is low with all it lets on more often than the part between the two is open. Null
 * where there is none.
 */
export function lineBehind(known: Known, pin: NetId): NetId | null {
  const { board, upstream } = known.healthy;
  if (!isGuessed(known) || netOf(board, pin).kind === 'rail') return null;
  const [line, ...others] = upstream.of(pin);
  if (!line || others.length > 0 || line.role !== 'feed') return null;
  if (netOf(board, line.net).kind === 'rail') return null;
  const waits = upstream.of(line.net).filter((up) => up.role === 'power-good');
  return waits.some((up) => known.status(up.net).kind !== 'good') ? line.net : null;
}

/** A need that swings, or was there at rest and is gone after the press: overloaded rather than dead. */
export function isDragged(known: Known, { net, status }: TracedNeed): boolean {
  if (!isGuessed(known) || status.kind !== 'bad') return false;
  const { value, phase } = status.reading.reading;
  return (
    value.kind === 'swinging' ||
    (phase !== 'standby' &&
      known.readings.some(
        (one) =>
          one.standing.kind === 'stands' &&
          one.isHere &&
          one.reading.at.net === net &&
          one.reading.mode === 'volts' &&
          one.reading.phase === 'standby' &&
          isGood(one.verdict),
      ))
  );
}

/**
 * Rails that may be what is wrong in its place: the one a power-good reports on, within a range that
 * somebody guessed; those a line lets on, for a board that a short takes off again drops its enables.
 */
export function railsBehind(known: Known, net: NetId, needs: readonly TracedNeed[]): NetId[] {
  const { board } = known.healthy;
  if (!isGuessed(known) || netOf(board, net).kind === 'rail') return [];
  const watched = needs
    .filter((one) => one.role === 'watched' && netOf(board, one.net).rangeVolts !== null)
    .map((one) => one.net);
  if (watched.length > 0) return watched;
  // With its line there on the other side of a part, that part is what is broken.
  const isLed = needs.some((one) => one.role === 'feed');
  return !isLed && phaseFor(known.healthy, net) === 'run'
    ? letOn(known, net).slice(0, mostBehind)
    : [];
}

/** Rails whose enable a line is, or leads to, the first to wake first. */
function letOn(known: Known, net: NetId): NetId[] {
  const leads = new Set<NetId>([net]);
  const { board, upstream, stages } = known.healthy;
  for (let before = 0; before < leads.size;) {
    before = leads.size;
    for (const { id, kind } of board.nets)
      if (
        kind !== 'rail' &&
        !leads.has(id) &&
        upstream.of(id).some((up) => up.role === 'feed' && leads.has(up.net))
      )
        leads.add(id);
  }
  return stages
    .flatMap(({ stage }) => stage.gives)
    .filter(
      (id) =>
        netOf(board, id).kind === 'rail' &&
        upstream.of(id).some((up) => up.role === 'enable' && leads.has(up.net)),
    );
}
