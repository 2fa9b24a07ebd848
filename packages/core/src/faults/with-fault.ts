import {
  type Behaviour,
  type Board,
  type Chip,
  type Need,
  type Net,
  type NetId,
  type Part,
  type PartRef,
  type Source,
  findPartOrChip,
} from '../board/index.ts';
import { outputPins, findChip, findPart, netById } from '../board/index.ts';
import { faultName, type Fault, type SourceTrouble } from './fault.ts';
import { retuned } from './feedback.ts';
import { flashOwner } from './flash-owner.ts';
import { islandOf, type Island } from './island.ts';

/** The board with one fault in it. Naming a part, pin or net that is not there is a bug of the caller. */
export const withFault = (board: Board, fault: Fault): Board =>
  retuned(board, changedBy(board, fault));

function changedBy(board: Board, fault: Fault): Board {
  switch (fault.kind) {
    case 'open':
      return board.button?.part === fault.part
        ? { ...board, button: null }
        : changePart(board, fault.part, (part) => ({ ...part, fitted: false }));
    case 'drift':
      return changePart(board, fault.part, (part) => ({
        ...part,
        value: (part.value ?? 0) * fault.factor,
      }));
    case 'high':
      return changePart(board, fault.part, (part) => ({
        ...part,
        kind: 'resistor',
        value: fault.ohms,
      }));
    case 'reversed':
      return changePart(board, fault.part, (part) => turnedRound(part));
    case 'dead':
      return changeChip(board, fault.part, (chip) => ({
        ...chip,
        // What held its power-good low goes on doing so: it never turns on.
        behaviours: fault.letsGo ? [] : chip.behaviours.filter(hasPowerGood).map(neverOn),
        draws: [],
      }));
    case 'output-dead':
      return changeRegulator(board, fault.part, fault.pin, neverOn);
    case 'weak':
      return changeRegulator(board, fault.part, fault.pin, (one) => ({
        ...one,
        limitAmps: one.limitAmps * fault.factor,
      }));
    case 'off-value':
      return changeRegulator(board, fault.part, fault.pin, (one) => ({
        ...one,
        volts: one.volts * fault.factor,
      }));
    case 'corrupt':
      return changeChip(board, fault.part, (chip) => ({ ...chip, behaviours: [] }));
    case 'stops':
      return changeChip(board, fault.part, (chip) => stoppedAt(chip, fault.step));
    case 'blank': {
      const owner = flashOwner(board, fault.part);
      // What runs from a chipset's flash shows on no net: see `runsCode` in dictionary.
      return owner?.kind === 'controller'
        ? withFault(board, { kind: 'corrupt', part: owner.ref })
        : { ...board };
    }
    case 'pins-short': {
      const [a, b] = fault.pins.map((pin) => pinNet(board, fault.part, pin)) as [NetId, NetId];
      return withBridge(board, faultName(fault), attachmentOf(board, fault.part), a, b, fault.ohms);
    }
    case 'all-short': {
      const [first, ...rest] = partOf(board, fault.part).pins;
      return rest.reduce(
        (bridged, pin, index) =>
          withBridge(
            bridged,
            `${fault.part} all short ${index + 1}`,
            attachmentOf(board, fault.part),
            first?.net as NetId,
            pin.net,
            fault.ohms,
          ),
        board,
      );
    }
    case 'pin-short':
      return withBridge(
        board,
        faultName(fault),
        attachmentOf(board, fault.part),
        pinNet(board, fault.part, fault.pin),
        board.ground,
        fault.ohms,
      );
    case 'short':
      if (!board.nets.some((net) => net.id === fault.net)) throw new Error(`no net ${fault.net}`);
      return withBridge(board, faultName(fault), null, fault.net, board.ground, fault.ohms);
    case 'nets-joined':
      for (const net of fault.nets)
        if (!board.nets.some((one) => one.id === net)) throw new Error(`no net ${net}`);
      return withBridge(board, faultName(fault), null, ...fault.nets, fault.ohms);
    case 'stuck':
      return fault.level === 'low'
        ? heldLow(board, fault.part, fault.pin)
        : releasePin(board, fault.part, fault.pin);
    case 'trace-open':
    case 'break':
      return withIsland(board, islandOf(board, fault) as Island);
    case 'warm':
      // It begins as a good board: the play ends it, see rehearsal.ts in play.
      return { ...board };
    case 'source':
      return {
        ...board,
        sources: board.sources.map((one) =>
          one.id === fault.source ? troubled(one, fault.how) : one,
        ),
      };
  }
}

/** Several faults at once. */
export const withFaults = (board: Board, faults: readonly Fault[]): Board =>
  faults.reduce(withFault, board);

function partOf(board: Board, ref: PartRef): Part {
  const part = findPart(board, ref);
  if (!part) throw new Error(`no part ${ref}`);
  return part;
}

function changePart(board: Board, ref: PartRef, change: (part: Part) => Part): Board {
  const part = partOf(board, ref);
  return { ...board, parts: board.parts.map((one) => (one === part ? change(part) : one)) };
}

function changeChip(board: Board, ref: PartRef, change: (chip: Chip) => Chip): Board {
  const chip = findChip(board, ref);
  if (!chip) throw new Error(`no chip ${ref}`);
  return { ...board, chips: board.chips.map((one) => (one === chip ? change(chip) : one)) };
}

type RegulatorOf = Extract<Behaviour, { do: 'regulator' }>;

function changeRegulator(
  board: Board,
  ref: PartRef,
  pin: string,
  change: (one: RegulatorOf) => Behaviour,
): Board {
  return changeChip(board, ref, (chip) => ({
    ...chip,
    behaviours: chip.behaviours.map((one) =>
      one.do === 'regulator' && one.out === pin ? change(one) : one,
    ),
  }));
}

const hasPowerGood = (one: Behaviour): one is RegulatorOf =>
  one.do === 'regulator' && one.powerGood !== null;

/** A need nothing meets. */
const never = (pin: string): Need => ({
  pin,
  side: 'above',
  volts: 1e6,
  hysteresisVolts: 0,
  than: null,
});

const neverOn = (one: RegulatorOf): RegulatorOf => ({
  ...one,
  needs: [...one.needs, never(one.in)],
});

/** The sequence of the chip never gets past what stands before the step. */
function stoppedAt(chip: Chip, step: number): Chip {
  return {
    ...chip,
    behaviours: chip.behaviours.map((one) =>
      one.do === 'sequence'
        ? {
            ...one,
            steps: [
              ...one.steps.slice(0, step),
              { kind: 'wait' as const, needs: [never(one.high)], withinSeconds: null },
            ],
          }
        : one,
    ),
  };
}

/** Pins of a two-ended part swapped; a FET's drain and source. */
function turnedRound(part: Part): Part {
  const ends = part.pins.filter((pin) => pin.name !== 'G');
  const [a, b] = ends;
  if (!a || !b) return part;
  return {
    ...part,
    pins: part.pins.map((pin) =>
      pin === a ? { ...pin, net: b.net } : pin === b ? { ...pin, net: a.net } : pin,
    ),
  };
}

/** A lead or contact that is open. */
const openOhms = 1e9;
/** A worn cell or a wrong adapter gives this much of its volts, or of the volts a charger takes for too high. */
const lowPart = { cell: 0.45, other: 0.7 } as const;
const highPart = 1.25;
/** A supply set or worn to this part of its current. */
const limitedPart = 0.06;

function troubled(source: Source, how: SourceTrouble): Source {
  const isCell = source.kind === 'coin-cell' || source.kind === 'battery';
  // Weak: it sags by all its volts at its own limit, or at a tenth of it.
  const ohmsAtLimit = source.volts / source.limitAmps;
  switch (how) {
    case 'dead':
      return { ...source, seriesOhms: openOhms };
    case 'weak':
      return { ...source, seriesOhms: source.seriesOhms + ohmsAtLimit };
    case 'weaker':
      return { ...source, seriesOhms: source.seriesOhms + 10 * ohmsAtLimit };
    case 'limited':
      return { ...source, limitAmps: source.limitAmps * limitedPart };
    case 'low':
      // A USB-C supply that offers nothing more stays at its 5 V.
      if (source.kind === 'usb-c') return { ...source, offersVolts: [] };
      if (source.idleVolts !== null) return { ...source, wakesAtAmps: Infinity };
      return { ...source, volts: source.volts * (isCell ? lowPart.cell : lowPart.other) };
    case 'high':
      return { ...source, volts: source.volts * highPart };
  }
}

function pinNet(board: Board, ref: PartRef, pin: string): NetId {
  const net =
    findChip(board, ref)?.pins.get(pin) ??
    findPart(board, ref)?.pins.find((one) => one.name === pin)?.net;
  if (!net) throw new Error(`no pin ${pin} on ${ref}`);
  return net;
}

/** What a part or chip goes with when it is unplugged. */
const attachmentOf = (board: Board, ref: PartRef): string | null =>
  findPartOrChip(board, ref)?.on ?? null;

/** Its name begins with the part that is at fault: the heat is there. */
function withBridge(
  board: Board,
  name: string,
  on: string | null,
  a: NetId,
  b: NetId,
  ohms: number,
): Board {
  const bridge: Part = {
    ref: name as PartRef,
    kind: 'resistor',
    title: '',
    pins: [
      { name: '1', net: a },
      { name: '2', net: b },
    ],
    value: ohms,
    valueText: String(ohms),
    isGuess: false,
    fitted: true,
    marking: '',
    package: '',
    on,
    side: null,
    x: null,
    y: null,
  };
  return { ...board, parts: [...board.parts, bridge] };
}

/** The chip no longer drives the pin: whatever hangs on it decides. */
function releasePin(board: Board, ref: PartRef, pin: string): Board {
  return changeChip(board, ref, (chip) => ({
    ...chip,
    behaviours: chip.behaviours.flatMap((one): Behaviour[] => {
      switch (one.do) {
        case 'regulator':
          return [one.powerGood === pin ? { ...one, powerGood: null } : one];
        case 'follower':
          return one.out === pin ? [] : [one];
        case 'sequence': {
          const levels = <T extends { pin: string }>(list: readonly T[]): T[] =>
            list.filter((level) => level.pin !== pin);
          return [
            {
              ...one,
              idle: levels(one.idle),
              steps: one.steps.map((step) => {
                if (step.kind === 'drive') return { ...step, levels: levels(step.levels) };
                return step.kind === 'pulse' && step.pin === pin
                  ? { kind: 'pause' as const, seconds: step.seconds }
                  : step;
              }),
            },
          ];
        }
      }
    }),
  }));
}

/** The chip holds the pin low as long as it is powered; unpowered it reads as ever. */
function heldLow(board: Board, ref: PartRef, pin: string): Board {
  const owner = findChip(board, ref);
  if (!owner)
    return withBridge(
      board,
      `${ref} pin ${pin} low`,
      null,
      pinNet(board, ref, pin),
      board.ground,
      15,
    );
  const driver = owner.behaviours.find((one) => outputPins(one).includes(pin));
  const supply =
    driver === undefined || driver.do === 'regulator'
      ? driver && !owner.virtual
        ? [{ ...never(driver.in), volts: 1 }]
        : []
      : driver.supply;
  return changeChip(releasePin(board, ref, pin), ref, (chip) => ({
    ...chip,
    behaviours: [
      ...chip.behaviours,
      {
        do: 'follower',
        name: `${pin} held low`,
        out: pin,
        drive: 'open-drain',
        active: 'high',
        high: null,
        liftVolts: 0,
        supply: [...supply],
        needs: [never(pin)],
        startNeeds: [],
        trips: [],
        tries: 1,
        retrySeconds: 1,
        onDelaySeconds: 0.001,
        offDelaySeconds: 0.001,
      },
    ],
  }));
}

/** Some places of a net stand on a net of their own from now on. */
function withIsland(board: Board, { from, net, places }: Island): Board {
  const whole = netById(board, from);
  const island: Net = {
    ...(whole as Net),
    id: net,
    aliases: [],
    kind: 'signal',
    volts: null,
    rangeVolts: null,
    loadAmps: 0,
    coldOhms: null,
    coldDiodeVolts: null,
  };
  const isCut = (ref: string, pin: string): boolean =>
    places.some((one) => one.ref === ref && one.pin === pin);
  return {
    ...board,
    nets: [...board.nets, island],
    chips: board.chips.map((chip) =>
      places.some((one) => one.ref === chip.ref)
        ? {
            ...chip,
            pins: new Map(
              [...chip.pins].map(([pin, on]) => [pin, isCut(chip.ref, pin) ? net : on]),
            ),
          }
        : chip,
    ),
    parts: board.parts.map((part) =>
      places.some((one) => one.ref === part.ref)
        ? {
            ...part,
            pins: part.pins.map((pin) => (isCut(part.ref, pin.name) ? { ...pin, net } : pin)),
          }
        : part,
    ),
  };
}
