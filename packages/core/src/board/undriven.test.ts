import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { plainBoard, plainReading } from '@jiko/testing';
import { attachedIn, usualSetup } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { judge } from '../readings/index.ts';
import type { NetId } from './index.ts';
import { undrivenBecause } from './undriven.ts';

const board = plainBoard(cairnText);
const healthy = studyHealthyBoard(board, usualSetup(board));

describe('a net that nothing on the sheet drives', () => {
  it('is a crystal’s end, said so, and no net that something drives', () => {
    const undriven = board.nets.flatMap(({ id }) => (undrivenBecause(board, id) ? [id] : []));
    expect(undriven.sort()).toEqual(['EC_X1', 'EC_X2', 'RTC_X1', 'RTC_X2']);
    expect(undrivenBecause(board, 'EC_X1' as NetId)).toContain('crystal Y2');
    // Low on a good board, and held there by a pin: that is expected.
    expect(healthy.expect('ACDRV#' as NetId, 'volts', 'standby')).toMatchObject({ off: true });
  });

  it('is not expected off, and what is read there is neither good nor bad', () => {
    const net = board.nets.find((one) => one.id === 'RTC_X1')!;
    const expectation = healthy.expect(net.id, 'volts', 'standby');
    expect(expectation.kind).toBe('unknown');
    const reading = plainReading(
      'RTC_X1',
      'volts',
      'standby',
      { kind: 'number', value: 0.6, trend: 'steady' },
      { attached: attachedIn(board, usualSetup(board)) },
    );
    expect(judge(reading, { net, expectation, series: null, drive: null }).kind).toBe('unjudged');
  });
});
