export {
  dictionaryKey,
  isPlayed,
  makeDictionary,
  outlineDictionary,
  makeRowPlayer,
  voltsPlace,
  wattsIn,
  heatPhases,
  wholeDictionary,
  withRoom,
  type Dictionary,
  type DictionaryProgress,
  type RowPlayer,
} from './dictionary.ts';
export { putRows, takeRows, type RowsPacket } from './rows.ts';
export { dictionaryBytes, dictionaryFrom } from './bytes.ts';
export { troubleWithDictionary } from './check.ts';
export {
  answersButton,
  firstMissingIn,
  leastPart,
  outcomeOf,
  reachesGoal,
  type Outcome,
} from './outcome.ts';
