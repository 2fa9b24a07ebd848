import { isNetName, isPartName, kindOfWord, mayBePartName } from './names.ts';
import { apart, middleOf, type Box, type PageContent } from './page.ts';
import { boxFromLine, wiresOf, type Wire, type WireEnd } from './wires.ts';
import { wordsOf, type Word } from './words.ts';

/** A name as it stands on a page, on a wire or by itself. */
export interface ReadName {
  text: string;
  box: Box;
  /** A wire of the page carries it. */
  onWire: boolean;
}

/** A part as it is drawn: its body, and what stands at its pins. */
export interface ReadPart {
  ref: string;
  box: Box;
  /** The body was found, with wires at it. */
  hasBody: boolean;
  value: string;
  isFitted: boolean;
  pins: ReadPin[];
}

export interface ReadPin {
  name: string;
  number: string;
  /** Null: nothing on the page says which net it is on. */
  net: string | null;
}

/** What one page says, as far as it was understood. */
export interface ReadPage {
  page: number;
  names: ReadName[];
  parts: ReadPart[];
  /** What its words say it is about. */
  about: 'block diagram' | 'power sequence' | 'contents' | null;
}

interface Body {
  box: Box;
  ends: { wire: Wire; end: WireEnd; side: 'left' | 'right' | 'top' | 'bottom' }[];
}

/** A chip is no larger than this part of a page: what is larger is a frame. */
const largestBody = 0.6;
const atBorder = 1.5;

/** Reads a page: names on wires, parts with their bodies and pins. Words alone where it has no wires. */
export function readPage(content: PageContent): ReadPage {
  const words = wordsOf(content.runs);
  const wires = wiresOf(content);
  const bodies = bodiesOf(content, wires);
  const gaps = gapsOf(wires, content.boxes);
  const isOnWire = (word: Word): boolean => nearWires(word, wires).length > 0;
  const parts = placeParts(words, bodies, gaps, isOnWire);
  const taken = new Set(parts.filter((one) => one.body).flatMap((one) => one.taken));
  const names = words.filter(
    (one) =>
      !taken.has(one) &&
      isNetName(one.text) &&
      !notFitted.test(one.text) &&
      // `SW3` may be a net: on a wire, and no body's reference.
      (!isPartName(one.text) || isOnWire(one)),
  );
  const netOfWire = new Map<Wire, string>();
  const onWire = new Map<Word, Wire>();
  const claims = names
    .flatMap((word) => nearWires(word, wires).map(({ wire, far }) => ({ word, wire, far })))
    .sort((a, b) => a.far - b.far);
  for (const { word, wire } of claims) {
    if (onWire.has(word)) continue;
    onWire.set(word, wire);
    if (!netOfWire.has(wire)) netOfWire.set(wire, word.text);
  }
  const netOf = (wire: Wire): string | null =>
    netOfWire.get(wire) ?? (wire.isGround ? 'GND' : null);
  return {
    page: content.page,
    names: names.map((word) => ({
      text: word.text,
      box: boxOf(word),
      onWire: onWire.has(word),
    })),
    parts: parts.map(({ ref, word, body, value, isFitted, pins }) => ({
      ref,
      box: boxOf(word),
      hasBody: body !== null,
      value,
      isFitted,
      pins: pins.map(({ name, number, wire }) => ({ name, number, net: netOf(wire) })),
    })),
    about: aboutOf(words),
  };
}

const boxOf = ({ x, y, w, h }: Box): Box => ({ x, y, w, h });

/** Boxes with ends of wires on their border. */
function bodiesOf({ boxes, width, height }: PageContent, wires: readonly Wire[]): Body[] {
  return boxes.flatMap((box): Body[] => {
    if (box.w > largestBody * width || box.h > largestBody * height) return [];
    const ends: Body['ends'] = [];
    for (const wire of wires)
      for (const end of wire.ends) {
        const side = sideAt(box, end);
        if (side) ends.push({ wire, end, side });
      }
    return ends.length >= 2 ? [{ box, ends }] : [];
  });
}

function sideAt({ x, y, w, h }: Box, end: WireEnd): Body['ends'][number]['side'] | null {
  const isWithin = (value: number, from: number, length: number): boolean =>
    value > from - atBorder && value < from + length + atBorder;
  if (end.way === 'level' && isWithin(end.y, y, h)) {
    if (Math.abs(end.x - x) < atBorder) return 'left';
    if (Math.abs(end.x - x - w) < atBorder) return 'right';
  }
  if (end.way === 'upright' && isWithin(end.x, x, w)) {
    if (Math.abs(end.y - y) < atBorder) return 'top';
    if (Math.abs(end.y - y - h) < atBorder) return 'bottom';
  }
  return null;
}

/** Two ends of wires that face each other across a figure that is no box: plates, turns of a coil, a bar. */
function gapsOf(wires: readonly Wire[], boxes: readonly Box[]): Body[] {
  const ends = wires.flatMap((wire) => wire.ends.map((end) => ({ wire, end })));
  const small = boxes.filter((one) => one.w < 400 && one.h < 400);
  const gaps: Body[] = [];
  for (const a of ends) {
    const { way } = a.end;
    const ahead = ends
      .filter(({ wire, end }) => {
        if (wire === a.wire || end.way !== way) return false;
        const along = way === 'level' ? end.x - a.end.x : end.y - a.end.y;
        const across = way === 'level' ? end.y - a.end.y : end.x - a.end.x;
        return along > 2 && along < 40 && Math.abs(across) < 0.8;
      })
      .sort((p, q) => (way === 'level' ? p.end.x - q.end.x : p.end.y - q.end.y))[0];
    if (!ahead) continue;
    // The wire must come from outside the gap at both ends.
    if (!leads(a.wire, a.end, -1) || !leads(ahead.wire, ahead.end, 1)) continue;
    const box: Box =
      way === 'level'
        ? { x: a.end.x, y: a.end.y - 3, w: ahead.end.x - a.end.x, h: 6 }
        : { x: a.end.x - 3, y: a.end.y, w: 6, h: ahead.end.y - a.end.y };
    // What lies across a box is that box's.
    if (small.some((one) => isInside(box, one))) continue;
    const sides = way === 'level' ? (['left', 'right'] as const) : (['top', 'bottom'] as const);
    gaps.push({
      box,
      ends: [
        { wire: a.wire, end: a.end, side: sides[0] },
        { wire: ahead.wire, end: ahead.end, side: sides[1] },
      ],
    });
  }
  return gaps;
}

/** Whether a stroke of the wire comes to this end from the given direction. */
function leads(wire: Wire, end: WireEnd, from: -1 | 1): boolean {
  return wire.lines.some(([x1, y1, x2, y2]) => {
    const isHere =
      Math.hypot(x1 - end.x, y1 - end.y) < 0.6 || Math.hypot(x2 - end.x, y2 - end.y) < 0.6;
    if (!isHere) return false;
    const other = Math.hypot(x1 - end.x, y1 - end.y) < 0.6 ? { x: x2, y: y2 } : { x: x1, y: y1 };
    return end.way === 'level'
      ? Math.sign(other.x - end.x) === from
      : Math.sign(other.y - end.y) === from;
  });
}

interface PlacedPart {
  ref: string;
  word: Word;
  body: Body | null;
  value: string;
  isFitted: boolean;
  pins: { name: string; number: string; wire: Wire }[];
  /** Words that are its pins and values: no names of nets. */
  taken: Word[];
}

/** A reference stands no farther than this from its body, in points. */
const refWithin = 16;

function placeParts(
  words: readonly Word[],
  bodies: readonly Body[],
  gaps: readonly Body[],
  isOnWire: (word: Word) => boolean,
): PlacedPart[] {
  const refs = words.filter((one) => mayBePartName(one.text));
  const all = [...bodies, ...gaps];
  const claims = refs
    .flatMap((word) =>
      all
        .map((body) => ({ word, body, near: apart(word, body.box) }))
        // What stands on a wire is the name of a net; letters nobody knows stand back as well.
        .map((one) => ({
          ...one,
          far: one.near + (isOnWire(word) ? 10 : 0) + (isPartName(word.text) ? 0 : 6),
        }))
        .filter(
          ({ near, body }) =>
            near < refWithin &&
            // A name of a pin is written inside, at the border: a reference is not.
            !(isInside(word, body.box) && isAtAnEnd(word, body)),
        ),
    )
    .sort((a, b) => a.far - b.far);
  const bodyOf = new Map<Word, Body>();
  const used = new Set<Body>();
  for (const { word, body } of claims) {
    if (bodyOf.has(word) || used.has(body)) continue;
    bodyOf.set(word, body);
    used.add(body);
  }
  const insideOthers = new Set(
    refs.filter((word) => !bodyOf.has(word) && bodies.some((one) => isInside(word, one.box))),
  );
  return refs
    .filter(
      (word) =>
        bodyOf.has(word) || (isPartName(word.text) && !insideOthers.has(word) && !isOnWire(word)),
    )
    .map((word): PlacedPart => {
      const body = bodyOf.get(word) ?? null;
      const { value, fitted, taken } = besidePart(words, word, body?.box ?? word, all);
      const pins = body ? pinsOf(words, body) : [];
      return {
        ref: word.text,
        word,
        body,
        value,
        isFitted: fitted,
        pins: pins.map(({ name, number, wire }) => ({ name, number, wire })),
        taken: [word, ...taken, ...pins.flatMap((one) => one.words)],
      };
    });
}

const isInside = (word: Box, box: Box): boolean => {
  const { x, y } = middleOf(word);
  return x > box.x && x < box.x + box.w && y > box.y && y < box.y + box.h;
};

const isAtAnEnd = (word: Box, { ends }: Body): boolean =>
  ends.some(({ end }) => Math.hypot(...nearestOf(word, end)) < 6);

const nearestOf = ({ x, y, w, h }: Box, at: { x: number; y: number }): [number, number] => [
  Math.max(0, x - at.x, at.x - x - w),
  Math.max(0, y - at.y, at.y - y - h),
];

/** Name and number at each end of a wire on a body: in its row, on either side of the border. */
function pinsOf(
  words: readonly Word[],
  { box, ends }: Body,
): { name: string; number: string; wire: Wire; words: Word[] }[] {
  return ends.map(({ wire, end, side }) => {
    const near = words
      .filter((word) => {
        const { x, y } = middleOf(word);
        const isLevel = side === 'left' || side === 'right';
        const across = isLevel ? y - end.y : x - end.x;
        const along = isLevel ? nearestOf(word, end)[0] : nearestOf(word, end)[1];
        const height = word.turn === 0 || word.turn === 180 ? word.h : word.w;
        return Math.abs(across) < 0.9 * height + 0.5 && along < 9;
      })
      .sort((a, b) => Math.hypot(...nearestOf(a, end)) - Math.hypot(...nearestOf(b, end)));
    const inside = near.filter((one) => isInside(one, box));
    const outside = near.filter((one) => !isInside(one, box));
    const isSmall = box.w < 30 && box.h < 12;
    // The number stands at the border; `EN1` looks like a ball of a grid, and is none beside a number.
    const digits = (one: Word): boolean => /^\d{1,3}$/.test(one.text);
    const ball = (one: Word): boolean => kindOfWord(one.text) === 'number';
    const number =
      outside.find(digits) ??
      near.find(digits) ??
      (near.filter((one) => /[A-Za-z]/.test(one.text)).length > 1
        ? (outside.find(ball) ?? undefined)
        : undefined);
    const others = (list: readonly Word[]): Word | undefined =>
      list.find((one) => one !== number && /[A-Za-z]/.test(one.text));
    const withNumberInside = number !== undefined && inside.includes(number);
    const name = isSmall ? undefined : withNumberInside ? others(outside) : others(inside);
    return {
      name: name?.text ?? '',
      number: number?.text ?? '',
      wire,
      words: [name, number].filter((one) => one !== undefined),
    };
  });
}

const notFitted = /^(?:DNP|DNI|DNF|NF|NP|NOSTUFF|NO_STUFF|NS|@?NC|OPEN)$/i;

/** Value and marks beside a part: near its body, nearer than to any other. */
function besidePart(
  words: readonly Word[],
  ref: Word,
  body: Box,
  all: readonly Body[],
): { value: string; fitted: boolean; taken: Word[] } {
  const near = words
    .filter(
      (one) =>
        one !== ref &&
        (apart(one, body) < 14 || apart(one, ref) < 10) &&
        !all.some((other) => other.box !== body && apart(one, other.box) < apart(one, body)),
    )
    .sort((a, b) => apart(a, body) + apart(a, ref) - apart(b, body) - apart(b, ref));
  const value = near.find((one) => kindOfWord(one.text.replace(/^\*/, '')) === 'value');
  const isLevelWith = (a: Word, b: Word): boolean => Math.abs(a.y - b.y) < 2;
  const words2 = near.filter((one) => /^not$/i.test(one.text));
  const isNot = words2.some((one) =>
    near.some((other) => /^fitted$/i.test(other.text) && isLevelWith(one, other)),
  );
  const mark = near.find((one) => notFitted.test(one.text));
  return {
    value: value?.text.replace(/^\*/, '') ?? '',
    fitted: !isNot && !mark && !value?.text.startsWith('*'),
    taken: [value, mark].filter((one) => one !== undefined),
  };
}

/** Wires a name may belong to: it is written along one, or where one ends. */
function nearWires(word: Word, wires: readonly Wire[]): { wire: Wire; far: number }[] {
  const isLevelWord = word.turn === 0 || word.turn === 180;
  const height = isLevelWord ? word.h : word.w;
  return wires.flatMap((wire) => {
    const along = wire.lines
      .filter(([x1, y1, x2, y2]) =>
        isLevelWord ? Math.abs(y1 - y2) < 0.5 : Math.abs(x1 - x2) < 0.5,
      )
      // Written over its wire, not under it: the baseline side is the near one.
      .map((line) => boxFromLine(word, line))
      .filter((far) => far < 0.6 * height + 1);
    const atEnd = wire.ends
      .filter(({ way }) => (way === 'level') === isLevelWord)
      .map((end) => {
        const [across, down] = nearestOf(word, end);
        return isLevelWord ? across + 3 * down : down + 3 * across;
      })
      .filter((far) => far < 1.2 * height + 3);
    const far = Math.min(...along, ...atEnd.map((one) => one + 0.3));
    return Number.isFinite(far) ? [{ wire, far }] : [];
  });
}

function aboutOf(words: readonly Word[]): ReadPage['about'] {
  const text = words.map((one) => one.text.toLowerCase()).join(' ');
  const has = (pattern: RegExp): boolean => pattern.test(text);
  if (has(/block/) && has(/diagram/)) return 'block diagram';
  if (has(/sequence|power.?up|power.?on/) && has(/sequence|timing|order/)) return 'power sequence';
  if (has(/contents|table of|what is where|index/)) return 'contents';
  return null;
}
