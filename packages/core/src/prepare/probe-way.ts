/** A place the probe goes to, and what is read there before it moves on. */
export interface Stop<T> {
  side: string;
  /** In the sheet's units; null where the sheet gives no place. */
  x: number | null;
  y: number | null;
  points: T[];
}

/** Top side first, then the other; on each the shortest way found from where the board begins. */
export function shortestWay<T>(stops: readonly Stop<T>[]): Stop<T>[] {
  const sides = [...new Set(stops.map((one) => one.side))].sort(
    (a, b) => rank(a) - rank(b) || a.localeCompare(b),
  );
  let from: Stop<T> | null = null;
  const order: Stop<T>[] = [];
  for (const side of sides) {
    const here = stops.filter((one) => one.side === side);
    const placed = here.filter((one) => one.x !== null && one.y !== null);
    const way: Stop<T>[] = wayThrough(placed, from);
    order.push(...way, ...here.filter((one) => !placed.includes(one)));
    from = way.at(-1) ?? from;
  }
  return order;
}

const rank = (side: string): number => ['top', 'bottom', ''].indexOf(side);

const moved = (a: Stop<unknown>, b: Stop<unknown>): number =>
  Math.hypot((a.x ?? 0) - (b.x ?? 0), (a.y ?? 0) - (b.y ?? 0));

/** Nearest neighbour, then every crossing undone (2-opt) until none is left. */
function wayThrough<T>(stops: readonly Stop<T>[], from: Stop<T> | null): Stop<T>[] {
  const left = [...stops];
  const way: Stop<T>[] = [];
  let at: Stop<T> | undefined = from ?? left[0];
  while (left.length > 0 && at) {
    const here: Stop<T> = at;
    left.sort((a, b) => moved(here, a) - moved(here, b));
    at = left.shift();
    if (at) way.push(at);
  }
  const step = (a: Stop<T> | undefined, b: Stop<T> | undefined): number =>
    a && b ? moved(a, b) : 0;
  for (let improved = true; improved;) {
    improved = false;
    for (let i = 1; i < way.length - 1; i++) {
      for (let j = i + 1; j < way.length; j++) {
        const before = step(way[i - 1], way[i]) + step(way[j], way[j + 1]);
        const after = step(way[i - 1], way[j]) + step(way[i], way[j + 1]);
        if (after < before - 1e-9) {
          way.splice(i, j - i + 1, ...way.slice(i, j + 1).reverse());
          improved = true;
        }
      }
    }
  }
  return way;
}
