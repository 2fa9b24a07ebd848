import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { takeOff, type NetId } from '../board/index.ts';
import { playFed, usualSetup } from '../play/index.ts';
import { plainBoard } from '@jiko/testing';
import { cautionText } from '../safety/index.ts';
import {
  copperOf,
  expectedRise,
  huntOn,
  leastMillimetres,
  planInjection,
  planLiveFeed,
  seenChance,
  shortCandidates,
  sharedOhms,
  splitSense,
  type FedRail,
  type HuntLog,
} from './index.ts';

const board = plainBoard(cairnText);
const setup = usualSetup(board);
const nothing = { findings: [], tried: [], habits: [] };
const net = (id: string): NetId => id as NetId;
const rail = net('3V3_ALW');
const candidates = (ohms = 0.5) => shortCandidates(board, rail, ohms, nothing);
const hunt = (log: Partial<HuntLog>, lifted: string[] = []) =>
  huntOn(board, setup, rail, candidates(), { ohms: [], fed: [], ...log }, lifted);
const read = (ohms: number, lifted: string[] = [], at = rail) => ({
  id: `${at} ${lifted.join()}`,
  net: at,
  ohms,
  lifted,
});
const fed = (change: Partial<FedRail>): FedRail => ({
  id: 'fed',
  net: rail,
  at: 'PL1',
  amps: 1,
  volts: 0.5,
  warm: [],
  drops: [],
  ...change,
});

describe('what could be the short', () => {
  it('is every part to ground on what milliohms join, once for each net, with shares that sum to 1', () => {
    const all = candidates();
    const names = all.map((one) => `${one.name} ${one.net}`);
    expect(new Set(names).size).toBe(names.length);
    expect(all.reduce((sum, one) => sum + one.share, 0)).toBeCloseTo(1, 6);
    expect(names).toContain('C13 3V3_ALW');
    // On both sides of the coil: the regulator's switch pin and its feedback.
    expect(names).toContain('PU2 PH_3V3');
    expect(names).toContain('PU2 3V3_ALW');
    // On another rail.
    expect(names.some((one) => one.startsWith('C15 '))).toBe(false);
  });

  it('says what a bench can take off: a small part soon, a ball grid never', () => {
    expect(takeOff(board, 'C14').seconds).toBeLessThan(takeOff(board, 'PU4').seconds!);
    expect(takeOff(board, 'U40').seconds).toBeNull();
    expect(takeOff(board, 'U40').why).toMatch(/grid/);
  });
});

describe('injecting', () => {
  it('1 A into 50 mΩ is 50 mW and probably not seen; the plan then asks for more amps', () => {
    const weak = planInjection(board, setup, rail, 0.05, { volts: 1, limitAmps: 1 });
    expect(weak.watts).toBeCloseTo(0.05, 6);
    expect(weak.seen).not.toBe('clearly');
    expect(weak.says.join(' ')).toMatch(/50 mW/);
    const plan = planInjection(board, setup, rail, 0.05);
    expect(plan.shownAmps).toBeGreaterThan(1);
    expect(plan.shownAmps).toBeLessThanOrEqual(5);
  });

  it.each([
    ['at its own volts', 3.3, true],
    ['a little above them', 3.35, false],
  ])('%s: %d V', (_, volts, isFine) => {
    const plan = planInjection(board, setup, rail, 20, { volts, limitAmps: 0.2 });
    expect(plan.harms.some((one) => /more than 3V3_ALW ever has/.test(one))).toBe(!isFine);
  });

  it.each([
    [1, 1, true],
    [5, 1, true],
    [5.1, 1, false],
  ])('%d A at most 5 A: %d V', (limitAmps, volts, isFine) => {
    const plan = planInjection(board, setup, rail, 0.05, { volts, limitAmps });
    expect(plan.harms.length === 0).toBe(isFine);
  });

  it.each([
    [1, 4.9, true],
    [1.05, 5, false],
  ])('no more than 5 W in one part: %d Ω at %d V', (ohms, volts, isFine) => {
    const plan = planInjection(board, setup, net('VMAIN'), ohms, { volts, limitAmps: 5 });
    // V²/R: 4.9 A would be 24 W into an ohm; the limit of 5 A is what counts.
    expect(plan.watts > 5).toBe(plan.harms.some((one) => /it burns/.test(one)));
    expect(isFine || plan.watts > 5).toBe(true);
  });

  it('drives no current into a signal', () => {
    expect(planInjection(board, setup, net('EN_3V3'), 2).harms[0]).toMatch(/signal/);
  });

  it('says what it feeds backwards, as the play has it', () => {
    const plan = planInjection(board, setup, rail, 20, { volts: 3.3, limitAmps: 0.5 });
    const snapshot = playFed(board, setup, { net: rail, volts: 3.3, limitAmps: 0.5 }, [])!;
    for (const one of plan.backwards) expect(snapshot.volts.get(one.net)).toBeCloseTo(one.volts, 6);
    expect(plan.backwards.every((one) => one.volts > 0.3)).toBe(true);
  });

  it('is seen by its watts: 30 kelvin a watt, a camera floor of half a kelvin', () => {
    expect(expectedRise(1)).toBe(30);
    expect(seenChance(0.005)).toBeLessThan(0.2);
    expect(seenChance(0.05)).toBeGreaterThan(0.3);
    expect(seenChance(0.05)).toBeLessThan(0.7);
    expect(seenChance(0.5)).toBeGreaterThan(0.95);
    expect(seenChance(0)).toBe(0);
  });
});

describe('feeding a rail of a live board', () => {
  it.each([
    [null, false],
    [0.3, false],
    [0.29, true],
    [0, true],
  ])('is a test only while its regulator is known to be off: read at %s V', (read, isFine) => {
    const plan = planLiveFeed(board, setup, net('1V8_S5'), { volts: read, ohms: 400 });
    expect(plan.harms).toEqual(
      isFine
        ? []
        : [
            'What makes 1V8_S5 is not known to be off: read it first. Two supplies on one rail fight.',
          ],
    );
    expect([plan.volts, plan.limitAmps]).toEqual([1.8, 0.5]);
  });

  // 1.8 V on 3.6 Ω are the 0.5 A of the limit: nothing would be left for the rail.
  it.each([
    [null, /^1V8_S5 is not known to be free of a short: read its ohms cold first\.$/],
    [0.2, /^1V8_S5 reads 200 mΩ cold: all that the feed gives would go into the short\./],
    [3.6, /would go into the short/],
    [3.7, null],
  ])('is none on a rail that is shorted, or not known not to be: %s Ω', (ohms, words) => {
    const { harms } = planLiveFeed(board, setup, net('1V8_S5'), { volts: 0, ohms });
    if (words === null) expect(harms).toEqual([]);
    else expect(harms[0]).toMatch(words);
  });

  it('is played with its source on and its regulator dead', () => {
    const feed = { net: net('1V8_S5'), volts: 1.8, limitAmps: 0.5 };
    const dead = [{ kind: 'output-dead' as const, part: 'PU4' as never, pin: 'SW' }];
    const live = playFed(board, setup, feed, dead, true)!;
    // The rest of the board is up, and the fed rail with it.
    expect(live.volts.get(net('3V3_ALW'))).toBeCloseTo(3.3, 1);
    expect(live.volts.get(net('1V8_S5'))).toBeCloseTo(1.8, 1);
  });

  it.each(['VCORE', 'PH_CORE'])('is never one on a rail of the processor: %s', (id) => {
    expect(planLiveFeed(board, setup, net(id), { volts: 0, ohms: 400 }).harms[0]).toMatch(
      /rail of the processor/,
    );
  });

  it('shows its caution word for word', () => {
    expect(cautionText('feed-live')).toBe(
      'The board is live: connect and disconnect the supply with everything off, its ground first. Off at once if it goes to its limit, or anything smells or gets hot.',
    );
  });

  it('is none on a signal', () => {
    expect(planLiveFeed(board, setup, net('EN_3V3'), { volts: 0, ohms: 400 }).harms[0]).toMatch(
      /no rail/,
    );
  });
});

describe('splitting', () => {
  it('leaves a board without its feedback: no power with the coil out', () => {
    expect(splitSense(board, 'PL1')).toMatch(/do not power the board with PL1 out/);
    expect(splitSense(board, 'R1')).toBeNull();
  });

  it('clears what is on the other side, and what was lifted while the short stayed', () => {
    const { candidates: after } = hunt({
      ohms: [read(0.5), read(0.5, ['PL1']), read(900, ['PL1'], net('PH_3V3'))],
    });
    const of = (name: string, on: string) =>
      after.find((one) => one.name === name && one.net === on)!;
    expect(of('PU2', 'PH_3V3').cleared).toMatch(/PL1 out/);
    expect(of('PU2', '3V3_ALW').cleared).toBeNull();
    expect(of('C13', '3V3_ALW').cleared).toBeNull();
    const lifted = hunt({ ohms: [read(0.5), read(0.5, ['C13'])] }, ['C13']);
    expect(lifted.candidates.find((one) => one.name === 'C13')!.cleared).toMatch(/off, and/);
    expect(lifted.proven).toBeNull();
  });

  it('proves a part only where the short went with it and nothing else was changed', () => {
    const proven = hunt({ ohms: [read(0.5), read(900, ['C13'])] }, ['C13']).proven;
    expect(proven?.part).toBe('C13');
    expect(hunt({ ohms: [read(0.5), read(900, ['C13', 'C14'])] }).proven).toBeNull();
    // A coil that was out only split the rail.
    expect(hunt({ ohms: [read(0.5), read(900, ['PL1'])] }).proven).toBeNull();
  });
});

describe('what heat and millivolts say', () => {
  it('the warm part leads, with what stands beside it', () => {
    const { candidates: after } = hunt({
      ohms: [read(0.5)],
      fed: [fed({ warm: [{ part: 'C13', rise: 14 }] })],
    });
    expect(after[0]!.name).toBe('C13');
    expect(after[0]!.probability).toBeGreaterThan(0.5);
  });

  it('nothing warm at little power tells nothing; more amps come next', () => {
    const before = hunt({ ohms: [read(0.05)] });
    const blind = hunt({
      ohms: [read(0.05)],
      fed: [fed({ amps: 1, volts: 0.05, warm: [{ part: null, rise: null }] })],
    });
    const drift = blind.candidates
      .filter((one) => !one.isNet)
      .map((one) => {
        const was = before.candidates.find((other) => other.name === one.name)!;
        return Math.abs(one.probability - was.probability);
      });
    expect(Math.max(...drift)).toBeLessThan(0.1);
    expect(blind.injection.limitAmps).toBeGreaterThan(1);
  });

  it('millivolts lead to the pads that are nearest to the short', () => {
    const copper = copperOf(board, rail);
    const truth = candidates().find((one) => copper.padOf(one.name) && one.name !== 'C13')!.name;
    const places = ['C13', truth, ...copper.pads.slice(0, 4).map((one) => one.ref)];
    const drops = [...new Set(places)].map((part) => ({
      part,
      volts: 0.5 + 3 * sharedOhms(copper, 'PL1', truth, part),
    }));
    const { candidates: after } = hunt({
      ohms: [read(0.2)],
      fed: [fed({ amps: 3, volts: 0.5, drops })],
    });
    const before = candidates().find((one) => one.name === truth)!.share;
    expect(after.find((one) => one.name === truth)!.probability).toBeGreaterThan(before);
  });

  it('millivolts that no place on the rail could give say nothing, and are read again', () => {
    const copper = copperOf(board, rail);
    const truth = candidates().find((one) => copper.padOf(one.name) && one.name !== 'C13')!.name;
    const places = [...new Set(['C13', truth, ...copper.pads.slice(0, 4).map(({ ref }) => ref)])];
    const rightDrops = places.map((part) => ({
      part,
      volts: 0.5 + 3 * sharedOhms(copper, 'PL1', truth, part),
    }));
    // 30 mV between neighbours a few millimetres apart: 3 A along copper make a tenth of that.
    const wrongDrops = rightDrops.map(({ part, volts }, index) => ({
      part,
      volts: volts + (index % 2) * 0.03,
    }));
    const of = (drops: FedRail['drops']) =>
      hunt({ ohms: [read(0.2)], fed: [fed({ amps: 3, volts: 0.5, drops })] });
    expect(of(rightDrops).unfit).toEqual([]);
    const wrong = of(wrongDrops);
    expect(wrong.unfit).toEqual(places);
    const shares = (one: typeof wrong) =>
      one.candidates.map(({ name, probability }) => [name, probability]);
    expect(shares(wrong)).toEqual(shares(of([])));
    expect(wrong.actions.some((action) => action.kind === 'drops')).toBe(
      of([]).actions.some((action) => action.kind === 'drops'),
    );
    // Read again and found the same: the rail has a narrow place, and they count.
    const twice = hunt({
      ohms: [read(0.2)],
      fed: [1, 2].map((time) => fed({ id: `fed ${time}`, amps: 3, volts: 0.5, drops: wrongDrops })),
    });
    expect(twice.unfit).toEqual([]);
    expect(shares(twice)).not.toEqual(shares(of([])));
    // Nothing stands below the short itself: a part above others is none, however the rest looks.
    const uphill = rightDrops.map(({ part, volts }) => ({
      part,
      volts: part === truth ? volts + 0.002 : volts,
    }));
    const shareOf = (one: typeof wrong) =>
      one.candidates.find(({ name }) => name === truth)!.probability;
    expect(shareOf(of(uphill))).toBeLessThan(shareOf(of(rightDrops)) / 10);
    // Two millivolts always fit: they are only one above the other.
    expect(of(wrongDrops.slice(0, 2)).unfit).toEqual([]);
  });

  it('a step of 0.1 mV at 1 A is 0.6 mm of a rail 3 mm wide in 35 µm copper', () => {
    // R = ρ l / A with 1/58 µΩm (IEC 60028): 0.165 mΩ a millimetre.
    expect(leastMillimetres(1, 0.0001)).toBeCloseTo(0.6, 1);
    expect(leastMillimetres(2, 0.0001)).toBeCloseTo(0.3, 1);
  });

  it('a tree of copper shares half of what two ways have in common', () => {
    const copper = copperOf(board, rail);
    // At the short itself nothing is shared; at the feed all of it.
    expect(sharedOhms(copper, 'PL1', 'C13', 'C13')).toBeCloseTo(0, 9);
    expect(sharedOhms(copper, 'PL1', 'C13', 'PL1')).toBeCloseTo(copper.ohms('PL1', 'C13'), 9);
  });
});

describe('what to do next', () => {
  it('never proposes what its play calls harmful, and shows its cautions', () => {
    const now = hunt({ ohms: [read(0.5)] });
    expect(now.actions.length).toBeGreaterThan(2);
    for (const action of now.actions) expect(action.cautions.length).toBeGreaterThan(0);
    const inject = now.actions.find((one) => one.kind === 'inject')!;
    // Word for word: what burns is never part of it.
    expect(inject.cautions).toEqual([
      'Battery and source off. Stay below the rail’s own volts, and start with the current limit low. A shorted part gets hot enough to burn: look for it with a camera, not with a finger, and with nothing that burns.',
      'No freezing spray that burns, and no source or injection until vapour is gone.',
    ]);
    expect(now.injection.harms).toEqual([]);
    const split = now.actions.find((one) => one.kind === 'split' && one.what[0] === 'PL1')!;
    expect(split.cautions.join(' ')).toMatch(/do not power the board/);
  });

  it('takes the likeliest off once heat points at it', () => {
    const now = hunt({
      ohms: [read(0.5)],
      fed: [fed({ warm: [{ part: 'C14', rise: 14 }] })],
    });
    expect(now.actions[0]).toMatchObject({ kind: 'lift', what: ['C14'] });
  });

  it('asks nothing twice: no split of what is out, no second look at the same amps', () => {
    const now = hunt(
      {
        ohms: [read(0.5), read(0.5, ['PL1'])],
        fed: [fed({ amps: 5, warm: [{ part: null, rise: null }] })],
      },
      ['PL1'],
    );
    expect(now.actions.some((one) => one.what[0] === 'PL1')).toBe(false);
    expect(now.actions.some((one) => one.kind === 'inject')).toBe(false);
  });
});
