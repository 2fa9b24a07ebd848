import { describe, expect, it } from 'vitest';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import { benchSetup } from '../play/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainIntake, plainReading } from '@jiko/testing';
import { ownerReport, printedMarkdown, printedSchema } from './index.ts';

const board = plainBoard(cairnText);
const healthy = studyHealthyBoard(board, benchSetup(board, { source: 'adapter', attached: [] }));

const volts = (net: string, value: number): unknown => ({
  type: 'reading',
  reading: plainReading(net, 'volts', 'standby', { kind: 'number', value, trend: 'steady' }),
  supersedes: [],
});
const repair = (parts: string[], more: object = {}): unknown => ({
  type: 'repair',
  action: 'replaced',
  parts,
  text: '',
  ...more,
});
const closed = (outcome: string, more: object = {}): unknown => ({
  type: 'close',
  outcome,
  cause: 'A fuse had blown.',
  proof: 'proven',
  reason: '',
  ...more,
});
const text = (...bodies: unknown[]): string =>
  printedMarkdown(
    ownerReport(
      healthy,
      plainEvents(
        plainIntake({ device: 'Cairn 14', complaint: 'Dead.', happened: ['lightning'] }),
        ...bodies,
      ),
      (at) => at.slice(0, 10),
    ),
  );

describe('half a page for the owner', () => {
  const fixed = text(
    volts('3V3_ALW', 0),
    repair(['F1', 'C13', 'C14'], { from: 'donor' }),
    volts('3V3_ALW', 3.31),
    { type: 'time', minutes: 90 },
    { type: 'verify', item: 'goal', result: 'passed', text: '' },
    { type: 'verify', item: 'charging', result: 'failed', text: '0.1 A only' },
    { type: 'verify', item: 'soak', result: 'left-out', text: 'in a hurry' },
    closed('fixed', { parts: ['F1'] }),
  );

  it('says what it was, what was done and what it took, in no part numbers', () => {
    expect(fixed).toContain('**Brought in for:** Dead.');
    expect(fixed).toMatch(/\*\*Brought in:\*\* \d+ [A-Z][a-z]+ \d{4}\n/);
    expect(fixed).toMatch(/\*\*Finished:\*\* \d+ [A-Z][a-z]+ \d{4}\n/);
    expect(fixed).toContain('**Result:** It works again.');
    expect(fixed).toContain('**What it was:** A fuse had blown.');
    expect(fixed).toContain('**Time:** 1.5 hours');
    expect(fixed).toContain('Replaced: fuse, 2 capacitors, from another board.');
    expect(fixed).not.toMatch(/\bF1\b|\bC13\b|3V3/);
  });

  it('before and after of what was wrong and is right, nothing else', () => {
    expect(fixed).toMatch(/\| 3\.3 V always on, volts \| 0 V \| 3\.31 V \|/);
    expect(text(volts('3V3_ALW', 3.3), repair(['F1']), volts('3V3_ALW', 3.3))).not.toContain(
      'Before and after',
    );
    // A pin that lets a converter on is nothing an owner knows.
    expect(text(volts('EN_3V3', 0), repair(['F1']), volts('EN_3V3', 3.3))).not.toContain(
      'Before and after',
    );
  });

  it('what was checked, what failed and what was left out are told apart', () => {
    expect(fixed).toMatch(/- It charges its battery: not as it should be, 0\.1 A only/);
    // What nobody checked is said too, where it is said to work.
    expect(fixed).toMatch(/Not checked: .*ports; .*a soak of 60 min \(in a hurry\)/);
    expect(fixed).toContain('a soak of 60 min (in a hurry).');
    expect(fixed).toMatch(/- The board boots\n/);
  });

  it('what to watch comes from what happened and what was done', () => {
    expect(fixed).toContain('Have the adapter and what else hung on the same socket tested');
    expect(fixed).toContain('The fuse blew for a reason: if it goes off again, unplug it');
    expect(text(repair(['PL7'], { action: 'reflowed' }))).toContain('A joint that broke once');
  });

  it('a part left off is said', () => {
    expect(text(repair(['C13'], { action: 'removed' }))).toContain('Left off: capacitor.');
    expect(
      text(repair(['C13'], { action: 'removed' }), repair(['C13'], { action: 'refitted' })),
    ).not.toContain('Left off');
  });

  it.each([
    ['partly', 'It works in part.'],
    ['data-saved', 'The data were saved; the device was not repaired.'],
    ['not-found', 'The cause was not found.'],
    ['not-worth', 'A repair would cost more than it is worth.'],
    ['declined', 'It was not repaired, as agreed.'],
  ])('%s: %s', (outcome, words) => {
    const said = text(closed(outcome, { reason: 'as agreed on the phone' }));
    expect(said).toContain(`**Result:** ${words}`);
    expect(said).toContain('**Why:** as agreed on the phone');
    // What it was is only said where it was mended.
    expect(said).not.toContain('What it was');
    expect(said).toContain('Nothing was changed on the device.');
  });

  it('is what the server prints', () => {
    const report = ownerReport(healthy, plainEvents(plainIntake({ device: 'Cairn 14' })), (at) =>
      at.slice(0, 10),
    );
    expect(printedSchema.safeParse(report).success).toBe(true);
  });
});
