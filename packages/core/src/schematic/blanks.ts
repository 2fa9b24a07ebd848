import { findNet, readNetName, type Board, type NetId } from '../board/index.ts';
import type { Candidates, NetCandidate, PartCandidate } from './candidates.ts';
import { foldName } from './names.ts';

/** A net of the sheet that the document calls otherwise. */
export interface Join {
  net: NetId;
  to: string;
  sure: number;
  why: string;
}

/** What names of the trade mean the same as those of a first sheet; common practice, no source. */
const sameMeaning: Readonly<Record<string, readonly string[]>> = {
  DC_IN: [
    'VIN_JACK',
    'DCIN',
    'ADPIN',
    'ADP_IN',
    'VADP',
    'JACK',
    'ACIN',
    'PWR_IN',
    '12V_IN',
    'V_JACK',
  ],
  VMAIN: [
    'VBUS_M',
    'VSYS',
    'B',
    'PWR_SRC',
    'VBATT_SYS',
    'BUS',
    'DCBATOUT',
    'VIN_SYS',
    'VDC',
    'MAIN',
  ],
  'SLP_S3#': ['SUSB', 'S3', 'PM_SLP_S3', 'SLPS3'],
  'SLP_S4#': ['SUSC', 'S4', 'PM_SLP_S4', 'SLPS4'],
  'PLTRST#': ['PLT_RST', 'PCIRST', 'PLATFORM_RESET', 'BUF_PLT_RST'],
  'RSMRST#': ['RSM_RST', 'PM_RSMRST', 'PCH_RSMRST'],
  PWROK: ['PCH_PWROK', 'PM_PWROK', 'SYS_PWROK', 'PWR_OK', 'ALL_PG', 'ALLSYSPG'],
  'BTN#': [
    'PWRBTN_EC',
    'PWR_SW',
    'PWRSW',
    'ONOFF',
    'PWRBTN_SW',
    'KEY_ON',
    'PWR_KEY',
    'POWER_BUTTON',
  ],
  'PWRBTN#': ['PCH_PWRBTN', 'PBTN_OUT', 'PM_PWRBTN', 'PBTN', 'PWRBTN_OUT'],
  'EC_RST#': ['ECRST', 'EC_RESET', 'KBRST', 'WRST', 'ECRSTN'],
  S5_EN: ['SUSPEND_EN', 'PRIM_EN', 'ALW_ON', 'S5_ON', 'S5ON'],
  S5_PG: ['SUSPEND_PG', 'PRIM_PG', 'S5_PWRGD', 'S5PG'],
  MEM_EN: ['SUS_EN', 'DDR_EN', 'SUSON', 'MEM_ON', 'SYSON'],
  MEM_PG: ['DDR_PG', 'SUS_PG', 'MEM_PWRGD', 'DDRPG'],
  RUN_EN: ['RUNON', 'RUN_ON', 'MAINON', 'SUSP', 'S0_EN'],
  VR_EN: ['VR_ON', 'VRON', 'CORE_EN', 'VCORE_EN', 'CPU_EN', 'IMVP_EN'],
  VR_PG: ['VR_READY', 'VRRDY', 'CORE_PG', 'VCORE_PG', 'CPU_PG', 'VRMPWRGD', 'VR_RDY'],
  VCORE: ['VCC_CORE', 'CPU_CORE', 'VDD_CPU', 'VCPU', 'CORE', 'VDDCORE'],
  '5V_LDO': ['VL', 'VREG5', 'LDO5', '5VL'],
  '3V3_LDO': ['VREG3', 'LDO3', '3VL', '3V3L'],
};

const pinIs = {
  in: /^P?V?IN\d?$|^VIN|^PVIN|^VCC_IN$|^FEED/i,
  out: /^V?OUT\d?$|^VO\d?$|^OUT/i,
  sw: /^(?:SW|LX|PH|PHASE)\w?\d?$/i,
  en: /^EN\w?\d?$|^ENABLE$|^ON\d?$|^SHDN/i,
  pg: /^PG\w?\d?$|^PGOOD\d?$|^POK\d?$|^PWRGD$|^RDY$|^VR_?READY$|^READY$/i,
};

/**
 * Which nets of a sheet made by choices are which nets of a document: by name, by volts and domain, and
 * by what the chip that makes a rail has at its pins. Each net of the document is given once.
 */
export function fillBlanks(board: Board, { nets, parts }: Candidates): Join[] {
  const joins: Join[] = [];
  const usedNets = new Set<string>();
  const byFold = new Map(
    nets.flatMap((one) => [one.name, ...one.also].map((name) => [foldName(name), one])),
  );
  const isJoined = (net: string): boolean => joins.some((one) => one.net === net);
  const add = (net: NetId, to: NetCandidate | undefined, sure: number, why: string): void => {
    if (!to || isJoined(net)) return;
    joins.push({ net, to: to.name, sure, why });
    usedNets.add(to.name);
  };
  const known = board.nets.filter((one) => one.kind !== 'ground' && !one.isUnnamed);
  for (const { id, aliases } of known) {
    const same = [id, ...aliases].map((name) => byFold.get(foldName(name))).find((one) => one);
    if (same) add(id, same, 0.97, 'the same name');
  }
  // A rail of the same volts that is there at the same time.
  for (const net of known) {
    if (net.kind !== 'rail' || isJoined(net.id) || net.volts === null || net.volts > 6) continue;
    if (isWayIn(board, net.id)) continue;
    const mine = readNetName(net.id).domain;
    // Without a word of when it is there, volts alone are too little.
    if (mine === null) continue;
    const fitting = nets.filter(
      (one) =>
        one.kind === 'rail' &&
        !usedNets.has(one.name) &&
        one.volts !== null &&
        Math.abs(one.volts - (net.volts as number)) < 0.03 * (net.volts as number) &&
        one.domain === mine,
    );
    if (fitting.length === 1)
      add(net.id, fitting[0], 0.8, `${net.volts} V, the only one of them that is there then`);
  }
  for (const { id } of known)
    for (const other of sameMeaning[id] ?? []) {
      const found = byFold.get(foldName(other));
      if (found && !usedNets.has(found.name)) add(id, found, 0.75, 'usually called so');
    }
  const main = findNet(board, 'VMAIN');
  if (main && !isJoined(main.id)) {
    const feeds = new Map<string, number>();
    for (const { pins } of parts)
      for (const { name, net } of pins)
        if (net && pinIs.in.test(name)) feeds.set(net, (feeds.get(net) ?? 0) + 1);
    const [first, second] = [...feeds].sort((a, b) => b[1] - a[1]);
    const candidate = first && nets.find((one) => one.name === first[0]);
    if (candidate && first[1] > (second?.[1] ?? 0) && (candidate.volts ?? 12) > 4)
      add(main.id, candidate, 0.7, `feeds ${first[1]} converters`);
  }
  return [...joins, ...aroundConverters(board, joins, parts, byFold)];
}

/** Feed, enable and power-good of each converter, as the chip that makes the rail has them at its pins. */
function aroundConverters(
  board: Board,
  joins: readonly Join[],
  parts: readonly PartCandidate[],
  byFold: ReadonlyMap<string, NetCandidate>,
): Join[] {
  const more: Join[] = [];
  const add = (net: string | undefined, to: string | null, why: string): void => {
    const on = net === undefined ? undefined : findNet(board, net);
    if (!on || to === null || [...joins, ...more].some((one) => one.net === on.id)) return;
    const candidate = byFold.get(foldName(to));
    if (candidate) more.push({ net: on.id, to: candidate.name, sure: 0.85, why });
  };
  for (const stage of board.stages) {
    const rail = stage.gives[0];
    const to = joins.find((one) => one.net === rail)?.to;
    const virtual = board.chips.find(
      (one) =>
        one.virtual &&
        one.pins.has('FEED') &&
        [...one.pins].some(([pin, net]) => /^OUT/.test(pin) && net === rail),
    );
    if (!to || !virtual) continue;
    const maker = makerOf(to, parts);
    if (!maker) continue;
    const { chip, suffix } = maker;
    const at = (kind: keyof typeof pinIs): string | null => pinNet(chip, kind, suffix);
    add(virtual.pins.get('FEED'), at('in'), `${chip.ref} is fed there`);
    add(virtual.pins.get('ENABLE'), at('en'), `${chip.ref} is let on there`);
    add(virtual.pins.get('PG'), at('pg'), `${chip.ref} says there that ${to} is good`);
  }
  return more;
}

/** The chip that makes a rail: at its output, or through a coil at its switch node. */
function makerOf(
  rail: string,
  parts: readonly PartCandidate[],
): { chip: PartCandidate; suffix: string } | null {
  const beforeCoil = parts
    .filter((one) => one.kind === 'coil' && one.pins.length === 2)
    .flatMap(({ pins }) => {
      const [a, b] = pins.map((one) => one.net);
      return a === rail ? [b] : b === rail ? [a] : [];
    });
  for (const chip of parts) {
    if (chip.kind !== 'chip') continue;
    const out = chip.pins.find(
      ({ name, net }) =>
        (net === rail && pinIs.out.test(name)) ||
        (net !== null && beforeCoil.includes(net) && pinIs.sw.test(name)),
    );
    // Two regulators in one chip: SW1 goes with EN1.
    if (out) return { chip, suffix: /(\d|[AB])$/.exec(out.name)?.[1] ?? '' };
  }
  return null;
}

function pinNet(chip: PartCandidate, kind: keyof typeof pinIs, suffix: string): string | null {
  const fitting = chip.pins.filter(({ name, net }) => net !== null && pinIs[kind].test(name));
  const own = suffix === '' ? [] : fitting.filter(({ name }) => name.endsWith(suffix));
  const found = own.length > 0 ? own : fitting;
  return found.length === 1 ? (found[0]?.net ?? null) : null;
}

const isWayIn = (board: Board, net: NetId): boolean => board.sources.some((one) => one.net === net);
