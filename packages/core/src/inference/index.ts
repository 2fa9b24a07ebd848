export { posterior, shares } from './posterior.ts';
export { entropy, expectedGain } from './information.ts';
export { normal, softUniform, step, uniform } from './densities.ts';
export { readingErrors } from './reading-errors.ts';
