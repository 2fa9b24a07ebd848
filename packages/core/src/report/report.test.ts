import { describe, expect, it } from 'vitest';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import { loadSheet } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { usualMeter, type Reading } from '../readings/index.ts';
import {
  deriveJob,
  eventBodySchema,
  intakeSchema,
  liftedParts,
  type JobEvent,
} from '../record/index.ts';
import { buildReport, printedMarkdown, technicianReport } from './index.ts';

const loaded = loadSheet(beck);
if (!loaded.ok) throw new Error('the demo sheet does not load');
const healthy = studyHealthyBoard(loaded.value);

const id = (serial: number): string =>
  `00000000-0000-4000-8000-${String(serial).padStart(12, '0')}`;
const event = (serial: number, body: JobEvent['body']): JobEvent => ({
  id: id(serial),
  who: 'Bench 2',
  at: `2026-01-05T10:00:0${serial}Z`,
  body,
});
const reading = (net: string, value: number): JobEvent['body'] => ({
  type: 'reading',
  supersedes: [],
  reading: {
    at: { net, part: null, pin: null },
    reference: null,
    polarity: 'red-on-point',
    mode: 'volts',
    phase: 'standby',
    value: { kind: 'number', value, trend: 'steady' },
    source: null,
    attached: [],
    lifted: [],
    meter: usualMeter,
    sheet: '',
    note: '',
  } satisfies Reading,
});

const events: JobEvent[] = [
  event(1, {
    type: 'intake',
    intake: intakeSchema.parse({
      board: 'beck-mini',
      device: 'Station 7',
      complaint: 'Dead | since *frost*',
      history: '',
      goal: 'boots',
      source: 'adapter',
      keep: '',
      promised: null,
    }),
  }),
  event(2, reading('12V_IN', 12.05)),
  event(3, reading('5V_SB', 0.01)),
  event(4, reading('3V3_SB', 9)),
  event(5, { type: 'strike', event: id(4), reason: 'typed wrong' }),
];
const reportOf = (list: JobEvent[]) => buildReport(healthy, list);

describe('the write-up', () => {
  it('says the complaint, the readings with verdicts, the missing stage, and claims nothing more', () => {
    const report = reportOf(events);
    expect(report.missing).toMatchObject({ title: '5 V standby', certain: true });
    expect(report.readings.map((row) => row.verdict)).toEqual(['good', 'missing', 'high']);
    expect(report.readings[2]?.aside).toBe('struck out: typed wrong');
    expect(report.stages.find((one) => one.title === 'Core rail')?.state).toBe('not read');
  });

  it('escapes what was typed, so that Markdown shows it as written', () => {
    const text = printedMarkdown(technicianReport(reportOf(events)));
    expect(text).toContain('Dead \\| since \\*frost\\*');
    expect(text).toContain('**First missing stage: 5 V standby.**');
    // Struck out: in brackets, with why.
    expect(text).toContain('| (9 V) |');
    expect(text).toContain('struck out: typed wrong');
    expect(text).not.toContain('What was done');
  });

  it('keeps what was done, and knows which parts are off the board', () => {
    const done = [
      ...events,
      event(6, { type: 'repair', action: 'removed', parts: ['R1', 'R2'], text: '' }),
      event(7, { type: 'repair', action: 'refitted', parts: ['R1'], text: 'same part' }),
    ];
    expect(liftedParts(deriveJob(done))).toEqual(['R2']);
    // Lifting to see is no repair: what was read stands, for the board with the part on.
    expect(reportOf(done).readings[0]?.aside).toBe('');
    const report = reportOf([
      ...done,
      event(8, { type: 'repair', action: 'replaced', parts: ['R2'], text: '' }),
    ]);
    expect(report.done.map((one) => one.text)).toEqual([
      'R1, R2 removed',
      'R1 refitted: same part',
      'R2 replaced',
    ]);
    // Readings from before the repair are kept and marked; what hangs on it proves nothing any more.
    expect(report.readings.map((one) => one.aside)).toEqual([
      'before the repair, which it does not hang on',
      'before the repair',
      'struck out: typed wrong',
    ]);
    expect(report.missing).toBeNull();
    expect(report.before[0]).toMatchObject({ title: '5 V standby', repair: 'R2 replaced' });
    expect(printedMarkdown(technicianReport(report))).toContain(
      '**Before "R2 replaced" the first missing stage was: 5 V standby.**',
    );
  });

  it('says which parts it was and how they had failed, and what became of old contents', () => {
    const report = reportOf([
      ...events,
      event(6, { type: 'repair', action: 'replaced', parts: ['R2'], text: '' }),
      event(7, {
        type: 'firmware',
        part: 'U4',
        volts: 1.8,
        saved: { name: 'old.bin', sha256: 'ab'.repeat(32), bytes: 4096 },
        attachment: null,
        verified: true,
        text: '',
      }),
      event(8, {
        type: 'close',
        outcome: 'fixed',
        cause: 'A resistor had opened.',
        proof: 'proven',
        reason: '',
        parts: ['R2'],
        how: 'open',
      }),
    ]);
    expect(report.done.map((one) => one.text)).toEqual([
      'R2 replaced',
      `U4 programmed at 1.8 V: old contents noted (old.bin, 4096 bytes, SHA-256 ${'ab'.repeat(32)}); read back and compared`,
    ]);
    expect(printedMarkdown(technicianReport(report))).toContain(
      'Cause (proven): A resistor had opened (R2: open).',
    );
  });

  it('tells what was tried, seen and decided before the trace, and what was cleared', () => {
    const wrote = (serial: number, body: unknown): JobEvent =>
      event(serial, eventBodySchema.parse(body));
    const report = reportOf([
      ...events,
      wrote(10, { type: 'tried', thing: 'meter-zero', result: 'no-change', ohms: 0.2 }),
      wrote(14, {
        type: 'sign',
        phase: 'standby',
        drawAmps: 0.03,
        drawShape: 'steady',
        source: { id: 'adapter', volts: 12, limitAmps: 0.5 },
        lastedSeconds: 20,
        text: '',
      }),
      wrote(11, { type: 'finding', kind: 'lifted-pad', part: 'R1', text: 'at the edge' }),
      wrote(12, { type: 'harmless', finding: id(11), reason: 'still holds' }),
      wrote(13, {
        type: 'power',
        source: 'adapter',
        volts: 12,
        limitAmps: null,
        despite: ['Not measured: 3V3_SB.'],
      }),
    ]);
    expect(report.sections).toEqual([
      { title: 'Tried', lines: ['Leads shorted together: 200 mΩ'] },
      {
        title: 'First signs',
        lines: ['standby, draw 0.03 A steady, on 12 V adapter, limit 500 mA, for 20 s'],
      },
      { title: 'Seen on the board', lines: ['R1 lifted pad, at the edge, harmless: still holds'] },
      { title: 'Powered', lines: ['12 V adapter by Bench 2, knowing: Not measured: 3V3_SB.'] },
    ]);
    expect(printedMarkdown(technicianReport(report))).toContain('## Seen on the board');
  });
});
