import { describe, expect, it } from 'vitest';
import wren from '../../../../sheets/wren-5.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { troubleWithDictionary } from './check.ts';
import { usualSetup } from '../play/index.ts';
import { wholeDictionary, withRoom, type Dictionary } from './index.ts';

const loaded = loadSheet(wren);
if (!loaded.ok) throw new Error('the sheet does not load');
const board = loaded.value;
const setup = usualSetup(board);
const good = wholeDictionary(board, setup);
/** A copy that can be spoilt. */
const copy = (): Dictionary => withRoom({ ...good, invalid: new Map(good.invalid) }, 0);
const rows = [3, 17, 42];

describe('a dictionary somebody else made', () => {
  it('is trusted where what is played anew is the same', () => {
    expect(troubleWithDictionary(board, setup, copy(), rows)).toBeNull();
    // Last digits differ from engine to engine.
    const near = copy();
    near.volts.forEach((volts, at) => (near.volts[at] = volts * 1.0001));
    expect(troubleWithDictionary(board, setup, near, rows)).toBeNull();
  });
  it('is not where a row that is looked at reads otherwise, by whatever list', () => {
    for (const name of ['volts', 'amps', 'ohms', 'diode', 'lit', 'heat', 'offAfter'] as const) {
      const bad = copy();
      const per = bad[name].length / bad.rows;
      bad[name][17 * per] = bad[name][17 * per] === 7 ? 9 : 7;
      expect(troubleWithDictionary(board, setup, bad, rows)).toBe(
        `row 17 plays otherwise: ${name}`,
      );
    }
    const swinging = copy();
    swinging.swings.set(17 * (swinging.volts.length / swinging.rows), [0, 3]);
    expect(troubleWithDictionary(board, setup, swinging, rows)).toContain('swings');
  });
  it('is not where it is hollow, cut short, or of another sheet or bench', () => {
    const hollow = copy();
    const per = hollow.amps.length / hollow.rows;
    hollow.amps.fill(NaN, 9 * per, 10 * per);
    expect(troubleWithDictionary(board, setup, hollow, rows)).toBe('row 9 was never played');
    expect(
      troubleWithDictionary(board, setup, { ...copy(), volts: new Float32Array(3) }, rows),
    ).toContain('volts');
    expect(troubleWithDictionary(board, setup, { ...copy(), faults: [] }, rows)).toContain(
      'faults',
    );
    expect(troubleWithDictionary(board, setup, { ...copy(), key: 'x' }, rows)).toContain(
      'another sheet',
    );
    expect(
      troubleWithDictionary(board, setup, { ...copy(), goalNets: {} as never }, rows),
    ).toContain('goals');
    const doubted = copy();
    doubted.invalid.set(17, 'a bus that never settles');
    expect(troubleWithDictionary(board, setup, doubted, rows)).toContain('what may not be trusted');
    const moved = copy();
    moved.rowOf.reverse();
    expect(troubleWithDictionary(board, setup, moved, rows)).toContain('other rows');
  });
});
