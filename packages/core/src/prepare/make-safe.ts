import type { Board } from '../board/index.ts';
import { safetyItems, type Job } from '../record/index.ts';

export type SafetyItem = (typeof safetyItems)[number];

/** One line of the safety list: what to do, and why. */
export interface SafetyStep {
  item: SafetyItem;
  /** Steps are done before the board is opened or measured cold; cautions are to be looked for. */
  kind: 'step' | 'caution';
  title: string;
  why: string;
  state: 'done' | 'none-here' | 'open';
  /** It concerns this job more than others: the history says so. */
  pressing: boolean;
}

// Common practice, no source. Local rules and licensed practice stand above all of it.
const texts: Record<SafetyItem, Pick<SafetyStep, 'kind' | 'title' | 'why'>> = {
  'source-off': {
    kind: 'step',
    title: 'Source off and unplugged, button held for ten seconds',
    why: 'Ohms and diode-mode on a live board read nonsense and can burn the meter.',
  },
  'battery-out': {
    kind: 'step',
    title: 'Battery unplugged first, before any screw near the board',
    why: 'It feeds the board with nothing else connected; a slip shorts cells that can burn.',
  },
  'storage-out': {
    kind: 'step',
    title: 'Storage out and laid aside',
    why: "The owner's data is on it; a wrong rail ends it.",
  },
  discharged: {
    kind: 'step',
    title: 'Large capacitors discharged through a resistor, checked in volts',
    why: 'The main rail holds its charge for a while; a screwdriver across it takes parts along.',
  },
  'coin-cell': {
    kind: 'step',
    title: 'Coin cell known: there, out, or none',
    why: 'It holds the clock domain up: cold readings there are wrong while it is in.',
  },
  esd: {
    kind: 'step',
    title: 'Wrist strap and mat on',
    why: 'What static kills reads like what you came to find.',
  },
  'swollen-cell': {
    kind: 'caution',
    title: 'Battery looked at: not swollen, dented or hot',
    why: 'A swollen or pierced cell can catch fire hours later. Do not press, bend or charge it; put it outside what burns and follow your local rules for it.',
  },
  'mains-side': {
    kind: 'caution',
    title: 'No mains-side work: adapters and supplies stay closed',
    why: 'Their capacitors kill with the plug out. That work is for licensed practice, not for this tool.',
  },
  liquids: {
    kind: 'caution',
    title: 'Liquids and cleaners',
    why: 'A wet board is dried before power. Alcohol and spray cleaners burn: no hot air, iron or source until they are gone, and fresh air.',
  },
  'hot-air': {
    kind: 'caution',
    title: 'Hot air and fumes',
    why: 'Flux and lead fumes are drawn off, eyes covered, cells and plastic shielded; what was heated stays hot for minutes.',
  },
  'liquid-metal': {
    kind: 'caution',
    title: 'Liquid metal under the heatsink',
    why: 'It runs, conducts and eats aluminium. Look before wiping; keep it off the board and away from skin.',
  },
};

/** The safety list for a board as its job stands: steps first, then what to look out for. */
export function safetySteps(board: Board, job: Job): SafetyStep[] {
  const happened = job.intake?.happened ?? [];
  const hasBattery = board.sources.some((one) => one.kind === 'battery');
  const hasCell = board.sources.some((one) => one.kind === 'coin-cell');
  const hasStorage = board.attachments.some((one) => one.id === 'storage');
  const pressing: Partial<Record<SafetyItem, boolean>> = {
    liquids: happened.includes('liquid') || happened.includes('frost'),
    'swollen-cell': hasBattery && (happened.includes('drop') || happened.includes('bite')),
  };
  return safetyItems
    .filter((item) => {
      if (item === 'battery-out' || item === 'swollen-cell') return hasBattery;
      // A sheet of rails alone says nothing of a coin cell: it is asked for there.
      if (item === 'coin-cell') return hasCell || board.depth === 'rails';
      if (item === 'storage-out') return hasStorage;
      return true;
    })
    .map((item): SafetyStep => ({
      item,
      ...texts[item],
      state: job.safety.find((one) => one.body.item === item)?.body.state ?? 'open',
      pressing: pressing[item] ?? false,
    }));
}

/** Steps nobody noted as done; before cold checks they are named, never taken as done. */
export const openSteps = (board: Board, job: Job): SafetyStep[] =>
  safetySteps(board, job).filter((one) => one.kind === 'step' && one.state === 'open');
