import { isFet, netOf, type Board, type NetId, netById, joinedTo } from '../board/index.ts';
import type { JudgedReading } from '../trace/index.ts';
import { riskyStages, type HealthyBoard } from '../expectations/index.ts';
import { lowByNature, valueText, whyText } from '../readings/index.ts';
import { formatVolts } from '../units/index.ts';
import { inputSection } from './sweep.ts';

/** A short found cold, and what it means for powering up. */
export interface NamedShort {
  /** The first net it was read on; `nets` are all it was read on that milliohms join. */
  net: NetId;
  nets: NetId[];
  title: string;
  read: string;
  why: string;
  /** What feeds the rail: `PU2 from VMAIN`; empty where nothing on the sheet does. */
  fedBy: string;
  /** Parts between the rail and ground, any of which may be it. */
  hangs: string[];
  /** The source meets it directly, through nothing that limits the current. */
  isOnInput: boolean;
  how: string;
}

/** A FET that conducts without its gate, or a stage whose upper switch is gone. */
export interface NamedBridge {
  part: string;
  /** A stage before processor, memory or chipset: no source may be connected. */
  isStage: boolean;
  read: string;
  why: string;
}

const isCold = ({ reading, standing }: JudgedReading): boolean =>
  reading.phase === 'cold' && standing.kind === 'stands';

/** The last standing cold reading at each place and mode. */
export function lastCold(readings: readonly JudgedReading[]): JudgedReading[] {
  const last = new Map<string, JudgedReading>();
  for (const one of readings) {
    if (!isCold(one)) continue;
    const { at, reference, mode } = one.reading;
    last.set(`${at.net} ${reference?.net ?? ''} ${mode}`, one);
  }
  return [...last.values()];
}

/** Every short the cold readings show, with what to do about it; shorts on joined nets are one. */
export function namedShorts(
  healthy: HealthyBoard,
  readings: readonly JudgedReading[],
): { shorts: NamedShort[]; bridges: NamedBridge[] } {
  const { board } = healthy;
  const input = inputSection(board);
  const shorts: NamedShort[] = [];
  const bridges: NamedBridge[] = [];
  for (const one of lastCold(readings)) {
    const { reading, verdict } = one;
    if (verdict.kind !== 'shorted' && !isBuzzing(board, one)) continue;
    const read = valueText(reading.value, reading.mode);
    if (reading.reference) {
      bridges.push({ ...bridgedAt(healthy, one), read, why: whyText(verdict) });
      continue;
    }
    const net = reading.at.net as NetId;
    const joined = joinedTo(board, [net]);
    const known = shorts.find((other) => joined.has(other.net));
    if (known) {
      if (!known.nets.includes(net)) known.nets.push(net);
      continue;
    }
    const isOnInput = input.includes(net);
    shorts.push({
      net,
      nets: [net],
      title: netOf(board, net).title,
      read,
      why: whyText(verdict),
      fedBy: fedBy(healthy, net),
      hangs: hangingOn(board, joined),
      isOnInput,
      ...adviceFor(healthy, net, isOnInput),
    });
  }
  return { shorts, bridges };
}

/** Below the buzzer's threshold where no core rail is: as good as a short until ohms say otherwise. */
function isBuzzing(board: Board, { reading, verdict }: JudgedReading): boolean {
  const net = netById(board, reading.at.net);
  return (
    verdict.kind === 'odd' &&
    reading.value.kind === 'beep' &&
    reading.reference === null &&
    net !== undefined &&
    !lowByNature(net)
  );
}

function bridgedAt(
  healthy: HealthyBoard,
  { reading }: JudgedReading,
): Pick<NamedBridge, 'part' | 'isStage'> {
  const ends = [reading.at.net, reading.reference?.net];
  const stage = riskyStages(healthy.board).find(
    ({ feed, output, rail }) =>
      ends.includes(feed) && (ends.includes(output) || ends.includes(rail)),
  );
  return stage
    ? { part: stage.chip, isStage: true }
    : { part: partAcross(healthy, reading), isStage: false };
}

const partAcross = (healthy: HealthyBoard, reading: JudgedReading['reading']): string =>
  healthy.across({
    net: reading.at.net as NetId,
    reference: reading.reference?.net as NetId,
    mode: reading.mode,
    phase: reading.phase,
    polarity: reading.polarity,
  })?.part ?? `${reading.at.net} to ${reading.reference?.net}`;

function fedBy(healthy: HealthyBoard, net: NetId): string {
  const feed = healthy.upstream.of(net).find((one) => one.role === 'feed');
  if (feed) return `${feed.via} from ${feed.net}`;
  const source = healthy.board.sources.find((one) => one.net === net);
  return source ? source.title : '';
}

/** Parts with one foot on the rail and one on ground, and chips on it. */
function hangingOn(board: Board, nets: ReadonlySet<NetId>): string[] {
  const parts = board.parts.filter(
    (part) =>
      part.fitted &&
      !isFet(part) &&
      part.kind !== 'connector' &&
      part.pins.some((pin) => nets.has(pin.net)) &&
      part.pins.some((pin) => pin.net === board.ground),
  );
  const chips = board.chips.filter(
    (chip) => chip.fitted && !chip.virtual && [...chip.pins.values()].some((net) => nets.has(net)),
  );
  return [...parts, ...chips].map((one) => one.ref);
}

function adviceFor(healthy: HealthyBoard, net: NetId, isOnInput: boolean): { how: string } {
  const nominal =
    netOf(healthy.board, net).rangeVolts?.[0] ??
    Math.max(
      ...(['standby', 'run'] as const).map(
        (phase) => healthy.play.phases.get(phase)?.volts.get(net) ?? 0,
      ),
    );
  const most = formatVolts(Number((nominal || 1).toPrecision(3)));
  const volts = formatVolts(Math.min(1, nominal || 1));
  const inject = `With every source off, feed ${net} itself from a bench supply at ${volts}, limited to 1 A, and look for what gets warm; never above ${most}.`;
  if (isOnInput)
    return {
      how: `Do not connect the adapter or battery: it meets this short directly. ${inject}`,
    };
  const stage = healthy.stageOfNet(net);
  const after = stage
    ? `${stage.title} and what waits for it stay down`
    : 'what hangs on it stays down';
  return {
    how: `Powering up teaches little while it stands: its regulator gives up and ${after}. ${inject}`,
  };
}
