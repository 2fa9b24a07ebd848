// Bayes over a list of hypotheses, whatever they are. Everything is in natural logarithms: products of many
// small likelihoods would run out of digits.

/** Weights that add up to 1, from logarithms known up to a common addend; `log` is that of their sum. */
export function shares(logs: ArrayLike<number>): { weights: Float64Array; log: number } {
  const weights = Float64Array.from(logs);
  let most = -Infinity;
  for (const value of weights) most = Math.max(most, value);
  let sum = 0;
  for (let h = 0; h < weights.length; h++) {
    weights[h] = Math.exp(weights[h]! - most);
    sum += weights[h]!;
  }
  for (let h = 0; h < weights.length; h++) weights[h]! /= sum;
  return { weights, log: most + Math.log(sum) };
}

/** Probabilities after what was observed: priors and likelihoods as logarithms, by hypothesis. */
export function posterior(
  logPriors: Float64Array,
  logLikelihoods: readonly Float64Array[],
): Float64Array {
  const log = logPriors.slice();
  for (const one of logLikelihoods) for (let h = 0; h < log.length; h++) log[h]! += one[h]!;
  return shares(log).weights;
}
