import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import fellText from '../../../../sheets/fell-13.yaml?raw';
import heronText from '../../../../sheets/heron-15.yaml?raw';
import { plainBoard } from '@jiko/testing';
import { placeInScheme, roleOf, schemeOf } from './index.ts';

const [cairn, fell, heron] = [cairnText, fellText, heronText].map(plainBoard) as [
  ReturnType<typeof plainBoard>,
  ReturnType<typeof plainBoard>,
  ReturnType<typeof plainBoard>,
];

describe('what a part is on any board of its scheme', () => {
  it.each([
    ['PQ1', 'pfet at main'],
    ['PL7', 'coil at 1.2 V S3'],
    ['C50', 'capacitor at 1.2 V S3'],
  ])('%s of Cairn 14: %s', (ref, role) => {
    expect(roleOf(cairn, ref)).toBe(role);
  });

  it('a regulator by what it makes, not by what feeds it', () => {
    expect(roleOf(fell, 'U2')).toBe('buck at 5 V');
  });

  it('is nothing at signals alone, and nothing for a name the sheet does not know', () => {
    expect(roleOf(fell, 'SW1')).toBeNull();
    expect(roleOf(fell, 'XX9')).toBeNull();
    expect(placeInScheme(fell, ['SW1', 'XX9', 'U2']).roles).toEqual(['buck at 5 V']);
  });

  it('a scheme is how a board is fed and woken: another name or value does not change it', () => {
    const renamed = plainBoard(fellText.replaceAll('3V3_AON', 'MAIN33'));
    expect(schemeOf(renamed)).toBe(schemeOf(fell));
    expect(new Set([cairn, fell, heron].map(schemeOf)).size).toBe(3);
  });
});
