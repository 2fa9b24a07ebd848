import { drawnPicture, type Board } from '../board/index.ts';
import { cameraFloorKelvin } from './heat.ts';

/** A warm place in a grid of degrees; `u` and `v` run from 0 to 1 over it. */
export interface HotSpot {
  u: number;
  v: number;
  celsius: number;
  /** Above the middle of the whole picture. */
  rise: number;
}

const mostSpots = 5;
/** Spots nearer than this part of the picture are one. */
const onePart = 0.06;

/** The warmest places of a grid that stand out of its noise, hottest first. */
export function hotSpots(celsius: readonly (readonly number[])[]): HotSpot[] {
  const all = celsius.flat().sort((a, b) => a - b);
  const middle = all[all.length >> 1] ?? 0;
  const rows = celsius.length;
  const columns = celsius[0]?.length ?? 0;
  const spots: HotSpot[] = [];
  const peaks: HotSpot[] = [];
  celsius.forEach((line, row) =>
    line.forEach((value, column) => {
      if (value - middle < 2 * cameraFloorKelvin) return;
      const beside = [-1, 0, 1].flatMap((up) =>
        [-1, 0, 1].map((over) => celsius[row + up]?.[column + over] ?? -Infinity),
      );
      if (beside.some((one) => one > value)) return;
      peaks.push({
        u: (column + 0.5) / columns,
        v: (row + 0.5) / rows,
        celsius: value,
        rise: value - middle,
      });
    }),
  );
  for (const peak of peaks.sort((a, b) => b.rise - a.rise)) {
    if (spots.some((one) => Math.hypot(one.u - peak.u, one.v - peak.v) < onePart)) continue;
    spots.push(peak);
    if (spots.length === mostSpots) break;
  }
  return spots;
}

/** Parts at a spot of a picture of one whole side of the board, nearest first. */
export function partsAtSpot(
  board: Board,
  side: 'top' | 'bottom',
  { u, v }: { u: number; v: number },
  /** Only these are looked at; all where none is named. */
  among: readonly string[] = [],
): { ref: string; away: number }[] {
  const picture = drawnPicture(board);
  const refs = among.length > 0 ? among : [...board.parts, ...board.chips].map((one) => one.ref);
  return refs
    .flatMap((ref) => {
      const place = picture.placeOf(ref);
      if (place?.side !== side) return [];
      return [
        { ref, away: Math.hypot((place.u - u) * picture.width, (place.v - v) * picture.height) },
      ];
    })
    .sort((a, b) => a.away - b.away)
    .slice(0, 5);
}
