import { outputPins, allNeeds } from './behaviour-pins.ts';
import type { Behaviour, Board, Chip, Need } from './board.ts';
import { chipPins } from './chip-pins.ts';
import { pinsOnNet } from './find.ts';
import type { NetId } from './ids.ts';
import { sheetLines, withPlace } from './load-sheet.ts';
import type { PathedIssue } from './build-board.ts';
import type { SheetIssue } from './sheet-issue.ts';

/**
 * What is doubtful about a sheet that loads, with the line it stands on. What the healthy play
 * finds (a stage that never comes up) is added by checkHealthyPlay of expectations.
 */
export function lintBoard(board: Board, text: string): SheetIssue[] {
  const lineOf = sheetLines(text);
  return [
    ...netIssues(board),
    ...pinIssues(board),
    ...undrivenIssues(board),
    ...circularIssues(board),
  ].map((issue) => withPlace(issue, lineOf));
}

function netIssues(board: Board): PathedIssue[] {
  const issues: PathedIssue[] = [];
  const entered = new Set(board.sources.map((source) => source.net));
  for (const net of board.nets) {
    const pins = pinsOnNet(board, net.id);
    const others =
      (entered.has(net.id) ? 1 : 0) +
      (board.button?.net === net.id ? 1 : 0) +
      (net.loadAmps > 0 ? 1 : 0);
    const at = ['nets', net.id];
    // A point of one's own waits for its name.
    if (net.isUnnamed) continue;
    if (pins.length + others === 0) issues.push({ code: 'lonely-net', net: net.id, at });
    // At rails depth nets end where nothing more is drawn: that is no mistake.
    else if (pins.length + others === 1 && board.depth === 'full') {
      const pin = pins[0] ? `${pins[0].ref} ${pins[0].pin}` : 'a source';
      issues.push({ code: 'one-pin-net', net: net.id, pin, at });
    }
  }
  return issues;
}

/** Pins that stand where the kind knows one of nearly the same name, which is not there. */
function pinIssues(board: Board): PathedIssue[] {
  return board.chips.flatMap((chip) => {
    if (chip.virtual) return [];
    const known = chipPins[chip.kind].pins;
    const used = new Set(chip.behaviours.flatMap(namedPins));
    return [...chip.pins.keys()].flatMap((pin): PathedIssue[] => {
      if (known.includes(pin) || used.has(pin)) return [];
      const meant = known.find((one) => !chip.pins.has(one) && isAlike(pin, one));
      const at = ['chips', chip.ref, 'pins', pin];
      return meant
        ? [{ code: 'misspelt-pin', chip: chip.ref, kind: chip.kind, pin, meant, at }]
        : [];
    });
  });
}

const namedPins = (behaviour: Behaviour): string[] => [
  ...outputPins(behaviour),
  ...allNeeds(behaviour).flatMap((need) => [need.pin, need.than ?? '']),
  ...('in' in behaviour ? [behaviour.in, behaviour.sense] : []),
];

/** Words for the same pin: `ENABLE` for EN, `PGOOD` for PG, `VOUT` for OUT, `RESET` for RST. */
const sameWords: readonly (readonly string[])[] = [
  ['EN', 'ENABLE', 'ON', 'SHDN'],
  ['PG', 'PGOOD', 'POK', 'PWRGD', 'POWERGOOD'],
  ['OUT', 'VOUT', 'VO'],
  ['VIN', 'IN', 'VI', 'PVIN'],
  ['RST', 'RESET', 'RST#', 'RESET#'],
  ['VCC', 'VDD', 'AVCC', 'AVDD'],
  ['SW', 'LX', 'PHASE'],
  ['SENSE', 'FB', 'VSENSE'],
];

function isAlike(pin: string, known: string): boolean {
  const [a, b] = [pin.toUpperCase(), known.toUpperCase()];
  if (sameWords.some((words) => words.includes(a) && words.includes(b))) return true;
  if (a.replace(/[#_]/g, '') === b.replace(/[#_]/g, '')) return true;
  // Two letters that changed places, or one that is missing, in a name of some length.
  if (a.length < 4 || b.length < 4) return false;
  return [...a].sort().join('') === [...b].sort().join('') || isOneOff(a, b) || isOneOff(b, a);
}

/** Whether the longer is the shorter with one letter put in. */
const isOneOff = (longer: string, shorter: string): boolean =>
  longer.length === shorter.length + 1 &&
  [...longer].some((_, at) => longer.slice(0, at) + longer.slice(at + 1) === shorter);

/** Nets that something can lift above ground or pull on. */
function drivenNets(board: Board): Set<NetId> {
  const driven = new Set<NetId>(board.sources.map((source) => source.net));
  driven.add(board.ground);
  for (const chip of board.chips) {
    for (const behaviour of chip.behaviours) {
      for (const pin of outputPins(behaviour)) {
        const net = chip.pins.get(pin);
        if (net) driven.add(net);
      }
    }
  }
  // Through passives and FET channels, both ways: a divider or a filter drives its far side.
  for (let grew = true; grew;) {
    grew = false;
    for (const part of board.parts) {
      if (!part.fitted || part.kind === 'capacitor' || part.kind === 'button') continue;
      const nets = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
      // Ground alone does not lift anything.
      if (!nets.some((net) => net !== board.ground && driven.has(net))) continue;
      for (const net of nets) {
        if (!driven.has(net)) {
          driven.add(net);
          grew = true;
        }
      }
    }
  }
  return driven;
}

function undrivenIssues(board: Board): PathedIssue[] {
  const driven = drivenNets(board);
  const issues: PathedIssue[] = [];
  for (const chip of board.chips) {
    const seen = new Set<string>();
    for (const need of chip.behaviours.flatMap(allNeeds)) {
      const net = chip.pins.get(need.pin);
      if (!net || driven.has(net) || need.side === 'below' || seen.has(need.pin)) continue;
      seen.add(need.pin);
      issues.push({
        code: 'undriven',
        chip: chip.ref,
        pin: need.pin,
        net,
        at: chip.virtual ? ['stages'] : ['chips', chip.ref, 'pins', need.pin],
      });
    }
  }
  return issues;
}

/** Behaviours that wait for each other before any of them has given anything. */
function circularIssues(board: Board): PathedIssue[] {
  // Optimistic: everything that can come up without itself comes up. What is left waits in a circle
  // or on something undriven, which is reported by its own rule.
  const up = new Set<NetId>(board.sources.map((source) => source.net));
  up.add(board.ground);
  const blocks = board.chips.flatMap((chip) =>
    chip.behaviours.map((behaviour) => ({ chip, behaviour })),
  );
  const waiting = new Set(blocks);
  const driven = drivenNets(board);
  for (let grew = true; grew;) {
    grew = false;
    for (const block of waiting) {
      if (!firstNeeds(block.behaviour).every((need) => isUp(block.chip, need, up, driven)))
        continue;
      waiting.delete(block);
      grew = true;
      for (const pin of outputPins(block.behaviour)) {
        const net = block.chip.pins.get(pin);
        if (net) up.add(net);
      }
    }
    if (spread(board, up)) grew = true;
  }
  const circle = findCircle(board, [...waiting], up);
  if (circle.length === 0) return [];
  return [{ code: 'circular-need', chips: circle, at: ['chips', circle[0]?.split(' ')[0] ?? ''] }];
}

function isUp(chip: Chip, need: Need, up: Set<NetId>, driven: Set<NetId>): boolean {
  if (need.side === 'below') return true;
  const net = chip.pins.get(need.pin);
  return net === undefined || up.has(net) || !driven.has(net);
}

/** Carries "up" through passives and channels; returns whether anything was added. */
function spread(board: Board, up: Set<NetId>): boolean {
  let any = false;
  for (let grew = true; grew;) {
    grew = false;
    for (const part of board.parts) {
      if (!part.fitted || part.kind === 'capacitor' || part.kind === 'button') continue;
      const nets = part.pins.filter((pin) => pin.name !== 'G').map((pin) => pin.net);
      if (!nets.some((net) => net !== board.ground && up.has(net))) continue;
      for (const net of nets) {
        if (!up.has(net)) {
          up.add(net);
          grew = true;
          any = true;
        }
      }
    }
  }
  return any;
}

type Block = { chip: Chip; behaviour: Behaviour };

function findCircle(board: Board, waiting: Block[], up: Set<NetId>): string[] {
  const label = (block: Block): string => `${block.chip.ref} ${block.behaviour.name}`;
  const giverOf = (net: NetId): Block | undefined =>
    waiting.find((block) =>
      outputPins(block.behaviour).some((pin) => reaches(board, block.chip.pins.get(pin), net)),
    );
  for (const start of waiting) {
    const path: Block[] = [];
    let block: Block | undefined = start;
    while (block && !path.includes(block)) {
      path.push(block);
      const here: Block = block;
      const missing = firstNeeds(here.behaviour).find((need) => {
        const net = here.chip.pins.get(need.pin);
        return need.side === 'above' && net !== undefined && !up.has(net);
      });
      const net = missing ? here.chip.pins.get(missing.pin) : undefined;
      block = net ? giverOf(net) : undefined;
    }
    if (block) return [...path.slice(path.indexOf(block)), block].map(label);
  }
  return [];
}

/** Whether the net is the given one or joined to it by passives. */
function reaches(board: Board, from: NetId | undefined, to: NetId): boolean {
  if (from === undefined) return false;
  const reached = new Set<NetId>([from]);
  spread(board, reached);
  return reached.has(to);
}

/** Needs that must be there before the behaviour gives its first output. */
function firstNeeds(behaviour: Behaviour): Need[] {
  switch (behaviour.do) {
    case 'regulator':
      return behaviour.needs;
    case 'follower':
      return [...behaviour.supply, ...behaviour.needs, ...behaviour.startNeeds];
    case 'sequence': {
      const early: Need[] = [...behaviour.supply, ...behaviour.needs];
      for (const step of behaviour.steps) {
        if (step.kind === 'wait') early.push(...step.needs);
        if (step.kind === 'drive' || step.kind === 'pulse') break;
      }
      return early;
    }
  }
}
