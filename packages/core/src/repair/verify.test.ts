import { describe, expect, it } from 'vitest';
import beckText from '../../../../sheets/beck-mini.yaml?raw';
import cairnText from '../../../../sheets/cairn-14.yaml?raw';
import type { Board, NetId } from '../board/index.ts';
import { studyHealthyBoard } from '../expectations/index.ts';
import { plainBoard, plainEvents, plainIntake, plainJob } from '@jiko/testing';
import { deriveJob } from '../record/index.ts';
import { verifyList } from './index.ts';

const cairn = plainBoard(cairnText);
const healthy = studyHealthyBoard(cairn);
const beck = studyHealthyBoard(plainBoard(beckText));
const repair = (parts: string[], action = 'replaced') => ({
  type: 'repair',
  action,
  parts,
  text: '',
});
const missing = (part: string) => ({ type: 'finding', kind: 'missing', part, text: '' });
const image = {
  type: 'firmware',
  part: 'U23',
  volts: 3.3,
  saved: { name: 'old.bin', sha256: 'a'.repeat(64), bytes: 8_388_608 },
  verified: true,
  text: '',
};
const ids = (of: typeof healthy, ...bodies: unknown[]): string[] =>
  verifyList(of, plainJob(plainIntake(), ...bodies)).map((one) => one.id);
/** The last of the entries struck out. */
const struck = (...bodies: unknown[]): string[] => {
  const events = plainEvents(plainIntake(), ...bodies);
  const strike = plainEvents({ type: 'strike', event: events.at(-1)!.id, reason: 'wrong job' });
  return verifyList(healthy, deriveJob([...events, ...strike])).map((one) => one.id);
};
const onBoard = (change: Partial<Board>): string[] =>
  ids({ ...healthy, board: { ...cairn, ...change } });

describe('the list before a board goes back', () => {
  it('stands word for word, with everything on it', () => {
    const job = plainJob(
      plainIntake({ keep: 'photos' }),
      repair(['F1', 'U23'], 'reprogrammed'),
      missing('C14'),
      missing('C15'),
    );
    expect(
      verifyList(healthy, job).map(({ id, title, how, caution, state, text }) =>
        [id, title, how, caution, state, text].join(' | '),
      ),
    ).toMatchInlineSnapshot(`
      [
        "goal | The board boots | On its own source, three times from off, closed up as far as the test allows. |  | open | ",
        "rails | Every rail on the way reads right | Retest the stages in order; under load as well as at rest. | The board is live: one probe at a time. | open | ",
        "draw | The draw is that of a good one | Amps from the source off, on, and running; against what the sheet or a good board draws. |  | open | ",
        "charging | It charges its battery | A pre-charge first (about 160 mA), then up to 2 A; it ends when full. | More than 2 A or a swelling or warm cell: unplug the battery, keep away, follow your local rules. Never heat or solder on or beside a cell. | open | ",
        "picture | Picture, and its light over the whole range | On its own panel; dim and bright, lid closed and opened. |  | open | ",
        "storage | It finds its storage | Listed by name; a file read back. Nothing is written to a disk that holds data to be kept. | To be kept: photos. | open | ",
        "ports | Ports | Each USB port with a load, sound, network. |  | open | ",
        "fan | The fan turns up under load and down again | Cooler seated, paste, pads; ten minutes of load. | Never let a processor run without its cooler. | open | ",
        "settings | Settings and clock outlast a night without power | Source off and battery out for some minutes; the coin cell 2.7 V or more. |  | open | ",
        "firmware | Firmware verified, identity and settings of this board in it | Read back and compared; serial number and network address as before. |  | open | ",
        "missing | Missing parts: C14, C15 | Fitted, or knowingly left off. |  | open | ",
        "source | The source itself, before the device goes back to it | Its volts idle and under a load of its rating, the plug wiggled; another one if in doubt. | What killed this part may kill the next: do not connect its own source before it was tested. | open | ",
        "soak | A soak of 60 min | Running, warm, then cold again: goes off, restarts, or stays. |  | open | ",
      ]
    `);
  });

  it('asks for what the board has, and for nothing else', () => {
    expect(ids(beck)).toEqual(['goal', 'rails', 'draw', 'storage', 'soak']);
    for (const id of ['panel', 'storage', 'fan']) {
      const left = cairn.attachments.filter((one) => one.id !== id);
      const line = id === 'panel' ? 'picture' : id;
      expect(onBoard({ attachments: left })).not.toContain(line);
      expect(onBoard({ attachments: cairn.attachments.filter((one) => one.id === id) })).toContain(
        line,
      );
    }
    expect(
      onBoard({
        sources: cairn.sources.filter((one) => one.kind !== 'battery'),
        attachments: cairn.attachments.filter((one) => one.id !== 'battery'),
      }),
    ).not.toContain('charging');
    const unnamed = (bad: RegExp) => cairn.nets.filter((one) => !bad.test(one.id));
    expect(onBoard({})).toContain('ports');
    expect(onBoard({ nets: unnamed(/USB/) })).not.toContain('ports');
    expect(onBoard({ nets: unnamed(/RTC|COIN/) })).not.toContain('settings');
  });

  it('says what it was brought for, or that nobody said', () => {
    const goal = (job: ReturnType<typeof plainJob>) => verifyList(healthy, job)[0]!.title;
    expect(goal(plainJob(plainIntake()))).toBe('The board boots');
    expect(goal(plainJob())).toBe('It does what it was brought for');
  });

  it('firmware where it was written or kept, not where that was struck out', () => {
    expect(ids(healthy)).not.toContain('firmware');
    expect(ids(healthy, repair(['F1']))).not.toContain('firmware');
    expect(ids(healthy, repair(['F1']), repair(['U23'], 'reprogrammed'))).toContain('firmware');
    expect(ids(healthy, image)).toContain('firmware');
    expect(struck(repair(['U23'], 'reprogrammed'))).not.toContain('firmware');
    expect(struck(image)).not.toContain('firmware');
  });

  it('missing parts that are missing still, and are no harmless ones', () => {
    const harmless = plainEvents(plainIntake(), missing('C14'));
    const cleared = plainEvents({
      type: 'harmless',
      finding: harmless.at(-1)!.id,
      reason: 'never fitted',
    });
    expect(
      verifyList(healthy, deriveJob([...harmless, ...cleared])).map((one) => one.id),
    ).not.toContain('missing');
    expect(struck(missing('C14'))).not.toContain('missing');
    expect(
      ids(healthy, { type: 'finding', kind: 'corrosion', part: 'C14', text: '' }),
    ).not.toContain('missing');
  });

  it('the source after a clamp died, or what it feeds; not after a repair struck out', () => {
    expect(struck(repair(['F1']))).not.toContain('source');
    const clamp = cairn.parts.find((one) => one.kind === 'tvs')!;
    const inner = {
      ...cairn,
      parts: cairn.parts.map((one) =>
        one === clamp
          ? { ...one, pins: one.pins.map((pin) => ({ ...pin, net: '1V8_S5' as NetId })) }
          : one,
      ),
    };
    expect(ids({ ...healthy, board: inner }, repair([clamp.ref]))).toContain('source');
    expect(ids(healthy, repair(['C61']))).not.toContain('source');
  });

  it('a soak that was struck out is not running', () => {
    const wait = plainEvents({ type: 'wait', reason: 'soak', until: null, text: '' });
    const strike = plainEvents({ type: 'strike', event: wait[0]!.id, reason: 'wrong job' });
    const soak = (events: typeof wait) =>
      verifyList(healthy, deriveJob(events)).find((one) => one.id === 'soak')!;
    expect(soak(wait).wait).toEqual({ id: wait[0]!.id, until: null });
    expect(soak([...wait, ...strike]).wait).toBeNull();
  });

  it('says of a pre-charge what the charger is known to be set to, and no more', () => {
    const unset: typeof healthy = {
      ...healthy,
      board: {
        ...healthy.board,
        chips: healthy.board.chips.map((chip) => ({
          ...chip,
          behaviours: chip.behaviours.map((one) =>
            one.do === 'regulator' ? { ...one, precharge: null } : one,
          ),
        })),
      },
    };
    const how = verifyList(unset, plainJob(plainIntake())).find(
      (one) => one.id === 'charging',
    )!.how;
    expect(how).toBe('A pre-charge first, then up to 2 A; it ends when full.');
  });

  it('keeps what was said of a line', () => {
    const said = verifyList(
      healthy,
      plainJob(plainIntake(), {
        type: 'verify',
        item: 'ports',
        result: 'failed',
        text: 'left one',
      }),
    ).find((one) => one.id === 'ports');
    expect(said).toMatchObject({ state: 'failed', text: 'left one', minutes: null, wait: null });
  });
});
