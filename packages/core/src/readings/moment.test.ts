import { describe, expect, it } from 'vitest';
import { askOnce, otherMoment, type Mode, type Phase } from './index.ts';

describe('a reading wanted in another phase than the strip says', () => {
  it.each<[Mode, Phase, Phase, Phase | null]>([
    ['ohms', 'cold', 'cold', null],
    ['ohms', 'cold', 'standby', 'cold'],
    ['diode', 'cold', 'run', 'cold'],
    // Whatever it says: ohms are never taken with the source on.
    ['ohms', 'standby', 'standby', 'cold'],
    ['volts', 'standby', 'cold', 'standby'],
    ['volts', 'cold', 'cold', 'standby'],
    ['volts', 'standby', 'standby', null],
    ['volts', 'standby', 'run', null],
    ['volts', 'run', 'standby', 'run'],
    ['volts', 'run', 'trying', null],
    ['volts', 'trying', 'pressed', null],
    ['amps', 'pressed', 'standby', 'pressed'],
  ])('%s wanted in %s, strip on %s: %s', (mode, phase, strip, asked) => {
    expect(otherMoment({ mode, phase }, strip)?.phase ?? null).toBe(asked);
  });

  it('where only the phase itself will do, another one after the press is asked about too', () => {
    expect(otherMoment({ mode: 'volts', phase: 'standby' }, 'run', true)?.phase).toBe('standby');
    expect(otherMoment({ mode: 'volts', phase: 'run' }, 'run', true)).toBeNull();
    expect(otherMoment({ mode: 'ohms', phase: 'cold' }, 'cold', true)).toBeNull();
  });

  it.each<[Mode, Phase, Phase, string]>([
    [
      'ohms',
      'cold',
      'standby',
      'Source off, battery unplugged? Enter again writes it down as read cold.',
    ],
    [
      'volts',
      'standby',
      'cold',
      'Source on, button not pressed? Enter again writes it down as read in standby.',
    ],
    [
      'volts',
      'pressed',
      'cold',
      'Button held down? Enter again writes it down as read in pressed.',
    ],
    [
      'volts',
      'trying',
      'cold',
      'Pressed, and it goes off again by itself? Enter again writes it down as read in trying.',
    ],
    [
      'volts',
      'run',
      'cold',
      'Pressed, and it stays on? Enter again writes it down as read in run.',
    ],
  ])('%s in %s: what to make sure of', (mode, phase, strip, text) => {
    expect(askOnce(otherMoment({ mode, phase }, strip), null)).toBe(text);
  });
});
