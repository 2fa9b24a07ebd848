import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { Net, Part } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { replacementFor } from './index.ts';

const board = plainBoard(cairnText);
const wants = (ref: string, part: Partial<Part> = {}, net: Partial<Net> = {}): string[] => {
  const changed = {
    ...board,
    parts: board.parts.map((one) => (one.ref === ref ? { ...one, ...part } : one)),
    nets: board.nets.map((one) => ({ ...one, ...net })),
  };
  return replacementFor(changed, ref)!.wants;
};
const first = (kind: Part['kind']): string => board.parts.find((one) => one.kind === kind)!.ref;

describe('what a replacement has to match', () => {
  it('is said for every kind, word for word', () => {
    const kinds = [
      'capacitor',
      'resistor',
      'fuse',
      'coil',
      'diode',
      'schottky',
      'tvs',
      'led',
      'pfet',
      'nfet',
    ] as const;
    const known = kinds.filter((kind) => board.parts.some((one) => one.kind === kind));
    expect(known.map((kind) => `${first(kind)}: ${wants(first(kind)).join(' ')}`))
      .toMatchInlineSnapshot(`
        [
          "C1: The sheet knows no marking: read it off the part before it is lost. 10u, rated for at least one and a half times 19.5 V; polarised ones the right way round. A spare from a donor is measured before it is fitted.",
          "PR1: The sheet knows no marking: read it off the part before it is lost. 0R01, same size; a sense resistor of the same tolerance. A spare from a donor is measured before it is fitted.",
          "F1: The sheet knows no marking: read it off the part before it is lost. Same amps and speed, rated for 19.5 V or more: never larger, never a wire. A spare from a donor is measured before it is fitted.",
          "PL1: The sheet knows no marking: read it off the part before it is lost. 2u2, saturation above the regulator's limit, same height. A spare from a donor is measured before it is fitted.",
          "D5: The sheet knows no marking: read it off the part before it is lost. Same kind; the bar is the cathode: mark it before the old one comes off. A spare from a donor is measured before it is fitted.",
          "D4: The sheet knows no marking: read it off the part before it is lost. Same kind; the bar is the cathode: mark it before the old one comes off. A spare from a donor is measured before it is fitted.",
          "D1: The sheet knows no marking: read it off the part before it is lost. Same kind and breakdown volts (26 V): lower it conducts at the rail's own volts, higher it protects nothing; the bar is the cathode: mark it before the old one comes off. A spare from a donor is measured before it is fitted.",
          "LED1: The sheet knows no marking: read it off the part before it is lost. Same kind; the bar is the cathode: mark it before the old one comes off. A spare from a donor is measured before it is fitted.",
          "PQ1: The sheet knows no marking: read it off the part before it is lost. Package PPAK. P-channel, same pin-out; drain to source well above 19.5 V, as many amps, a threshold its gate drive reaches. A spare from a donor is measured before it is fitted.",
          "Q50: The sheet knows no marking: read it off the part before it is lost. Package SOT-23. N-channel, same pin-out; drain to source well above 30 V, as many amps, a threshold its gate drive reaches. A spare from a donor is measured before it is fitted.",
        ]
      `);
  });

  it('rates it by the highest volts at its pins, the top of a range where there is one', () => {
    const capacitor = first('capacitor');
    expect(wants(capacitor, {}, { rangeVolts: [5, 20] }).join(' ')).toContain('times 20 V');
    expect(wants(capacitor, {}, { volts: 12, rangeVolts: null }).join(' ')).toContain('times 12 V');
    // Nothing known of the nets: said so, and a FET gets the usual 30 V.
    const none = { volts: null, rangeVolts: null };
    expect(wants(capacitor, {}, none).join(' ')).toContain('times its V');
    expect(wants(first('fuse'), {}, none).join(' ')).toContain('rated for the V or more');
    expect(wants(first('pfet'), {}, none).join(' ')).toContain('well above 30 V');
  });

  it('says what it cannot know from the sheet', () => {
    const bare = { valueText: '', marking: '', package: null } as unknown as Partial<Part>;
    const words = (kind: Part['kind']): string => wants(first(kind), bare).join(' ');
    expect(words('capacitor')).toMatch(/^The sheet knows no marking: read it off .* same farads/);
    expect(words('resistor')).toContain('same ohms');
    expect(words('fuse')).toContain('Same amps and speed');
    expect(words('coil')).toContain('Same henries');
    expect(words('coil')).not.toContain('Package');
    expect(wants(first('coil'), { package: '1008' } as Partial<Part>)).toContain('Package 1008.');
    expect(wants(first('coil'), { marking: 'XY1' } as Partial<Part>)[0]).toBe(
      'Marking XY1, or one its data sheet calls the same.',
    );
  });

  it('a clamp has its volts named where the sheet has them', () => {
    expect(wants(first('tvs')).join(' ')).toContain('Same kind and breakdown volts (26 V): lower');
    expect(wants(first('zener')).join(' ')).toContain('Same kind and breakdown volts (');
    expect(wants(first('tvs'), { value: null }).join(' ')).toContain('breakdown volts: lower');
  });

  it('every one ends with the measuring of a spare', () => {
    for (const ref of ['F1', 'PU4', 'C1'])
      expect(replacementFor(board, ref)!.wants.at(-1)).toBe(
        'A spare from a donor is measured before it is fitted.',
      );
  });
});
