import type { NetId } from '@jiko/core/board';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { loadSheet } from '@jiko/core/board';
import beckText from '../../../../../sheets/beck-mini.yaml?raw';
import {
  emptyPage as empty,
  keepDraft,
  keptDraft,
  ownNow,
  pageState,
  pointNow,
  type Own,
  type PageState,
} from './page-state.ts';

const point = (net: string, mode: Own['mode'] = 'volts'): Own => ({
  net: net as NetId,
  pin: null,
  reference: null,
  mode,
  supersedes: [],
});
const type = (state: PageState, text: string, net: string): PageState =>
  pageState(state, { do: 'type', text, asked: point(net) });

describe('a point on a sheet that has grown since', () => {
  const loaded = loadSheet(
    beckText.replace('1V2_MEM: { kind: rail', '1V2_MEM: { aliases: [P1], kind: rail'),
  );
  if (!loaded.ok) throw new Error('the sheet does not load');
  it.each([
    [point('P1'), '1V2_MEM'],
    [point('5V_SB'), '5V_SB'],
    [point('GONE'), undefined],
    [{ ...point('5V_SB'), reference: 'GONE' as NetId }, undefined],
  ])('%#: found under its present name, or not at all', (own, net) => {
    expect(pointNow(loaded.value, own)?.net).toBe(net);
  });
  it('nothing chosen stays nothing', () => {
    expect(pointNow(loaded.value, null)).toBeNull();
  });
});

describe('the line and its point', () => {
  it('what is typed stays with the point it was begun at, whatever is proposed meanwhile', () => {
    const begun = type(empty, '3', '3V3_ALW');
    expect(begun.begun).toMatchObject({ net: '3V3_ALW', mode: 'volts' });
    expect(type(begun, '3.2', 'VCORE').begun?.net).toBe('3V3_ALW');
    // Emptied, the next letter begins anew.
    expect(type(type(begun, '', 'VCORE'), '1', 'VCORE').begun?.net).toBe('VCORE');
  });

  it('another point, mode or lead chosen while typing takes the line along', () => {
    const begun = type(empty, '412', '3V3_ALW');
    const moved = pageState(begun, { do: 'choose', own: point('3V3_ALW', 'diode') });
    expect(moved).toMatchObject({ text: '412', begun: { mode: 'diode' } });
    expect(pageState(moved, { do: 'choose', own: null })).toEqual(empty);
  });

  it('a refused line stays, a recorded one goes, and both are said', () => {
    const begun = type(empty, '999', 'VMAIN');
    const refused = pageState(begun, { do: 'refuse', text: 'Too much.' });
    expect(refused).toMatchObject({ text: '999', begun: { net: 'VMAIN' } });
    expect(refused.said?.text).toBe('Too much. Nothing was recorded.');
    expect(type(refused, '19.9', 'VMAIN').said).toBeNull();
    const own = pageState(begun, { do: 'choose', own: point('VMAIN') });
    expect(pageState(own, { do: 'record', text: 'Recorded.' })).toEqual({
      ...empty,
      said: { kind: 'recorded', text: 'Recorded.' },
    });
  });
});

describe('a search for another point', () => {
  const shown = { ...point('B'), place: 'somewhere' };
  const searching = pageState(empty, { do: 'hold', point: shown });
  it('keeps the point that was shown until it ends, and only that', () => {
    expect(searching.held).toEqual({ net: 'B', pin: null, reference: null, mode: 'volts' });
    expect(pageState(searching, { do: 'hold', point: null })).toEqual(empty);
  });
  it('ends with the point that was chosen, and with one that is made', () => {
    expect(pageState(searching, { do: 'choose', own: point('C') })).toMatchObject({
      held: null,
      own: { net: 'C' },
    });
    expect(pageState(searching, { do: 'await', point: 'P1' }).held).toBeNull();
  });
});

describe('a reading for another phase than the bench strip says', () => {
  it('is asked about once; another point, or another value, asks anew', () => {
    const begun = type(empty, '41k', 'EN');
    const asked = pageState(begun, { do: 'ask', of: 'EN ohms', text: 'Source off?' });
    expect(asked).toMatchObject({ text: '41k', asked: 'EN ohms', said: { text: 'Source off?' } });
    expect(type(asked, '41', 'EN').asked).toBeNull();
    expect(pageState(asked, { do: 'choose', own: point('VMAIN') }).asked).toBeNull();
    expect(pageState(asked, { do: 'record', text: 'Recorded.' }).asked).toBeNull();
  });
});

describe("a point of one's own that is still being made", () => {
  const loaded = loadSheet(beckText);
  if (!loaded.ok) throw new Error('the sheet does not load');
  const board = loaded.value;
  const made = { id: 'P1', net: '1V2_MEM' as NetId, title: 'coil', side: null };
  const grown = { ...board, points: [...board.points, made as never] };

  it('takes what was typed meanwhile, and what is typed on', () => {
    const typed = type(empty, '1', 'VMAIN');
    const awaited = pageState(typed, { do: 'await', point: 'P1' });
    expect(awaited).toMatchObject({ text: '1', begun: null, coming: 'P1' });
    const on = type(awaited, '1.2', 'VMAIN');
    expect(on).toMatchObject({ text: '1.2', begun: null });
    expect(ownNow(board, on, false)).toBeNull();
    expect(ownNow(grown, on, false)).toMatchObject({
      net: '1V2_MEM',
      pin: { part: 'P1', pin: null },
      mode: 'volts',
    });
    expect(ownNow(grown, on, true)?.mode).toBe('ohms');
  });

  it('is let go by another choice, by Esc, and by a record', () => {
    const awaited = pageState(empty, { do: 'await', point: 'P1' });
    expect(pageState(awaited, { do: 'choose', own: point('VMAIN') }).coming).toBeNull();
    expect(pageState(awaited, { do: 'choose', own: null }).coming).toBeNull();
    expect(pageState(awaited, { do: 'record', text: 'Recorded.' }).coming).toBeNull();
  });
});

describe('a line that was being typed when the page went away', () => {
  const shelf = new Map<string, string>();
  beforeEach(() => {
    shelf.clear();
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => shelf.get(key) ?? null,
      setItem: (key: string, value: string) => void shelf.set(key, value),
      removeItem: (key: string) => void shelf.delete(key),
    });
  });
  const anyPoint = (): boolean => true;

  it('comes back at its own point, in its own job', () => {
    keepDraft('a', type(empty, '3.2', '3V3_ALW'));
    expect(keptDraft('a', anyPoint)).toMatchObject({
      text: '3.2',
      begun: { net: '3V3_ALW' },
      own: { net: '3V3_ALW', mode: 'volts' },
    });
    expect(keptDraft('b', anyPoint)).toEqual(empty);
    keepDraft('a', empty);
    expect(keptDraft('a', anyPoint)).toEqual(empty);
  });

  it('is left away where its point is gone or nothing readable was kept', () => {
    keepDraft('a', type(empty, '3.2', 'GONE'));
    expect(keptDraft('a', ({ net }) => net !== 'GONE')).toEqual(empty);
    for (const kept of ['3.2', '{', '{"text":"3"}', 'null']) {
      shelf.set('jiko-entry-a', kept);
      expect(keptDraft('a', anyPoint)).toEqual(empty);
    }
  });
});
