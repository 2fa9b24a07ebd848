/** What a net's name tells, by the naming habits of the trade (common practice, no source). */
export interface NetNameMeaning {
  volts: number | null;
  /** When the rail is there: always on, suspended, memory kept, running. */
  domain: 'always' | 'S5' | 'S3' | 'S0' | null;
  activeLow: boolean;
}

const domains: readonly (readonly [RegExp, NonNullable<NetNameMeaning['domain']>])[] = [
  [/(^|_)(ALW|ALWAYS|LDO|AUX|STBY|SB|VSB)($|_)|ALW$|LDO$|VSB$/, 'always'],
  [/(^|_)(S5|A|DSW|PRIM)($|_)/, 'S5'],
  [/(^|_)(S3|SUS|MEM|DDR|DIMM)($|_)|SUS$/, 'S3'],
  [/(^|_)(S0|RUN|CORE|MAIN_RUN|GFX)($|_)|RUN$/, 'S0'],
];

// 3V3, 1V05, 5V0, 1R8; a run of digits before a bare V or P: 19V, 5V.
const digitsInPlace = /(?:^|[^0-9A-Z.])(?:[A-Z]*?)(\d{1,2})[VR](\d{1,2})(?![0-9])/;
const digitsThenV = /(?:^|[^0-9.])(\d{1,2}(?:\.\d{1,2})?)V(?![0-9])/;

/**
 * Reads `+3V3_ALW`, `1V05_S5`, `P5V0_RUN`, `VCC1R8`, `5VALW`, `PLTRST#`. Volts are null where the
 * name gives none; a name is a hint, so what it says is marked as a rule of thumb by its users.
 */
export function readNetName(name: string): NetNameMeaning {
  const upper = name.toUpperCase();
  const inPlace =
    digitsInPlace.exec(upper) ?? /^(?:VCC|VDD|P|V)(\d{1,2})[VRP](\d{1,2})/.exec(upper);
  const whole = digitsThenV.exec(upper);
  const volts = inPlace ? Number(`${inPlace[1]}.${inPlace[2]}`) : whole ? Number(whole[1]) : null;
  const domain = domains.find(([pattern]) => pattern.test(upper))?.[1] ?? null;
  return {
    volts: volts === null || volts > 60 ? null : volts,
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
