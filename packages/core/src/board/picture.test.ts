import { describe, expect, it } from 'vitest';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import { alignPictures, drawnPicture, frameOf, loadSheet, onSheet, type Pair } from './index.ts';

const board = (text: string) => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error('a demo sheet does not load');
  return loaded.value;
};

describe('the picture drawn from a sheet', () => {
  const picture = drawnPicture(board(cairn));

  it('has every placed part and point inside its frame, the bottom side mirrored', () => {
    const places = board(cairn).parts.flatMap((part) => picture.placeOf(part.ref) ?? []);
    expect(places.length).toBeGreaterThan(150);
    for (const { u, v } of places) {
      expect(Math.min(u, v)).toBeGreaterThan(0);
      expect(Math.max(u, v)).toBeLessThan(1);
    }
    const [left, right] = [picture.placeOf('J1'), picture.placeOf('SW1')];
    expect(left!.u).toBeLessThan(right!.u);
    // On the sheet J3 (x 114) lies to the right of C8 (x 60); seen from below it is the other way round.
    expect(picture.placeOf('J3')!.u).toBeLessThan(picture.placeOf('C8')!.u);
    expect(picture.placeOf('TP3')).toMatchObject({ side: 'top' });
    expect(picture.placeOf('NO1')).toBeNull();
  });

  it('a click is the place it was drawn from, on both sides', () => {
    const placed = board(cairn).parts.filter((one) => one.x !== null && one.y !== null);
    const frame = frameOf(
      [...board(cairn).parts, ...board(cairn).chips, ...board(cairn).points].flatMap(({ x, y }) =>
        x === null || y === null ? [] : [{ x, y }],
      ),
    )!;
    for (const part of placed) {
      const at = picture.placeOf(part.ref)!;
      expect(onSheet(frame, at.side, at)).toEqual({ x: part.x, y: part.y });
    }
    expect(onSheet(frame, 'bottom', { u: 0, v: 0 }).x).toBeCloseTo(frame.left + frame.width, 1);
    expect(frameOf([])).toBeNull();
  });

  it('is bare where the sheet gives no places', () => {
    expect(drawnPicture(board(beck))).toMatchObject({ isEmpty: true, width: 120 });
  });
});

describe('a photo is aligned with the drawing by placed parts', () => {
  const aspects = { from: 1.3, to: 1.5 };
  /** A photo turned by an angle, scaled and shifted; mirrored or not. Computed here the long way. */
  const camera =
    (angle: number, scale: number, shear = 0) =>
    (u: number, v: number) => {
      const [x, y] = [u * aspects.from, v];
      return {
        u: (scale * (x * Math.cos(angle) - y * Math.sin(angle)) + shear * y + 0.2) / aspects.to,
        v: scale * (x * Math.sin(angle) + y * Math.cos(angle)) + 0.1,
      };
    };
  const pairsOf = (shot: ReturnType<typeof camera>, ...at: [number, number][]): Pair[] =>
    at.map(([u, v]) => ({ from: { u, v }, to: shot(u, v) }));

  it('two parts give shift, turn and scale', () => {
    const shot = camera(0.2, 0.7);
    const align = alignPictures(pairsOf(shot, [0.1, 0.2], [0.8, 0.6]), aspects);
    const there = align?.({ u: 0.4, v: 0.9 });
    expect(there?.u).toBeCloseTo(shot(0.4, 0.9).u, 9);
    expect(there?.v).toBeCloseTo(shot(0.4, 0.9).v, 9);
  });

  it('three give a slanted photo as well, and more even out slips of the hand', () => {
    const shot = camera(-0.4, 0.6, 0.15);
    const exact = alignPictures(pairsOf(shot, [0.1, 0.2], [0.8, 0.6], [0.3, 0.9]), aspects);
    expect(exact?.({ u: 0.6, v: 0.1 }).u).toBeCloseTo(shot(0.6, 0.1).u, 9);
    const slipped = pairsOf(shot, [0.1, 0.1], [0.9, 0.1], [0.1, 0.9], [0.9, 0.9]);
    slipped[0]!.to.u += 0.02;
    const near = alignPictures(slipped, aspects)?.({ u: 0.5, v: 0.5 });
    expect(Math.abs(near!.u - shot(0.5, 0.5).u)).toBeLessThan(0.006);
  });

  it('three in a row are taken as two, one part decides nothing', () => {
    const shot = camera(0.3, 0.8);
    const row = alignPictures(pairsOf(shot, [0.1, 0.5], [0.5, 0.5], [0.9, 0.5]), aspects);
    expect(row?.({ u: 0.4, v: 0.9 }).v).toBeCloseTo(shot(0.4, 0.9).v, 6);
    expect(alignPictures(pairsOf(shot, [0.1, 0.5]), aspects)).toBeNull();
    expect(alignPictures(pairsOf(shot, [0.1, 0.5], [0.1, 0.5]), aspects)).toBeNull();
  });
});
