import type { NetId } from '@jiko/core/board';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { loadSheet } from '@jiko/core/board';
import beckText from '../../../../../sheets/beck-mini.yaml?raw';
import {
  keepDraft,
  keptDraft,
  pageState,
  pointNow,
  type Own,
  type PageState,
} from './page-state.ts';

const empty: PageState = { text: '', begun: null, own: null, said: null };
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
