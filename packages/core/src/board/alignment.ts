/** A place on one picture and where it is on another; both from 0 to 1. */
export interface Pair {
  from: { u: number; v: number };
  to: { u: number; v: number };
}
export type Alignment = (from: { u: number; v: number }) => { u: number; v: number };

/**
 * Carries places of the drawn picture over to a photo of the same side, from parts that were placed
 * on both: two give shift, turn and one scale; three or more the affine map of least squares. Null
 * where the pairs do not decide it. `aspects` are width over height of both pictures.
 */
export function alignPictures(
  pairs: readonly Pair[],
  aspects: { from: number; to: number },
): Alignment | null {
  if (pairs.length < 2) return null;
  const points = pairs.map(({ from, to }) => ({
    x: from.u * aspects.from,
    y: from.v,
    a: to.u * aspects.to,
    b: to.v,
  }));
  const count = points.length;
  const mean = (of: (point: (typeof points)[0]) => number): number =>
    points.reduce((sum, point) => sum + of(point), 0) / count;
  const [mx, my, ma, mb] = [
    mean((one) => one.x),
    mean((one) => one.y),
    mean((one) => one.a),
    mean((one) => one.b),
  ];
  let [xx, xy, yy, xa, ya, xb, yb] = [0, 0, 0, 0, 0, 0, 0];
  for (const point of points) {
    const [x, y, a, b] = [point.x - mx, point.y - my, point.a - ma, point.b - mb];
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xa += x * a;
    ya += y * a;
    xb += x * b;
    yb += y * b;
  }
  const spread = xx + yy;
  if (spread < 1e-6) return null;
  const determinant = xx * yy - xy * xy;
  // Three in a row leave the way across open: shift, turn and scale are all they decide.
  const isAffine = count > 2 && determinant > 1e-4 * spread * spread;
  const [p, q, r, s] = isAffine
    ? [
        (xa * yy - ya * xy) / determinant,
        (ya * xx - xa * xy) / determinant,
        (xb * yy - yb * xy) / determinant,
        (yb * xx - xb * xy) / determinant,
      ]
    : [(xa + yb) / spread, (ya - xb) / spread, (xb - ya) / spread, (xa + yb) / spread];
  return ({ u, v }) => {
    const [x, y] = [u * aspects.from - mx, v - my];
    return { u: (p * x + q * y + ma) / aspects.to, v: r * x + s * y + mb };
  };
}
