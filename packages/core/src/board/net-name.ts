/** What a net's name tells, by the naming habits of the trade (common practice, no source). */
export interface NetNameMeaning {
  volts: number | null;
  /** When the rail is there: always on, suspended, memory kept, running. */
  domain: 'always' | 'S5' | 'S3' | 'S0' | null;
  activeLow: boolean;
}

const domains: readonly (readonly [RegExp, NonNullable<NetNameMeaning['domain']>])[] = [
  [/(^|_)(ALW|ALWAYS|LDO|AUX|STBY|SB|VSB)($|_)|ALW$|LDO$|VSB$|\dVLP$|\dVL$|\dVPCU$/, 'always'],
  [/(^|_)(S5|A|DSW|PRIM)($|_)/, 'S5'],
  [/(^|_)(S3|SUS|MEM|DDR|DIMM)($|_)|SUS$/, 'S3'],
  [/(^|_)(S0|RUN|CORE|MAIN_RUN|GFX)($|_)|RUN$/, 'S0'],
];

// Volts as boards write them, in the order they are tried. Common practice, no source.

/** 3V3, 1V05, P5V0, VCC1R8: the letter stands for the point. */
const letterForPoint = /(?:^|[^0-9A-Z.])(?:[A-Z]*?)(\d{1,2})[VR](\d{1,2})(?![0-9])/;
const letterBehindPrefix = /^(?:VCC|VDD|P|V)(\d{1,2})[VR](\d{1,2})/;
/** 1D05V, 3D3V: D stands for the point, the V follows. */
const dForPoint = /(?:^|_)(\d{1,2})D(\d{1,2})V/;
/** 1P05, VDD_1P8, P3P3, V1P2: P stands for the point. */
const pForPoint = /(?:^|_)(?:P|V|VDD|VCC)?(\d{1,2})P(\d{1,2})(?![0-9])/;
/** +V3.3A, +1.05VS, 1.8V. */
const decimal = /(?:^|_|V)(\d{1,2}\.\d{1,2})(?:V|[A-Z]?(?:_|$))/;
/** VDD33, AVDD18: two digits with the point between, where they can be nothing else. */
const closeDigits = /^[AD]?V(?:DD|CC)A?(33|25|18|09|11)(?![0-9])/;
/** 19V, 5VALW, 3VS, 12V_S0: whole volts and what follows. */
const wholeVolts = /(?:^|[^0-9.A-Z])(\d{1,2})V(?![0-9])(.*)$/;
/** +V5S, VCC3M: whole volts between the V and a letter for when the rail is there. */
const wholeBehindV = /^V(?:CC|DD)?(\d{1,2})([A-Z]\w*)$/;

/** Volts by the name without its sign; null where it gives none, or may mean two things. */
function voltsOf(name: string): number | null {
  for (const pattern of [letterForPoint, letterBehindPrefix, dForPoint, pForPoint]) {
    const found = pattern.exec(name);
    if (found) return Number(`${found[1]}.${found[2]}`);
  }
  const point = decimal.exec(name);
  if (point) return Number(point[1]);
  const close = closeDigits.exec(name);
  if (close) return Number(`${close[1]![0]}.${close[1]![1]}`);
  const whole = wholeVolts.exec(name) ?? wholeBehindV.exec(name);
  if (!whole) return null;
  return wholeOf(Number(whole[1]), whole[2]!.replace(/^_/, ''));
}

/**
 * Whole volts: a 3 with a word for when the rail is there is 3.3 V by the makers' habit; alone, it may be
 * either. Nobody makes a rail of 1 or 2 V and calls it so: a digit was left away.
 */
function wholeOf(volts: number, behind: string): number | null {
  if (volts >= 4) return volts;
  return volts === 3 && /^[A-Z]/.test(behind) ? 3.3 : null;
}

/** Without the path of the drawing's sheet: `/power/3V3_S5` speaks of 3V3_S5. */
export const bareName = (name: string): string => name.replace(/^\/(?:[^/]*\/)*(?=[^/])/, '');

/**
 * Reads `+3V3_ALW`, `1V05_S5`, `1D05V_S0`, `VDD_1P8`, `+V3.3A`, `+3VALW`, `5VALW`, `-12V`, `PLTRST#`. Volts
 * are null where the name gives none or may mean two things (`+3V`, `VDD12`): a name is a hint, so what it
 * says is marked as a rule of thumb by its users.
 */
export function readNetName(name: string): NetNameMeaning {
  const upper = bareName(name).toUpperCase();
  const sign = /^-/.test(upper) ? -1 : 1;
  const volts = voltsOf(upper.replace(/^[+-]/, ''));
  const domain = domains.find(([pattern]) => pattern.test(upper))?.[1] ?? null;
  return {
    volts: volts === null || volts > 60 ? null : sign * volts,
    domain,
    activeLow: /(#|_N|_L)$/.test(upper),
  };
}

/** Order of names with their numbers counted: R2 before R10. The same everywhere, whatever the locale. */
export function byName(a: string, b: string): number {
  const pieces = (name: string): string[] => name.match(/\d+|\D+/g) ?? [];
  const [left, right] = [pieces(a), pieces(b)];
  for (let at = 0; at < Math.min(left.length, right.length); at++) {
    const [x, y] = [left[at] as string, right[at] as string];
    if (x === y) continue;
    const [m, n] = [Number(x), Number(y)];
    if (!Number.isNaN(m) && !Number.isNaN(n) && m !== n) return m - n;
    return x < y ? -1 : 1;
  }
  return left.length - right.length;
}

/** Rails of the memory, by their names. */
export const memoryName = /(MEM|DDR|VDDQ|VPP|VTT)/i;
