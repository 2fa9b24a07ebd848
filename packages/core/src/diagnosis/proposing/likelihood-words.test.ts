import { describe, expect, it } from 'vitest';
import { gainWords, likelihoodWord, likelihoodWords } from './likelihood-words.ts';

describe('probabilities in words', () => {
  it.each([
    [1, 'very likely'],
    [0.95, 'very likely'],
    [0.949, 'likely'],
    [0.75, 'likely'],
    [0.749, 'more likely than not'],
    [0.5, 'more likely than not'],
    [0.499, 'possible'],
    [0.25, 'possible'],
    [0.249, 'one of several'],
    [0.1, 'one of several'],
    [0.099, 'unlikely'],
    [0, 'unlikely'],
  ])('%s is %s', (probability, word) => {
    expect(likelihoodWord(probability)).toBe(word);
  });

  it('never say certain, and fall with the probability', () => {
    expect(likelihoodWords.map(({ word }) => word).join()).not.toMatch(/certain|sure|proven/);
    const froms = likelihoodWords.map(({ from }) => from);
    expect([...froms].sort((a, b) => b - a)).toEqual(froms);
    expect(froms.at(-1)).toBe(0);
  });

  it.each([
    [1.5, 'splits what is left in several parts'],
    [1, 'splits what is left in half'],
    [0.69, 'takes away a part of what is left'],
    [0.29, 'takes away a little of what is left'],
  ])('%s bit %s', (bits, words) => {
    expect(gainWords(bits)).toBe(words);
  });
});
