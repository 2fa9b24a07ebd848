// How much a reading is expected to tell, before it is taken.

/** Bits of a yes-or-no with chance p. */
export const entropy = (p: number): number =>
  p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);

/**
 * Bits that an observation is expected to tell about the class of the true hypothesis: the mutual
 * information I(class; outcome) = H(outcome) - H(outcome | class), as in T. M. Cover and J. A.
 * Thomas, "Elements of Information Theory", chapter 2 (from memory).
 *
 * `weights` are the hypotheses' probabilities, `classOf` their classes (0 to classes - 1),
 * `outcomeOf` the outcome each predicts (0 to outcomes - 1, or -1 where it predicts nothing: then
 * every outcome is alike). With the chance `wrong` the outcome is any of them.
 */
export function expectedGain(
  weights: ArrayLike<number>,
  classOf: ArrayLike<number>,
  classes: number,
  outcomeOf: ArrayLike<number>,
  outcomes: number,
  wrong: number,
): number {
  if (outcomes < 2) return 0;
  const joint = new Float64Array(classes * outcomes);
  const classWeight = new Float64Array(classes);
  let total = 0;
  for (let h = 0; h < weights.length; h++) {
    const weight = weights[h]!;
    if (weight === 0) continue;
    total += weight;
    const row = classOf[h]! * outcomes;
    classWeight[classOf[h]!]! += weight;
    const outcome = outcomeOf[h]!;
    const spread = (weight * (outcome < 0 ? 1 : wrong)) / outcomes;
    for (let o = 0; o < outcomes; o++) joint[row + o]! += spread;
    if (outcome >= 0) joint[row + outcome]! += weight * (1 - wrong);
  }
  if (total === 0) return 0;
  const marginal = new Float64Array(outcomes);
  for (let place = 0; place < joint.length; place++) marginal[place % outcomes]! += joint[place]!;
  let bits = 0;
  for (let c = 0; c < classes; c++) {
    for (let o = 0; o < outcomes; o++) {
      const both = joint[c * outcomes + o]!;
      if (both > 0)
        bits += (both / total) * Math.log2((both * total) / (classWeight[c]! * marginal[o]!));
    }
  }
  return Math.max(0, bits);
}
