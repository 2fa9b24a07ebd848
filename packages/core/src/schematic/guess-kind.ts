import { bareName, readNetName, type PartKind } from '../board/index.ts';

/** What a net is by its name; by the naming habits of the trade, common practice, no source. */
export function netKindByName(name: string): 'rail' | 'signal' | 'switch' | 'ground' {
  const upper = bareName(name).toUpperCase();
  if (ground.test(upper)) return 'ground';
  if (/^(PH|LX|PHASE|SWN?)(_|\d|$)|_(PH|LX|SW|PHASE)\d?$/.test(upper)) return 'switch';
  if (netRoleByName(name) !== null) return 'signal';
  if (readNetName(name).volts !== null && !/#$/.test(upper)) return 'rail';
  return /^\+/.test(upper) || wordsOfRails.test(upper) ? 'rail' : 'signal';
}

/** GND, AGND, PGND, GNDA, GND_A, GND1, VSS, VSSA, CHASSIS, CHGND. */
const ground = /^(?:(?:A|D|P|S|CH)?GND_?[ADPS]?\d?|VSS[A-Z]?\d?|CHASSIS|EARTH)$/;
/** Rails whose names give no volts; digits behind are no figure anybody can read. */
const wordsOfRails =
  /^(?:B\+|\d{1,2}V$|V(?:CORE|MAIN|BAT|SYS|IN|BUS|CC|DD|RTC|CELL|TT|CHG|A_|MID|REF)|DC_?IN|PWR_SRC|SYS_PWR)/;

/** What a line is for by its name; common practice, no source. */
export function netRoleByName(name: string): 'enable' | 'power-good' | 'reset' | null {
  const upper = bareName(name).toUpperCase();
  if (/(^|_)(RST|RESET|PLTRST|RSMRST)|RST[#_]?[NL]?$/.test(upper)) return 'reset';
  if (
    /(^|_)(PG|PGOOD|POK|PWRGD|PWROK|READY|OK)\d?($|_)|PWROK|PGOOD|PWRGD|(^|_)PG(_|\d|$)|VR_?READY/.test(
      upper,
    )
  )
    return 'power-good';
  if (/(^|_)(EN|ON|ENABLE)\d?($|_)|(^|_)EN_?\d|PWRON/.test(upper)) return 'enable';
  return null;
}

/** Parts by the letters of their reference; common practice, no source. */
const kinds: readonly (readonly [RegExp, PartKind | 'chip'])[] = [
  [/^P?(R|RS|RT|RV)\d/, 'resistor'],
  [/^P?(C|EC|TC)\d/, 'capacitor'],
  [/^P?L\d/, 'coil'],
  [/^P?FB\d/, 'ferrite'],
  [/^P?F\d/, 'fuse'],
  [/^P?(ZD|TVS)\d/, 'zener'],
  [/^P?LED\d/, 'led'],
  [/^P?D\d/, 'diode'],
  [/^P?(J|CN|CON|DIMM|BT|BAT|FAN|MIC|SPK)\d/, 'connector'],
  [/^P?JP\d/, 'jumper'],
  [/^P?(X|Y)\d/, 'crystal'],
  [/^P?(SW|S)\d/, 'button'],
  [/^P?(U|IC)\d/, 'chip'],
];

export const partKindByLetters = (ref: string): PartKind | 'chip' | null =>
  kinds.find(([letters]) => letters.test(ref))?.[1] ?? null;
