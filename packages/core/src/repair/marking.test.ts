import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { plainBoard } from '@jiko/testing';
import { markingTrouble } from './index.ts';

const board = plainBoard(
  cairnText.replace(
    'parts:\n',
    'parts:\n  R900: { kind: resistor, pins: [GND, VMAIN], value: 22k }\n  C900: { kind: capacitor, pins: [GND, VMAIN], value: 10u }\n',
  ),
);
const flash = board.chips.find((one) => one.kind === 'flash')!;

describe('the marking of a part to be fitted, against the sheet', () => {
  // 223: 22 and three noughts; 2202: 220 and two; 34C: the 34th of E96, 221, times 100 (IEC 60062, EIA-96).
  it.each(['22k', '22 kΩ', '223', '2202', '22K', '34C'])(
    '%s is the 22 kΩ of the sheet',
    (printed) => {
      expect(markingTrouble(board, 'R900', printed)).toBeNull();
    },
  );

  it.each([
    ['222', '2.2 kΩ'],
    ['2R2', '2.2 Ω'],
    ['4k7', '4.7 kΩ'],
    ['01C', '10 kΩ'],
  ])('%s is not, and what it reads as is said', (printed, value) => {
    const said = markingTrouble(board, 'R900', printed);
    expect(said).toContain(value);
    expect(said).toContain('the sheet says 22 kΩ');
  });

  it('capacitors by three digits in picofarads, within a quarter', () => {
    expect(markingTrouble(board, 'C900', '106')).toBeNull();
    expect(markingTrouble(board, 'C900', '12u')).toBeNull();
    expect(markingTrouble(board, 'C900', '105')).toContain('1 µF');
  });

  it('a chip by its marking: what follows it may differ, another one is asked about', () => {
    expect(markingTrouble(board, flash.ref, `${flash.marking.toLowerCase()} JV-1`)).toBeNull();
    expect(markingTrouble(board, flash.ref, 'QQ77')).toMatch(
      new RegExp(`sheet says ${flash.marking}`),
    );
  });

  it('says nothing where nothing can be compared', () => {
    expect(markingTrouble(board, 'R900', '')).toBeNull();
    expect(markingTrouble(board, 'R900', 'blue one')).toBeNull();
    expect(markingTrouble(board, 'nowhere', '222')).toBeNull();
  });
});
