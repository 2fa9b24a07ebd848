import { describe, expect, it } from 'vitest';
import cairn from '../../../../sheets/cairn-14.yaml?raw';
import fell from '../../../../sheets/fell-13.yaml?raw';
import beck from '../../../../sheets/beck-mini.yaml?raw';
import { loadSheet, type Board, type GoalId, type NetId, type PartRef } from '../board/index.ts';
import { withFault, type Fault } from '../faults/index.ts';
import { attachedIn, playBoard, shownVolts, usualSetup } from '../play/index.ts';
import { studyHealthyBoard, type HealthyBoard } from '../expectations/index.ts';
import { isBad, usualMeter, type Phase, type Reading, whyText } from '../readings/index.ts';
import { plainEvents, plainIntake, walkJob, type WalkedTrace } from '@jiko/testing';
import { buildReport } from '../report/index.ts';
import { deriveJob, type JobEvent } from '../record/index.ts';
import type { NextProbe } from '../diagnosis/index.ts';

const load = (text: string): Board => {
  const loaded = loadSheet(text);
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return loaded.value;
};
const boots = 'boots' as GoalId;

const readingOf = (
  net: string,
  volts: number,
  phase: Phase = 'standby',
  mode: Reading['mode'] = 'volts',
): Reading => ({
  at: { net, part: null, pin: null },
  reference: null,
  polarity: 'red-on-point',
  mode,
  phase,
  value: { kind: 'number', value: volts, trend: 'steady' },
  source: { id: 'adapter', volts: 19.5, limitAmps: null },
  attached: [],
  lifted: [],
  meter: usualMeter,
  sheet: 'x',
  note: '',
});

let serial = 0;
const event = (body: JobEvent['body']): JobEvent => ({
  id: `00000000-0000-4000-8000-${String(++serial).padStart(12, '0')}`,
  who: 'Bench 1',
  at: '2026-01-05T10:00:00Z',
  body,
});
const read = (reading: Reading, supersedes: string[] = []): JobEvent =>
  event({ type: 'reading', reading, supersedes });

/** What says nothing of its bench was read on the one at hand. */
const asHere = ({ board, play: { setup } }: HealthyBoard, event: JobEvent): JobEvent => {
  const { body } = event;
  if (body.type !== 'reading' || body.reading.attached.length > 0) return event;
  const { source } = body.reading;
  const id = source?.id === 'adapter' ? setup.source : source?.id;
  const reading = {
    ...body.reading,
    attached: attachedIn(board, setup),
    source: id === undefined ? null : { id, volts: null, limitAmps: null },
  };
  return { ...event, body: { ...body, reading } };
};
const trace = (healthy: HealthyBoard, events: JobEvent[]): WalkedTrace =>
  walkJob(healthy, deriveJob(events.map((one) => asHere(healthy, one))), boots);

/** Measures what is proposed on a board with a hidden fault until nothing more is proposed. */
function follow(healthy: HealthyBoard, fault: Fault): { trace: WalkedTrace; probes: string[] } {
  const faulty = playBoard(withFault(healthy.board, fault), usualSetup(healthy.board));
  const events: JobEvent[] = [];
  const probes: string[] = [];
  for (let count = 0; count < 80; count++) {
    const now = trace(healthy, events);
    if (!now.next) return { trace: now, probes };
    probes.push(now.next.net);
    events.push(read(answer(faulty, now.next, fault)));
  }
  throw new Error(`never ends: ${probes.join(' ')}`);
}

function answer(faulty: ReturnType<typeof playBoard>, next: NextProbe, fault: Fault): Reading {
  if (next.mode === 'ohms') {
    const shorted = fault.kind === 'short' && fault.net === next.net;
    return readingOf(next.net, shorted ? fault.ohms : 5000, 'cold', 'ohms');
  }
  const phase = next.phase === 'run' ? 'trying' : next.phase;
  const volts = faulty.phases.get(phase as 'trying')?.volts.get(next.net) ?? 0;
  return readingOf(next.net, Math.round(volts * 1000) / 1000, phase);
}

const part = (ref: string): PartRef => ref as PartRef;
const cairnHealthy = studyHealthyBoard(load(cairn));

describe('following the proposed probes to a hidden missing stage of Cairn 14', () => {
  // What a technician would name, written down before the code was run (common practice, no source).
  const cases: [Fault, string, string][] = [
    [{ kind: 'open', part: part('F1') }, 'fuse', 'VIN_F'],
    [{ kind: 'open', part: part('R2') }, 'input-fets', 'PQ1_G'],
    [{ kind: 'open', part: part('PQ2') }, 'input-fets', 'VA_SNS'],
    [{ kind: 'dead', part: part('PU1') }, 'input-fets', 'ACDRV#'],
    // An open sense resistor looks like an overload to the driver: it lets go of the FETs.
    [{ kind: 'open', part: part('PR1') }, 'input-fets', 'ACDRV#'],
    [{ kind: 'open', part: part('R10') }, 'ldo', 'ALW_EN'],
    [{ kind: 'open', part: part('PL1') }, 'alw3', '3V3_ALW'],
    [{ kind: 'open', part: part('R12') }, 'alw3', 'EN_3V3'],
    [{ kind: 'open', part: part('FB20') }, 'ec-supply', '3V3_EC'],
    [{ kind: 'open', part: part('FB22') }, 'ec-supply', '3V3_SPI'],
    [{ kind: 'open', part: part('R20') }, 'ec-reset', 'EC_RST#'],
    [{ kind: 'dead', part: part('U20') }, 'alw5', 'EN_5V_EC'],
    [{ kind: 'short', net: '5V_ALW' as NetId, ohms: 0.1 }, 'alw5', '5V_ALW'],
    [{ kind: 'dead', part: part('PU5') }, 's5', '1V05_S5'],
    [{ kind: 'dead', part: part('U40') }, 'sleep', 'SLP_S4#'],
    [{ kind: 'open', part: part('PL7') }, 'memory', '1V2_MEM'],
    [{ kind: 'dead', part: part('U33') }, 'run', '3V3_RUN'],
    [{ kind: 'open', part: part('R62') }, 'all-good', 'RUN_PG'],
    [{ kind: 'dead', part: part('PU9') }, 'core', 'VCORE'],
  ];
  it.each(cases)('%o is found at stage %s, net %s', (fault, stage, net) => {
    const { trace: end, probes } = follow(cairnHealthy, fault);
    expect(end.firstMissing, probes.join(' ')).toMatchObject({ stage, net, certain: true });
    // Nothing that was not read is ever called up.
    const read = new Set(probes);
    for (const one of end.stages) {
      if (one.state === 'up') expect(one.nets.every(({ net: n }) => read.has(n))).toBe(true);
    }
  });

  it('a rail that read OL cold is read once more: a tip that does not touch reads the same', () => {
    const fault: Fault = { kind: 'dead', part: part('PU5') };
    const faulty = playBoard(withFault(cairnHealthy.board, fault), usualSetup(cairnHealthy.board));
    const events: JobEvent[] = [];
    let now = trace(cairnHealthy, events);
    while (now.next && now.next.mode !== 'ohms') {
      events.push(read(answer(faulty, now.next, fault)));
      now = trace(cairnHealthy, events);
    }
    expect(now.next).toMatchObject({ net: '1V05_S5', mode: 'ohms', phase: 'cold' });
    const open = (): JobEvent =>
      read({
        ...readingOf('1V05_S5', 0, 'cold', 'ohms'),
        value: { kind: 'over', limit: usualMeter.mostOhms },
      });
    const once = trace(cairnHealthy, [...events, open()]);
    expect(once.next).toMatchObject({ net: '1V05_S5', mode: 'ohms', phase: 'cold' });
    expect(once.next!.why).toContain('Read it once more');
    expect(trace(cairnHealthy, [...events, open(), open()]).next).toBeNull();
    // Any ohms at all are an answer.
    const ohms = read(readingOf('1V05_S5', 5000, 'cold', 'ohms'));
    expect(trace(cairnHealthy, [...events, ohms]).next).toBeNull();
  });

  it('a healthy board is walked to its goal and nothing is called missing', () => {
    const play = cairnHealthy.play;
    const events: JobEvent[] = [];
    for (let count = 0; count < 80; count++) {
      const now = trace(cairnHealthy, events);
      if (!now.next) {
        expect(now.goalReached).toBe(true);
        expect(now.firstMissing).toBeNull();
        return;
      }
      events.push(
        read(
          readingOf(
            now.next.net,
            play.phases.get('run')?.volts.get(now.next.net) ?? 0,
            now.next.phase,
          ),
        ),
      );
    }
    throw new Error('never ends');
  });
});

it('a shorted output is named as such, by what its regulator can drive', () => {
  const short: Fault = { kind: 'short', net: '1V2_MEM' as NetId, ohms: 0.05 };
  const { trace: end } = follow(cairnHealthy, short);
  expect(end.firstMissing).toMatchObject({ stage: 'memory', net: '1V2_MEM', certain: true });
  expect(end.firstMissing?.why).toContain('Its output is shorted');
});

describe('first missing stage on the other demo sheets', () => {
  it('Fell 13: a dead USB-C controller', () => {
    const healthy = studyHealthyBoard(load(fell));
    const { trace: end } = follow(healthy, { kind: 'dead', part: part('U1') });
    // Detected, as 5 V show, but nobody asks for more: back to the chip that asks, and its supply.
    expect(end.firstMissing).toMatchObject({ stage: 'pd', net: 'PD_LDO' });
  });
  it('Beck mini: memory regulator known only as a stage', () => {
    const healthy = studyHealthyBoard(load(beck));
    const { trace: end } = follow(healthy, { kind: 'dead', part: part('memory-regulator') });
    expect(end.firstMissing).toMatchObject({ stage: 'memory', net: '1V2_MEM', certain: true });
  });
});

describe('what readings prove', () => {
  it('an input FET that is off is not called good for a slightly low rail', () => {
    const events = [read(readingOf('VA_MID', 18.9))];
    const before = trace(cairnHealthy, events);
    expect(before.readings[0]?.verdict.kind).toBe('undecided');
    events.push(read(readingOf('VIN', 19.48)));
    const after = trace(cairnHealthy, events);
    expect(after.readings[0]?.verdict.kind).toBe('low');
    expect(whyText(after.readings[0]!.verdict)).toContain('body diode');
  });

  it('a fuse behind a FET says nothing of the FET: its diode may feed both', () => {
    // VA_MID lies behind PQ1, whose diode lets through; what stands there is not yet PQ1's doing.
    const one = trace(cairnHealthy, [read(readingOf('VA_MID', 19.4))]).readings[0]!;
    expect(one.verdict).toMatchObject({ kind: 'undecided', because: { is: 'may-be-body-diode' } });
    expect(trace(cairnHealthy, [read(readingOf('VIN_F', 19.4))]).readings[0]?.verdict.kind).toBe(
      'good',
    );
  });

  it('a fuse with nothing behind it is held against what hangs there', () => {
    const blown = [read(readingOf('VIN_JACK', 19.5)), read(readingOf('VIN_F', 0))];
    const why = (events: JobEvent[]): unknown =>
      trace(cairnHealthy, events).readings.find(({ reading }) => reading.at.net === 'VIN_F')
        ?.verdict.because;
    const ohms = (value: number): JobEvent => read(readingOf('VIN', value, 'cold', 'ohms'));
    expect(why(blown)).toMatchObject({ is: 'blocks', part: 'F1', load: 'unread', isFuse: true });
    expect(why([...blown, ohms(0.4)])).toMatchObject({ load: 'shorted' });
    expect(why([...blown, ohms(52000)])).toMatchObject({ load: 'clear' });
  });

  it('an adapter that idles is no missing stage: the walk goes on behind it', () => {
    const idling: Board = {
      ...cairnHealthy.board,
      sources: cairnHealthy.board.sources.map((one) =>
        one.id === 'adapter' ? { ...one, idleVolts: 5, wakesAtAmps: 1e-6 } : one,
      ),
    };
    const found = trace(studyHealthyBoard(idling), [read(readingOf('VIN_JACK', 5))]);
    expect(found.readings[0]?.verdict.because.is).toBe('idle-source');
    expect(found.firstMissing).toBeNull();
    expect(found.next?.net).not.toBe('VIN_JACK');
  });

  it('a reading taken on another version of the sheet is judged by the present one, and says so', () => {
    const of = (sheet: string) =>
      trace(cairnHealthy, [read({ ...readingOf('VIN', 19.5), sheet })]).readings[0]!;
    expect(of('0123456789abcdef')).toMatchObject({
      isOfOtherSheet: true,
      verdict: { kind: 'good' },
    });
    expect(of(cairnHealthy.board.hash).isOfOtherSheet).toBe(false);
    // Nobody wrote the version down.
    expect(of('').isOfOtherSheet).toBe(false);
  });

  it('names what should pull a net down that stands where nothing should be', () => {
    const { trace: end } = follow(cairnHealthy, { kind: 'open', part: part('R2') });
    expect(end.firstMissing).toMatchObject({ net: 'PQ1_G' });
    expect(end.firstMissing?.why).toMatch(/What should pull it down: PU1 pin ACDRV through R2/);
  });

  it('never puts the probe at a part that was seen missing', () => {
    const at = (gone: string | null): string | null | undefined => {
      const seen = { type: 'finding', kind: 'missing', part: gone, text: '' };
      const job = deriveJob(gone ? plainEvents(seen) : []);
      return walkJob(cairnHealthy, job, boots).next?.place.part;
    };
    const first = at(null)!;
    expect(at(first)).not.toBe(first);
  });

  it('two contradicting readings are both kept, and a re-measure decides', () => {
    const events = [
      read(readingOf('VIN_JACK', 19.5)),
      read(readingOf('VIN', 0.1)),
      read(readingOf('VIN', 19.48)),
    ];
    const open = trace(cairnHealthy, events);
    expect(open.firstMissing).toBeNull();
    expect(open.next?.net).toBe('VIN');
    expect(open.next?.decides.sort()).toEqual([events[1]?.id, events[2]?.id].sort());
    events.push(read(readingOf('VIN', 19.47), open.next?.decides));
    const decided = trace(cairnHealthy, events);
    expect(decided.stages.find((one) => one.stage.id === 'fuse')?.state).toBe('up');
    expect(decided.readings).toHaveLength(4);
  });

  it('a struck-out reading counts no more, and one from before a repair tells of the board as it was', () => {
    const bad = read(readingOf('VIN_JACK', 0));
    const events = [bad, event({ type: 'strike', event: bad.id, reason: 'lead off' })];
    expect(trace(cairnHealthy, events).firstMissing).toBeNull();
    const repaired = [
      read(readingOf('VIN_JACK', 0)),
      event({ type: 'repair', action: 'replaced', parts: ['J1'], text: '' }),
    ];
    const after = trace(cairnHealthy, repaired);
    expect(after.firstMissing).toBeNull();
    expect(after.next?.net).toBe('VIN_JACK');
  });

  it('a later stage that works shows only that the earlier one was enough for it', () => {
    const events = [read(readingOf('3V3_ALW', 3.3))];
    const states = new Map(
      trace(cairnHealthy, events).stages.map((one) => [one.stage.id as string, one.state]),
    );
    expect(states.get('alw3')).toBe('up');
    expect(states.get('main')).toBe('enough');
    expect(states.get('core')).toBe('unread');
  });
});

describe('what a goal wants', () => {
  const reached = (events: JobEvent[]) => trace(cairnHealthy, events).goalReached;
  const all = (phase: 'run' | 'trying' = 'run'): JobEvent[] => [
    read(readingOf('PLTRST#', 3.29, phase)),
  ];
  it('is not reached past a stage that was read as missing', () => {
    expect(reached(all())).toBe(true);
    expect(reached([...all(), read(readingOf('0V6_VTT', 0, 'run'))])).toBe(false);
    expect(reached([...all(), read(readingOf('VCORE', 0.02, 'run'))])).toBe(false);
  });
  it('is not reached on another source than the job is about', () => {
    const onBattery = { ...readingOf('PLTRST#', 3.29, 'run'), source: null };
    expect(reached([read(onBattery)])).toBe(true);
    const battery = { id: 'battery', volts: 11.4, limitAmps: null };
    expect(reached([read({ ...onBattery, source: battery })])).toBe(false);
  });
  it('a rail that is good in standby and sags after the press is missing from then on', () => {
    const good = read(readingOf('3V3_ALW', 3.3, 'standby'));
    const state = (events: JobEvent[]) =>
      trace(cairnHealthy, events).stages.find((one) => one.stage.id === 'alw3')?.state;
    expect(state([good])).toBe('up');
    expect(state([good, read(readingOf('3V3_ALW', 1.4, 'trying'))])).toBe('down');
  });
});

describe('a USB-C bus', () => {
  const why = (volts: number): string => {
    const healthy = studyHealthyBoard(load(fell));
    return trace(healthy, [read(readingOf('VBUS', volts))]).firstMissing?.why ?? '';
  };
  it.each([
    [0.79, 'does not see the board'],
    [0.81, 'nobody asks for more than 5 V: look at U1'],
    [5.55, 'nobody asks for more than 5 V'],
  ])('at %f V: %s', (volts, words) => {
    expect(why(volts)).toContain(words);
  });
  it('that stands at its first 5 V is pulled down by nothing: no ohms are asked for', () => {
    const healthy = studyHealthyBoard(load(fell));
    const next = (volts: number) =>
      trace(healthy, [read(readingOf('VBUS', volts)), read(readingOf('PD_LDO', 3.3))]).next;
    expect(next(4.41)?.mode).not.toBe('ohms');
    expect(next(5.08)?.mode).not.toBe('ohms');
    expect(next(4.39)).toMatchObject({ net: 'VBUS', mode: 'ohms' });
    expect(next(9)).toMatchObject({ net: 'VBUS', mode: 'ohms' });
  });
  it('says neither once more was agreed on', () => {
    expect(why(9)).not.toContain('asks for more');
  });
});

describe('a reading is judged on the bench it was taken on', () => {
  const board = cairnHealthy.board;
  const on = (source: string, attached: string[]) =>
    cairnHealthy.onBench({ source, attached, lifted: [] });
  /** Every reading of a well board, as a meter shows it. */
  const wholeBoard = (source: string, attached: string[]): JobEvent[] =>
    board.nets.flatMap((net) =>
      (['standby', 'run'] as const).flatMap((phase) => {
        const snapshot = on(source, attached).play.phases.get(phase);
        if (net.id === board.ground || net.kind === 'switch' || !snapshot) return [];
        return read({
          ...readingOf(net.id, Math.round(shownVolts(snapshot, net.id) * 1000) / 1000, phase),
          attached,
          source: { id: source, volts: null, limitAmps: null },
        });
      }),
    );

  it('a well board stays well, whatever the strip says now', () => {
    const events = wholeBoard('adapter', ['panel', 'memory']);
    for (const bench of [
      on('adapter', ['panel', 'memory']),
      on('battery', []),
      on('adapter', ['battery', 'panel', 'memory']),
    ]) {
      const { readings } = walkJob(bench, deriveJob(events), boots);
      expect(readings.filter((one) => isBad(one.verdict)).map((one) => one.reading.at.net)).toEqual(
        [],
      );
    }
  });

  it('says nothing of another bench: there a net is unread, and only there', () => {
    const events = wholeBoard('adapter', ['panel', 'memory']);
    const states = (bench: HealthyBoard): Set<string> =>
      new Set(walkJob(bench, deriveJob(events), boots).stages.map((one) => one.state));
    expect(states(on('adapter', ['memory', 'panel']))).not.toContain('unread');
    expect([...states(on('battery', ['memory', 'panel']))]).toEqual(['unread']);
    expect([...states(on('adapter', ['memory']))]).toEqual(['unread']);
  });

  it('a supply set by hand is what its readings are held against', () => {
    const supply = board.sources.find((one) => one.kind === 'bench');
    const at = (volts: number): JobEvent =>
      read({
        ...readingOf('VIN_JACK', volts),
        source: { id: supply!.id, volts: 12, limitAmps: 3 },
      });
    const verdict = (volts: number) =>
      walkJob(on(supply!.id, []), deriveJob([at(volts)]), boots).readings[0]?.verdict.kind;
    expect(verdict(12)).toBe('good');
    expect(verdict(supply!.volts)).toBe('high');
  });

  it('and the report says what WalkedTrace says', () => {
    const events = wholeBoard('battery', ['battery', 'memory']);
    const [intake] = plainEvents(plainIntake());
    const report = buildReport(cairnHealthy, [intake!, ...events]);
    expect(report.reached).toBe('The goal was read as reached.');
    expect(
      report.readings.filter(
        (one) => one.verdict !== 'good' && /low|high|missing|odd/.test(one.verdict),
      ),
    ).toEqual([]);
  });
});
