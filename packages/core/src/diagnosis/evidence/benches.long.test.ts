import { describe, expect, it } from 'vitest';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { loadSheet, type Board, type GoalId, type NetId, findPart } from '../../board/index.ts';
import { parseFault, withFaults, type Fault } from '../../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import {
  attachedIn,
  benchSetup,
  feedsBackwards,
  playBoard,
  usualSetup,
  type PlaySetup,
} from '../../play/index.ts';
import { makeDictionary, outlineDictionary, type Dictionary } from '../../dictionary/index.ts';
import { readCold } from '../../cold/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { usualMeter, type Phase, type Reading } from '../../readings/index.ts';
import { benchOfReading, benchOfSetup, speaksOf, type BenchOf } from './bench-of.ts';
import {
  likeliestFirst,
  makeDiagnoser,
  noEvidence,
  type Diagnosis,
  type Evidence,
} from '../index.ts';

// Readings across parts, and readings taken while the bench stood otherwise, on the full-depth sheet.

const loaded = loadSheet(cairn);
if (!loaded.ok) throw new Error('the sheet does not load');
const board: Board = loaded.value;
const setup = usualSetup(board);
const attached = attachedIn(board, setup);
const dictionary = sharedDictionary(board, setup);
/** Another bench, played as the app does: what the readings left, until little else could be it. */
function playedFor(known: Diagnosis, bench: PlaySetup): { dictionary: Dictionary; played: number } {
  const outline = outlineDictionary(board, bench).dictionary;
  const { order, enough } = likeliestFirst(board, outline, { known: known.byFault });
  const making = makeDictionary(board, bench, usualMeter, { order: order.subarray(0, enough) });
  for (;;) {
    const step = making.next();
    if (step.done) return { dictionary: step.value, played: enough };
  }
}
const { stages } = studyHealthyBoard(board, setup);
const fresh = () => makeDiagnoser(board, stages, dictionary, setup);
const fault = (text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const bench = { phase: 'standby', side: 'top' } as const;
const diagnose = (readings: Reading[], goal: string, diagnoser = fresh()): Diagnosis =>
  diagnoser.diagnose(
    {
      ...noEvidence,
      readings: readings.map((reading, index) => ({ id: String(index), reading })),
      goal: goal as GoalId,
    } satisfies Evidence,
    bench,
  );
const share = ({ suspects }: Diagnosis, has: (one: Fault) => boolean): number =>
  suspects
    .flatMap((one) => one.faults)
    .filter((one) => has(one.fault))
    .reduce((sum, one) => sum + one.probability, 0);

/** Volts of a play with the fault, read on a bench. */
function volts(what: Fault, on: PlaySetup, net: string, phase: Phase, against?: string): Reading {
  const play = playBoard(withFaults(board, [what]), on);
  const at = (one: string): number => play.phases.get(phase as 'run')?.volts.get(one as NetId) ?? 0;
  const value = at(net) - (against ? at(against) : 0);
  return {
    ...plainReading(
      net,
      'volts',
      phase,
      { kind: 'number', value, trend: 'steady' },
      { attached: attachedIn(board, on), against: against ?? null },
    ),
    lifted: [...(on.lifted ?? [])],
  };
}

/** The memory rail down with its enable there. */
const shorted = (): Reading[] =>
  ['SUS_EN', '1V2_MEM'].map((net) => volts(fault('C50:short'), setup, net, 'trying'));

describe('readings across parts', () => {
  it('ohms through a fuse convict it or clear it, whatever hangs beside it', () => {
    const open = fault('F1:open');
    const dead = volts(open, setup, 'VIN_F', 'standby');
    const through = (what: Fault | null): Reading => {
      const ohms = what
        ? Infinity
        : readCold(board, setup, [], usualMeter).across(
            'VIN_JACK' as NetId,
            'VIN_F' as NetId,
            'ohms',
          );
      const read =
        ohms === Infinity
          ? ({ kind: 'over', limit: usualMeter.mostOhms } as const)
          : ({ kind: 'number', value: ohms, trend: 'steady' } as const);
      return plainReading('VIN_JACK', 'ohms', 'cold', read, { attached, against: 'VIN_F' });
    };
    // Unpowered, through the solved board: next to nothing while whole, far more when open.
    const whole = through(null).value;
    expect(whole.kind === 'number' && whole.value).toBeLessThan(1);
    const isFuse = (one: Fault): boolean => 'part' in one && one.part === 'F1';
    const before = share(diagnose([dead], 'boots'), isFuse);
    expect(share(diagnose([dead, through(open)], 'boots'), isFuse)).toBeGreaterThan(before);
    expect(share(diagnose([dead, through(null)], 'boots'), isFuse)).toBeLessThan(before / 5);
  });

  it('a drop across the sense resistor tells a short behind it from a dead input', () => {
    const short = fault('C6:short=10');
    const sense = findPart(board, 'PR1');
    const [from, to] = sense?.pins.map((pin) => pin.net) ?? [];
    const reading = volts(short, setup, from!, 'standby', to);
    const { used } = { used: diagnose([reading], 'boots') };
    expect(used.unused).toEqual([]);
    expect(used.suspects.length).toBeGreaterThan(0);
  });

  it('are proposed, with the part they go across', () => {
    const dead = volts(fault('F1:open'), setup, 'VIN_F', 'standby');
    const across = diagnose([dead], 'boots').next.filter((one) => one.across !== null);
    expect(across.some((one) => one.across === 'F1' && one.mode === 'ohms')).toBe(true);
    for (const one of across) {
      const part = board.parts.find(({ ref }) => ref === one.across);
      expect(part?.pins.map((pin) => pin.net)).toEqual(
        expect.arrayContaining([one.net, one.reference]),
      );
    }
  });
});

describe('readings taken while the bench stood otherwise', () => {
  const short = fault('PANEL1.VLOGIC:short');
  const plugged = volts(short, setup, '3V3_LCD', 'trying');
  const bare = benchSetup(board, {
    source: setup.source,
    attached: attached.filter((one) => one !== 'panel'),
  });
  const isPanel = (one: Fault): boolean => 'part' in one && one.part === 'PANEL1';

  it('wait for plays of that bench, named; then unplugging tells panel from board', () => {
    const fine = ['PLTRST#', 'LCD_EN', '3V3_S5'].map((net) => volts(short, setup, net, 'trying'));
    const unplugged = volts(short, bare, '3V3_LCD', 'trying');
    const diagnoser = fresh();
    const waiting = diagnose([...fine, plugged, unplugged], 'screen', diagnoser);
    expect(waiting.unused).toHaveLength(1);
    expect(waiting.unused[0]?.why).toBe('taken without panel');
    const before = share(waiting, isPanel);
    const other = playedFor(waiting, bare);
    // After four readings that leave much open, well under half of the faults is enough.
    expect(other.played).toBeLessThan(0.45 * dictionary.rows);
    diagnoser.alsoKnow(waiting.unused[0]!.bench!, other.dictionary);
    const after = diagnose([...fine, plugged, plugged, unplugged], 'screen', diagnoser);
    expect(after.unused).toEqual([]);
    // The rail came back without the panel.
    // The panel itself, or a switch too weak to carry it.
    const isWeak = (one: Fault): boolean => one.kind === 'weak' && one.part === 'U51';
    expect(share(after, isPanel)).toBeGreaterThan(0.2);
    expect((share(after, isPanel) + share(after, isWeak)) / (1 - after.none)).toBeGreaterThan(0.8);
    expect(share(after, isPanel)).toBeGreaterThan(3 * before);
    // The other way round: still away without it.
    const still = volts(fault('C81:short'), bare, '3V3_LCD', 'trying');
    expect(
      share(diagnose([...fine, plugged, plugged, still], 'screen', diagnoser), isPanel),
    ).toBeLessThan(0.02);
  });

  it('what was unplugged stays a suspect: the bench as it stands then is the one without it', () => {
    const fine = ['PLTRST#', 'LCD_EN', '3V3_S5'].map((net) => volts(short, setup, net, 'trying'));
    const before = diagnose([...fine, plugged, plugged], 'screen');
    const without = playedFor(before, bare).dictionary;
    const diagnoser = makeDiagnoser(board, studyHealthyBoard(board, bare).stages, without, bare);
    diagnoser.alsoKnow({ source: setup.source, attached, lifted: [] }, dictionary);
    const back = volts(short, bare, '3V3_LCD', 'trying');
    const after = diagnose([...fine, plugged, plugged, back], 'screen', diagnoser);
    expect(after.unused).toEqual([]);
    const gone = after.suspects.find(({ title }) => title === 'In a part that is off the board');
    expect(after.suspects.indexOf(gone!)).toBeLessThan(2);
    expect(gone?.separate.text).toContain('Plug it in again');
    // What is not played yet keeps some weight.
    expect(share(after, isPanel)).toBeGreaterThan(0.08);
    // Never plugged in, it cannot have been it.
    const never = diagnose([back], 'screen', diagnoser);
    expect(share(never, isPanel)).toBe(0);
  });

  it('unplugging is proposed with what each outcome means and its caution', () => {
    const boots = volts(short, setup, 'PLTRST#', 'trying');
    const { actions } = diagnose([boots, plugged], 'screen');
    const unplug = actions.find((one) => one.kind === 'unplug');
    expect(unplug?.text).toBe('Unplug the panel and read 3V3_LCD again');
    expect(unplug?.outcomes.reduce((sum, one) => sum + one.probability, 0)).toBeCloseTo(1, 6);
    expect(unplug?.caution).toContain('off');
  });

  it('a capacitor lifted from a shorted rail is named when the rail comes back', () => {
    const isC50 = (one: Fault): boolean => 'part' in one && one.part === 'C50';
    const diagnoser = fresh();
    const known = diagnose(shorted(), 'boots', diagnoser);
    const before = share(known, isC50);
    const off = benchSetup(board, { source: setup.source, attached, lifted: ['C50'] });
    diagnoser.alsoKnow(
      { source: off.source, attached, lifted: ['C50'] },
      playedFor(known, off).dictionary,
    );
    const back = volts(fault('C50:short'), off, '1V2_MEM', 'trying');
    const after = diagnose([...shorted(), ...shorted(), back], 'boots', diagnoser);
    expect(after.unused).toEqual([]);
    expect(share(after, isC50) / (1 - after.none)).toBeGreaterThan(0.5);
    expect(share(after, isC50)).toBeGreaterThan(3 * before);
  });
});

describe('lifting and feeding', () => {
  it('a coil is to be lifted where suspects stand on both sides of it', () => {
    const low = plainReading(
      '1V2_MEM',
      'ohms',
      'cold',
      { kind: 'number', value: 0.4, trend: 'steady' },
      { attached },
    );
    const { actions } = diagnose([...shorted(), low], 'boots');
    const lift = actions.find((one) => one.what === 'PL7');
    expect(lift?.text).toMatch(/^Lift one end/);
    expect(lift?.outcomes.map((one) => one.text).join()).toContain('1V2_MEM');
    expect(lift?.caution).not.toBe('');
  });

  it('a capacitor is to come off as well, and nothing that was off before', () => {
    const asked = (lifted: string[]): string[] => {
      const low = plainReading(
        '1V2_MEM',
        'ohms',
        'cold',
        { kind: 'number', value: 0.4, trend: 'steady' },
        { attached },
      );
      return fresh()
        .diagnose(
          { ...noEvidence, readings: [{ id: 'a', reading: low }], goal: 'boots' as GoalId, lifted },
          { phase: 'cold', side: '' },
        )
        .actions.map((one) => `${one.kind} ${one.what}`);
    };
    expect(asked([])).toContain('lift PL7');
    expect(asked([]).filter((one) => /^lift C/.test(one))).not.toEqual([]);
    const [first] = asked([]).filter((one) => one.startsWith('lift'));
    expect(asked([first!.slice(5)])).not.toContain(first);
  });

  it('a rail is not to be fed where its play drives what should feed it', () => {
    // A load switch holds its input to its output: fed from behind, the front comes up too.
    const dead = fault('PU6:dead');
    expect(feedsBackwards(board, setup, '1V2_MEM' as NetId, dead)).toBe(false);
    const seen = ['SUS_EN', '1V2_MEM'].map((net) => volts(dead, setup, net, 'trying'));
    const fed = diagnose(seen, 'boots').actions.find((one) => one.kind === 'feed');
    expect(fed?.text).toContain('1.2 V');
    expect(fed?.caution).toContain('off');
    // The source is off then: no board goes on.
    expect(fed?.outcomes.map((one) => one.text).join()).not.toContain('goes on');
  });
});

it('a board that its battery feeds has it plugged in, whatever was ticked', () => {
  const onBattery = benchOfSetup(board, benchSetup(board, { source: 'battery', attached: [] }));
  const read = (phase: Phase, source: string | null): BenchOf =>
    benchOfReading(board, 'battery', {
      ...plainReading('VMAIN', 'volts', phase, { kind: 'number', value: 0, trend: 'steady' }),
      source: source === null ? null : { id: source, volts: null, limitAmps: null },
    });
  expect(speaksOf(onBattery, read('standby', 'battery'))).toBe(true);
  expect(speaksOf(onBattery, read('cold', null))).toBe(true);
  expect(speaksOf(onBattery, read('standby', 'adapter'))).toBe(false);
});

it('the part that is hot is the one that is shorted, not another that reads alike', () => {
  const one = (
    net: string,
    mode: 'ohms' | 'volts' | 'celsius',
    value: number,
    at?: string,
  ): Reading => ({
    ...plainReading(
      net,
      mode,
      mode === 'ohms' ? 'cold' : 'trying',
      { kind: 'number', value, trend: 'steady' },
      { attached },
    ),
    ...(at ? { at: { net, part: at, pin: null } } : {}),
  });
  const down = [one('3V3_RUN', 'volts', 0.1), one('3V3_RUN', 'ohms', 0.6)];
  const isShort =
    (part: string) =>
    (it: Fault): boolean =>
      it.kind === 'pins-short' && it.part === part;
  const [before, hot] = [down, [...down, one('3V3_RUN', 'celsius', 140, 'C64')]].map((readings) =>
    diagnose(readings, 'boots'),
  ) as [Diagnosis, Diagnosis];
  expect(share(before, isShort('C64'))).toBeCloseTo(share(before, isShort('C61')), 2);
  expect(share(hot, isShort('C64'))).toBeGreaterThan(1.5 * share(hot, isShort('C61')));
  expect(hot.suspects[0]?.title).toBe('Low resistance on 3V3_RUN');
  expect(hot.suspects[0]!.probability).toBeGreaterThan(before.suspects[0]!.probability - 0.03);
});
