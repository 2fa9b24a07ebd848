import { describe, expect, it } from 'vitest';
import { seeded } from '@jiko/core/base';
import { findNet, lintBoard, loadSheet, sheetIssueText } from '@jiko/core/board';
import { checkHealthyPlay } from '@jiko/core/expectations';
import { playBoard, usualSetup } from '@jiko/core/play';
import { boardOf, eventsOf, sheetText, toldRepairs, unseenSheets } from './repairs.ts';
import { newWays } from './ways.ts';

// Of the sheets nobody developed on only lint and the healthy play are run here, and of the repairs only
// whether they can be read: what the diagnosis makes of them is for a measurement.

describe.each(unseenSheets)('the sheet %s', (id) => {
  it('loads, lints clean, and its healthy board reaches its goals', () => {
    const text = sheetText(id);
    const loaded = loadSheet(text);
    expect(loaded.ok ? [] : loaded.error.map(sheetIssueText)).toEqual([]);
    if (!loaded.ok) return;
    const board = loaded.value;
    expect(
      [...lintBoard(board, text), ...checkHealthyPlay(board, text)].map(sheetIssueText),
    ).toEqual([]);
  });
});

describe('forty repairs in words', () => {
  const repairs = toldRepairs();
  it('are forty, each with a name of its own, of at least fifteen of the twenty causes', () => {
    expect(new Set(repairs.map(({ name }) => name)).size).toBe(40);
    expect(new Set(repairs.map(({ of }) => of)).size).toBeGreaterThanOrEqual(15);
  });
  it.each(repairs)('$name: can be written down on its board', (told) => {
    const board = boardOf(told.sheet);
    expect(board.goals.map(({ id }) => String(id))).toContain(told.signs.goal);
    expect(eventsOf(board, told).length).toBeGreaterThanOrEqual(told.readings.length);
    const refs = [...board.parts, ...board.chips].map(({ ref }) => String(ref));
    for (const { part } of [...told.findings, ...told.deeds]) expect(refs).toContain(part);
    for (const pattern of [...told.cause, ...told.accepted, ...told.forbidden])
      expect(() => new RegExp(pattern)).not.toThrow();
  });
  it('name nets that are there in what they accept', () => {
    for (const told of repairs)
      for (const pattern of told.accepted) {
        const net = /^\^read ([A-Z0-9_]+\d?)(?: |$)/.exec(pattern)?.[1];
        if (net)
          expect(findNet(boardOf(told.sheet), net)?.id, `${told.name}: ${pattern}`).toBeDefined();
      }
  });
});

describe('twelve new ways of failing', () => {
  it('are twelve, and each changes some board of the demo', () => {
    expect(Object.keys(newWays)).toHaveLength(12);
    const boards = ['cairn-14', 'otter-14', 'tarn-duo'].map(boardOf);
    for (const [name, way] of Object.entries(newWays)) {
      const chance = seeded(7);
      const made = boards.flatMap((board) =>
        Array.from({ length: 8 }, () => way(board, chance)).filter((failing) => failing !== null),
      );
      expect(made.length, name).toBeGreaterThan(0);
      const [failing] = made;
      expect(failing?.name).not.toBe('');
    }
    const board = boardOf('beck-mini');
    const leak = newWays['a rail that leaks by ten to a hundred ohms']?.(board, seeded(3));
    const setup = usualSetup(board);
    const amps = (read: typeof board): number =>
      playBoard(read, setup).phases.get('standby')?.sourceAmps ?? 0;
    expect(amps(leak!.board)).toBeGreaterThan(amps(board));
  });
});
