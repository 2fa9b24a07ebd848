import type { Board, GoalId, NetId, PartRef } from '@jiko/core/board';
import { traceJob } from '@jiko/core/diagnosis';
import { withFault, type Fault } from '@jiko/core/faults';
import { playBoard, studyHealthyBoard, usualSetup } from '@jiko/core/powerup';
import { usualMeter, type Phase, type Reading } from '@jiko/core/readings';
import { deriveJob, type EventBody, type Intake, type JobEvent } from '@jiko/core/record';

interface DemoJob {
  id: string;
  events: JobEvent[];
}

/**
 * The demo bench: the repair bench of the Tarn Valley weather network, all invented. Readings are
 * taken through the core, from a play with the fault in it, as a technician following the trace
 * would take them.
 */
export function demoJobs(boards: readonly Board[], now: Date): DemoJob[] {
  const board = (id: string): Board => {
    const found = boards.find((one) => one.id === id);
    if (!found) throw new Error(`no demo board ${id}`);
    return found;
  };
  const cairn = board('cairn-14');
  const fell = board('fell-13');
  const beck = board('beck-mini');
  const part = (ref: string): PartRef => ref as PartRef;

  return [
    job(1, now, 30, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from Skell Hut',
        complaint: 'Was left under the window. In the morning it did nothing, no light.',
        history: 'Condensation after a cold night; wiped dry by the keeper.',
        keep: "the season's snow readings",
        promised: day(now, 2),
      });
      log.add('Bench 1', {
        type: 'sign',
        phase: 'standby',
        drawAmps: 0.027,
        drawShape: 'steady',
        seen: { lights: [], startsOnConnect: false },
        text: '',
      });
      log.add('Bench 1', {
        type: 'finding',
        kind: 'corrosion',
        part: 'R2',
        text: 'white bloom beside PQ1',
      });
      log.trace('Bench 1', cairn, { kind: 'open', part: part('R2') }, 9);
    }),
    job(2, now, 50, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14 from Raven Pass',
        complaint: 'Dead since the thunderstorm on Sunday.',
        history: 'Lightning nearby; the adapter died as well.',
        promised: day(now, 0),
      });
      log.add('Bench 2', { type: 'note', text: 'Another adapter tried first: same.' });
      log.trace('Bench 2', cairn, { kind: 'open', part: part('F1') }, 12);
      log.add('Bench 2', {
        type: 'repair',
        action: 'replaced',
        parts: ['F1'],
        text: 'fuse open; 0.4 MΩ to ground behind it, no short found',
      });
      log.trace('Bench 2', cairn, null, 14);
    }),
    job(3, now, 6, (log) => {
      log.intake(fell, {
        device: 'Fell 13 from Larch Hut',
        complaint: 'Does not charge and does not start. The cable has been chewed.',
        history: "A marten's bite through the USB-C cable while plugged in.",
        promised: day(now, 5),
      });
    }),
    job(4, now, 26, (log) => {
      log.intake(beck, {
        device: 'Beck mini, station 7',
        complaint: 'Fan turns for a second, then nothing.',
        history: 'Frost in the cabinet.',
        promised: null,
      });
      log.trace('Bench 1', beck, { kind: 'dead', part: part('memory-regulator') }, 20);
    }),
    job(5, now, 120, (log) => {
      log.intake(cairn, {
        device: 'Cairn 14, spare of the valley office',
        complaint: 'Lights up, but stays dark and goes off after a few seconds.',
        history: 'Fell from a table.',
        promised: null,
      });
      log.trace('Bench 2', cairn, { kind: 'open', part: part('PL7') }, 60);
      log.add('Bench 2', {
        type: 'repair',
        action: 'reflowed',
        parts: ['PL7'],
        text: 'cracked joint under the coil',
      });
      log.trace('Bench 2', cairn, null, 60);
      log.add('Bench 2', {
        type: 'close',
        outcome: 'repaired',
        cause: 'Joint of coil PL7 cracked in the fall: no memory rail.',
        proof: 'proven',
      });
    }),
  ];
}

interface Log {
  intake(board: Board, written: Partial<Intake>): void;
  add(who: string, body: EventBody): void;
  /** Follows the proposed probes for at most `most` readings; null plays the healthy board. */
  trace(who: string, board: Board, fault: Fault | null, most: number): void;
}

function job(serial: number, now: Date, hoursAgo: number, write: (log: Log) => void): DemoJob {
  const events: JobEvent[] = [];
  let at = now.getTime() - hoursAgo * 3600_000;
  const add = (who: string, body: EventBody): void => {
    at += 45_000;
    events.push({
      id: demoId(serial, events.length + 1),
      who,
      at: new Date(at).toISOString(),
      body,
    });
  };
  write({
    add,
    intake(board, written) {
      const usual: Intake = {
        board: board.id,
        device: '',
        complaint: '',
        history: '',
        goal: 'boots',
        source: usualSetup(board).source,
        keep: '',
        promised: null,
      };
      add('Bench 1', { type: 'intake', intake: { ...usual, ...written } });
    },
    trace(who, board, fault, most) {
      const healthy = studyHealthyBoard(board);
      const play = playBoard(fault ? withFault(board, fault) : board, usualSetup(board));
      for (let count = 0; count < most; count++) {
        const { next } = traceJob(healthy, deriveJob(events), 'boots' as GoalId);
        if (!next) return;
        const phase: Phase = next.phase === 'run' ? 'trying' : next.phase;
        const volts = play.phases.get(phase as 'trying')?.volts.get(next.net as NetId) ?? 0;
        const value =
          next.mode === 'ohms' ? coldOhms(board, next.net) : Math.round(volts * 1000) / 1000;
        add(who, {
          type: 'reading',
          reading: reading(board, next, phase, value),
          supersedes: next.decides,
        });
      }
    },
  });
  return { id: demoId(serial, 0), events };
}

function coldOhms(board: Board, net: NetId): number {
  return board.nets.find((one) => one.id === net)?.coldOhms ?? 5000;
}

function reading(
  board: Board,
  next: NonNullable<ReturnType<typeof traceJob>['next']>,
  phase: Phase,
  value: number,
): Reading {
  const { net, part, pin } = next.place;
  const cold = phase === 'cold';
  return {
    at: { net, part, pin },
    reference: null,
    polarity: cold ? 'black-on-point' : 'red-on-point',
    mode: next.mode,
    phase,
    value: { kind: 'number', value, trend: 'steady' },
    source: cold ? null : { id: usualSetup(board).source, volts: null, limitAmps: null },
    attached: [],
    lifted: [],
    meter: usualMeter,
    sheet: board.hash,
    note: '',
  };
}

/** Fixed ids, so that loading the demo twice changes nothing. */
const demoId = (job: number, event: number): string =>
  `0d0e0000-0000-4000-8000-${String(job).padStart(4, '0')}${String(event).padStart(8, '0')}`;

const day = (now: Date, ahead: number): string =>
  new Date(now.getTime() + ahead * 86_400_000).toISOString().slice(0, 10);
