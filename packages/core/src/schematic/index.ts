export {
  apart,
  middleOf,
  type Box,
  type PageContent,
  type PageLine,
  type PageRun,
  type Turn,
} from './page.ts';
export { wordsOf, type Word } from './words.ts';
export { foldName, isNetName, kindOfWord, type WordKind } from './names.ts';
export { indexDocument, type DocumentIndex, type Hit, type Token } from './search.ts';
export { boardNames, isSame, type BoardNames, type Named } from './board-names.ts';
export { readPage, type ReadPage } from './read-page.ts';
export {
  candidatesOf,
  type Candidates,
  type NetCandidate,
  type PartCandidate,
  type Place,
} from './candidates.ts';
export { fillBlanks, type Join } from './blanks.ts';
export { sheetValue, takeIn, type Taken, type Taking } from './take-in.ts';
export { netKindByName, netRoleByName, partKindByLetters } from './guess-kind.ts';
export { pinTableIn, takePinTable, type PinRow } from './pin-table.ts';
