import {
  isFet,
  isSeriesPart,
  partBetween,
  type Board,
  type Net,
  type NetId,
  type Place,
  netById,
  findPartOrChip,
  joinedTo,
} from '../board/index.ts';
import { probePlace } from '../trace/index.ts';
import { riskyStages, type HealthyBoard } from '../expectations/index.ts';
import {
  leastThroughOhms,
  lowByNature,
  type AcrossPart,
  type Expectation,
  type Reading,
} from '../readings/index.ts';
import { shortestWay, type Stop } from './probe-way.ts';

/** One reading of the sweep: where both leads go, in which mode, and what is expected. */
export interface SweepPoint {
  /** Tells points apart: net, reference and mode. */
  key: string;
  group: 'input' | 'across' | 'through' | 'rail' | 'line';
  net: NetId;
  /** Null: black lead on ground. */
  reference: NetId | null;
  mode: 'ohms' | 'diode';
  polarity: Reading['polarity'];
  place: ReturnType<typeof probePlace>;
  title: string;
  /** What it is good for, in one line. */
  why: string;
  expectation: Expectation;
  across: AcrossPart | null;
  /** Below this what feeds the net cannot hold it up; null where nothing is known to. */
  shortOhms: number | null;
  /** A core rail, a few ohms by nature: no short. */
  lowByNature: boolean;
}

/**
 * The cold checks worth making on this board: the input section node by node, across the FETs and
 * fuses in it, every rail at its coil, and the lines whose junctions the sheet states. Ordered so
 * that both modes are taken at a place before the probe moves, the probe moves least, and the board
 * is turned over once. Nothing is asked at or through a part that is `gone`.
 */
export function makeSweep(healthy: HealthyBoard, gone: readonly string[] = []): SweepPoint[] {
  const { board } = healthy;
  const input = inputSection(board);
  const stops = new Map<string, Stop<SweepPoint>>();
  const add = (point: SweepPoint): void => {
    const at = placeOf(board, point.place);
    const key = `${point.net} ${point.reference ?? ''}`;
    const stop: Stop<SweepPoint> = stops.get(key) ?? {
      side: at.side ?? '',
      x: at.x,
      y: at.y,
      points: [],
    };
    stop.points.push(point);
    stops.set(key, stop);
  };
  const toGround = (net: Net, group: SweepPoint['group'], mode: 'ohms' | 'diode', why: string) => {
    const found = probePlace(board, net.id, gone);
    const own = net.isUnnamed ? board.points.find((one) => one.net === net.id) : undefined;
    // Read at the point itself, so that the reading goes with it to whatever net it turns out to be.
    const place = own ? { ...found, part: own.part ?? own.id } : found;
    add({
      key: `${net.id}  ${mode}`,
      group,
      net: net.id,
      reference: null,
      mode,
      polarity: mode === 'diode' ? 'black-on-point' : 'red-on-point',
      place,
      title: net.title,
      why,
      expectation: healthy.expect(net.id, mode, 'cold'),
      across: null,
      shortOhms: mode === 'ohms' ? shortBelow(healthy, net.id) : null,
      lowByNature: lowByNature(net),
    });
  };

  for (const id of input) {
    const net = netById(board, id) as Net;
    toGround(net, 'input', 'ohms', 'A source meets a short here directly.');
    if (net.coldDiodeVolts !== null)
      toGround(net, 'input', 'diode', 'A junction gone low tells a leak that ohms hide.');
  }
  const through = [...acrossPoints(healthy, input), ...throughPoints(healthy)];
  for (const point of through) if (!gone.includes(point.place.part ?? '')) add(point);

  const seen = new Set<NetId>(input);
  for (const net of board.nets) {
    if (net.kind !== 'rail' || seen.has(net.id)) continue;
    // One place serves all that milliohms join.
    for (const one of joinedTo(board, [net.id])) seen.add(one);
    const maker = healthy.drive(net.id);
    const low = lowByNature(net);
    const why = low
      ? 'A core rail: a few ohms by nature are no short.'
      : maker
        ? 'A short here keeps its regulator from starting.'
        : 'A short here pulls down what feeds it.';
    toGround(net, 'rail', 'ohms', why);
    if (net.coldDiodeVolts !== null && !low)
      toGround(net, 'rail', 'diode', 'A junction gone low tells a leak that ohms hide.');
  }
  for (const net of board.nets)
    if (net.kind !== 'rail' && net.kind !== 'ground' && net.coldDiodeVolts !== null)
      toGround(net, 'line', 'diode', 'Tells a dead pin or an open trace before power.');

  // Points of one's own: what they read cold helps to say which net they are.
  for (const net of board.nets) {
    if (!net.isUnnamed || !board.points.some((one) => one.net === net.id)) continue;
    const why = 'A point of your own: cold ohms and diode-mode help to name it.';
    toGround(net, 'line', 'ohms', why);
    toGround(net, 'line', 'diode', why);
  }

  return shortestWay([...stops.values()]).flatMap((stop) => stop.points);
}

const shortBelow = (healthy: HealthyBoard, net: NetId): number | null => {
  const drive = healthy.drive(net);
  return drive && drive.amps > 0 ? drive.volts / drive.amps : null;
};

/** Nets a source meets directly: joined to it by what lets its current through, FETs included. */
export function inputSection(board: Board): NetId[] {
  const starts = board.sources.filter((one) => one.kind !== 'coin-cell').map((one) => one.net);
  const found = new Set<NetId>(starts);
  for (let size = -1; size !== found.size;) {
    size = found.size;
    for (const part of board.parts) {
      if (!part.fitted || !(isSeriesPart(part) || isFet(part))) continue;
      const nets = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
      if (nets.includes(board.ground) || !nets.some((net) => found.has(net))) continue;
      for (const net of nets) if (netById(board, net)?.kind === 'rail') found.add(net);
    }
  }
  return board.nets.filter((net) => found.has(net.id)).map((net) => net.id);
}

/** From end to end of every FET and fuse in the input section. */
function acrossPoints(healthy: HealthyBoard, input: readonly NetId[]): SweepPoint[] {
  const { board } = healthy;
  return board.parts.flatMap((part): SweepPoint[] => {
    if (!part.fitted || !(isFet(part) || isSeriesPart(part))) return [];
    const on = (pin: string): NetId | undefined => part.pins.find((one) => one.name === pin)?.net;
    // Along the body diode: from its anode to its cathode.
    const ends = isFet(part)
      ? part.kind === 'pfet'
        ? [on('D'), on('S')]
        : [on('S'), on('D')]
      : part.pins.map((pin) => pin.net);
    const [net, reference] = ends;
    if (!net || !reference || !input.includes(net) || !input.includes(reference)) return [];
    if (partBetween(board, net, reference) !== part) return [];
    const mode = isFet(part) ? ('diode' as const) : ('ohms' as const);
    const place = {
      ...probePlace(board, net),
      part: part.ref,
      text: isFet(part)
        ? `across ${part.ref}, red on its ${part.kind === 'pfet' ? 'drain' : 'source'}`
        : `across ${part.ref}`,
      side: part.side ?? '',
    };
    const across = healthy.across({
      net,
      reference,
      mode,
      phase: 'cold',
      polarity: 'red-on-point',
    });
    return [
      {
        key: `${net} ${reference} ${mode}`,
        group: 'across',
        net,
        reference,
        mode,
        polarity: 'red-on-point',
        place,
        title: part.title,
        why: isFet(part)
          ? 'Shows its body diode; next to nothing is a shorted FET.'
          : 'Carries the whole current: whole or open.',
        expectation: acrossExpectation(across, mode),
        across,
        shortOhms: null,
        lowByNature: false,
      },
    ];
  });
}

/** From the feed of each stage before processor, memory and chipset to its output. */
function throughPoints({ board }: HealthyBoard): SweepPoint[] {
  return riskyStages(board).map(({ chip, feed, output, rail }): SweepPoint => {
    const place = probePlace(board, output);
    return {
      key: throughKey(feed, output),
      group: 'through',
      net: feed,
      reference: output,
      mode: 'ohms',
      polarity: 'red-on-point',
      place: { ...probePlace(board, feed), text: `through ${chip}, black at ${place.text}` },
      title: `${chip}, which makes ${rail}`,
      why: 'Its upper switch gone short puts its feed on this rail: read before any source.',
      expectation: {
        kind: 'value',
        mode: 'ohms',
        value: Infinity,
        low: 10 * leastThroughOhms,
        high: Infinity,
        off: false,
        origin: 'rule-of-thumb',
        upVolts: 0,
      },
      across: null,
      shortOhms: leastThroughOhms,
      lowByNature: false,
    };
  });
}

/** Its key in the sweep: a net, what the black lead stands on, the mode. */
export const throughKey = (feed: NetId, output: NetId): string => `${feed} ${output} ohms`;

function acrossExpectation(across: AcrossPart | null, mode: 'ohms' | 'diode'): Expectation {
  const healthy = across?.healthy ?? null;
  if (healthy === null) return { kind: 'unknown', because: 'the cold play gives nothing here' };
  const stray = mode === 'diode' ? 0.12 : 2;
  return {
    kind: 'value',
    mode,
    value: healthy,
    low: mode === 'diode' ? healthy - stray : 0,
    high: healthy + stray,
    off: false,
    origin: 'play',
    upVolts: 0,
  };
}

function placeOf(board: Board, place: ReturnType<typeof probePlace>): Place {
  const point = board.points.find(
    (one) => one.net === place.net && one.part === place.part && one.x !== null,
  );
  const owner = findPartOrChip(board, place.part);
  return point ?? owner ?? { side: null, x: null, y: null };
}
