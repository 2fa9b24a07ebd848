import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import bareWren from '../../../../sheets/wren-5.yaml?raw';
import { seeded } from '../base/index.ts';
import {
  lintBoard,
  loadSheet,
  sheetIssueText,
  type Board,
  type GoalId,
  joinedNets,
} from '../board/index.ts';
import { parseFault, withFault, type Fault } from '../faults/index.ts';
import { plainReading, sharedDictionary } from '@jiko/testing';
import { checkHealthyPlay, studyHealthyBoard } from '../expectations/index.ts';
import {
  isPlayed,
  makeDictionary,
  outlineDictionary,
  putRows,
  takeRows,
  type Dictionary,
} from '../dictionary/index.ts';
import { playBoard, usualSetup } from '../play/index.ts';
import { usualMeter, type Phase, type Reading } from '../readings/index.ts';
import { likeliestFirst, makeDiagnoser, noEvidence, noSigns, type Diagnosis } from './index.ts';
import { logPriors } from './weighing/row-priors.ts';
import { observations } from './weighing/observations.ts';
import { benchOfSetup } from './evidence/bench-of.ts';
import { makeTable } from './weighing/table.ts';
import { separatingTest } from './grouping/separate.ts';
import { makeUnlisted } from './weighing/unlisted.ts';

// What a diagnosis must not do: be sure by keeping silent, by the order of lines, by the wrong place.

// Attachments nobody uses, so that one kind of reading serves both sheets.
const withAttached = (text: string): string =>
  `${text}\nattachments:\n  battery: { title: Battery }\n  panel: { title: Panel }\n  storage: { title: Storage }\n`;
const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join('\n'));
  return loaded.value;
};
const wren = withAttached(bareWren);
const deskOf = (board: Board, dictionary = sharedDictionary(board, usualSetup(board))) => {
  const setup = usualSetup(board);
  const diagnoser = makeDiagnoser(board, studyHealthyBoard(board, setup).stages, dictionary, setup);
  return (readings: Reading[], goal: string | null = 'boots'): Diagnosis =>
    diagnoser.diagnose(
      {
        ...noEvidence,
        readings: readings.map((reading, index) => ({ id: String(index), reading })),
        goal: goal as GoalId | null,
      },
      { phase: 'standby', side: '' },
    );
};
/** What is plugged in on the usual bench of Fell 13. */
const attached = ['battery', 'panel', 'storage'];
const volts = (
  net: string,
  value: number,
  phase: Phase = 'standby',
  at: { part: string; pin: string } | null = null,
): Reading => {
  const reading = plainReading(
    net,
    'volts',
    phase,
    { kind: 'number', value, trend: 'steady' },
    { attached },
  );
  return at ? { ...reading, at: { net, ...at } } : reading;
};
const faultOf = (board: Board, text: string): Fault => {
  const parsed = parseFault(board, text);
  if (!parsed.ok) throw new Error(text);
  return parsed.value;
};
const told = (one: Diagnosis): [string, number][] =>
  one.suspects.slice(0, 6).map(({ title, probability }) => [title, probability]);

/** The lines of nets, parts and chips of a sheet in another order. */
function shuffled(text: string, seed: number): string {
  const chance = seeded(seed);
  const lines = text.split('\n');
  const sections = ['nets:', 'parts:', 'chips:'];
  const out: string[] = [];
  for (let at = 0; at < lines.length; at++) {
    out.push(lines[at] as string);
    if (!sections.includes(lines[at] as string)) continue;
    // An entry begins two spaces in and goes on while lines stand further in.
    const entries: string[][] = [];
    for (; /^ {2}/.test(lines[at + 1] ?? '') || (lines[at + 1] ?? 'x') === ''; at++) {
      const line = lines[at + 1] as string;
      if (/^ {2}\S/.test(line)) entries.push([line]);
      else if (line !== '') entries.at(-1)?.push(line);
    }
    for (let last = entries.length - 1; last > 0; last--) {
      const other = Math.floor(chance() * (last + 1));
      [entries[last], entries[other]] = [entries[other]!, entries[last]!];
    }
    out.push(...entries.flat(), '');
  }
  return out.join('\n');
}

describe('the order of lines in a sheet', () => {
  it.each([3, 4])('changes no answer (shuffled with seed %i)', (seed) => {
    const other = shuffled(fell, seed);
    expect(other).not.toBe(fell);
    const readings = [
      volts('VBUS', 19.9),
      volts('VSYS', 19.8),
      volts('3V3_AON', 3.29),
      volts('1V05_PRIM', 0.02, 'trying'),
      volts('1V8_PRIM', 1.79, 'trying'),
    ];
    const [plain, mixed] = [fell, other].map((text) => deskOf(load(text))(readings)) as [
      Diagnosis,
      Diagnosis,
    ];
    expect(plain.unused).toEqual([]);
    expect(told(mixed).map(([title]) => title)).toEqual(told(plain).map(([title]) => title));
    told(plain).forEach(([, probability], index) =>
      expect(told(mixed)[index]![1]).toBeCloseTo(probability, 6),
    );
    expect(mixed.next[0]?.net).toBe(plain.next[0]?.net);
  });
});

describe('a hypothesis that says nothing', () => {
  const board = load(wren);
  const setup = usualSetup(board);
  const whole = sharedDictionary(board, setup);
  /** Only the healthy board and the likeliest faults are played. */
  const begun = (rows: number): Dictionary => {
    const { order } = likeliestFirst(board, outlineDictionary(board, setup).dictionary);
    const making = makeDictionary(board, setup, usualMeter, { order });
    for (;;) {
      const step = making.next();
      if (step.done || step.value.done >= rows)
        return step.done ? step.value : step.value.dictionary;
    }
  };

  it('is worth what "none of these" gives each reading, never more', () => {
    const dictionary = begun(40);
    const table = makeTable(board, dictionary);
    const evidence = {
      ...noEvidence,
      readings: [{ id: 'a', reading: volts('1V8', 0.9) }],
      signs: { ...noSigns, draw: [{ phase: 'standby' as const, amps: 0.3, shape: null }] },
      goal: 'boots' as GoalId,
    };
    const { used } = observations(table, evidence, {
      here: benchOfSetup(board, setup),
      others: [],
      isAlike: () => false,
    });
    const silent = [...Array(dictionary.rows).keys()].filter((row) => !isPlayed(dictionary, row));
    expect(silent.length).toBeGreaterThan(100);
    expect(used.length).toBe(3);
    for (const { byRow, byNone } of used) for (const row of silent) expect(byRow[row]).toBe(byNone);
    // It keeps its weight of before.
    const priors = logPriors(table, evidence);
    for (const row of silent) expect(priors[row]).toBeGreaterThan(-Infinity);
  });

  it('so the first second never says 99 %, and the likeliest faults are played first', () => {
    const diagnose = deskOf(board, begun(60));
    const first = diagnose([volts('1V8', 0.02), volts('3V3', 3.3)]);
    expect(first.suspects[0]?.title).toContain('U2');
    expect(first.suspects[0]?.probability).toBeLessThan(0.95);
    // What was not played is not named, and its weight is said.
    const early = begun(60);
    const rowOf = new Map(
      early.faults.map((one, index) => [JSON.stringify(one), early.rowOf[index]!]),
    );
    for (const { faults } of first.suspects)
      expect(
        faults.some(({ fault }) => isPlayed(early, rowOf.get(JSON.stringify(fault)) ?? 0)),
      ).toBe(true);
    expect(first.unplayed).toBeGreaterThan(0.01);
    const named = first.suspects.reduce((sum, one) => sum + one.probability, 0);
    expect(named + first.unplayed + first.none + first.healthy).toBeLessThan(1.0001);
    expect(deskOf(board, whole)([volts('1V8', 0.02)]).unplayed).toBe(0);
    const { order } = likeliestFirst(board, whole);
    expect(order[0]).toBe(0);
    const places = new Map([...order].map((row, place) => [row, place]));
    const placeOf = (text: string): number => {
      const fault = JSON.stringify(faultOf(board, text));
      const index = whole.faults.findIndex((one) => JSON.stringify(one) === fault);
      return places.get(whole.rowOf[index]!)!;
    };
    expect(placeOf('U1:dead')).toBeLessThan(placeOf('U1.EN:trace-open'.replace('EN', 'VIN')));
    expect(placeOf('C1:short')).toBeLessThan(placeOf('LED1:reversed'));
  });

  it('rows played by two makers and put together are the dictionary of one', () => {
    const { dictionary } = outlineDictionary(board, setup);
    for (const index of [0, 1]) {
      const making = makeDictionary(board, setup, usualMeter, { share: { index, of: 2 } });
      const rows: number[] = [];
      let made: Dictionary | null = null;
      for (let step = making.next(); !made; step = making.next()) {
        if (step.done) made = step.value;
        else if (step.value.row !== null) rows.push(step.value.row);
      }
      expect(rows.length).toBeLessThan(dictionary.rows * 0.6);
      putRows(dictionary, takeRows(made, rows));
    }
    expect(dictionary.volts).toEqual(whole.volts);
    expect(dictionary.ohms).toEqual(whole.ohms);
    expect(dictionary.amps).toEqual(whole.amps);
    expect([...dictionary.swings].sort()).toEqual([...whole.swings].sort());
    expect(dictionary.goalNets).toEqual(whole.goalNets);
  });
});

describe('a pin, a pad and a net are different places', () => {
  const along = fell.replace(
    '  5V_AON: { kind: rail, volts: 5, load: 0.02 }',
    '  5V_AON: { kind: rail, volts: 5, load: 0.02, along: [U2.OUT, U6.VIN, U7.VIN] }',
  );
  const board = load(along);
  const diagnose = deskOf(board);

  it('the net good and the pin dead is the joint between them', () => {
    const { suspects } = diagnose([
      volts('MEM_EN', 3.3, 'trying', { part: 'U5', pin: 'SUSEN' }),
      volts('MEM_EN', 0.02, 'trying', { part: 'U9', pin: 'EN' }),
      volts('1V1_MEM', 0, 'trying'),
    ]);
    expect(suspects[0]?.title).toBe('MEM_EN is broken between U5.SUSEN and U9.EN');
    expect(suspects[0]?.faults.map((one) => one.name)).toContain('U9 pin EN: trace open');
    expect(suspects[0]?.separate.text).toMatch(/U9/);
  });

  it('the same reading on the net itself says nothing of the joint', () => {
    const at = (part: string, pin: string): Diagnosis =>
      diagnose([
        volts('SLP_S3#', 3.3, 'trying'),
        volts('MEM_EN', 0.02, 'trying', { part, pin }),
        volts('1V1_MEM', 0, 'trying'),
      ]);
    const isJoint = ({ suspects }: Diagnosis): number =>
      suspects
        .flatMap((one) => one.faults)
        .filter(({ fault }) => fault.kind === 'trace-open' && fault.part === 'U9')
        .reduce((sum, one) => sum + one.probability, 0);
    expect(isJoint(at('U9', 'EN'))).toBeGreaterThan(5 * isJoint(at('U5', 'SUSEN')));
  });

  it('two points of one net that differ are a break between them, with its jumper', () => {
    const { suspects } = diagnose([
      volts('5V_AON', 5, 'trying', { part: 'U6', pin: 'VIN' }),
      volts('5V_AON', 0.02, 'trying', { part: 'U7', pin: 'VIN' }),
      volts('1V05_PRIM', 0, 'trying'),
    ]);
    const found = suspects.find(
      (one) => one.title === '5V_AON is broken between U6.VIN and U7.VIN',
    );
    expect(suspects.indexOf(found!)).toBe(0);
    const broken = faultOf(board, '5V_AON:break=1');
    const play = playBoard(withFault(board, broken), usualSetup(board));
    expect(play.phases.get('trying')?.volts.get('1V05_PRIM' as never)).toBeLessThan(0.3);
    expect(play.phases.get('trying')?.volts.get('1V8_PRIM' as never)).toBeGreaterThan(1.7);
    const breaks = suspects.flatMap((one) =>
      one.faults.some(({ fault }) => fault.kind === 'break') ? [one.separate.text] : [],
    );
    expect(breaks.join()).toMatch(/No connection between U6\.VIN and U7\.VIN|joint|pin by pin/);
  });

  it('a place that is not on the net is refused with its line', () => {
    const loaded = loadSheet(along.replace('U6.VIN', 'U6.EN'));
    expect(!loaded.ok && loaded.error.map(sheetIssueText).join()).toMatch(
      /Line \d+: U6\.EN is listed along the copper of 5V_AON/,
    );
  });
});

describe('a fault of no list', () => {
  it('sits somewhere: what hangs behind it fails as in the list, what stands before it does not', () => {
    const board = load(fell);
    const table = makeTable(board, sharedDictionary(board, usualSetup(board)));
    const unlisted = makeUnlisted(table);
    expect(unlisted.reduce((sum, one) => sum + one.share, 0)).toBeCloseTo(0.88, 6);
    const memory = unlisted.find((one) => one.net === '1V1_MEM' && one.row > 0);
    const { dictionary, placeOf } = table;
    const at = (net: string): number =>
      dictionary.volts[
        (memory!.row * 4 + 2) * dictionary.nets.length + placeOf.get(net as never)!
      ]!;
    expect(at('1V1_MEM')).toBeLessThan(0.2);
    expect(at('VCORE')).toBeLessThan(0.2);
    expect(at('1V8_PRIM')).toBeGreaterThan(1.7);
    expect(joinedNets(board).size).toBe(board.nets.length);
  });

  it('leads where nothing of the list fits, and says where', () => {
    const board = load(wren);
    const diagnose = deskOf(board);
    // A rail a third too high with everything behind it running: in no list.
    const odd = [
      volts('3V3', 3.3),
      volts('1V8', 1.8),
      volts('1V1_DDR', 1.1),
      volts('0V9_CORE', 0.9),
      volts('RESET#', 3.3),
      volts('SD_EN', 3.3),
      // Twice: it is no slip.
      volts('3V3_SD', 4.6),
      volts('3V3_SD', 4.61),
      volts('ALIVE', 3.3),
    ];
    const { none, elsewhere, suspects } = diagnose(odd, null);
    expect(none).toBeGreaterThan(suspects[0]?.probability ?? 0);
    expect(elsewhere[0]?.net).toBe('3V3_SD');
  });
});

describe('what is said of a suspect', () => {
  const board = load(fell);
  const said = (text: string, shortedNet: string | null = null) =>
    separatingTest(board, [faultOf(board, text)], shortedNet as never);
  it('a stage short from feed to output is not to be powered again before it is measured', () => {
    const { text, caution } = said('U11.VIN-OUT:short');
    expect(text).toContain('ohms from VIN to OUT of U11');
    expect(caution).toContain('Do not power the board');
  });
  it('no current is driven into a signal; a rail is injected below its own volts', () => {
    expect(said('MEM_EN:short', 'MEM_EN').text).toContain('No current is to be driven');
    expect(said('1V1_MEM:short', '1V1_MEM').text).toMatch(/nject 1 V with a small current limit/);
  });
  it('a chip that does not run may have been let go of its reset too soon: that is held by hand', () => {
    const { text, caution } = said('U5:corrupt');
    expect(text).toContain(
      'A reset let go before its rail stands hangs U5 just so, and no hand meter sees milliseconds: hold MCU_RST# to ground through 1 kΩ before the source is connected, and let go a second after.',
    );
    expect(caution).toContain('A wire to a reset is put on with everything off.');
    const large = load(cairn);
    // What was never written cannot be woken by its reset, and a chip without one has none to hold.
    expect(separatingTest(large, [faultOf(large, 'U22:blank')], null).text).not.toContain(
      'A reset let go',
    );
  });
  it('a source is measured and changed, a button bridged', () => {
    expect(said('usb-c:weak').text).toContain('try another one');
    expect(said('SW1:open').text).toContain('Join its two pads');
  });
});

describe('lint', () => {
  it('compares what was stated of cold values with what the play reads', () => {
    const text = wren
      .replace('cold: { ohms: 3k, diode: 0.42 }', 'cold: { ohms: 3k, diode: 0.42 }')
      .replace('LED_A: { kind: analog }', 'LED_A: { kind: analog, cold: { ohms: 90k } }');
    const board = load(text);
    expect(lintBoard(board, text)).toBeDefined();
    const issues = checkHealthyPlay(board, text).map(sheetIssueText);
    // A 470 ohm resistor to a rail of 700 ohms stands beside it.
    expect(issues.join()).toMatch(
      /LED_A is stated to read 90000 Ω cold, but what the sheet draws reads 1/,
    );
    expect(checkHealthyPlay(load(wren), wren)).toEqual([]);
  });
});
