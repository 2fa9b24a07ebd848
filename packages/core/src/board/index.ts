export type { NetId, PartRef, StageId, GoalId, SourceId } from './ids.ts';
export {
  findNet,
  netOf,
  stageOf,
  pinsOnNet,
  pinText,
  findChip,
  findPart,
  findPartOrChip,
  netById,
} from './find.ts';
export type {
  Board,
  Button,
  GoodNet,
  NetPlace,
  Net,
  Part,
  Place,
  Chip,
  Need,
  Level,
  Behaviour,
  Regulator,
  Follower,
  Overload,
  Sequence,
  Step,
  Stage,
  Point,
  Source,
  Goal,
} from './board.ts';
export {
  partKinds,
  chipKinds,
  sheetJsonSchema,
  sheetKeys,
  originSchema,
  type Origin,
  type PartKind,
  type ChipKind,
} from './sheet-schema.ts';
export { asOnBench, isOff, type OffBoard } from './attached.ts';
export { isSeriesPart, isFet, isSmallFet, partBetween } from './series.ts';
export { joinedNets, joinedTo } from './joined-nets.ts';
export { attachmentOf, takeOff, type TakeOff } from './take-off.ts';
export { loadSheet, sheetLine, sheetLines } from './load-sheet.ts';
export { withoutStandIns } from './stand-ins.ts';
export { allNeeds, drivenNets, outputPins } from './behaviour-pins.ts';
export { lintBoard } from './lint.ts';
export { describeFormat } from './describe-format.ts';
export { chipPins } from './chip-pins.ts';
export { sheetIssueText, stopsUse, type SheetIssue } from './sheet-issue.ts';
export { partValue, pinNames, valueUnit } from './part-value.ts';
export { bareName, memoryName, readNetName, byName, type NetNameMeaning } from './net-name.ts';
export {
  drawnPicture,
  frameOf,
  onPicture,
  onSheet,
  type DrawnPicture,
  type Frame,
  type Side,
} from './drawn-picture.ts';
export { alignPictures, type Alignment, type Pair } from './alignment.ts';
export { choosableGoals, commonGoals, goalTitle } from './common-goals.ts';
export { placeInScheme, roleOf, schemeOf } from './role.ts';
export { undrivenBecause } from './undriven.ts';
