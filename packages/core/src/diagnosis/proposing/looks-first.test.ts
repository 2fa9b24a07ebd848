import { describe, expect, it } from 'vitest';
import type { Board } from '../../board/index.ts';
import type { Diagnosis, Proposal, SuspectFault } from '../index.ts';
import { looksFirst } from '../index.ts';

const part = (ref: string, ...nets: string[]) => ({
  ref,
  pins: nets.map((net, index) => ({ name: String(index + 1), net })),
});
const board = {
  parts: [part('C1', 'A', 'GND'), part('R2', 'B', 'C')],
  nets: ['A', 'B', 'C', 'D', 'E'].map((id) => ({ id })),
  chips: [{ ref: 'U3', pins: new Map([['VCC', 'D']]) }],
} as unknown as Board;
const reading = (net: string, gainBits: number): Proposal => ({ net, gainBits }) as Proposal;
const blamed = (ref: string, probability: number): SuspectFault =>
  ({ fault: { kind: 'open', part: ref }, probability }) as SuspectFault;
const diagnosis = {
  suspects: [{ faults: [blamed('R2', 0.3)] }, { faults: [blamed('C1', 0.2)] }],
  // Best first, as proposed.
  next: [reading('E', 0.9), reading('A', 0.5), reading('C', 0.3), reading('B', 0.01)],
} as unknown as Diagnosis;

describe('the school that looks first', () => {
  it('reads at the damaged part that is the likelier suspect, at its most telling net', () => {
    const found = looksFirst(
      board,
      [
        { kind: 'burnt', part: 'C1' },
        { kind: 'corrosion', part: 'R2' },
      ],
      diagnosis,
    );
    expect(found?.finding.part).toBe('R2');
    expect(found?.proposal.net).toBe('C');
  });

  it('goes on to the next damaged part where the first tells nothing more', () => {
    const found = looksFirst(
      board,
      [
        { kind: 'burnt', part: 'U3' },
        { kind: 'corrosion', part: 'C1' },
      ],
      diagnosis,
    );
    expect(found?.proposal.net).toBe('A');
  });

  it('has nothing to say without findings that lead anywhere', () => {
    expect(looksFirst(board, [], diagnosis)).toBeNull();
    expect(looksFirst(board, [{ kind: 'hot', part: null }], diagnosis)).toBeNull();
  });

  it('reads the net that a spot was tied to', () => {
    const tied = { kind: 'corrosion', part: null, net: 'C' } as const;
    expect(looksFirst(board, [tied], diagnosis)?.proposal.net).toBe('C');
  });
});
