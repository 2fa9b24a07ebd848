import { memoryName, type Board, type NetId } from '../../board/index.ts';
import { answersButton, reachesGoal, voltsPlace, type Dictionary } from '../../dictionary/index.ts';
import { codeRails } from '../../expectations/index.ts';
import type { PoweredPhase } from '../../readings/index.ts';
import { formatVolts } from '../../units/index.ts';
import type { Observation } from './observation.ts';
import type { Signs } from '../evidence/evidence.ts';
import { amps } from './likelihood.ts';
import type { BenchOf } from '../evidence/bench-of.ts';
import { swingAt, type Signed, type Table } from './table.ts';

// What was seen from outside. What was seen is seldom not so; what was not seen may have been missed.
const chances = {
  /** A picture, a light or a turning fan that was seen. */
  seen: { agrees: 0.998, else: 0.002 },
  /** The same looked for and not seen. */
  unseen: { agrees: 0.9, else: 0.1 },
  startsOnConnect: { agrees: 0.97, else: 0.03 },
  /** Some rails may come after the press and show nothing outside. A guess. */
  answers: { agrees: 0.9, else: 0.1 },
  /** A few restarts after cell or battery was out are normal, and a source that trips looks the same. */
  restarts: { agrees: 0.75, else: 0.25 },
  goesOff: { agrees: 0.85, else: 0.15 },
  /** Watched for a while, and it stayed: how long it waits before it gives up hangs on firmware. */
  staysOn: { agrees: 0.9, else: 0.1 },
  /** After minutes no source trips any more that held until then. */
  goesOffLate: { agrees: 0.85, else: 0.03 },
  reached: { agrees: 0.95, else: 0.05 },
  /** Beeps, blinks and codes come from code that runs. */
  speaks: { agrees: 0.97, else: 0.03 },
  faint: { agrees: 0.97, else: 0.03 },
  /** Volts at the plug, as a cable meter shows them. */
  shownVolts: { agrees: 0.98, else: 0.02 },
  /** Something or next to nothing, where loads are guesses. */
  anyDraw: { agrees: 0.8, else: 0.2 },
} as const;
/** Less than this is next to nothing: a divider and a sleeping chip. */
const leastDrawAmps = 0.005;
type Chance = { agrees: number; else: number };
const log = (chance: Chance, agrees: boolean): number =>
  Math.log(agrees ? chance.agrees : chance.else);

/** Whether several nets that come after the press come and go again: one that hiccups is no restart. */
function comesAndGoes(dictionary: Dictionary, row: number): boolean {
  const at = (of: number, phase: PoweredPhase, net: number): number =>
    dictionary.volts[voltsPlace(dictionary, of, phase, net)]!;
  let count = 0;
  for (let net = 0; net < dictionary.nets.length; net++) {
    const up = at(0, 'run', net);
    const swing = swingAt(dictionary, voltsPlace(dictionary, row, 'run', net));
    if (swing && swing[1] > 0.8 * up && at(0, 'standby', net) < 0.3 * up) count++;
  }
  return count >= 3;
}

/** The same of a table's rows; of single ones it is found out once. */
function restartsIn(table: Table): (row: number) => boolean {
  const { dictionary, singles, restarting } = table;
  restarting.rows ??= Uint8Array.from({ length: singles }, (_, row) =>
    Number(comesAndGoes(dictionary, row)),
  );
  const known = restarting.rows;
  return (row) => (row < singles ? known[row] === 1 : comesAndGoes(dictionary, row));
}

/** Whether a net has at some time what it has on a running healthy board. */
function isUp({ dictionary, placeOf }: Table, row: number, net: NetId): boolean {
  const place = placeOf.get(net);
  if (place === undefined) return true;
  const healthy = dictionary.volts[voltsPlace(dictionary, 0, 'run', place)]!;
  return (['trying', 'run'] as const).some(
    (phase) =>
      Math.abs(dictionary.volts[voltsPlace(dictionary, row, phase, place)]! - healthy) <
      Math.max(0.3, 0.2 * healthy),
  );
}

/** Whether a source feeds the same net with about the same volts as the one the plays were made with. */
function isLikeSource(
  board: Board,
  { id, volts }: { id: string; volts: number | null },
  here: string | null,
): boolean {
  const then = board.sources.find((one) => one.id === id);
  const now = board.sources.find((one) => one.id === here);
  if (!then || !now || then.net !== now.net) return id === here;
  return Math.abs((volts ?? then.volts) - now.volts) < 0.1 * now.volts;
}

/** Whether anything moves in a phase: nothing, by less than a meter shows, or to be seen. */
type Swinging = 0 | 1 | 2;
/**
 * How often a draw is then called pulsing. A slow supply shows an average: what swings is often called
 * steady, seldom the other way; a maker that hiccups into a hard short pulses and moves no rail.
 */
const calledPulsing = [0.12, 0.45, 0.65] as const;

/**
 * What was seen from outside, held against every row. From one reading to the next it is the same: what
 * rows are worth is kept.
 */
export function signObservations(table: Table, signs: Signs, here: BenchOf): Observation[] {
  const { signed, singles } = table;
  const key = JSON.stringify([signs, here.source]);
  if (signed.signs === key) return weighSigns(table, signs, here);
  Object.assign(signed, { signs: key, byRow: [], sets: new WeakMap() } satisfies Signed);
  const list = weighSigns(table, signs, here);
  signed.byRow = list.map(({ byRow }) => byRow.slice(0, singles));
  return list;
}

function weighSigns(table: Table, signs: Signs, here: BenchOf): Observation[] {
  const { board, dictionary, singles, neighbours, played, signed } = table;
  const { rows, phaseCount } = { rows: dictionary.rows, phaseCount: 4 };
  const phaseOrder: readonly PoweredPhase[] = ['standby', 'pressed', 'trying', 'run'];
  const list: Observation[] = [];
  const isPlayed = (row: number): boolean => !Number.isNaN(dictionary.amps[row * phaseCount]!);
  /** What the set of a row is worth under each sign, as far as it was worked out. */
  const setsOf = (row: number): number[] => {
    const faults = played[row - singles]!;
    let known = signed.sets.get(faults);
    if (!known) signed.sets.set(faults, (known = []));
    return known;
  };
  const add = (text: string, byNone: number, of: (row: number) => number): void => {
    const byRow = new Float64Array(rows);
    const before = signed.byRow[list.length];
    if (before) byRow.set(before);
    for (let row = before ? singles : 0; row < rows; row++) {
      const set = row < singles ? null : setsOf(row);
      const known = set?.[list.length];
      if (known !== undefined) {
        byRow[row] = known;
        continue;
      }
      const one = isPlayed(row) ? of(row) : NaN;
      // What was not played says nothing.
      byRow[row] = Number.isNaN(one) ? byNone : one;
      if (set) set[list.length] = byRow[row]!;
    }
    list.push({ id: null, text, byRow, byNone });
  };
  const look = (row: number, phase: PoweredPhase): Swinging => {
    let most: Swinging = 0;
    if (!isPlayed(row)) return most;
    for (let net = 0; net < dictionary.nets.length; net++) {
      const place = voltsPlace(dictionary, row, phase, net);
      if (swingAt(dictionary, place)) return 2;
      if (dictionary.swings.has(place)) most = 1;
    }
    return most;
  };
  const swings = (row: number, phase: PoweredPhase): Swinging => {
    if (row >= singles) return look(row, phase);
    let known = table.swinging.get(phase);
    if (!known) {
      known = Uint8Array.from({ length: singles }, (_, one) => look(one, phase));
      table.swinging.set(phase, known);
    }
    return known[row] as Swinging;
  };
  for (const { phase, amps: drawn, shape, source, shownVolts } of signs.draw) {
    // Drawn elsewhere, or at other volts, the amps are no measure of these plays.
    if (source && !isLikeSource(board, source, here.source)) continue;
    const index = phaseOrder.indexOf(phase);
    const plug = board.sources.find(({ id }) => id === here.source);
    const plugPlace = plug && table.placeOf.get(plug.net);
    if (shownVolts !== undefined && plugPlace !== undefined)
      // A board that asks for nothing, or whose plug is not understood, is left with what is always there.
      add(`${formatVolts(shownVolts)} at the plug`, Math.log(0.5), (row) =>
        log(
          chances.shownVolts,
          isShown(shownVolts, dictionary.volts[voltsPlace(dictionary, row, phase, plugPlace)]!),
        ),
      );
    const of = (row: number): number => dictionary.amps[row * phaseCount + index]!;
    if (drawn !== null && shape === 'limited')
      // The supply held it down: without its limit the board would draw as much or more.
      add(`draw in ${phase} held at its limit`, Math.log(0.2), (row) =>
        of(row) > 0.8 * drawn ? Math.log(0.9) : Math.log(0.06),
      );
    else if (drawn !== null && board.guessed.includes('loads'))
      // Nobody knows its loads: next to nothing, or about how much, is all that the amps tell.
      add(
        `draw in ${phase}`,
        Math.log(0.5),
        (row) =>
          log(chances.anyDraw, of(row) > leastDrawAmps === drawn > leastDrawAmps) +
          guessedLoadsLog(drawn, of(row)),
      );
    else if (drawn !== null)
      add(`draw in ${phase}`, unknownAmps(drawn, of(0)), (row) => {
        const near =
          row < singles ? neighbours[row]!.map((one) => ({ value: of(one), span: null })) : [];
        const value = of(row);
        // What pulses is drawn between its mean and its peak: only a steady draw is held to the amp.
        return shape === 'pulsing' && swings(row, phase) > 0
          ? Math.log(Math.exp(amps(drawn, { value: drawn, near: [] }, of(0))) * 0.3)
          : amps(drawn, { value, near }, of(0));
      });
    if (shape === 'pulsing' || shape === 'steady')
      add(`draw in ${phase} is ${shape}`, Math.log(0.5), (row) =>
        Math.log(
          shape === 'pulsing'
            ? calledPulsing[swings(row, phase)]
            : 1 - calledPulsing[swings(row, phase)],
        ),
      );
  }
  const { lights, fan, offAfterSeconds, startsOnConnect, restarts, picture, reached } = signs;
  if (lights !== null) {
    dictionary.lights.forEach((ref, bit) => {
      const seen = lights.includes(ref);
      add(seen ? `${ref} lights` : `${ref} stays dark`, Math.log(0.5), (row) => {
        const isLit = ((dictionary.lit[row]! >>> bit) & 1) === 1;
        return log(seen ? chances.seen : chances.unseen, isLit === seen);
      });
    });
  }
  // A sign weighs where some play can show it: on a sheet without a fan none of them turns one.
  const hasFan = board.parts.some((part) => part.kind === 'fan' && part.fitted);
  if (fan !== null && hasFan)
    add(fan ? 'the fan turns' : 'the fan does not turn', Math.log(0.5), (row) =>
      log(fan ? chances.seen : chances.unseen, (dictionary.turning[row] === 1) === fan),
    );
  // Seconds say that it does.
  const goesOff = offAfterSeconds === null ? signs.goesOff : null;
  const comesBack =
    offAfterSeconds !== null || goesOff !== null || restarts !== null
      ? restartsIn(table)
      : (): boolean => false;
  if (goesOff !== null)
    add(goesOff ? 'goes off by itself' : 'does not go off by itself', Math.log(0.5), (row) =>
      log(
        goesOff ? chances.goesOff : chances.staysOn,
        (!Number.isNaN(dictionary.offAfter[row]!) || comesBack(row)) === goesOff,
      ),
    );
  if (offAfterSeconds !== null)
    add(
      `goes off by itself after ${offAfterSeconds} s`,
      Math.log(0.4),
      (row) =>
        log(
          offAfterSeconds < lateSeconds ? chances.goesOff : chances.goesOffLate,
          !Number.isNaN(dictionary.offAfter[row]!) || comesBack(row),
        ) + offTimeLog(offAfterSeconds, dictionary.offAfter[row]!),
    );
  if (startsOnConnect !== null)
    add('starts on connection', Math.log(0.2), (row) =>
      log(chances.startsOnConnect, (dictionary.startsItself[row] === 1) === startsOnConnect),
    );
  if (signs.answers !== null)
    add(
      signs.answers ? 'answers the button' : 'nothing changes after the press',
      Math.log(0.4),
      (row) => log(chances.answers, answersButton(dictionary, row) === signs.answers),
    );
  if (restarts !== null)
    add('goes off and on again', Math.log(0.4), (row) =>
      log(chances.restarts, comesBack(row) === restarts),
    );
  const shows = board.goals.find((one) => one.shows === 'picture');
  if (picture !== null && shows && reachesGoal(dictionary, shows, 0))
    add(picture ? 'a picture is seen' : 'no picture', Math.log(0.4), (row) =>
      log(picture ? chances.seen : chances.unseen, reachesGoal(dictionary, shows, row) === picture),
    );
  const code = codeRails(board);
  const runs = (row: number, nets: readonly NetId[]): boolean =>
    !dictionary.codeless.includes(row) && nets.every((net) => isUp(table, row, net));
  if (signs.speaks === true && code.length > 0) {
    // Memory may be what code complains of.
    const spoken = code.filter((net) => !memoryName.test(net));
    add('code speaks: beeps, blinks or a code', Math.log(0.4), (row) =>
      log(chances.speaks, runs(row, spoken)),
    );
  }
  if (signs.faintPicture === true && code.length > 0)
    // Where the sheet draws the light, a board that has it shows more than that.
    add('a faint picture without its light', Math.log(0.4), (row) =>
      log(
        chances.faint,
        runs(row, code) && !(shows !== undefined && reachesGoal(dictionary, shows, row)),
      ),
    );
  const stage = board.stages.find((one) => one.id === reached);
  if (stage)
    // It came at least so far.
    add(`${stage.title} was reached`, Math.log(0.4), (row) =>
      log(
        chances.reached,
        stage.gives.every((net) => isUp(table, row, net)),
      ),
    );
  return list;
}

/** What lasts so long has woken: it goes off by heat, or by what grows with it. */
const lateSeconds = 60;
/** Whether somebody watched if it goes off by itself, before heat can be why. */
export const wasWatched = ({ offAfterSeconds, goesOff }: Signs): boolean =>
  offAfterSeconds === null ? goesOff !== null : offAfterSeconds < lateSeconds;
/** Seconds until it goes off hang on time-outs and heat nobody wrote down: by a factor of about five. */
const offTimeDecades = 0.7;
/** What goes off at another time than its play. */
const otherTime = 0.3;

/** Natural logarithm of how well the seconds seen fit those of a play; 0 where the play has none. */
function offTimeLog(seen: number, played: number): number {
  if (Number.isNaN(played)) return 0;
  const decades = Math.abs(Math.log10(Math.max(seen, 0.5) / Math.max(played, 0.5)));
  return Math.log(decades < offTimeDecades ? 1 : otherTime);
}

/** Loads that a sheet guesses are right within a factor of three in two of three cases. A guess. */
const guessedLoadsDecades = 0.5;
/** However far off: the board may be of quite another size. */
const otherLoads = 0.05;

/** Natural logarithm of how well amps fit those of guessed loads; 0 where either is next to nothing. */
function guessedLoadsLog(drawn: number, played: number): number {
  if (drawn <= leastDrawAmps || played <= leastDrawAmps) return 0;
  const sigmas = Math.log10(drawn / played) / guessedLoadsDecades;
  return Math.max(Math.log(otherLoads), -0.5 * sigmas * sigmas);
}

/** A cable meter is good to some percent, and its cable drops as much. */
const isShown = (shown: number, played: number): boolean =>
  Math.abs(shown - played) <= Math.max(0.5, 0.1 * played);

/** Amps of a fault in no list: as the healthy board, or anything up to some amps. */
function unknownAmps(drawn: number, healthy: number): number {
  const like = Math.exp(amps(drawn, { value: healthy, near: [] }, healthy));
  const nothing = Math.exp(amps(drawn, { value: 0, near: [] }, healthy));
  return Math.log(0.5 * like + 0.2 * nothing + 0.3 / Math.max(0.5, 2 * healthy));
}
