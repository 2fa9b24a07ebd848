export { timelineOf, pointKey, type Timeline } from './timeline.ts';
export {
  coolingMinutes,
  retestOf,
  type Retest,
  type RetestPoint,
  type RetestVerdict,
} from './retest.ts';
export { effectsOf, withoutEffect, type Effect } from './effect.ts';
export { gradeProof, proofBeside, type Grade, type Proof, type ProofStep } from './proof.ts';
export { openEnds, type OpenEnd } from './open-ends.ts';
export { markingTrouble } from './marking.ts';
export { isSaidToWork, soakMinutes, verifyList, type VerifyItem } from './verify.ts';
export { aftermathOf, type Aftermath } from './aftermath.ts';
export { replacementFor, type Replacement } from './replacement.ts';
export { fitsFromShelf, type ShelfFit } from './shelf.ts';
