// Where a pin is on its package, as one sees it under the microscope. Numbers run against the clock from
// pin 1, seen from above. Pitches and row letters: JEDEC MS-012 (SOIC), MS-026 (QFP), MO-220 (QFN) and
// JESD95-1 (ball grids: rows A to Y without I, O, Q, S, X and Z); from memory.

export const packages = ['SOIC', 'QFP', 'QFN', 'BGA'] as const;
export type Package = (typeof packages)[number];
/** How far the board lies turned, with the clock, from pin 1 at the top left. */
export const turns = [0, 90, 180, 270] as const;
export type Turn = (typeof turns)[number];

export interface PackagePad {
  name: string;
  /** Centre in millimetres from the top left of the drawing, and size. */
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface PackageDrawing {
  width: number;
  height: number;
  body: { x: number; y: number; width: number; height: number };
  pads: PackagePad[];
  /** Centre of the mark at pin 1. */
  mark: { x: number; y: number };
}

export interface FoundPin {
  drawing: PackageDrawing;
  wanted: PackagePad;
  /** `right side, 3rd from the top`. */
  words: string;
  /** The pins beside it: where a slip lands. */
  beside: string[];
}

/** Ball-grid rows in order: letters that read like figures or each other are left out. */
const rowLetters = 'ABCDEFGHJKLMNPRTUVWY';
export function rowName(index: number): string {
  const letter = rowLetters[index % rowLetters.length]!;
  return index < rowLetters.length
    ? letter
    : rowLetters[Math.floor(index / rowLetters.length) - 1]! + letter;
}

const pitchOf: Record<Package, (pins: number) => number> = {
  SOIC: () => 1.27,
  QFP: (pins) => (pins > 64 ? 0.5 : 0.8),
  QFN: (pins) => (pins > 32 ? 0.4 : 0.5),
  BGA: () => 0.8,
};
const leadMillimetres: Record<Package, number> = { SOIC: 1.05, QFP: 1, QFN: 0.45, BGA: 0.45 };

/** What a package cannot have; null where it can. */
export function pinCountTrouble(pack: Package, pins: number): string | null {
  if (!Number.isInteger(pins)) return 'How many pins?';
  switch (pack) {
    case 'SOIC':
      return pins >= 4 && pins <= 56 && pins % 2 === 0
        ? null
        : 'SOIC has an even number of 4 to 56 pins.';
    case 'QFP':
    case 'QFN':
      return pins >= 8 && pins <= 256 && pins % 4 === 0
        ? null
        : `${pack} has 8 to 256 pins, as many on each of four sides.`;
    case 'BGA':
      return pins >= 4 && pins <= 2500 && Number.isInteger(Math.sqrt(pins))
        ? null
        : 'Take the balls of a full square: rows times columns, 4 to 2500.';
  }
}

/** The package to scale with the pin in it, as the board lies. Null with why where there is no such pin. */
export function findPin(
  pack: Package,
  pins: number,
  wanted: string,
  turn: Turn,
): { found: FoundPin } | { trouble: string } {
  const trouble = pinCountTrouble(pack, pins);
  if (trouble) return { trouble };
  const upright = pack === 'BGA' ? ballGrid(pins) : leaded(pack, pins);
  const name = wanted.trim().toUpperCase();
  const order = upright.pads.map((one) => one.name);
  const at = order.indexOf(name);
  if (at < 0)
    return {
      trouble:
        pack === 'BGA'
          ? `No ball ${wanted}: rows are ${rowName(0)} to ${rowName(Math.sqrt(pins) - 1)}, columns 1 to ${Math.sqrt(pins)}.`
          : `No pin ${wanted}: 1 to ${pins}.`,
    };
  const drawing = turned(upright, turn);
  const pad = drawing.pads[at]!;
  return {
    found: {
      drawing,
      wanted: pad,
      words: pack === 'BGA' ? ballWords(drawing, pad, name) : sideWords(drawing, pad),
      beside: pack === 'BGA' ? [] : [order[(at + pins - 1) % pins]!, order[(at + 1) % pins]!],
    },
  };
}

function leaded(pack: Exclude<Package, 'BGA'>, pins: number): PackageDrawing {
  const pitch = pitchOf[pack](pins);
  const lead = leadMillimetres[pack];
  const wide = pitch * 0.5;
  const perSide = pack === 'SOIC' ? pins / 2 : pins / 4;
  const run = (perSide - 1) * pitch;
  const edge = pack === 'SOIC' ? 0.6 : 1;
  const bodyLong = run + 2 * edge;
  const bodyWide = pack === 'SOIC' ? (pins > 16 ? 7.5 : 3.9) : bodyLong;
  const out = pack === 'QFN' ? 0.1 : lead;
  const width = bodyWide + 2 * out;
  const height = bodyLong + (pack === 'SOIC' ? 0 : 2 * out);
  const top = pack === 'SOIC' ? 0 : out;
  const pads: PackagePad[] = [];
  const add = (x: number, y: number, isLevel: boolean): void => {
    pads.push({
      name: String(pads.length + 1),
      x,
      y,
      width: isLevel ? lead : wide,
      height: isLevel ? wide : lead,
    });
  };
  const inset = pack === 'QFN' ? out + lead / 2 : lead / 2;
  for (let i = 0; i < perSide; i++) add(inset, top + edge + i * pitch, true);
  if (pack !== 'SOIC')
    for (let i = 0; i < perSide; i++) add(out + edge + i * pitch, height - inset, false);
  for (let i = perSide - 1; i >= 0; i--) add(width - inset, top + edge + i * pitch, true);
  if (pack !== 'SOIC')
    for (let i = perSide - 1; i >= 0; i--) add(out + edge + i * pitch, inset, false);
  return {
    width,
    height,
    body: { x: out, y: top, width: bodyWide, height: bodyLong },
    pads,
    mark: { x: out + 0.8, y: top + 0.8 },
  };
}

function ballGrid(balls: number): PackageDrawing {
  const count = Math.sqrt(balls);
  const pitch = pitchOf.BGA(balls);
  const edge = 0.7;
  const size = (count - 1) * pitch + 2 * edge;
  const pads: PackagePad[] = [];
  for (let row = 0; row < count; row++)
    for (let column = 0; column < count; column++)
      pads.push({
        name: `${rowName(row)}${column + 1}`,
        x: edge + column * pitch,
        y: edge + row * pitch,
        width: leadMillimetres.BGA,
        height: leadMillimetres.BGA,
      });
  return {
    width: size,
    height: size,
    body: { x: 0, y: 0, width: size, height: size },
    pads,
    mark: { x: 0.35, y: 0.35 },
  };
}

/** The drawing turned with the clock. */
function turned(drawing: PackageDrawing, turn: Turn): PackageDrawing {
  let now = drawing;
  for (let quarter = 0; quarter < turn / 90; quarter++) {
    const { height, width } = now;
    const point = ({ x, y }: { x: number; y: number }) => ({ x: height - y, y: x });
    now = {
      width: height,
      height: width,
      body: {
        x: height - now.body.y - now.body.height,
        y: now.body.x,
        width: now.body.height,
        height: now.body.width,
      },
      pads: now.pads.map((pad) => ({
        ...pad,
        ...point(pad),
        width: pad.height,
        height: pad.width,
      })),
      mark: point(now.mark),
    };
  }
  return now;
}

const nth = (count: number): string =>
  `${count}${count % 100 > 10 && count % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][count % 10] ?? 'th')}`;

/** Which side it is on, and how many from the nearer corner. */
function sideWords({ width, height, pads }: PackageDrawing, pad: PackagePad): string {
  const away = { left: pad.x, right: width - pad.x, top: pad.y, bottom: height - pad.y };
  // Longer than wide as it lies: its lead points left or right.
  const isLevel = pad.width > pad.height;
  const side = isLevel
    ? away.left < away.right
      ? 'left'
      : 'right'
    : away.top < away.bottom
      ? 'top'
      : 'bottom';
  const along = isLevel ? 'y' : 'x';
  const across = isLevel ? 'x' : 'y';
  const same = pads
    .filter(
      (one) => Math.abs(one[across] - pad[across]) < 0.05 && one.width > one.height === isLevel,
    )
    .sort((a, b) => a[along] - b[along]);
  const place = same.findIndex((one) => one.name === pad.name) + 1;
  const [first, last] = isLevel ? ['top', 'bottom'] : ['left', 'right'];
  return place <= (same.length + 1) / 2
    ? `${side} side, ${nth(place)} from the ${first}`
    : `${side} side, ${nth(same.length + 1 - place)} from the ${last}`;
}

function ballWords({ width, height }: PackageDrawing, pad: PackagePad, name: string): string {
  const across = pad.x < width / 2 ? 'left' : 'right';
  const up = pad.y < height / 2 ? 'top' : 'bottom';
  return `${name}: ${Math.round((across === 'left' ? pad.x : width - pad.x) / 0.8 + 0.1)} from the ${across}, ${Math.round((up === 'top' ? pad.y : height - pad.y) / 0.8 + 0.1)} from the ${up}. It is under the chip: take a pad elsewhere on its net`;
}
