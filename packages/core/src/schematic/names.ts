/**
 * A name without what draughtsmen write each in their own way: case, `_`, blanks, a leading `+`. Marks of an
 * active-low line become one: `PLTRST#`, `PLTRST_N` and `/PLT_RST` fold to the same. What changes a sign, a
 * value or a polarity stays: `+1.2V` and `+12V`, `-12V`, `D+` and `D-`, `CLK` and `CLK_N` are different.
 * For finding and proposing: nothing is joined by it. Common practice, no source.
 */
export function foldName(name: string): string {
  const upper = name.normalize('NFKC').toUpperCase().trim();
  const isLow =
    /^[~/\\!][^/]*$/.test(upper) || /(?:#|\*)$|(?<=[A-Z0-9])[_.-][NLB]$|^~\{.*\}$/.test(upper);
  const bare = upper
    .replace(/^~\{(.*)\}$/, '$1')
    .replace(/[#*]$/, '')
    .replace(/(?<=[A-Z0-9])[_.-][NLB]$/, '')
    // The point of a figure is the letter between its digits.
    .replace(/(\d)\.(\d+)V?/g, '$1V$2')
    .replace(/^-(?=\d)/, 'NEG')
    .replace(/\+$/, 'POS')
    .replace(/-$/, 'MINUS')
    .replace(/[_+\-./\\~#*!\s]/g, '');
  return isLow ? `${bare}#` : bare;
}

/** What a word on a page may be, by its letters alone. */
export type WordKind = 'part' | 'value' | 'number' | 'name' | 'text';

/** Letters before the number of a reference designator, by what they stand for; common practice, no source. */
const partLetters = new RegExp(
  `^P?(?:${[
    ...[
      'R',
      'RN',
      'RP',
      'RV',
      'RT',
      'RS',
      'C',
      'EC',
      'TC',
      'L',
      'FB',
      'U',
      'IC',
      'Q',
      'D',
      'ZD',
      'LED',
    ],
    ...[
      'F',
      'J',
      'JP',
      'CN',
      'CON',
      'X',
      'Y',
      'SW',
      'S',
      'TP',
      'T',
      'TR',
      'BT',
      'BAT',
      'DIMM',
      'FAN',
    ],
    ...['MIC', 'SPK', 'TVS', 'H', 'HS', 'K', 'M', 'B'],
  ].join('|')})\\d{1,4}[A-D]?$`,
);

export const isPartName = (text: string): boolean => partLetters.test(text);

/** Letters and a number, whatever the letters: a reference where it stands at a body of its own. */
export const mayBePartName = (text: string): boolean =>
  /^[A-Z]{1,6}\d{1,4}[A-D]?$/.test(text) && !/^(?:[VS]\d|GND)/.test(text);

const valueLike =
  /^(?:\d+(?:[.,]\d+)?(?:[pnuµμmkKMGRUNP]|meg)?(?:[FHVAWΩ]|ohms?|Hz|%)?|\d+[pnuµμmkKMR]\d*(?:[FHΩ])?|0R\d*|R\d{2,3})(?:[/_@,-][\w.%µμ+±-]+)*$/;

export function kindOfWord(text: string): WordKind {
  if (isPartName(text)) return 'part';
  if (/^\d{1,3}$/.test(text)) return 'number';
  if (valueLike.test(text)) return isRailName(text) ? 'name' : 'value';
  // A ball of a grid: a row's letters and a column.
  if (/^[A-Y]{1,2}\d{1,2}$/.test(text)) return 'number';
  if (isNetName(text)) return 'name';
  return 'text';
}

/** `3V3`, `1V05`, `5VALW`: a value by its letters, a rail by habit. */
const isRailName = (text: string): boolean => /^\+?\d+V\d+(?:_|$)|^\+?\d+V_?[A-Z]/.test(text);

/** Words of title blocks and notes that are written in capitals like nets. */
const notNets = new Set(
  `SHEET TITLE DATE REV REVISION SIZE PAGE DRAWN CHECKED NOTE NOTES BOARD NAME DOCUMENT NUMBER CONFIDENTIAL OF
  DNP DNI NC NF OPEN SHORT TOP BOTTOM BLOCK DIAGRAM POWER SEQUENCE SEQUENCING MAP TABLE CONTENTS INDEX
  DESCRIPTION CHANGE HISTORY FROM TO THE AND FOR WITH NOT FITTED STUFF DEFAULT OPTION PROJECT FILE`.split(
    /\s+/,
  ),
);

/** Whether a word could be the name of a net: capitals, digits and joints, with a letter in it. */
export function isNetName(text: string): boolean {
  const bare = text.replace(/^[~/]+/, '');
  if (!/^[+-]?[A-Z0-9][A-Z0-9_#+\-./*]*$/.test(bare) || !/[A-Z]/.test(bare)) return false;
  if (bare.length < 3 || bare.length > 40 || /[.\-/]$/.test(bare)) return false;
  return !notNets.has(bare);
}
