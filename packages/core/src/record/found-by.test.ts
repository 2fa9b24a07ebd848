import { describe, expect, it } from 'vitest';
import { plainReading } from '@jiko/testing';
import { foundBy, mostWords, wordsOf } from './found-by.ts';

const entry = (body: object, who = 'Mira') => ({ who, body });

describe('a job is found by', () => {
  it('what the owner said, the device, who worked on it, nets, parts and the cause', () => {
    const words = foundBy([
      entry({
        type: 'intake',
        intake: {
          device: 'Heron Büro 15',
          complaint: 'Tea on it, fan turns.',
          board: 'heron-15',
        },
      }),
      entry({
        type: 'reading',
        supersedes: [],
        reading: plainReading('3V3_ALW', 'volts', 'standby', {
          kind: 'number',
          value: 0,
          trend: 'steady',
        }),
      }),
      entry({ type: 'repair', action: 'replaced', parts: ['PU4'], text: 'was hot' }, 'Odo'),
      entry({ type: 'close', outcome: 'repaired', cause: 'shorted regulator' }),
    ]);
    for (const word of ['heron', 'buro', '15', 'tea', 'turns', 'heron-15', '3v3_alw', 'alw', '3v3'])
      expect(words, word).toContain(word);
    for (const word of ['pu4', 'hot', 'mira', 'odo', 'shorted', 'regulator'])
      expect(words, word).toContain(word);
    expect(new Set(words).size).toBe(words.length);
  });

  it('nothing that is the same in every job, no names of entries, and nothing that was erased', () => {
    const words = foundBy([
      entry({ type: 'strike', event: '7a4d6f0e-1111-4222-8333-944455556666', reason: 'slip' }),
      entry({ type: 'intake', intake: { complaint: '(erased)' } }),
    ]);
    expect(words.sort()).toEqual(['mira', 'slip']);
  });

  it('no more words than help, each of them short', () => {
    const text = Array.from({ length: 9000 }, (_, index) => `w${index}`).join(' ');
    const words = foundBy([entry({ type: 'note', text: `${'x'.repeat(900)} ${text}` }, '')]);
    expect(words.length).toBeLessThanOrEqual(mostWords + 8);
    expect(Math.max(...words.map((word) => word.length))).toBe(60);
  });
});

describe('what is typed to find it', () => {
  it.each([
    ['PLTRST# 3V3_ALW', ['pltrst#', '3v3_alw']],
    ['  "Tea", on it! ', ['tea', 'on', 'it']],
    ['+5V R12.1', ['+5v', 'r12.1']],
    ['Büro', ['buro']],
    ['... ()', []],
  ])('%s', (text, words) => {
    expect(wordsOf(text)).toEqual(words);
  });
});
