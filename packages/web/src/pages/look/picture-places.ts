import type { BoardPlace } from '@jiko/contract';
import { alignPictures, type Board, type DrawnPicture, type Side } from '@jiko/core/board';

/** Where a part is on the picture shown, and how that is known. */
export interface Spot {
  ref: string;
  u: number;
  v: number;
  /** placed by someone; carried over from the sheet by parts that were placed; straight from the sheet. */
  how: 'placed' | 'aligned' | 'sheet';
}

export interface Shown {
  side: Side;
  /** Id of the photo, or `drawn`. */
  frame: string;
  /** Width over height. */
  aspect: number;
}

/** Every part, chip and point that can be shown on one side of a board. */
export function spotsOn(
  board: Board,
  drawn: DrawnPicture,
  places: readonly BoardPlace[],
  { side, frame, aspect }: Shown,
): Spot[] {
  const refs = [...board.parts, ...board.chips.filter((one) => !one.virtual)].map(
    (one) => one.ref as string,
  );
  const placed = new Map(
    places.filter((one) => one.frame === frame).map((one) => [one.ref, one.at]),
  );
  // Points lie on parts that are shown: they stand by themselves once somebody placed them.
  refs.push(...board.points.map((one) => one.id).filter((id) => placed.has(id)));
  const onSheet = (ref: string) => {
    const at = drawn.placeOf(ref);
    return at?.side === side ? at : null;
  };
  const align =
    frame === 'drawn'
      ? (at: { u: number; v: number }) => at
      : alignPictures(
          [...placed].flatMap(([ref, to]) => {
            const from = to.side === side ? onSheet(ref) : null;
            return from ? [{ from, to }] : [];
          }),
          { from: drawn.width / drawn.height, to: aspect },
        );
  return refs.flatMap((ref): Spot[] => {
    const own = placed.get(ref);
    if (own) return own.side === side ? [{ ref, u: own.u, v: own.v, how: 'placed' }] : [];
    const sheet = onSheet(ref);
    if (!sheet || !align) return [];
    const at = align(sheet);
    const isInside = at.u >= 0 && at.u <= 1 && at.v >= 0 && at.v <= 1;
    return isInside ? [{ ref, ...at, how: frame === 'drawn' ? 'sheet' : 'aligned' }] : [];
  });
}

/** Nearer than this, as a part of the picture's height, a click means the part. */
const snapReach = 0.035;

/** The part a click means; null where none is near. */
export function snapTo(
  spots: readonly Spot[],
  at: { u: number; v: number },
  aspect: number,
): Spot | null {
  const far = (one: Spot): number => Math.hypot((one.u - at.u) * aspect, one.v - at.v);
  const nearest = spots.toSorted((a, b) => far(a) - far(b))[0];
  return nearest && far(nearest) < snapReach ? nearest : null;
}
