import { describe, expect, it } from 'vitest';
import { plainIntake as intake } from '@jiko/testing';
import {
  deriveJob,
  dueOf,
  eventBodySchema,
  moneyOf,
  summaryOf,
  timeOf,
  type EventBody,
} from './index.ts';

const id = (serial: number): string =>
  `00000000-0000-4000-8000-${String(serial).padStart(12, '0')}`;
/** Events as a browser writes them; the n-th has the id n, counted from 1. */
const job = (...bodies: unknown[]) =>
  deriveJob(
    bodies.map((body, index) => ({
      id: id(index + 1),
      who: 'Bench 1',
      at: `2026-01-05T10:${String(index).padStart(2, '0')}:00Z`,
      body: eventBodySchema.parse(body) as EventBody,
    })),
  );
const noon = '2026-01-05T12:00:00Z';

describe('what can be done now', () => {
  it('is everything no one waits for', () => {
    expect(dueOf(summaryOf(job(intake())), noon)).toEqual({ kind: 'now', because: '' });
  });

  it('a drying board is ready when its time has come, a part only when it is said to be there', () => {
    const drying = { type: 'wait', reason: 'drying', until: '2026-01-05T11:00:00Z', text: '' };
    const part = { type: 'wait', reason: 'part', until: '2026-01-05T11:00:00Z', text: 'PQ1' };
    expect(dueOf(summaryOf(job(intake(), drying)), noon).kind).toBe('now');
    expect(dueOf(summaryOf(job(intake(), drying)), '2026-01-05T10:30:00Z').kind).toBe('waits');
    expect(dueOf(summaryOf(job(intake(), part)), noon)).toEqual({
      kind: 'waits',
      because: 'a part: PQ1',
      until: '2026-01-05T11:00:00Z',
    });
    const arrived = job(intake(), part, { type: 'wait-over', wait: id(2) });
    expect(dueOf(summaryOf(arrived), noon).kind).toBe('now');
  });

  it('of several waits the one that ends last decides, one without an end above all', () => {
    const cooling = { type: 'wait', reason: 'cooling', until: '2026-01-05T13:00:00Z', text: '' };
    const soak = { type: 'wait', reason: 'soak', until: '2026-01-06T08:00:00Z', text: '' };
    const owner = { type: 'wait', reason: 'owner', until: null, text: 'calls back' };
    expect(dueOf(summaryOf(job(intake(), cooling, soak)), noon)).toMatchObject({
      because: 'the soak test',
    });
    expect(dueOf(summaryOf(job(intake(), soak, owner, cooling)), noon)).toMatchObject({
      because: "the owner's yes: calls back",
      until: null,
    });
  });

  it('waits for the owner from the moment more is asked for until the answer', () => {
    const asked = [
      intake({ limitMinutes: 60 }),
      { type: 'time', minutes: 50 },
      { type: 'approval', found: 'chipset short', asks: 'two hours more', minutes: 120 },
    ];
    const open = job(...asked);
    expect(dueOf(summaryOf(open), noon)).toMatchObject({
      kind: 'waits',
      because: "the owner's yes: two hours more",
    });
    expect(timeOf(open)).toEqual({ minutes: 50, limitMinutes: 60 });
    const yes = job(...asked, { type: 'answer', approval: id(3), yes: true });
    expect(dueOf(summaryOf(yes), noon).kind).toBe('now');
    expect(timeOf(yes)).toEqual({ minutes: 50, limitMinutes: 180 });
    const no = job(...asked, { type: 'answer', approval: id(3), yes: false });
    expect(summaryOf(no).refused).toEqual(['two hours more']);
    expect(timeOf(no).limitMinutes).toBe(60);
  });
});

describe('what parts cost', () => {
  const order = (price: number | null) => ({ type: 'order', what: 'PQ1', part: 'PQ1', price });

  it('is the sum of what was ordered and not dropped, to the cent', () => {
    const ordered = job(intake(), order(0.1), order(0.2), order(null), order(40), {
      type: 'order-step',
      order: id(5),
      step: 'dropped',
    });
    expect(moneyOf(ordered)).toEqual({ spent: 0.3, limit: null });
    expect(summaryOf(ordered)).toMatchObject({ money: 0.3, limitMoney: null });
  });

  it('is held against what was agreed, and what the owner granted since', () => {
    const more = [
      intake({ limitMoney: 50 }),
      order(60),
      { type: 'approval', found: 'two FETs', asks: 'more for parts', money: 25 },
    ];
    expect(moneyOf(job(...more))).toEqual({ spent: 60, limit: 50 });
    expect(moneyOf(job(...more, { type: 'answer', approval: id(3), yes: true })).limit).toBe(75);
    expect(moneyOf(job(...more, { type: 'answer', approval: id(3), yes: false })).limit).toBe(50);
  });
});

describe('a job before it is traced', () => {
  it('says which steps were done, and counts what was struck out as not done', () => {
    const finding = { type: 'finding', kind: 'burnt', part: 'C1', text: '' };
    expect(summaryOf(job(intake(), finding)).done).toEqual(['door', 'look']);
    const struck = { type: 'strike', event: id(2), reason: 'dirt' };
    expect(summaryOf(job(intake(), finding, struck)).done).toEqual(['door']);
  });

  it('keeps the last word on each simple thing and each item of safety', () => {
    const tried = (result: string) => ({ type: 'tried', thing: 'memory', result });
    const safe = (state: string) => ({ type: 'safety', item: 'battery-out', state });
    const one = job(intake(), tried('no-change'), tried('helped'), safe('done'), safe('open'));
    expect(one.tried.map(({ body }) => body.result)).toEqual(['helped']);
    expect(one.safety.map(({ body }) => body.state)).toEqual(['open']);
    expect(summaryOf(one).done).toEqual(['door', 'signs']);
  });

  it('follows a part from the list of what to order until it is there', () => {
    const order = { type: 'order', what: 'input FET, 30 V', part: 'PQ1' };
    const step = (to: string) => ({ type: 'order-step', order: id(2), step: to });
    expect(summaryOf(job(intake(), order))).toMatchObject({ toOrder: ['input FET, 30 V'] });
    expect(summaryOf(job(intake(), order, step('ordered')))).toMatchObject({
      toOrder: [],
      ordered: ['input FET, 30 V'],
    });
    expect(summaryOf(job(intake(), order, step('ordered'), step('arrived'))).ordered).toEqual([]);
  });

  it('lets a finding be cleared as harmless', () => {
    const finding = { type: 'finding', kind: 'corrosion', part: 'R2', text: '' };
    const cleared = job(intake(), finding, {
      type: 'harmless',
      finding: id(2),
      reason: 'only flux',
    });
    expect(cleared.findings[0]?.harmless).toBe('only flux');
  });
});
