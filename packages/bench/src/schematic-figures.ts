import { readFileSync } from 'node:fs';
import { draw, seeded } from '@jiko/core/base';
import { parseFault } from '@jiko/core/faults';
import { choicesSchema, composeSheetText } from '@jiko/core/first-sheet';
import { benchSetup } from '@jiko/core/play';
import { hideFaults } from '@jiko/bench';
import { usualMeter } from '@jiko/core/readings';
import { candidatesOf, fillBlanks, takeIn } from '@jiko/core/schematic';
import { readPdf } from '@jiko/pdf';
import type { StrangerFault } from './stranger-boards.ts';
import { boardOf, follow, type StrangerRun } from './stranger-figures.ts';

// A sheet made from choices and a schematic alone, tried on the board the schematic is of.

const sheets = new URL('../../../sheets/', import.meta.url);

/** What a technician sees of Cairn 14 with the covers off. */
const choices = choicesSchema.parse({
  input: 'barrel-pfet',
  alwaysOn: 'dual',
  controller: 'one',
  handshake: 'chipset',
  memory: 'ddr4',
  branches: ['charging', 'backlight', 'storage', 'fan', 'lights'],
});

/** Stages of Cairn 14 with one need broken, and the answer that is wanted: written down before any was run. */
export const cairnFaults: readonly StrangerFault[] = [
  { rail: '3V3_ALW', need: 'output', fault: 'C22:short' },
  { rail: '1V8_S5', need: 'chip', fault: 'PU4:dead' },
  { rail: '1V8_S5', need: 'output', fault: 'C40:short' },
  { rail: '1V8_S5', need: 'enable', fault: 'U20.S5EN:stuck-low' },
  { rail: '1V05_S5', need: 'chip', fault: 'PU5:dead' },
  { rail: '1V05_S5', need: 'output', fault: 'C41:short' },
  { rail: '1V05_S5', need: 'power-good', fault: 'PU5.PG:stuck-low' },
  { rail: '1V05_S5', need: 'enable', fault: 'PU4.PG:stuck-low' },
  { rail: '1V2_MEM', need: 'chip', fault: 'PU6:dead' },
  { rail: '1V2_MEM', need: 'output', fault: 'C50:short' },
  { rail: '1V2_MEM', need: 'enable', fault: 'U20.SUSEN:stuck-low' },
  { rail: '1V2_MEM', need: 'power-good', fault: 'PU6.PG:stuck-low' },
  { rail: '5V_RUN', need: 'chip', fault: 'U32:dead' },
  { rail: '3V3_RUN', need: 'chip', fault: 'U33:dead' },
  { rail: 'VCORE', need: 'chip', fault: 'PU9:dead' },
  { rail: 'VCORE', need: 'enable', fault: 'U20.VRON:stuck-low' },
  { rail: 'VCORE', need: 'power-good', fault: 'PU9.PG:stuck-low' },
];

/** The sheet: choices, and all that the reader is sure of ticked. */
export async function sheetFromSchematic(): Promise<string> {
  const text = composeSheetText({ title: 'Unknown', marking: '', choices }, 'unknown');
  const { pages } = await readPdf(readFileSync(new URL('cairn-14.schematic.pdf', sheets)));
  const candidates = candidatesOf(pages);
  const joins = fillBlanks(boardOf(text), candidates);
  const taken = takeIn(text, { joins, nets: [], parts: [] });
  if (!taken.ok) throw new Error(taken.error.join(' '));
  return taken.value.text;
}

/** One stage of Cairn 14 after the other, drawn by seed without putting back. */
export function schematicRuns(text: string, seed: number, count: number): StrangerRun[] {
  const chance = seeded(seed);
  const real = boardOf(readFileSync(new URL('cairn-14.yaml', sheets), 'utf8'));
  const left = [...cairnFaults];
  const made = boardOf(text);
  const sees = new Map<string, string>();
  for (const net of made.nets) {
    const there = real.nets.find((one) =>
      [net.id, ...net.aliases].some((name) => [one.id, ...one.aliases].includes(name)),
    );
    // A technician finds what the schematic names.
    if (there) sees.set(net.id, there.id);
  }
  return Array.from({ length: count }, () => {
    const fault = draw(left, chance);
    left.splice(left.indexOf(fault), 1);
    const parsed = parseFault(real, fault.fault);
    if (!parsed.ok) throw new Error(`${fault.fault}: ${JSON.stringify(parsed.error)}`);
    const hidden = hideFaults(real, benchSetup(real, { attached: [] }), [parsed.value], chance, {
      badContact: 0.02,
      noise: 0.0005,
      meter: usualMeter,
    });
    return follow(seed, { text, sees, source: 'adapter' }, fault, hidden, 'shortest');
  });
}
