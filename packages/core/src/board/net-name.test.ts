import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNetName } from './index.ts';

// Naming habits: common practice, no source.
describe('net names', () => {
  it.each([
    ['+3V3_ALW', 3.3, 'always'],
    ['1V05_S5', 1.05, 'S5'],
    ['P5V0_RUN', 5, 'S0'],
    ['VCC1R8', 1.8, null],
    ['5VALW', 5, 'always'],
    ['+5V_ALW', 5, 'always'],
    ['3V3_LDO', 3.3, 'always'],
    ['1V2_MEM', 1.2, 'S3'],
    ['VCC_CORE', null, 'S0'],
    ['VMAIN', null, null],
    ['PLTRST#', null, null],
    ['GPIO12', null, null],
  ] as const)('%s', (name, volts, domain) => {
    expect(readNetName(name)).toMatchObject({ volts, domain });
  });

  it('sees an active-low signal', () => {
    expect(readNetName('RSMRST#').activeLow).toBe(true);
    expect(readNetName('RUN_PG').activeLow).toBe(false);
  });

  it('reads any two-digit voltage written with V in place of the point', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 29 }), fc.integer({ min: 0, max: 99 }), (a, b) => {
        const text = String(b).padStart(2, '0');
        expect(readNetName(`+${a}V${text}_ALW`).volts).toBeCloseTo(a + b / 100, 9);
      }),
    );
  });
});
