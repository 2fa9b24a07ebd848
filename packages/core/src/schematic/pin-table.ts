import { isMap, parseDocument } from 'yaml';
import { fail, ok, type Result } from '../base/index.ts';
import { loadSheet, sheetIssueText } from '../board/index.ts';
import { middleOf, type Box, type PageContent } from './page.ts';
import type { Taken } from './take-in.ts';
import { wordsOf, type Word } from './words.ts';

/** A row of a data sheet's pin table. */
export interface PinRow {
  number: string;
  name: string;
  /** What the data sheet says of it. */
  says: string;
}

/** Beside a plain number `LX1` is a name; where rows have none, it is a ball of a grid. */
const numberOf = (texts: readonly string[]): RegExp =>
  texts.slice(0, 2).some((text) => /^\d{1,3}$/.test(text))
    ? /^(?:\d{1,3}|EP|PAD)$/
    : /^(?:[A-Y]{1,2}\d{1,2}|EP|PAD)$/;
const isPinName = (text: string): boolean =>
  /^[A-Z][\w#+\-/]{0,31}$/.test(text) &&
  !/^(?:NAME|PIN|NO|NUMBER|DESCRIPTION|FUNCTION|TYPE|I\/O|I|O)$/.test(text);

/**
 * Reads the rows of a pin table within a box of a page: a number and a name in each, in whichever order,
 * with what stands behind. A row with several numbers is one pin for each; lines without both belong to the
 * words of the row above.
 */
export function pinTableIn(content: PageContent, box: Box): PinRow[] {
  const inside = wordsOf(content.runs).filter((word) => {
    const { x, y } = middleOf(word);
    return word.turn === 0 && x >= box.x && x <= box.x + box.w && y >= box.y && y <= box.y + box.h;
  });
  const rows: PinRow[] = [];
  for (const line of linesOf(inside)) {
    const texts = line.map((one) => one.text.replace(/[,;]$/, ''));
    const numbered = numberOf(texts);
    const isNumber = (text: string | undefined): boolean => numbered.test(text ?? '');
    const firstName = texts.findIndex((text) => isPinName(text) && !isNumber(text));
    const numbers = texts.filter(
      (text, at) =>
        isNumber(text) &&
        (firstName < 0 || Math.abs(at - firstName) <= numbersBeside(texts, firstName, isNumber)),
    );
    const name = texts[firstName];
    if (name === undefined || numbers.length === 0) {
      const above = rows.at(-1);
      if (above) above.says = `${above.says} ${texts.join(' ')}`.trim();
      continue;
    }
    const says = line
      .filter(
        (word, at) =>
          at > firstName && !numbers.includes(texts[at] as string) && word.text !== name,
      )
      .map((one) => one.text)
      .join(' ');
    for (const number of numbers) rows.push({ number, name, says });
  }
  return rows;
}

/** How many places before or behind the name numbers may stand: as far as nothing but numbers is between. */
function numbersBeside(
  texts: readonly string[],
  name: number,
  isNumber: (text: string | undefined) => boolean,
): number {
  let reach = 0;
  for (const step of [-1, 1])
    for (let at = name + step; isNumber(texts[at]); at += step)
      reach = Math.max(reach, Math.abs(at - name));
  return reach;
}

function linesOf(words: readonly Word[]): Word[][] {
  const lines: Word[][] = [];
  for (const word of words.toSorted((a, b) => middleOf(a).y - middleOf(b).y)) {
    const line = lines.at(-1);
    const isSame =
      line !== undefined && Math.abs(middleOf(line[0] as Word).y - middleOf(word).y) < 0.5 * word.h;
    if (isSame) line.push(word);
    else lines.push([word]);
  }
  return lines.map((line) => line.sort((a, b) => a.x - b.x));
}

/** Gives the pins of a chip on the sheet their numbers; pins the sheet does not have stay open. */
export function takePinTable(
  text: string,
  ref: string,
  rows: readonly PinRow[],
): Result<Taken, string[]> {
  const before = loadSheet(text);
  if (!before.ok) return fail(before.error.map(sheetIssueText));
  const chip = before.value.chips.find((one) => one.ref === ref && !one.virtual);
  if (!chip) return fail([`There is no chip ${ref} on this sheet.`]);
  const document = parseDocument(text);
  const pins = new Map([...chip.pins.keys()].map((pin) => [pin.toUpperCase(), pin]));
  const done: string[] = [];
  const left: string[] = [];
  const given = new Set<string>();
  for (const { number, name } of rows) {
    const pin = pins.get(name.toUpperCase());
    if (pin === undefined) left.push(`${name} (${number}): ${ref} has no such pin on this sheet.`);
    else if (given.has(pin))
      left.push(`${name} (${number}): ${pin} has a number already; write a pin of its own.`);
    else {
      given.add(pin);
      if (chip.numbers.get(pin) === number) continue;
      if (!isMap(document.getIn(['chips', ref, 'numbers'])))
        document.setIn(['chips', ref, 'numbers'], document.createNode({}, { flow: true }));
      document.setIn(
        ['chips', ref, 'numbers', pin],
        /^\d+$/.test(number) ? Number(number) : number,
      );
      done.push(`${ref}.${pin} is pin ${number}`);
    }
  }
  const after = document.toString({ lineWidth: 0, flowCollectionPadding: true });
  const board = loadSheet(after);
  return board.ok
    ? ok({ text: after, board: board.value, done, left })
    : fail(board.error.map(sheetIssueText));
}
