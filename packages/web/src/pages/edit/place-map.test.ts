import { describe, expect, it } from 'vitest';
import { frameFor, placedOf, placeMap } from './place-map.ts';

const row = (name: string, x: string, y: string, side = '') => ({ was: name, name, x, y, side });
const placed = placedOf([
  row('C1', '10', '10'),
  row('C2', '110', '10', 'top'),
  row('C3', '10', '70', 'bottom'),
  row('C4', '', '5'),
  row('C5', 'x', '5'),
]);

describe('places of a sheet by clicks on a picture', () => {
  it('counts only rows with both numbers; no side is the top', () => {
    expect(placed.map((one) => [one.ref, one.side])).toEqual([
      ['C1', 'top'],
      ['C2', 'top'],
      ['C3', 'bottom'],
    ]);
  });

  it('a bare board is as wide as was said, and its bottom side mirrored', () => {
    const frame = frameFor([], { wide: 240, aspect: 1.5, isSparse: true });
    const [top, bottom] = (['top', 'bottom'] as const).map((side) => placeMap(frame, side, null)!);
    expect(top!.toSheet({ u: 0.25, v: 0.5 })).toEqual({ x: 60, y: 80 });
    expect(bottom!.toSheet({ u: 0.25, v: 0.5 })).toEqual({ x: 180, y: 80 });
  });

  it('leaves room for what is not placed yet, and none where most is', () => {
    const of = (isSparse: boolean) => frameFor(placed, { wide: 240, aspect: 1.5, isSparse });
    expect(of(true)).toEqual({ left: 0, up: 0, width: 240, height: 160 });
    expect(of(false).width).toBeLessThan(120);
    // A board that is larger than was thought is shown whole.
    const far = [...placed, { ref: 'C9', side: 'top' as const, x: 300, y: -20 }];
    const frame = frameFor(far, { wide: 240, aspect: 1.5, isSparse: true });
    expect(frame.left + frame.width).toBeGreaterThan(300);
    expect(frame.up).toBeLessThan(-20);
  });

  it('a photo lies on the sheet once two parts are placed on both, and there and back is the same', () => {
    const frame = frameFor(placed, { wide: 240, aspect: 1.5, isSparse: false });
    const drawn = placeMap(frame, 'top', null)!;
    const anchor = (at: { x: number; y: number }, u: number, v: number) => ({
      from: { u, v },
      to: drawn.toPicture(at),
    });
    // A photo 3000 by 2000 of which 100 mm of board take half the width, 30 to the left and 20 down.
    const aspect = 1.5;
    const shot = ({ x, y }: { x: number; y: number }) => ({
      u: 0.2 + (x - 10) / 200,
      v: 0.1 + ((y - 10) / 200) * aspect,
    });
    const [a, b] = [placed[0]!, placed[1]!].map((one) => {
      const { u, v } = shot(one);
      return anchor(one, u, v);
    });
    expect(placeMap(frame, 'top', { aspect, anchors: [a!] })).toBeNull();
    const map = placeMap(frame, 'top', { aspect, anchors: [a!, b!] })!;
    const wanted = { x: 60, y: 40 };
    expect(map.toSheet(shot(wanted))).toEqual(wanted);
    const back = map.toPicture(wanted);
    expect(back.u).toBeCloseTo(shot(wanted).u, 6);
    expect(back.v).toBeCloseTo(shot(wanted).v, 6);
  });
});
