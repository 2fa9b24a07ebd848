import { walkNext } from '@jiko/core/diagnosis';
import { drawnPicture, type Board, type GoalId, type NetId, netById } from '@jiko/core/board';
import { traceJob } from '@jiko/core/trace';
import { withFault, type Fault } from '@jiko/core/faults';
import { benchSetup, playBoard, shownVolts, usualSetup } from '@jiko/core/play';
import { readCold } from '@jiko/core/cold';
import { studyHealthyBoard } from '@jiko/core/expectations';
import { makeSweep } from '@jiko/core/prepare';
import { usualMeter, type Phase, type ProbePlace, type Reading } from '@jiko/core/readings';
import {
  deriveJob,
  eventBodySchema,
  type EventInput,
  type Intake,
  type JobEvent,
  type PicturePlace,
} from '@jiko/core/record';

export interface DemoJob {
  id: string;
  events: JobEvent[];
}

/** Writes down a demo job as a bench would: entries a little apart, readings through the core. */
export interface Log {
  intake(board: Board, written: Partial<Intake>): void;
  add(who: string, body: EventInput): void;
  /** Takes the board's sweep in its order, for at most `most` points. */
  sweep(who: string, board: Board, fault: Fault | null, most: number): void;
  /** So many hours pass. */
  later(hours: number): void;
  /** Follows the proposed probes for at most `most` readings; null plays the healthy board. */
  trace(who: string, board: Board, fault: Fault | null, most: number): void;
}

/** A job begun so many hours ago, with fixed ids. */
export function job(
  serial: number,
  now: Date,
  hoursAgo: number,
  write: (log: Log) => void,
): DemoJob {
  const events: JobEvent[] = [];
  let at = now.getTime() - hoursAgo * 3600_000;
  const add = (who: string, written: EventInput): void => {
    const body = eventBodySchema.parse(written);
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
      const usual = {
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
    later(hours) {
      at += hours * 3600_000;
    },
    sweep(who, board, fault, most) {
      const { across, ohms, diode } = readCold(
        board,
        benchSetup(board, { attached: [] }),
        fault ? [fault] : [],
        usualMeter,
      );
      const nets = board.nets.filter((net) => net.id !== board.ground).map((net) => net.id);
      for (const point of makeSweep(studyHealthyBoard(board).onBench(bareBench)).slice(0, most)) {
        const read =
          point.reference === null
            ? (point.mode === 'ohms' ? ohms : diode)[nets.indexOf(point.net)]!
            : point.mode === 'ohms'
              ? across(point.net, point.reference, 'ohms')
              : across(point.reference, point.net, 'diode');
        add(who, {
          type: 'reading',
          reading: {
            ...reading(board, point, 'cold', 0),
            reference: point.reference && { net: point.reference, part: null, pin: null },
            polarity: point.polarity,
            value:
              read < usualMeter.mostOhms
                ? { kind: 'number', value: Number(read.toPrecision(3)), trend: 'steady' }
                : { kind: 'over', limit: usualMeter.mostOhms },
          },
          supersedes: [],
        });
      }
    },
    trace(who, board, fault, most) {
      // As a board lies on a bench: bare, on its usual source.
      const healthy = studyHealthyBoard(board).onBench(bareBench);
      const play = playBoard(fault ? withFault(board, fault) : board, healthy.play.setup);
      for (let count = 0; count < most; count++) {
        const next = walkNext(traceJob(healthy, deriveJob(events), 'boots' as GoalId));
        if (!next) return;
        const phase: Phase = next.phase === 'run' ? 'trying' : next.phase;
        const snapshot = play.phases.get(phase as 'trying');
        const volts = snapshot ? shownVolts(snapshot, next.net as NetId) : 0;
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
  return netById(board, net)?.coldOhms ?? 5000;
}

function reading(
  board: Board,
  next: { mode: Reading['mode']; place: ProbePlace },
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

const bareBench = { source: null, attached: [], lifted: [] };

/** Fixed ids, so that loading the demo twice changes nothing. */
const demoId = (job: number, event: number): string =>
  `0d0e0000-0000-4000-8000-${String(job).padStart(4, '0')}${String(event).padStart(8, '0')}`;

/** Where a part is on the picture drawn from the sheet. */
export function placeOn(board: Board, ref: string): (PicturePlace & { frame: 'drawn' }) | null {
  const at = drawnPicture(board).placeOf(ref);
  return at && { ...at, frame: 'drawn' };
}
