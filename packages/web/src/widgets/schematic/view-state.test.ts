import { describe, expect, it } from 'vitest';
import { loadSheet } from '@jiko/core/board';
import { boardNames, indexDocument, type Named, type PageContent } from '@jiko/core/schematic';
import { firstState, followingOf, viewState, zoomFor, type ViewAction } from './view-state.ts';

const sheet = `format: jiko-board/1
id: small
title: Small
depth: rails
nets:
  GND: { kind: ground }
  5V: { kind: rail, volts: 5, aliases: [VSYS] }
  OUT: { kind: rail, volts: 3.3 }
stages:
  out: { title: out, gives: [OUT], feed: 5V }
sources:
  a: { kind: adapter, title: a, net: 5V, volts: 5, limit: 1 }
goals:
  boots: { title: boots, reached: [OUT > 3] }
`;
const loaded = loadSheet(sheet);
if (!loaded.ok) throw new Error('the sheet does not load');
const names = boardNames(loaded.value);
const page = (number: number, ...texts: string[]): PageContent => ({
  page: number,
  width: 800,
  height: 600,
  wires: [],
  boxes: [],
  runs: texts.map((text, at) => ({ text, turn: 0, x: 50, y: 40 * (at + 1), w: 40, h: 6 })),
});
const index = indexDocument([page(1, 'OUT'), page(2, '5V', 'VSYS'), page(3, 'OUT', 'OUT', '5V')]);
const after = (...actions: ViewAction[]) =>
  actions.reduce((state, action) => viewState(state, action, index, names), firstState(1));
const out: Named = { kind: 'net', net: 'OUT' as never };
const five: Named = { kind: 'net', net: '5V' as never };

describe('where the schematic stands', () => {
  it('what is chosen keeps the page where it is on it, else goes where it is drawn most', () => {
    expect(after({ do: 'choose', named: out })).toMatchObject({ page: 1, at: 0 });
    expect(after({ do: 'page', page: 2 }, { do: 'choose', named: out })).toMatchObject({
      page: 3,
      at: 1,
    });
  });

  it('a net is found by all its names, and F3 goes round', () => {
    const chosen = after({ do: 'choose', named: five });
    expect(chosen.hits.map((one) => one.text)).toEqual(['5V', 'VSYS', '5V']);
    const round: ViewAction[] = [{ do: 'choose', named: five }];
    const pages = [1, 2, 3].map(() => {
      round.push({ do: 'hit', by: 1 });
      return after(...round).page;
    });
    expect(pages).toEqual([2, 3, 2]);
    expect(after({ do: 'choose', named: five }, { do: 'hit', by: -1 }).at).toBe(2);
  });

  it('a search takes the place of what is chosen; nothing found leaves the page', () => {
    const asked = after({ do: 'choose', named: five }, { do: 'ask', text: 'out' });
    expect([asked.page, asked.hits.length]).toEqual([1, 3]);
    expect(after({ do: 'page', page: 3 }, { do: 'ask', text: 'xyz' })).toMatchObject({
      page: 3,
      at: -1,
      hits: [],
    });
  });

  it('pages end where the document does', () => {
    expect(after({ do: 'page', page: 99 }).page).toBe(3);
    expect(after({ do: 'page', page: -4 }).page).toBe(1);
    expect(after({ do: 'hit', by: 1 }).page).toBe(1);
  });

  it('a word is made large enough to be read, whichever way it runs', () => {
    expect(zoomFor({ x: 0, y: 0, w: 40, h: 6.5 }, 1, 0)).toBe(2);
    expect(zoomFor({ x: 0, y: 0, w: 6.5, h: 40 }, 1, 270)).toBe(2);
    expect(zoomFor({ x: 0, y: 0, w: 40, h: 20 }, 1, 0)).toBe(1);
    expect(zoomFor({ x: 0, y: 0, w: 40, h: 0.1 }, 1, 0)).toBe(6);
  });
});

describe('a view that follows what is chosen elsewhere', () => {
  const first = { view: firstState(1), followed: '', went: null };
  it('goes there once, and stays where the reader went on to', () => {
    const there = followingOf(first, five, null, index, names);
    expect(there.view).toMatchObject({ page: 2, chosen: five });
    const on = { ...there, view: viewState(there.view, { do: 'page', page: 1 }, index, names) };
    expect(followingOf(on, five, null, index, names)).toBe(on);
    expect(followingOf(on, out, null, index, names).view.page).toBe(1);
    expect(followingOf(on, null, null, index, names).view).toBe(on.view);
  });

  it('goes where it is sent, once for each sending', () => {
    const wanted = { page: 3, text: '' };
    const sent = followingOf(first, null, wanted, index, names);
    expect(sent.view.page).toBe(3);
    const back = { ...sent, view: viewState(sent.view, { do: 'page', page: 1 }, index, names) };
    expect(followingOf(back, null, wanted, index, names)).toBe(back);
    expect(followingOf(back, null, { ...wanted }, index, names).view.page).toBe(3);
  });
});
