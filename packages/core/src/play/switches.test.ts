import { describe, expect, it } from 'vitest';
import type { ResistorDevice } from '../circuit/index.ts';
import { Switchboard } from './switches.ts';

const resistance = (name: string): ResistorDevice => ({
  kind: 'resistor',
  name,
  a: 1,
  b: 0,
  siemens: 0,
});

describe('the position of all switches', () => {
  // What was solved at a position is taken as it is when the board comes back to it.
  it('is another for the least move, and the same when all is as it was, in whatever order', () => {
    const board = new Switchboard();
    const [pull, drive] = ['pull', 'drive'].map((name) =>
      board.add(name, resistance(name), 'siemens'),
    ) as [ReturnType<Switchboard['add']>, ReturnType<Switchboard['add']>];
    const seen = new Set([board.position]);
    const visit = (): void => {
      expect(seen.has(board.position)).toBe(false);
      seen.add(board.position);
    };
    for (const siemens of [1e-9, 1e-5, 1.0000001e-5, 0.02, 50]) {
      pull.set(siemens);
      visit();
      drive.set(siemens);
      visit();
    }
    drive.set(0);
    pull.set(0);
    expect(seen.has(board.position)).toBe(true);
    expect(board.position).toBe([...seen][0]);
  });

  it('tells which of two like switches moved', () => {
    const positions = [0, 1].map((which) => {
      const board = new Switchboard();
      const switches = [0, 1].map((one) => board.add(`${one}`, resistance(`${one}`), 'siemens'));
      switches[which]!.set(1);
      return board.position;
    });
    expect(positions[0]).not.toBe(positions[1]);
  });
});
