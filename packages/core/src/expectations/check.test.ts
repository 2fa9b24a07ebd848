import { describe, expect, it } from 'vitest';
import { loadSheet, sheetIssueText } from '../board/index.ts';
import wren from '../../../../sheets/wren-5.yaml?raw';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import { checkHealthyPlay } from './index.ts';

/** What the healthy play finds wrong with a text, in words. */
function doubts(text: string): string[] {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(loaded.error.map(sheetIssueText).join(' '));
  return checkHealthyPlay(loaded.value, text).map(sheetIssueText);
}

/** Changes the first line that matches; throws where none does, so that no test passes by itself. */
function changed(text: string, from: string | RegExp, to: string): string {
  const made = text.replace(from, to);
  if (made === text) throw new Error(`nothing like ${String(from)} in the sheet`);
  return made;
}

const lineOf = (text: string, part: string): number =>
  text.split('\n').findIndex((line) => line.includes(part)) + 1;

describe('what the healthy play says of a sheet', () => {
  it('says who holds a rail whose stated and played volts differ, and where it stands', () => {
    const text = changed(wren, 'title: "1V8", volts: 1.8', 'title: "1V8", volts: 1.5');
    const found = doubts(text).find((one) => one.includes('is stated as'));
    expect(found).toBe(
      `Line ${lineOf(text, '  1V8: {')}: 1V8 is stated as 1.8 V but the healthy play gives 1.499 V: U2 gives it from 5V_SYS (5.08 V).`,
    );
  });

  it('says that a goal is reached all the same while a stage never comes', () => {
    const spare = changed(
      wren,
      'SD_EN: { kind: signal }',
      'SD_EN: { kind: signal }\n  NONE: { kind: signal }',
    );
    const never = changed(spare, 'EN: SD_EN, GND', 'EN: NONE, GND');
    const found = doubts(never).find((one) => one.includes('never comes up'));
    expect(found).toContain('counts as reached all the same');
    expect(found).toMatch(/"boots"/);
  });

  it('a sheet without a source is said to be one, and is not played', () => {
    const text = changed(wren, /^sources:\n[\s\S]*?(?=^goals:)/m, 'sources: {}\n');
    expect(doubts(text)).toEqual([expect.stringContaining('names no source yet')]);
  });

  it('names a source on which nothing comes up, with its line', () => {
    const text = changed(
      changed(
        beck,
        /^sources:\n/m,
        'sources:\n  spare: { kind: bench, title: "spare plug", net: SPARE, volts: 12, limit: 2 }\n',
      ),
      /^nets:\n/m,
      'nets:\n  SPARE: { kind: rail, volts: 12 }\n',
    );
    const found = doubts(text).filter((one) => one.includes('spare plug'));
    expect(found).toHaveLength(1);
    expect(found[0]).toContain(`Line ${lineOf(text, 'spare: {')}`);
    expect(found[0]).toContain('SPARE');
    expect(doubts(beck)).toEqual([]);
  });
});
