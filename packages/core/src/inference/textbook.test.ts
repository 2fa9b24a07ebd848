import { describe, expect, it } from 'vitest';
import { expectedGain, posterior } from './index.ts';

// The same code as for boards, on circuits and numbers of textbooks.

describe('Bayes', () => {
  it('a worked example: a test that is right 99 and 95 times in 100, prevalence 1 in 1000, gives 1.9 %', () => {
    // By hand: 0.99 * 0.001 / (0.99 * 0.001 + 0.05 * 0.999) = 0.019432...
    const after = posterior(Float64Array.of(Math.log(0.001), Math.log(0.999)), [
      Float64Array.of(Math.log(0.99), Math.log(0.05)),
    ]);
    expect(after[0]).toBeCloseTo(0.00099 / (0.00099 + 0.04995), 10);
    expect(after[0]).toBeCloseTo(0.0194, 4);
  });

  it('keeps apart what would run out of digits as a product', () => {
    const one = Float64Array.of(-900, -901);
    const after = posterior(Float64Array.of(0, 0), [one, one]);
    expect(after[0]).toBeCloseTo(1 / (1 + Math.exp(-2)), 10);
  });

  it('expected gain is what plain enumeration of outcomes gives', () => {
    const weights = [0.4, 0.3, 0.2, 0.1];
    const classes = [0, 0, 1, 2];
    const outcomes = [0, 1, 1, 2];
    const wrong = 0.1;
    const bits = (list: number[]): number =>
      list.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0);
    const before = bits([0.7, 0.2, 0.1]);
    let after = 0;
    for (let o = 0; o < 3; o++) {
      const joint = [0, 0, 0];
      weights.forEach((weight, h) => {
        const chance = (outcomes[h] === o ? 1 - wrong : 0) + wrong / 3;
        joint[classes[h]!]! += weight * chance;
      });
      const total = joint.reduce((a, b) => a + b);
      after += total * bits(joint.map((one) => one / total));
    }
    expect(expectedGain(weights, classes, 3, outcomes, 3, wrong)).toBeCloseTo(before - after, 10);
  });
});

describe('de Kleer and Williams, "Diagnosing multiple faults" (1987), figure 1', () => {
  // x = a c, y = b d, z = c e, f = x + y, g = y + z; a, b, c, d, e = 3, 2, 2, 3, 3; seen f 10, g 12.
  type Part = 'M1' | 'M2' | 'M3' | 'A1' | 'A2';
  /** What each part says while it works: coefficients of x, y, z and what they add up to. */
  const says = (f: number, g: number): Record<Part, [number, number, number, number]> => ({
    M1: [1, 0, 0, 3 * 2],
    M2: [0, 1, 0, 2 * 3],
    M3: [0, 0, 1, 2 * 3],
    A1: [1, 1, 0, f],
    A2: [0, 1, 1, g],
  });
  const parts: readonly Part[] = ['M1', 'M2', 'M3', 'A1', 'A2'];

  /** Whether equations in three unknowns have a common solution, by elimination. */
  function isSolvable(equations: readonly number[][]): boolean {
    const rows = equations.map((row) => [...row]);
    let done = 0;
    for (let column = 0; column < 3; column++) {
      const pivot = rows.findIndex((row, index) => index >= done && Math.abs(row[column]!) > 1e-9);
      if (pivot < 0) continue;
      [rows[done], rows[pivot]] = [rows[pivot]!, rows[done]!];
      for (let index = done + 1; index < rows.length; index++) {
        const times = rows[index]![column]! / rows[done]![column]!;
        rows[index] = rows[index]!.map((value, place) => value - times * rows[done]![place]!);
      }
      done++;
    }
    return rows.slice(done).every((row) => Math.abs(row[3]!) < 1e-9);
  }

  /** The smallest set of parts, none of them broken, that cannot all work; null where all can. */
  function conflict(broken: readonly Part[], seen: Record<string, number>): Part[] | null {
    const equations = says(seen['f']!, seen['g']!);
    const measured = ['x', 'y', 'z'].flatMap((point, place) =>
      seen[point] === undefined
        ? []
        : [[0, 1, 2].map((at): number => (at === place ? 1 : 0)).concat(seen[point])],
    );
    const working = parts.filter((part) => !broken.includes(part));
    const subsets = Array.from({ length: 2 ** working.length }, (_, mask) =>
      working.filter((_part, place) => (mask >> place) & 1),
    ).sort((a, b) => a.length - b.length);
    return (
      subsets.find((set) => !isSolvable([...set.map((part) => equations[part]), ...measured])) ??
      null
    );
  }
  /** All sets of up to three broken parts, the smaller the likelier; weighed as sets of faults on a board are. */
  const sets = Array.from({ length: 2 ** parts.length }, (_, mask) =>
    parts.filter((_part, place) => (mask >> place) & 1),
  ).filter((set) => set.length <= 3);
  const diagnoses = (seen: Record<string, number>): string[] => {
    const weights = posterior(
      Float64Array.from(sets, (set) => set.length * Math.log(0.01)),
      [Float64Array.from(sets, (set) => (conflict(set, seen) === null ? 0 : -Infinity))],
    );
    const standing = sets.filter((_, index) => weights[index]! > 0);
    return standing
      .filter(
        (set) =>
          !standing.some(
            (other) => other.length < set.length && other.every((part) => set.includes(part)),
          ),
      )
      .map((set) => [...set].sort().join(' '))
      .sort();
  };

  it('has the minimal diagnoses {A1}, {M1}, {A2, M2}, {M2, M3}', () => {
    expect(diagnoses({ f: 10, g: 12 })).toEqual(['A1', 'A2 M2', 'M1', 'M2 M3']);
  });

  it('x is the point to measure next: it parts the two single diagnoses', () => {
    // All parts fail alike often; pairs are as much less likely. x is 4 if M1 is broken, else 6.
    const named = ['A1', 'M1', 'A2 M2', 'M2 M3'];
    const weights = [0.01, 0.01, 0.0001, 0.0001];
    const predicts: Record<string, number[]> = {
      // By hand from f = 10 and g = 12.
      x: [6, 4, 6, 6],
      y: [6, 6, 4, 4],
      z: [6, 6, 6, 8],
    };
    const gain = (point: string): number => {
      const values = predicts[point]!;
      const kinds = [...new Set(values)];
      return expectedGain(
        weights,
        named.map((_, i) => i),
        named.length,
        values.map((v) => kinds.indexOf(v)),
        kinds.length,
        0,
      );
    };
    expect(gain('x')).toBeGreaterThan(0.9);
    expect(gain('x')).toBeGreaterThan(10 * gain('y'));
    expect(gain('x')).toBeGreaterThan(10 * gain('z'));
    // Measured, it leaves one of the two.
    expect(diagnoses({ f: 10, g: 12, x: 6 })).toEqual(['A1', 'A2 M2', 'M2 M3']);
    expect(diagnoses({ f: 10, g: 12, x: 4 })).toContain('M1');
    expect(diagnoses({ f: 10, g: 12, x: 4 })).not.toContain('A1');
  });
});

describe('ISCAS-85 c17, single stuck-at faults', () => {
  // F. Brglez and H. Fujiwara, 1985 (netlist from memory): six NAND gates.
  const gates: [string, string, string][] = [
    ['10', '1', '3'],
    ['11', '3', '6'],
    ['16', '2', '11'],
    ['19', '11', '7'],
    ['22', '10', '16'],
    ['23', '16', '19'],
  ];
  const lines = ['1', '2', '3', '6', '7', ...gates.map(([out]) => out)];
  interface Stuck {
    line: string;
    at: 0 | 1;
  }
  const faults = lines.flatMap((line): Stuck[] => [
    { line, at: 0 },
    { line, at: 1 },
  ]);
  function simulate(vector: number, fault: Stuck | null): string {
    const value = new Map<string, number>();
    const set = (line: string, bit: number): void => {
      value.set(line, fault?.line === line ? fault.at : bit);
    };
    lines.slice(0, 5).forEach((line, place) => set(line, (vector >> place) & 1));
    for (const [out, a, b] of gates) set(out, value.get(a)! & value.get(b)! ? 0 : 1);
    return `${value.get('22')}${value.get('23')}`;
  }

  it('what stands after a few vectors is what a brute-force listing leaves', () => {
    const vectors = [0b00000, 0b01101, 0b10110, 0b11011];
    for (const truth of faults) {
      const observed = vectors.map((vector) => simulate(vector, truth));
      const after = posterior(
        new Float64Array(faults.length).fill(-Math.log(faults.length)),
        vectors.map((vector, index) =>
          Float64Array.from(faults, (fault) =>
            simulate(vector, fault) === observed[index] ? 0 : -Infinity,
          ),
        ),
      );
      const standing = faults.filter((_, index) => after[index]! > 0);
      const listed = faults.filter((fault) =>
        vectors.every((vector, i) => simulate(vector, fault) === observed[i]),
      );
      expect(standing).toEqual(listed);
      expect(standing).toContainEqual(truth);
    }
  });

  it('the vector of most gain parts the faults at least as well as any other', () => {
    const weights = faults.map(() => 1 / faults.length);
    const own = faults.map((_, index) => index);
    const gainOf = (vector: number): number => {
      const outcomes = faults.map((fault) =>
        ['00', '01', '10', '11'].indexOf(simulate(vector, fault)),
      );
      return expectedGain(weights, own, faults.length, outcomes, 4, 0);
    };
    const left = (vector: number): number => {
      // Mean of ln(size) over the faults: what a brute-force count leaves open.
      const sizes = new Map<string, number>();
      for (const fault of faults) {
        const outcome = simulate(vector, fault);
        sizes.set(outcome, (sizes.get(outcome) ?? 0) + 1);
      }
      return [...sizes.values()].reduce(
        (sum, size) => sum + (size / faults.length) * Math.log2(size),
        0,
      );
    };
    for (let vector = 0; vector < 32; vector++)
      expect(gainOf(vector)).toBeCloseTo(Math.log2(faults.length) - left(vector), 9);
  });
});
