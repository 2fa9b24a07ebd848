/**
 * Solves A x = b for one sparsity pattern many times. The pattern is made symmetric, ordered by
 * minimum degree and factored symbolically once; each numeric factorisation then runs down a flat
 * list of instructions. There is no pivoting: nodal matrices with conductances on the diagonal
 * seldom need it, and the caller judges the residual.
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
  factorProgram: Int32Array;
  sweeps: Int32Array;
  sweepStart: Int32Array;
}

export function orderPattern(
  size: number,
  entries: Iterable<readonly [number, number]>,
): OrderedPattern {
  const neighbours: Set<number>[] = Array.from({ length: size }, () => new Set());
  for (const [row, column] of entries) {
    if (row < 0 || column < 0 || row === column) continue;
    neighbours[row]?.add(column);
    neighbours[column]?.add(row);
  }
  const { order, upper } = eliminate(size, neighbours);

  // Slots: diagonal first, then both triangles.
  const place = new Int32Array(size);
  order.forEach((node, index) => (place[node] = index));
  const slots = new Int32Array(size * size).fill(-1);
  const key = (row: number, column: number): number => row * size + column;
  let count = 0;
  for (let k = 0; k < size; k++) slots[key(k, k)] = count++;
  for (let k = 0; k < size; k++) {
    for (const j of upper[k] as number[]) {
      slots[key(k, j)] = count++;
      slots[key(j, k)] = count++;
    }
  }
  const ground = count;
  const slotAt = (row: number, column: number): number => slots[key(row, column)] as number;

  // For each pivot: how many rows below, then per row: slot of L, number of updates, updates.
  const program: number[] = [];
  for (let k = 0; k < size; k++) {
    const right = upper[k] as number[];
    program.push(right.length);
    for (const i of right) {
      program.push(slotAt(i, k), right.length);
      for (const j of right) program.push(slotAt(k, j), slotAt(i, j));
    }
  }
  const factorProgram = Int32Array.from(program);

  const solveProgram: number[] = [];
  for (let k = 0; k < size; k++) {
    const right = upper[k] as number[];
    solveProgram.push(right.length);
    for (const j of right) solveProgram.push(j, slotAt(j, k), slotAt(k, j));
  }
  const sweeps = Int32Array.from(solveProgram);
  const sweepStart = new Int32Array(size);
  for (let k = 0, at = 0; k < size; k++) {
    sweepStart[k] = at;
    at += 1 + 3 * (sweeps[at] as number);
  }
  return {
    size,
    order: Int32Array.from(order),
    place,
    slots,
    ground,
    factorProgram,
    sweeps,
    sweepStart,
  };
}

export function makeSparseLu(pattern: OrderedPattern): SparseLu {
  const { size, order, place, slots, ground, factorProgram, sweeps, sweepStart } = pattern;
  const values = new Float64Array(ground + 1);
  const work = new Float64Array(size);
  return {
    values,
    slot: (row, column) =>
      row < 0 || column < 0 ? ground : slots[place[row]! * size + place[column]!]!,
    factor() {
      let at = 0;
      let sound = true;
      for (let k = 0; k < size; k++) {
        const pivot = values[k] as number;
        if (!(Math.abs(pivot) > 1e-18)) sound = false;
        const rows = factorProgram[at++] as number;
        for (let r = 0; r < rows; r++) {
          const lower = factorProgram[at++] as number;
          const updates = factorProgram[at++] as number;
          const ratio = (values[lower] as number) / pivot;
          values[lower] = ratio;
          for (const end = at + 2 * updates; at < end; at += 2) {
            const target = factorProgram[at + 1] as number;
            values[target] =
              (values[target] as number) - ratio * (values[factorProgram[at] as number] as number);
          }
        }
      }
      return sound;
    },
    solve(b) {
      for (let k = 0; k < size; k++) work[k] = b[order[k] as number] as number;
      for (let k = 0; k < size; k++) {
        const known = work[k] as number;
        const start = sweepStart[k] as number;
        const end = start + 1 + 3 * (sweeps[start] as number);
        for (let at = start + 1; at < end; at += 3) {
          const row = sweeps[at] as number;
          work[row] = (work[row] as number) - (values[sweeps[at + 1] as number] as number) * known;
        }
      }
      for (let k = size - 1; k >= 0; k--) {
        let sum = work[k] as number;
        const start = sweepStart[k] as number;
        const end = start + 1 + 3 * (sweeps[start] as number);
        for (let at = start + 1; at < end; at += 3) {
          sum -=
            (values[sweeps[at + 2] as number] as number) * (work[sweeps[at] as number] as number);
        }
        work[k] = sum / (values[k] as number);
      }
      for (let k = 0; k < size; k++) b[order[k] as number] = work[k] as number;
    },
  };
}

/** Minimum-degree elimination; upper[k] holds, in elimination places, what pivot k touches later. */
function eliminate(
  size: number,
  neighbours: Set<number>[],
): { order: number[]; upper: number[][] } {
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
