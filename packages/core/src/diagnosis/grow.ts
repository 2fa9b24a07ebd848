/**
 * Minimal sets that explain everything seen: consistency-based diagnosis as in J. de Kleer and B. C.
 * Williams, "Diagnosing multiple faults" (Artificial Intelligence 32, 1987). Sets are grown from the
 * empty one; where one does not explain all, only members that could resolve its conflict are added
 * (R. Reiter, "A theory of diagnosis from first principles", 1987; from memory), so that pairs are
 * never enumerated.
 */
export function minimalExplanations<T>(
  /** Null where the set explains all; else members of which at least one must be added. */
  conflictOf: (set: readonly T[]) => readonly T[] | null,
  mostMembers: number,
): T[][] {
  const found: T[][] = [];
  const seen = new Set<string>();
  const numbers = new Map<T, number>();
  const keyOf = (set: readonly T[]): string =>
    set
      .map((one) => {
        if (!numbers.has(one)) numbers.set(one, numbers.size);
        return numbers.get(one) as number;
      })
      .sort((a, b) => a - b)
      .join();
  const holds = (set: readonly T[], part: readonly T[]): boolean =>
    part.every((one) => set.includes(one));
  let front: T[][] = [[]];
  while (front.length > 0) {
    const next: T[][] = [];
    for (const set of front) {
      if (found.some((smaller) => holds(set, smaller))) continue;
      const conflict = conflictOf(set);
      if (conflict === null) {
        found.push(set);
        continue;
      }
      if (set.length === mostMembers) continue;
      for (const one of conflict) {
        const grown = [...set, one];
        const key = keyOf(grown);
        if (set.includes(one) || seen.has(key)) continue;
        seen.add(key);
        next.push(grown);
      }
    }
    front = next;
  }
  return found;
}
