import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { Board, GoalId, NetId, PartRef } from '../board/index.ts';
import { studyHealthyBoard, type HealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainReading } from '@jiko/testing';
import { deriveJob, type JobEvent } from '../record/index.ts';
import { traceJob } from '../trace/index.ts';
import { lastCold, namedShorts } from './index.ts';

const board = plainBoard(cairnText);
const healthy = studyHealthyBoard(board);
const number = (value: number) => ({ kind: 'number' as const, value, trend: 'steady' as const });
const take = (...args: Parameters<typeof plainReading>) => ({
  type: 'reading',
  reading: plainReading(...args),
  supersedes: [],
});
const judged = (events: JobEvent[], of: HealthyBoard = healthy) =>
  traceJob(of, deriveJob(events), 'boots' as GoalId).readings;
const found = (events: JobEvent[], of: HealthyBoard = healthy) =>
  namedShorts(of, judged(events, of));
const shorted = (net: string, of: HealthyBoard = healthy) =>
  found(plainEvents(take(net, 'ohms', 'cold', number(0.02))), of).shorts[0]!;
const changed = (change: Partial<Board>): HealthyBoard => ({
  ...healthy,
  board: { ...board, ...change },
});

describe('which readings count', () => {
  const short = take('1V8_S5', 'ohms', 'cold', number(0.02));

  it('the last cold one at a place and mode, that nobody struck out', () => {
    const events = plainEvents(short);
    expect(found(events).shorts).toHaveLength(1);
    const struck = plainEvents({ type: 'strike', event: events[0]!.id, reason: 'wrong net' });
    expect(lastCold(judged([...events, ...struck]))).toEqual([]);
    expect(found([...events, ...struck]).shorts).toEqual([]);
    // Read again and right, it stands no longer.
    const again = plainEvents(take('1V8_S5', 'ohms', 'cold', number(390)));
    expect(found([...events, ...again]).shorts).toEqual([]);
  });

  it('none that was taken with the source on', () => {
    const volts = plainEvents(take('1V8_S5', 'volts', 'standby', number(0)));
    expect(lastCold(judged(volts))).toEqual([]);
  });

  it('the buzzer on a rail, but not from point to point, nor where low ohms are natural', () => {
    const beep = (net: string, against: string | null = null) =>
      found(plainEvents(take(net, 'ohms', 'cold', { kind: 'beep', limit: 30 }, { against })));
    expect(beep('5V_ALW').shorts.map((one) => one.net)).toEqual(['5V_ALW']);
    expect(beep('VCORE').shorts).toEqual([]);
    expect(beep('5V_ALW', '3V3_ALW')).toEqual({ shorts: [], bridges: [] });
  });
});

describe('what is said of a short', () => {
  it('its net once, in however many ways it was read', () => {
    const twice = found(
      plainEvents(
        take('1V8_S5', 'ohms', 'cold', number(0.02)),
        take('1V8_S5', 'diode', 'cold', number(0.001)),
      ),
    );
    expect(twice.shorts.map((one) => one.nets)).toEqual([['1V8_S5']]);
  });

  it('who feeds the rail: a regulator, else a source, else nobody', () => {
    expect(shorted('3V3_ALW').fedBy).toMatch(/^PU2 from /);
    expect(shorted('VIN_JACK').fedBy).toBe(
      board.sources.find((one) => one.net === ('VIN_JACK' as NetId))!.title,
    );
    const nobody: HealthyBoard = { ...healthy, upstream: { ...healthy.upstream, of: () => [] } };
    expect(shorted('3V3_ALW', nobody).fedBy).toBe('');
  });

  it('what hangs between the rail and ground: parts that are fitted, and chips, no FETs or plugs', () => {
    const { hangs } = shorted('3V3_ALW');
    expect(hangs).toEqual(expect.arrayContaining(['C13', 'PU2', 'U20']));
    const byRef = new Map(board.parts.map((one) => [one.ref as string, one]));
    for (const ref of hangs) {
      const part = byRef.get(ref);
      if (!part) continue;
      const nets = part.pins.map((pin) => pin.net as string);
      expect(nets, ref).toContain(board.ground);
      expect(['pfet', 'nfet', 'connector'], ref).not.toContain(part.kind);
    }
    const put = (more: object) =>
      changed({
        parts: board.parts.map((one) =>
          one.ref === ('C13' as PartRef) ? { ...one, ...more } : one,
        ),
      });
    for (const more of [{ fitted: false }, { kind: 'nfet' }, { kind: 'connector' }])
      expect(shorted('3V3_ALW', put(more)).hangs, JSON.stringify(more)).not.toContain('C13');
    const off = changed({
      chips: board.chips.map((one) =>
        one.ref === ('U20' as PartRef) ? { ...one, fitted: false } : one,
      ),
    });
    expect(shorted('3V3_ALW', off).hangs).not.toContain('U20');
    const virtual = changed({
      chips: board.chips.map((one) =>
        one.ref === ('U20' as PartRef) ? { ...one, virtual: true } : one,
      ),
    });
    expect(shorted('3V3_ALW', virtual).hangs).not.toContain('U20');
    // A chip of another rail, with ground as all have, hangs on its own.
    const elsewhere = board.chips.find(
      (one) => one.fitted && ![...one.pins.values()].includes('3V3_ALW' as NetId),
    )!;
    expect(hangs).not.toContain(elsewhere.ref);
  });

  it('what stays down behind it, by the name of its stage where it has one', () => {
    expect(shorted('1V8_S5').how).toMatch(
      /its regulator gives up and .+ and what waits for it stay down\. With every source off/,
    );
    const unstaged: HealthyBoard = { ...healthy, stageOfNet: () => null };
    expect(shorted('1V8_S5', unstaged).how).toContain('gives up and what hangs on it stays down.');
  });

  it('the part it was read across, or the two ends where none lies between', () => {
    const across = (net: string, against: string, of: HealthyBoard = healthy) =>
      found(plainEvents(take(net, 'ohms', 'cold', number(0.1), { against })), of).bridges[0];
    expect(across('VIN', 'VA_MID')).toMatchObject({ part: 'PQ1', isStage: false });
    const blind: HealthyBoard = { ...healthy, across: () => null };
    expect([undefined, 'VIN to VA_MID']).toContain(across('VIN', 'VA_MID', blind)?.part);
  });
});
