import { fail, ok, type Result } from '../base/index.ts';
import type {
  Behaviour,
  Board,
  Chip,
  Level,
  Need,
  Net,
  Part,
  Place,
  Stage,
  Step,
} from './board.ts';
import { usualBehaviours } from './chip-kinds.ts';
import { clampedPins, usualClamp } from './clamps.ts';
import type { GoalId, NetId, PartRef, SourceId, StageId } from './ids.ts';
import { byName, readNetName } from './net-name.ts';
import { partValue, pinNames } from './part-value.ts';
import { isRailsStage, stageChip } from './rails-stage.ts';
import type { Sheet, SheetBehaviour, SheetNeed } from './sheet-schema.ts';
import type { SheetIssue } from './sheet-issue.ts';

type Distribute<T> = T extends unknown ? Omit<T, 'line' | 'path'> : never;
/** How a button that no sheet draws is called. */
const undrawnButton = 'power-button' as PartRef;

export type PathedIssue = Distribute<SheetIssue> & { at: readonly PropertyKey[] };

/** Checks every reference of a parsed sheet and fills in defaults. */
export function buildBoard(sheet: Sheet, hash: string): Result<Board, PathedIssue[]> {
  const issues: PathedIssue[] = [];
  const names = new Map<string, NetId>();
  for (const [id, net] of Object.entries(sheet.nets)) {
    for (const name of [id, ...net.aliases]) {
      if (names.has(name.toUpperCase())) {
        issues.push({ code: 'name-taken', name, by: `net ${id}`, at: ['nets', id] });
      }
      names.set(name.toUpperCase(), id as NetId);
    }
  }
  const grounds = Object.entries(sheet.nets).filter(([, net]) => net.kind === 'ground');
  if (grounds.length === 0) issues.push({ code: 'no-ground', at: ['nets'] });
  if (grounds[1])
    issues.push({ code: 'two-grounds', net: grounds[1][0], at: ['nets', grounds[1][0]] });
  const ground = (grounds[0]?.[0] ?? 'GND') as NetId;

  const net = (name: string, by: string, at: readonly PropertyKey[]): NetId => {
    const found = names.get(name.toUpperCase());
    if (found === undefined) issues.push({ code: 'unknown-net', net: name, by, at });
    return found ?? (name as NetId);
  };

  const nets: Net[] = Object.entries(sheet.nets).map(([id, written]) => {
    const meaning = readNetName(id);
    const isRail = written.kind === 'rail';
    const isAsked = written.volts === undefined && isRail && !written.range;
    // Rails below ground are named, not played.
    const byName = isAsked && (meaning.volts ?? 0) > 0 ? meaning.volts : null;
    return {
      id: id as NetId,
      aliases: written.aliases,
      title: written.title ?? '',
      kind: written.kind,
      volts: written.volts ?? byName,
      rangeVolts: written.range ?? null,
      tolerance: written.tolerance ?? null,
      loadAmps: written.load ?? 0,
      coldOhms: written.cold?.ohms ?? null,
      coldDiodeVolts: written.cold?.diode ?? null,
      origin: written.origin ?? (byName === null ? 'schematic' : 'rule-of-thumb'),
      isUnnamed: written.unnamed,
      along: [],
    };
  });
  const netById = new Map(nets.map((one) => [one.id, one]));

  const attachment = (id: string | undefined, at: readonly PropertyKey[]): string | null => {
    if (id !== undefined && !(id in sheet.attachments))
      issues.push({ code: 'unknown-attachment', attachment: id, at: [...at, 'on'] });
    return id ?? null;
  };
  const attachments = (ids: readonly string[], at: readonly PropertyKey[]): string[] =>
    ids.map((id) => attachment(id, [...at, 'with']) as string);

  const parts: Part[] = [];
  for (const [ref, written] of Object.entries(sheet.parts)) {
    const at = ['parts', ref];
    const wanted = pinNames[written.kind];
    const given = Array.isArray(written.pins)
      ? written.pins.map((on, index) => [wanted?.[index] ?? String(index + 1), on] as const)
      : Object.entries(written.pins);
    if (
      wanted &&
      (given.length !== wanted.length ||
        wanted.some((pin) => !given.some(([name]) => name === pin)))
    ) {
      issues.push({ code: 'pins-missing', part: ref, wanted: wanted.join(', '), at });
    }
    const value = partValue(written.kind, written.value);
    if (!value.ok)
      issues.push({ code: 'bad-part-value', part: ref, text: value.error, at: [...at, 'value'] });
    parts.push({
      ref: ref as PartRef,
      kind: written.kind,
      title: written.title ?? '',
      pins: given.map(([name, on]) => ({ name, net: net(on, ref, [...at, 'pins']) })),
      value: value.ok ? value.value : null,
      valueText: written.value === undefined ? '' : String(written.value),
      isGuess: written.guess,
      fitted: written.fitted,
      marking: written.marking ?? '',
      package: written.package ?? '',
      on: attachment(written.on, at),
      ...place(written),
    });
  }

  const chips: Chip[] = [];
  const addChip = (
    chip: Omit<Chip, 'behaviours' | 'clamped'>,
    does: readonly SheetBehaviour[],
    voltsDefault: number | undefined,
    at: readonly PropertyKey[],
  ): void => {
    const behaviours: Behaviour[] = [];
    for (const [index, behaviour] of does.entries()) {
      const here = [...at, 'does', index];
      for (const pin of pinsNamed(behaviour)) {
        if (!chip.pins.has(pin))
          issues.push({ code: 'unknown-pin', pin, chip: chip.ref, at: here });
      }
      behaviours.push(fillBehaviour(behaviour, chip, voltsDefault, here));
    }
    const clamp = (chip.clamp ?? usualClamp(chip.kind, behaviours)) || null;
    chips.push({
      ...chip,
      behaviours,
      clamp,
      clamped: clampedPins(chip, clamp, behaviours, ground),
    });
  };

  const fillBehaviour = (
    written: SheetBehaviour,
    chip: Omit<Chip, 'behaviours' | 'clamped'>,
    voltsDefault: number | undefined,
    at: readonly PropertyKey[],
  ): Behaviour => {
    switch (written.do) {
      case 'regulator': {
        const sense = written.sense ?? written.out;
        const made = netById.get(chip.pins.get(sense) ?? ('' as NetId));
        const range = written.range ?? made?.rangeVolts;
        const volts =
          written.volts ??
          voltsDefault ??
          made?.volts ??
          (range ? (range[0] + range[1]) / 2 : undefined);
        if (volts === undefined && written.pass !== 'switch') {
          issues.push({ code: 'no-volts', chip: chip.ref, net: made?.id ?? sense, at });
        }
        return {
          do: 'regulator',
          name: written.name ?? written.out,
          in: written.in,
          out: written.out,
          sense,
          ...(written.feedback ? { feedback: written.feedback } : {}),
          volts: volts ?? 0,
          limitAmps: written.limit,
          pass: written.pass,
          efficiency: written.efficiency,
          dropoutVolts: written.dropout,
          outOhms: written.outOhms,
          needs: written.needs.map(need),
          onDelaySeconds: written.onDelay,
          softStartSeconds: written.softStart,
          overload: written.overload ?? (written.pass === 'linear' ? 'constant-current' : 'hiccup'),
          precharge: written.precharge
            ? {
                limitAmps: written.precharge.limit,
                belowVolts: written.precharge.below,
                seconds: written.precharge.time,
              }
            : null,
          powerGood: written.powerGood ?? null,
          powerGoodDelaySeconds: written.powerGoodDelay,
        };
      }
      case 'follower':
        return {
          do: 'follower',
          name: written.name ?? written.out,
          out: written.out,
          drive: written.drive,
          active: written.active,
          high: written.high ?? null,
          liftVolts: written.lift ?? 0,
          supply: written.supply.map(need),
          needs: written.needs.map(need),
          startNeeds: written.startNeeds.map(need),
          trips: written.trips.map(need),
          tries: written.tries,
          retrySeconds: written.retry,
          onDelaySeconds: written.onDelay,
          offDelaySeconds: written.offDelay,
        };
      case 'sequence':
        return {
          do: 'sequence',
          name: written.name ?? 'sequence',
          supply: written.supply.map(need),
          needs: written.needs.map(need),
          high: written.high,
          drive: written.drive,
          idle: levels(written.idle),
          steps: written.steps.map(step),
          abort: written.abort.map(need),
          retries: written.retries,
          settleSeconds: written.settle,
        };
    }
  };

  for (const [ref, written] of Object.entries(sheet.chips)) {
    const at = ['chips', ref];
    if (ref in sheet.parts) issues.push({ code: 'name-taken', name: ref, by: 'a chip', at });
    const pins = new Map(
      Object.entries(written.pins).map(([pin, on]) => [
        pin,
        net(on, `${ref} pin ${pin}`, [...at, 'pins', pin]),
      ]),
    );
    for (const room of ['draws', 'numbers'] as const)
      for (const pin of Object.keys(written[room]))
        if (!pins.has(pin)) issues.push({ code: 'unknown-pin', pin, chip: ref, at: [...at, room] });
    for (const pin of [written.clamp].filter((one) => typeof one === 'string')) {
      if (!pins.has(pin))
        issues.push({ code: 'unknown-pin', pin, chip: ref, at: [...at, 'clamp'] });
    }
    for (const field of ['crystal', 'diode'] as const) {
      const part = written[field];
      if (part !== undefined && !(part in sheet.parts))
        issues.push({ code: 'unknown-part', part, by: ref, at: [...at, field] });
    }
    const does = written.does.length > 0 ? written.does : usualBehaviours(written);
    addChip(
      {
        ref: ref as PartRef,
        kind: written.kind,
        title: written.title ?? '',
        pins,
        numbers: new Map(
          Object.entries(written.numbers).map(([pin, number]) => [pin, String(number)]),
        ),
        draws: Object.entries(written.draws).map(([pin, amps]) => ({ pin, amps })),
        fitted: written.fitted,
        marking: written.marking ?? '',
        // null in the sheet says that there is none, whatever the kind.
        clamp: written.clamp === null ? '' : (written.clamp ?? null),
        crystal: (written.crystal as PartRef | undefined) ?? null,
        diode: (written.diode as PartRef | undefined) ?? null,
        on: attachment(written.on, at),
        virtual: false,
        ...place(written),
      },
      does,
      written.does.length > 0 ? undefined : written.volts,
      at,
    );
  }

  const stages: Stage[] = [];
  for (const [id, written] of Object.entries(sheet.stages)) {
    const at = ['stages', id];
    const gives = written.gives.map((name) => net(name, `stage ${id}`, [...at, 'gives']));
    for (const ref of written.by) {
      if (!(ref in sheet.parts) && !(ref in sheet.chips)) {
        issues.push({ code: 'unknown-part', part: ref, by: `stage ${id}`, at: [...at, 'by'] });
      }
    }
    if (isRailsStage(written)) {
      const virtual = stageChip(id, written);
      const pins = new Map([...virtual.pins].map(([pin, on]) => [pin, net(on, `stage ${id}`, at)]));
      addChip(
        {
          ref: virtual.ref,
          kind: 'generic',
          title: written.title,
          pins,
          numbers: new Map(),
          draws: [],
          fitted: true,
          marking: '',
          clamp: null,
          crystal: null,
          diode: null,
          on: null,
          virtual: true,
          side: null,
          x: null,
          y: null,
        },
        virtual.does,
        undefined,
        at,
      );
    }
    stages.push({
      id: id as StageId,
      title: written.title,
      gives,
      by: written.by as PartRef[],
      notes: written.notes ?? '',
      with: attachments(written.with, at),
    });
  }

  const sources = Object.entries(sheet.sources).map(([id, written]) => ({
    id: id as SourceId,
    kind: written.kind,
    title: written.title,
    net: net(written.net, `source ${id}`, ['sources', id, 'net']),
    volts: written.volts,
    idleVolts: written.idle ?? null,
    wakesAtAmps: written.wakes,
    on: attachment(written.on, ['sources', id]),
    limitAmps: written.limit,
    seriesOhms: written.seriesOhms,
    stays: written.stays,
    chargeLimitAmps: written.chargeLimit ?? null,
    offersVolts: written.offers,
  }));

  const goals = Object.entries(sheet.goals).map(([id, written]) => ({
    id: id as GoalId,
    title: written.title,
    phase: written.phase,
    with: attachments(written.with, ['goals', id]),
    shows: written.shows ?? null,
    reached: written.reached.map(({ at, side, volts }) => ({
      net: net(at, `goal ${id}`, ['goals', id, 'reached']),
      side,
      volts,
    })),
  }));

  const points = Object.entries(sheet.points).map(([id, written]) => {
    if (written.part && !(written.part in sheet.parts) && !(written.part in sheet.chips)) {
      issues.push({
        code: 'unknown-part',
        part: written.part,
        by: `point ${id}`,
        at: ['points', id],
      });
    }
    return {
      id,
      net: net(written.net, `point ${id}`, ['points', id, 'net']),
      part: written.part ?? null,
      pin: written.pin ?? null,
      title: written.title ?? '',
      ...place(written),
    };
  });

  /** The places of a net in their order along the copper. */
  const alongOf = (id: NetId): Net['along'] =>
    (sheet.nets[id]?.along ?? []).flatMap((name, index) => {
      const at = ['nets', id, 'along', index];
      const point = points.find((one) => one.id === name);
      const dot = name.lastIndexOf('.');
      const ref = point ? point.part : name.slice(0, dot);
      const pin = point ? point.pin : name.slice(dot + 1);
      const on =
        parts.find((one) => one.ref === ref)?.pins.find((one) => one.name === pin)?.net ??
        chips.find((one) => one.ref === ref)?.pins.get(pin ?? '');
      if (on === id && ref && pin) return [{ ref, pin }];
      issues.push({ code: 'not-on-net', place: name, net: id, at });
      return [];
    });

  const button = sheet.button
    ? {
        net: net(sheet.button.net, 'the button', ['button', 'net']),
        holdSeconds: sheet.button.hold,
        title: sheet.button.title ?? 'Power button',
        part:
          parts.find(
            (part) =>
              part.kind === 'button' &&
              part.pins.some((pin) => pin.net === names.get(sheet.button?.net.toUpperCase() ?? '')),
          )?.ref ?? undrawnButton,
      }
    : null;

  for (const net of nets) net.along = alongOf(net.id);

  if (issues.length > 0) return fail(issues);
  return ok({
    id: sheet.id,
    title: sheet.title,
    revision: sheet.revision,
    hash,
    depth: sheet.depth,
    notes: sheet.notes ?? '',
    guessed: sheet.guessed,
    choices: sheet.choices ?? null,
    ground,
    // In one order, however the lines stand in the sheet: an answer must not hang on it.
    nets: nets.sort((a, b) => byName(a.id, b.id)),
    parts: parts.sort((a, b) => byName(a.ref, b.ref)),
    chips: chips.sort((a, b) => byName(a.ref, b.ref)),
    stages,
    points,
    sources,
    goals,
    button,
    attachments: Object.entries(sheet.attachments).map(([id, { title }]) => ({ id, title })),
  });
}

function need(written: SheetNeed): Need {
  return {
    pin: written.at,
    side: written.side,
    volts: written.volts,
    hysteresisVolts: written.hysteresisVolts,
    than: written.than,
  };
}

const levels = (written: Record<string, Level>): { pin: string; level: Level }[] =>
  Object.entries(written).map(([pin, level]) => ({ pin, level }));

type WrittenStep = Extract<SheetBehaviour, { do: 'sequence' }>['steps'][number];

function step(written: WrittenStep): Step {
  if ('wait' in written) {
    return { kind: 'wait', needs: written.wait.map(need), withinSeconds: written.within ?? null };
  }
  if ('pause' in written) return { kind: 'pause', seconds: written.pause };
  if ('drive' in written) return { kind: 'drive', levels: levels(written.drive) };
  if ('pulse' in written) {
    return { kind: 'pulse', pin: written.pulse, level: written.to, seconds: written.for };
  }
  if ('ask' in written) return { kind: 'ask', volts: written.ask };
  return { kind: 'mark', text: written.mark };
}

/** Pins a behaviour speaks of. */
export function pinsNamed(behaviour: SheetBehaviour): Set<string> {
  const pins = new Set<string>();
  const add = (list: readonly SheetNeed[]): void =>
    list.forEach((one) => {
      pins.add(one.at);
      if (one.than !== null) pins.add(one.than);
    });
  add(behaviour.needs);
  switch (behaviour.do) {
    case 'regulator':
      for (const pin of [
        behaviour.in,
        behaviour.out,
        behaviour.sense,
        behaviour.feedback,
        behaviour.powerGood,
      ]) {
        if (pin !== undefined) pins.add(pin);
      }
      break;
    case 'follower':
      pins.add(behaviour.out);
      if (behaviour.high !== undefined) pins.add(behaviour.high);
      add(behaviour.supply);
      add(behaviour.startNeeds);
      add(behaviour.trips);
      break;
    case 'sequence':
      pins.add(behaviour.high);
      add(behaviour.supply);
      add(behaviour.abort);
      Object.keys(behaviour.idle).forEach((pin) => pins.add(pin));
      for (const one of behaviour.steps) {
        if ('wait' in one) add(one.wait);
        else if ('drive' in one) Object.keys(one.drive).forEach((pin) => pins.add(pin));
        else if ('pulse' in one) pins.add(one.pulse);
      }
  }
  return pins;
}

function place(written: {
  side?: 'top' | 'bottom' | undefined;
  x?: number | undefined;
  y?: number | undefined;
}): Place {
  return { side: written.side ?? null, x: written.x ?? null, y: written.y ?? null };
}
