import { describe, expect, it } from 'vitest';
import fell from '../../../../sheets/fell-13.yaml?raw';
import type { GoalId } from '../board/index.ts';
import {
  plainBoard,
  plainIntake,
  plainJob,
  plainReading,
  walkJob,
  type WalkedTrace,
} from '@jiko/testing';
import { attachedIn, usualSetup } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import type { Phase } from '../readings/index.ts';

const board = plainBoard(fell);
const setup = usualSetup(board);
const healthy = studyHealthyBoard(board, setup);
const attached = attachedIn(board, setup);

const read = (net: string, volts: number, phase: Phase = 'standby'): object => ({
  type: 'reading',
  supersedes: [],
  reading: plainReading(
    net,
    'volts',
    phase,
    { kind: 'number', value: volts, trend: 'steady' },
    { attached },
  ),
});
const trace = (...events: object[]): WalkedTrace =>
  walkJob(
    healthy,
    plainJob(plainIntake({ board: board.id, source: setup.source }), ...events),
    'boots' as GoalId,
  );

describe('a reading that is in doubt by itself', () => {
  it('is read again where no source gives so much, and not a little below that', () => {
    expect(trace(read('VSYS', 23.1)).next).toMatchObject({ net: 'VSYS', isAgain: true });
    expect(trace(read('VSYS', 22.9)).next?.isAgain).toBeUndefined();
    // Lifted above the input on a good board as well.
    expect(trace(read('GATE_C', 27.8)).next?.isAgain).toBeUndefined();
  });

  it('is read again where it reads dead and what it feeds is there, once', () => {
    const dead = [read('5V_AON', 5), read('VSYS', 0)];
    expect(trace(...dead).next).toMatchObject({ net: 'VSYS', phase: 'standby', isAgain: true });
    expect(trace(...dead).next?.why).toContain('5V_AON');
    expect(trace(...dead, read('VSYS', 0)).next?.isAgain).toBeUndefined();
    // What was there in another phase says nothing.
    expect(trace(read('5V_AON', 5, 'run'), read('VSYS', 0)).next?.isAgain).toBeUndefined();
  });
});

describe('what something else has proven', () => {
  it('is not asked for: what is there has had all it needs', () => {
    const { next, stages } = trace(read('3V3_RUN', 3.3, 'run'), read('VR_EN', 0, 'run'));
    expect(['VBUS', 'VSYS', '3V3_AON', 'RUN_EN']).not.toContain(next?.net);
    expect(stages.find(({ stage }) => stage.gives.includes('VBUS' as never))?.state).toBe('enough');
  });
});

describe('the line of the button', () => {
  const rest = [read('3V3_AON', 3.3), read('MCU_RST#', 3.3)];
  it('is what is missing where it does not move while the button is held', () => {
    const { firstMissing, next } = trace(...rest, read('BTN#', 3.3), read('BTN#', 3.2, 'pressed'));
    expect(firstMissing).toMatchObject({ net: 'BTN#', certain: true, stage: 'button' });
    expect(firstMissing?.why).toContain('SW1');
    expect(next).toBeNull();
  });

  it('is not where it moves, or where it does not stand at rest', () => {
    const moves = trace(...rest, read('BTN#', 3.3), read('BTN#', 0.1, 'pressed'));
    expect(moves.firstMissing).toBeNull();
    // Not far enough is another fault: something holds it.
    const half = trace(...rest, read('BTN#', 3.3), read('BTN#', 2.2, 'pressed'));
    expect(half.firstMissing?.why).not.toContain('does not move');
    expect(trace(...rest, read('BTN#', 0), read('BTN#', 0, 'pressed')).firstMissing?.why).toContain(
      'expected',
    );
  });
});
