/**
 * Words for probabilities, from where on each is said. Close to the scale that assessments of climate use
 * (likely from 66 %, very likely from 90 %: Mastrandrea and others, guidance note on uncertainties, 2010; from
 * memory), but stricter: a wrong "likely" costs a board. "Certain" is not among them: no reading makes it so.
 */
export const likelihoodWords = [
  { from: 0.95, word: 'very likely' },
  { from: 0.75, word: 'likely' },
  { from: 0.5, word: 'more likely than not' },
  { from: 0.25, word: 'possible' },
  { from: 0.1, word: 'one of several' },
  { from: 0, word: 'unlikely' },
] as const;

export type LikelihoodWord = (typeof likelihoodWords)[number]['word'];

/** A probability (0 to 1) in words. */
export const likelihoodWord = (probability: number): LikelihoodWord =>
  likelihoodWords.find(({ from }) => probability >= from)?.word ?? 'unlikely';

/** What a reading tells (bits about which group it is) in words: one bit splits what is left in half. */
export const gainWords = (bits: number): string =>
  bits >= 1.5
    ? 'splits what is left in several parts'
    : bits >= 0.7
      ? 'splits what is left in half'
      : bits >= 0.3
        ? 'takes away a part of what is left'
        : 'takes away a little of what is left';
