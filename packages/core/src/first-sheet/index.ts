export {
  questions,
  branches,
  choicesSchema,
  unknownBoardSchema,
  nothingChosen,
  boardIdFrom,
  leftOpen,
  type Choices,
  type QuestionId,
  type BranchId,
  type UnknownBoard,
} from './choices.ts';
export { composeSheet, composeSheetText } from './compose.ts';
