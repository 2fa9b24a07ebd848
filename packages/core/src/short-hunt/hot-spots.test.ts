import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { drawnPicture } from '../board/index.ts';
import { plainBoard } from '@jiko/testing';
import { hotSpots, partsAtSpot } from './index.ts';

const board = plainBoard(cairnText);

/** 60 by 80 pixels at 24 °C with warm blobs, as a camera sees a board with a hot part. */
const picture = (spots: readonly { u: number; v: number; rise: number }[]): number[][] =>
  Array.from({ length: 60 }, (_, row) =>
    Array.from({ length: 80 }, (_, column) =>
      spots.reduce((sum, one) => {
        const away = Math.hypot((column + 0.5) / 80 - one.u, (row + 0.5) / 60 - one.v);
        return sum + one.rise * Math.exp(-((away / 0.05) ** 2));
      }, 24),
    ),
  );

describe('hot spots', () => {
  it('are the warm places that stand out, hottest first', () => {
    const spots = hotSpots(
      picture([
        { u: 0.3, v: 0.4, rise: 6 },
        { u: 0.8, v: 0.7, rise: 12 },
      ]),
    );
    expect(spots).toHaveLength(2);
    expect(spots[0]!.u).toBeCloseTo(0.8, 1);
    expect(spots[0]!.rise).toBeGreaterThan(11);
    expect(hotSpots(picture([{ u: 0.5, v: 0.5, rise: 0.6 }]))).toEqual([]);
  });

  it('lead to the part that stands there, mirrored on the bottom side', () => {
    // One on each side.
    for (const ref of ['C13', 'C8']) {
      const place = drawnPicture(board).placeOf(ref)!;
      const [spot] = hotSpots(picture([{ ...place, rise: 10 }]));
      expect(partsAtSpot(board, place.side, spot!)[0]?.away).toBeLessThan(3);
      expect(partsAtSpot(board, place.side, spot!, [ref])[0]?.ref).toBe(ref);
    }
  });
});
