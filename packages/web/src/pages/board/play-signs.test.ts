import { describe, expect, it } from 'vitest';
import { parseFault, withFaults } from '@jiko/core/faults';
import { playBoard, usualSetup, type Play } from '@jiko/core/play';
import { plainBoard } from '@jiko/testing';
import cairn from '../../../../../sheets/cairn-14.yaml?raw';
import { lastMoment } from './play-signs.tsx';

const board = plainBoard(cairn);
const playWith = (text: string): Play => {
  const fault = parseFault(board, text);
  if (!fault.ok) throw new Error(text);
  return playBoard(withFaults(board, [fault.value]), usualSetup(board));
};

describe('what is seen of a play without a probe', () => {
  it('is called by what the board does then: run, try, or be off again after it collapsed', () => {
    expect(lastMoment(playBoard(board, usualSetup(board)))).toBe('Running');
    expect(lastMoment(playWith('1V2_MEM:short=0.05'))).toBe('Trying');
    expect(lastMoment(playWith('adapter:weak'))).toBe('Off again');
  });
});
