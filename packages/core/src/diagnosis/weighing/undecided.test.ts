import { describe, expect, it } from 'vitest';
import cairnText from '../../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../../sheets/fell-13.yaml?raw';
import { findChip, type GoalId, type NetId } from '../../board/index.ts';
import { studyHealthyBoard } from '../../expectations/index.ts';
import { usualSetup } from '../../play/index.ts';
import { voltsPlace, wholeDictionary, type Dictionary } from '../../dictionary/index.ts';
import { plainBoard, plainReading, sharedDictionary } from '@jiko/testing';
import { makeDiagnoser } from '../diagnose.ts';
import { noEvidence } from '../evidence/evidence.ts';
import { makersOf, otherwise } from './undecided.ts';
import { volts } from './volts-likelihood.ts';

const cairn = plainBoard(cairnText);
const dictionary = sharedDictionary(cairn, usualSetup(cairn));
const place = (net: string): number => dictionary.nets.indexOf(net as NetId);
const makers = makersOf(cairn, dictionary.nets);
/** A row in which the enable of the suspend rails stands at so many volts after the press, all else as healthy. */
function withEnableAt(enable: number, more: Record<string, number> = {}): Dictionary {
  const list = dictionary.volts.slice();
  const row = voltsPlace(dictionary, 1, 'trying', 0);
  list.set(
    list.slice(voltsPlace(dictionary, 0, 'trying', 0), voltsPlace(dictionary, 0, 'run', 0)),
    row,
  );
  for (const [net, one] of Object.entries({ S5_EN: enable, ...more })) list[row + place(net)] = one;
  return { ...dictionary, volts: list };
}
const other = (of: Dictionary, net: string): number | null =>
  otherwise(of, makers[place(net)]!, 1, 'trying', place(net));

describe('an enable that stands where one regulator starts and another does not', () => {
  it('leaves open what it makes and reports between half and 1.7 times its threshold', () => {
    // Its threshold is 1.2 V on the sheet.
    for (const [enable, isOpen] of [
      [0.58, false],
      [0.62, true],
      [1.3, true],
      [2.02, true],
      [2.06, false],
      [3.3, false],
    ] as const) {
      expect([enable, other(withEnableAt(enable), '1V8_S5')]).toEqual([enable, isOpen ? 0 : null]);
      expect([enable, other(withEnableAt(enable), '1V8_PG')]).toEqual([enable, isOpen ? 0 : null]);
    }
  });

  it('what is down may be up, where its feed is there', () => {
    const down = { '3V3_S5': 0 };
    expect(other(withEnableAt(1.3, down), '3V3_S5')).toBeCloseTo(3.29, 1);
    expect(other(withEnableAt(1.3, { ...down, '3V3_ALW': 2.2 }), '3V3_S5')).toBeNull();
    expect(other(withEnableAt(1.3, { ...down, '3V3_ALW': 2.4 }), '3V3_S5')).not.toBeNull();
  });

  it('is none that stands as on the healthy board, and says nothing of other rails', () => {
    const row = voltsPlace(dictionary, 0, 'trying', place('1V8_S5'));
    expect(dictionary.volts[row]).toBeCloseTo(1.8, 1);
    expect(
      otherwise(dictionary, makers[place('1V8_S5')]!, 0, 'trying', place('1V8_S5')),
    ).toBeNull();
    expect(other(withEnableAt(1.3), '3V3_ALW')).toBeNull();
    expect(other(withEnableAt(1.3), 'S5_EN')).toBeNull();
  });

  it('is none that swings, nor is a supply that sags', () => {
    const of = withEnableAt(1.3);
    const at = voltsPlace(dictionary, 1, 'trying', place('S5_EN'));
    expect(other({ ...of, swings: new Map([[at, [0, 3.3]]]) }, '1V8_S5')).toBeNull();
    // PU8 wants 2.7 V of 5V_ALW, from which it draws its own supply.
    expect(makers[place('0V95_IO')]).toHaveLength(1);
    expect(other(withEnableAt(3.3, { '5V_ALW': 3.5 }), '0V95_IO')).toBeNull();
  });

  it('nor where it is near what the healthy board has', () => {
    const [healthy, row] = [0, 1].map((one) =>
      voltsPlace(dictionary, one, 'trying', place('S5_EN')),
    );
    for (const [enable, isOpen] of [
      [1.29, false],
      [1.26, true],
    ] as const) {
      const of = withEnableAt(enable);
      of.volts[healthy!] = 1.5;
      expect(of.volts[row!]).toBeCloseTo(enable, 5);
      expect([enable, other(of, '1V8_S5')]).toEqual([enable, isOpen ? 0 : null]);
    }
  });

  it('a rail that may be either way is read as either, two times in five the other', () => {
    const point = {
      where: 'rail',
      healthy: 1.8,
      upVolts: 1.8,
      cold: { kind: 'drawn' },
      isCore: false,
    } as const;
    const read = (value: number, or: number | null): number =>
      volts(
        { kind: 'number', value, trend: 'steady' },
        { value: 0, swing: null, span: null, near: [], or },
        point,
      );
    const up = read(1.8, 1.8);
    const surelyUp = volts(
      { kind: 'number', value: 1.8, trend: 'steady' },
      { value: 1.8, swing: null, span: null, near: [] },
      point,
    );
    expect(Math.exp(up - surelyUp)).toBeCloseTo(0.4, 2);
    expect(Math.exp(read(0, 1.8) - read(0, null))).toBeCloseTo(0.6, 1);
  });
});

describe('an enable read between low and high', () => {
  it('is low resistance there, not a dead regulator behind it', () => {
    // One chip on it wants 2 V, as many do; its neighbour starts at 1.2 V.
    const board = plainBoard(fellText);
    const threshold = findChip(board, 'U7')
      ?.behaviours.flatMap((one) => (one.do === 'regulator' ? one.needs : []))
      .find((one) => one.pin === 'EN');
    if (!threshold) throw new Error('U7 has no enable');
    threshold.volts = 2;
    const setup = usualSetup(board);
    const { stages } = studyHealthyBoard(board, setup);
    const diagnoser = makeDiagnoser(board, stages, wholeDictionary(board, setup), setup);
    const attached = board.attachments
      .map((one) => one.id)
      .filter((id) => !setup.unplugged?.includes(id));
    const readings = (
      [
        ['5V_AON', 5],
        ['1V8_PRIM', 1.8],
        ['1V05_PRIM', 0],
        ['PRIM_EN', 1.5],
      ] as const
    ).map(([net, value]) => ({
      id: net,
      reading: plainReading(
        net,
        'volts',
        'trying',
        { kind: 'number', value, trend: 'steady' },
        { attached },
      ),
    }));
    const lead = (count: number): { title: string; probability: number } | undefined => {
      const evidence = {
        ...noEvidence,
        readings: readings.slice(0, count),
        goal: 'boots' as GoalId,
      };
      let found = diagnoser.diagnose(evidence, { phase: 'trying', side: '' });
      // Sizes are looked at closer with each reading.
      for (let more = 0; more < 3; more++)
        found = diagnoser.diagnose(evidence, { phase: 'trying', side: '' });
      return found.suspects[0];
    };
    expect(lead(3)?.title).toContain('U7');
    expect(lead(4)?.title).toBe('Low resistance on PRIM_EN');
    expect(lead(4)?.probability).toBeGreaterThan(0.5);
  });
});
