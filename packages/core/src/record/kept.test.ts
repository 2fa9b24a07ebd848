import { describe, expect, it } from 'vitest';
import { plainEvents, plainIntake } from '@jiko/testing';
import {
  deriveJob,
  jobEventSchema,
  keptEventSchema,
  unkeepable,
  withoutUnkeepable,
  wordless,
  type EventBody,
  type KeptEvent,
} from './index.ts';

const [intake, note] = plainEvents(plainIntake(), { type: 'note', text: 'call him' });
const raw = (body: unknown): unknown => ({ ...note, body });

describe('entries as they were kept, by this version or another', () => {
  it.each([
    ['a kind from the future', { type: 'hologram', depth: 3 }, 'hologram'],
    ['a known kind with something new in it', { type: 'note', text: 'x', mood: 'good' }, 'note'],
    ['a known kind with something missing', { type: 'close' }, 'close'],
    ['no kind', ['x'], 'unreadable'],
    ['nothing', null, 'unreadable'],
  ])('%s is read as strange, and hides nothing else', (_what, body, was) => {
    const kept = keptEventSchema.parse(raw(body));
    expect(kept.body).toEqual({ type: 'strange', was });
    const job = deriveJob([intake!, kept, note!]);
    expect(job.strange).toMatchObject([{ was, who: 'Bench 1' }]);
    expect(job.notes).toHaveLength(1);
    expect(job.intake?.device).toBe('d');
  });
  it('a kind nobody checked does not stop a job from being derived', () => {
    const job = deriveJob([intake!, raw({ type: 'hologram' }) as KeptEvent]);
    expect(job.strange.map((one) => one.was)).toEqual(['hologram']);
  });
  it('times are those of our times', () => {
    const at = (text: string): boolean => jobEventSchema.safeParse({ ...note, at: text }).success;
    expect(at('2000-01-01T00:00:00Z')).toBe(true);
    expect(at('2099-12-31T23:59:59Z')).toBe(true);
    expect(at('1999-12-31T23:59:59Z')).toBe(false);
    expect(at('9999-12-31T23:59:59-12:00')).toBe(false);
    expect(at('2026-13-01T00:00:00Z')).toBe(false);
  });
});

describe('characters no store keeps', () => {
  it('are found by their place, in keys as well, and taken out', () => {
    const value = { a: [{ b: 'fine' }, { b: 'x\u0000y' }], c: 'd' };
    expect(unkeepable(value)).toBe('a.1.b');
    expect(unkeepable({ 'x\ud800': 1 })).toBe('');
    expect(withoutUnkeepable(value)).toEqual({ a: [{ b: 'fine' }, { b: 'xy' }], c: 'd' });
    expect(withoutUnkeepable('a\udc00b\ud83d\ude00\ud800')).toBe('ab\ud83d\ude00');
    expect(unkeepable({ text: 'grüße 😀', n: 3, none: null })).toBeNull();
    const deep = (depth: number): unknown => JSON.parse('['.repeat(depth) + ']'.repeat(depth));
    expect(unkeepable(deep(100))).toBeNull();
    expect(unkeepable(deep(102))).not.toBeNull();
    expect(unkeepable(deep(20_000))).not.toBeNull();
  });
});

describe("a customer's words", () => {
  it('go, and what was measured, found and done stays in its own words', () => {
    const bodies: unknown[] = [
      plainIntake({ device: 'SECRET', complaint: 'SECRET', history: 'SECRET', keep: 'SECRET' }),
      { type: 'note', text: 'SECRET' },
      { type: 'picture', attachment: intake!.id, caption: 'SECRET' },
      { type: 'approval', found: 'C12 shorted', asks: 'SECRET' },
      { type: 'answer', approval: intake!.id, yes: true, text: 'SECRET' },
      { type: 'wait', reason: 'owner', until: null, text: 'SECRET' },
      { type: 'reopen', reason: 'SECRET' },
      { type: 'finding', kind: 'burnt', part: 'C12', text: 'black spot', attachment: intake!.id },
      { type: 'repair', action: 'replaced', parts: ['C12'], text: 'from the shelf' },
      {
        type: 'firmware',
        part: 'U22',
        volts: 3.3,
        saved: { name: 'SECRET.bin', sha256: 'ab'.repeat(32), bytes: 9 },
        attachment: intake!.id,
        verified: true,
        text: '',
      },
      { type: 'close', outcome: 'repaired', cause: 'C12', proof: 'proven' },
    ];
    const after = plainEvents(...bodies).map(({ body }) => wordless(body));
    const text = JSON.stringify(after);
    expect(text).not.toContain('SECRET');
    for (const stays of ['C12 shorted', 'black spot', 'from the shelf', 'cairn-14', '"proven"'])
      expect(text).toContain(stays);
    // No picture is pointed at any more from a finding.
    expect(after.find((one) => one.type === 'finding')).toMatchObject({ attachment: null });
    // Nor the contents of a flash, which are gone; that they were saved, and their hash, stays.
    expect(after.find((one) => one.type === 'firmware')).toMatchObject({
      attachment: null,
      saved: { sha256: 'ab'.repeat(32) },
    });
    // Twice is once, and what comes out can be read as what went in.
    expect(after.map(wordless)).toEqual(after);
    after.forEach((body: EventBody) => expect(keptEventSchema.parse(raw(body)).body).toEqual(body));
  });
});
