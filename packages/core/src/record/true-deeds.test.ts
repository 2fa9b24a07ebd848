import { describe, expect, it } from 'vitest';
import { eventBodySchema } from './index.ts';

// What was done or seen is taken, however unwise; what earlier versions wrote opens unchanged.
const fed = {
  type: 'fed',
  net: 'VMAIN',
  at: null,
  volts: 19,
  limitAmps: 5,
  drawnVolts: null,
  drawnAmps: 5,
};
const id = '00000000-0000-4000-8000-000000000001';

describe('true deeds and true sights', () => {
  it.each([
    ['an injection its play calls harmful', { ...fed, despite: ['It lifts 1V8_S5 to 3.3 V.'] }],
    ['heat found by finger', { type: 'warm', fed: id, part: 'C1', rise: null, by: 'finger' }],
    ['heat found by a film', { type: 'warm', fed: id, part: 'C1', rise: null, by: 'film' }],
    ['heat on its own power', { type: 'warm', fed: null, part: 'C1', rise: null, by: 'own-power' }],
    ['a swollen cell', { type: 'finding', kind: 'swollen', part: null, text: '' }],
    ['another battery', { type: 'tried', thing: 'other-battery', result: 'helped' }],
    [
      'what is not on the board',
      { type: 'repair', action: 'beside', beside: 'coin-cell', parts: [], text: '' },
    ],
  ])('%s is kept', (_, body) => {
    expect(eventBodySchema.parse(body)).toMatchObject(body);
  });

  it('what earlier versions wrote is as it was', () => {
    for (const old of [fed, { type: 'warm', fed: id, part: 'C1', rise: 3, by: 'grid' }])
      expect(eventBodySchema.parse(old)).toMatchObject(old);
    expect(eventBodySchema.parse(fed)).not.toHaveProperty('despite');
  });
});
