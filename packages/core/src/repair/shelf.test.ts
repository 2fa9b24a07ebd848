import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import { plainBoard } from '@jiko/testing';
import { shelfItemSchema, type ShelfItem } from '../record/index.ts';
import { fitsFromShelf } from './index.ts';

const cairn = plainBoard(cairnText);
const fell = plainBoard(fellText);
const beck = plainBoard(beckText);
const item = (change: Partial<ShelfItem>): ShelfItem => ({
  kind: 'part',
  what: 'capacitor',
  board: null,
  marking: '',
  value: '',
  package: '',
  place: 'drawer 3',
  count: 5,
  gone: [],
  note: '',
  ...change,
});
const fits = (ref: string, items: ShelfItem[], of = cairn) =>
  fitsFromShelf(
    of,
    ref,
    items,
    new Map([
      ['cairn-14', cairn],
      ['fell-13', fell],
      ['beck-mini', beck],
    ]),
  );

describe('what the shelf has for a part', () => {
  const donor = item({
    kind: 'board',
    what: 'Cairn 14, cracked corner',
    board: 'cairn-14',
    count: 1,
  });

  it('the same part of the same board first, unless it is gone from there', () => {
    expect(fits('PU4', [donor])[0]).toMatchObject({ ref: 'PU4', rank: 0 });
    expect(fits('PU4', [{ ...donor, gone: ['PU4'] }])).toEqual([]);
    expect(fits('PU4', [{ ...donor, count: 0 }])).toEqual([]);
  });

  it('by marking, wherever it is', () => {
    const loose = item({ what: 'buck', marking: 'tv3180' });
    expect(fits('PU4', [loose, donor]).map((one) => one.rank)).toEqual([0, 1]);
    expect(fits('PU4', [loose])[0]?.why).toBe('marked TV3180');
  });

  it('by kind and value, however it is written', () => {
    expect(fits('C14', [item({ what: 'ceramic capacitor', value: '10 µ' })])[0]?.rank).toBe(3);
    expect(fits('C14', [item({ what: 'resistor', value: '10u' })])).toEqual([]);
    expect(fits('C14', [item({ value: '22u' })])).toEqual([]);
    // A donor of another kind of board, by its sheet.
    const other = item({ kind: 'board', what: 'Cairn 14', board: 'cairn-14', count: 1 });
    expect(fits('R2', [other], fell)[0]?.why).toMatch(/resistor 10k/);
  });

  it('a donor whose sheet draws no chips gives none', () => {
    const rails = item({ kind: 'board', what: 'Beck mini', board: 'beck-mini', count: 1 });
    expect(fits('PU4', [rails])).toEqual([]);
  });

  it('what is not on the sheet has no stand-in', () => {
    expect(fits('nobody', [donor])).toEqual([]);
  });

  it('an item without words is refused', () => {
    expect(shelfItemSchema.safeParse(item({ what: ' ' })).success).toBe(false);
    expect(shelfItemSchema.safeParse(item({ count: -1 })).success).toBe(false);
  });
});
