/**
 * Solves A x = b for one sparsity pattern many times. The pattern is made symmetric, ordered by
 * minimum degree and factored symbolically once, as L D U with ones on the diagonals of L and U.
 * There is no pivoting: nodal matrices with conductances on the diagonal seldom need it, and the
 * caller judges the residual.
 *
 * A board's matrix is nearly a tree: most pivots touch one or two others, and loops that short cost
 * more in wrongly guessed branches than in sums. So pivots that do not touch each other are taken
 * together, level by level of the elimination tree, and each kind of step runs down one flat list.
 */
export interface SparseLu {
  /** One slot per entry of the filled pattern, and one more, the last, for what touches ground. */
  values: Float64Array;
  /** Slot of an entry; the ground slot where row or column is negative. */
  slot(row: number, column: number): number;
  /** False when a pivot is too small against its row's scale to be trusted. */
  factor(): boolean;
  /** Overwrites b with x. Call after factor. */
  solve(b: Float64Array): void;
}

/** Order of elimination and fill of one sparsity pattern: worked out once, used by many solvers. */
export interface OrderedPattern {
  size: number;
  order: Int32Array;
  /** Where each row and column stands in the order. */
  place: Int32Array;
  /** Slot of each entry, row by row over the whole square; -1 where there is none. */
  slots: Int32Array;
  /** Number of the slot for what touches ground, the last. */
  ground: number;
  /**
   * By level, and once more at the end: the first of its pivots, of its entries below the diagonal
   * and of its updates.
   */
  levels: { pivots: Int32Array; entries: Int32Array; updates: Int32Array };
  /** Entries off the diagonal, pivot by pivot: pivot, the other row, slot below and slot right of the diagonal. */
  entries: Int32Array;
  /** Slot that is changed, slot below and slot right of the pivot that changes it. */
  updates: Int32Array;
}

export function orderPattern(
  size: number,
  pairs: Iterable<readonly [number, number]>,
): OrderedPattern {
  const neighbours: Set<number>[] = Array.from({ length: size }, () => new Set());
  for (const [row, column] of pairs) {
    if (row < 0 || column < 0 || row === column) continue;
    neighbours[row]?.add(column);
    neighbours[column]?.add(row);
  }
  const { order, upper, level } = byLevel(eliminate(size, neighbours));

  // Slots: diagonal first, then both triangles.
  const place = new Int32Array(size);
  order.forEach((node, index) => (place[node] = index));
  const slots = new Int32Array(size * size).fill(-1);
  const key = (row: number, column: number): number => row * size + column;
  let ground = 0;
  for (let k = 0; k < size; k++) slots[key(k, k)] = ground++;
  for (let k = 0; k < size; k++) {
    for (const j of upper[k]!) {
      slots[key(k, j)] = ground++;
      slots[key(j, k)] = ground++;
    }
  }

  const starts: [number, number, number][] = [];
  const entries: number[] = [];
  const updates: number[] = [];
  for (let k = 0; k < size; k++) {
    if (level[k] !== level[k - 1]) starts.push([k, entries.length, updates.length]);
    for (const i of upper[k]!) {
      const below = slots[key(i, k)]!;
      entries.push(k, i, below, slots[key(k, i)]!);
      for (const j of upper[k]!) updates.push(slots[key(i, j)]!, below, slots[key(k, j)]!);
    }
  }
  starts.push([size, entries.length, updates.length]);
  const startsOf = (which: 0 | 1 | 2): Int32Array => Int32Array.from(starts, (one) => one[which]);
  return {
    size,
    order: Int32Array.from(order),
    place,
    slots,
    ground,
    levels: { pivots: startsOf(0), entries: startsOf(1), updates: startsOf(2) },
    entries: Int32Array.from(entries),
    updates: Int32Array.from(updates),
  };
}

export function makeSparseLu(pattern: OrderedPattern): SparseLu {
  const { size, order, place, slots, ground, levels, entries, updates } = pattern;
  const values = new Float64Array(ground + 1);
  const inverse = new Float64Array(size);
  const work = new Float64Array(size);
  return {
    values,
    slot: (row, column) =>
      row < 0 || column < 0 ? ground : slots[place[row]! * size + place[column]!]!,
    // The lists stand in constants of their own here: read out of the closure, each access costs twice.
    factor() {
      const v = values;
      const inv = inverse;
      const ent = entries;
      const upd = updates;
      const { pivots, entries: firstEntry, updates: firstUpdate } = levels;
      let sound = true;
      for (let level = 1; level < pivots.length; level++) {
        for (let k = pivots[level - 1]!, end = pivots[level]!; k < end; k++) {
          const pivot = v[k]!;
          if (!(Math.abs(pivot) > 1e-18)) sound = false;
          inv[k] = 1 / pivot;
        }
        for (let at = firstEntry[level - 1]!, end = firstEntry[level]!; at < end; at += 4)
          v[ent[at + 2]!]! *= inv[ent[at]!]!;
        for (let at = firstUpdate[level - 1]!, end = firstUpdate[level]!; at < end; at += 3)
          v[upd[at]!]! -= v[upd[at + 1]!]! * v[upd[at + 2]!]!;
      }
      for (let at = 0, end = ent.length; at < end; at += 4) v[ent[at + 3]!]! *= inv[ent[at]!]!;
      return sound;
    },
    solve(b) {
      const v = values;
      const inv = inverse;
      const ent = entries;
      const w = work;
      const o = order;
      const n = size;
      for (let k = 0; k < n; k++) w[k] = b[o[k]!]!;
      for (let at = 0, end = ent.length; at < end; at += 4)
        w[ent[at + 1]!]! -= v[ent[at + 2]!]! * w[ent[at]!]!;
      for (let k = 0; k < n; k++) w[k]! *= inv[k]!;
      for (let at = ent.length - 4; at >= 0; at -= 4)
        w[ent[at]!]! -= v[ent[at + 3]!]! * w[ent[at + 1]!]!;
      for (let k = 0; k < n; k++) b[o[k]!] = w[k]!;
    },
  };
}

/** Pivots of one level do not touch each other: any order that keeps to the levels fills in the same. */
function byLevel({ order, upper }: Elimination): Elimination & { level: number[] } {
  const level = new Array<number>(order.length).fill(0);
  upper.forEach((touched, k) => {
    for (const one of touched) level[one] = Math.max(level[one]!, level[k]! + 1);
  });
  const sorted = [...order.keys()].sort((a, b) => level[a]! - level[b]! || a - b);
  const place = new Int32Array(order.length);
  sorted.forEach((k, index) => (place[k] = index));
  return {
    order: sorted.map((k) => order[k]!),
    upper: sorted.map((k) => upper[k]!.map((one) => place[one]!).sort((a, b) => a - b)),
    level: sorted.map((k) => level[k]!),
  };
}

interface Elimination {
  /** Rows in the order they are eliminated. */
  order: number[];
  /** By place in the order: the places that pivot touches later. */
  upper: number[][];
}

/** Minimum-degree elimination. */
function eliminate(size: number, neighbours: Set<number>[]): Elimination {
  const left = new Set<number>(Array.from({ length: size }, (_, node) => node));
  const order: number[] = [];
  const touched: number[][] = [];
  while (left.size > 0) {
    let best = -1;
    let bestDegree = Infinity;
    for (const node of left) {
      const degree = (neighbours[node] as Set<number>).size;
      if (degree < bestDegree) {
        best = node;
        bestDegree = degree;
      }
    }
    const around = [...(neighbours[best] as Set<number>)];
    for (const one of around) {
      const set = neighbours[one] as Set<number>;
      set.delete(best);
      for (const other of around) if (other !== one) set.add(other);
    }
    left.delete(best);
    order.push(best);
    touched.push(around);
  }
  const place = new Int32Array(size);
  order.forEach((node, index) => (place[node] = index));
  const upper = touched.map((around) =>
    around.map((node) => place[node] as number).sort((a, b) => a - b),
  );
  return { order, upper };
}
