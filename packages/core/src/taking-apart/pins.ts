import {
  allNeeds,
  isFet,
  netOf,
  outputPins,
  type Board,
  type Chip,
  type NetId,
  type PartRef,
  findChip,
} from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import {
  expectationText,
  groundPinOhms,
  type Expectation,
  type Mode,
  type Phase,
} from '../readings/index.ts';
import type { JudgedReading } from '../trace/index.ts';

/** What a pin is for, as a data sheet would say. */
export type PinRole =
  | 'feed'
  | 'supply'
  | 'enable'
  | 'power-good'
  | 'output'
  | 'switch node'
  | 'feedback'
  | 'gate drive'
  | 'communication'
  | 'input'
  | 'ground';

export interface PinRow {
  /** Number in the package; the name where nobody knows it. */
  number: string;
  pin: string;
  net: NetId;
  role: PinRole;
  /** What it should be, by mode and phase asked for. */
  expectation: Expectation;
  expected: string;
  /** The last reading at the pin itself, and the last elsewhere on its net. */
  atPin: JudgedReading | null;
  atNet: JudgedReading | null;
  /** The pin reads otherwise than its net: its joint or trace. */
  differs: string | null;
}

const talks = /^(SCL|SDA|SMB|I2C|SPI|CS|CLK|MISO|MOSI|SI|SO|TX|RX|D[PM]|LAD|LFRAME)/i;

export function pinRole(board: Board, chip: Chip, pin: string, net: NetId): PinRole {
  if (net === board.ground) return 'ground';
  const drivesGate = board.parts.some(
    (part) =>
      isFet(part) && part.pins.some((one) => one.name === 'G' && leadsTo(board, one.net).has(net)),
  );
  for (const one of chip.behaviours) {
    if (one.do === 'regulator') {
      if (one.out === pin) return netOf(board, net).kind === 'switch' ? 'switch node' : 'output';
      if (one.sense === pin) return 'feedback';
      if (one.powerGood === pin) return 'power-good';
      if (one.in === pin) return 'feed';
    } else if (outputPins(one).includes(pin)) return drivesGate ? 'gate drive' : 'output';
  }
  const isRail = netOf(board, net).kind === 'rail';
  if (isRail && (chip.draws.some((one) => one.pin === pin) || /^V|VCC|VDD|VIN/i.test(pin)))
    return 'supply';
  if (talks.test(pin)) return 'communication';
  const needed = chip.behaviours.flatMap((one) => allNeeds(one)).some((need) => need.pin === pin);
  if (needed) return isRail ? 'supply' : 'enable';
  return isRail ? 'supply' : 'input';
}

/** A net and what one resistor joins to it: how gates are driven. */
function leadsTo(board: Board, net: NetId): Set<NetId> {
  const found = new Set([net]);
  for (const part of board.parts)
    if (part.kind === 'resistor' && part.pins.some((pin) => pin.net === net))
      part.pins.forEach((pin) => pin.net !== board.ground && found.add(pin.net));
  return found;
}

/** Every pin of a chip in the order of its package, with what it should be and what was read. */
export function pinTable(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
  ref: string,
  mode: Mode,
  phase: Phase,
): PinRow[] {
  const { board } = healthy;
  const chip = findChip(board, ref);
  if (!chip) return [];
  const last = (net: NetId, wanted: (at: JudgedReading['reading']['at']) => boolean) =>
    readings.findLast(
      (one) =>
        one.standing.kind === 'stands' &&
        one.isHere &&
        one.reading.mode === mode &&
        one.reading.phase === phase &&
        one.reading.reference === null &&
        one.reading.at.net === net &&
        wanted(one.reading.at),
    ) ?? null;
  const rows = [...chip.pins].map(([pin, net]): PinRow => {
    const isGround = net === board.ground;
    const expectation: Expectation =
      isGround && mode === 'ohms'
        ? {
            kind: 'value',
            mode: 'ohms',
            value: 0,
            low: 0,
            high: groundPinOhms,
            off: false,
            origin: 'rule-of-thumb',
            upVolts: 0,
          }
        : healthy.expect(net, mode, phase);
    const isHere = (at: { part: string | null; pin: string | null }): boolean =>
      at.part === ref && at.pin === pin;
    const atPin = last(net, isHere);
    const atNet = last(net, (at) => !isHere(at));
    return {
      number: chip.numbers.get(pin) ?? pin,
      pin,
      net,
      role: pinRole(board, chip, pin, net),
      expectation,
      expected: isGround && mode === 'ohms' ? 'joined to ground' : expectationText(expectation),
      atPin,
      atNet,
      differs: differenceOf(atPin, atNet),
    };
  });
  return rows.sort(
    (a, b) => Number(a.number) - Number(b.number) || a.number.localeCompare(b.number),
  );
}

const sameVolts = 0.05;
const sameOhmsTimes = 2;

/** How a pin's reading differs from its net's; null where it does not, or where one is missing. */
function differenceOf(atPin: JudgedReading | null, atNet: JudgedReading | null): string | null {
  const [a, b] = [atPin, atNet].map((one) => {
    const value = one?.reading.value;
    return value?.kind === 'number' ? value.value : value?.kind === 'over' ? Infinity : null;
  });
  if (a === null || a === undefined || b === null || b === undefined) return null;
  const mode = atPin!.reading.mode;
  const isSame =
    a === b ||
    (mode === 'ohms'
      ? Math.max(a, b) + 1 <= sameOhmsTimes * (Math.min(a, b) + 1)
      : Math.abs(a - b) <= Math.max(sameVolts, 0.05 * Math.abs(b)));
  return isSame
    ? null
    : 'The pin and its net read differently: its joint or the trace to it is open, or one contact was bad.';
}

/** The chip that makes a net, drives it, or drives what it hangs on; null where the sheet draws none. */
export function chipBehind({ board, upstream }: HealthyBoard, net: NetId): PartRef | null {
  const drawn = board.chips.filter((one) => !one.virtual && one.fitted);
  const needs = upstream.of(net);
  const maker = drawn.find((chip) => needs.some((one) => one.via === chip.ref));
  const signals = needs.map((one) => one.net).filter((id) => netOf(board, id).kind !== 'rail');
  const beside = [net, ...signals].flatMap((id) =>
    drawn.filter((chip) => [...chip.pins.values()].includes(id)),
  );
  return (maker ?? beside[0])?.ref ?? null;
}
