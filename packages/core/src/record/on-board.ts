import { findNet, type Board } from '../board/index.ts';
import type { ProbePlace } from '../readings/index.ts';
import type { Job } from './job.ts';

/**
 * A job with its readings on the nets of a sheet as it is now. A reading is kept as it was taken: one
 * at a point of its own belongs to the net that point is on, one under another name to the net that
 * has it as an alias. What the sheet does not know stays as it was written.
 */
export function jobOnBoard(board: Board, job: Job): Job {
  const on = (place: ProbePlace): ProbePlace => {
    const point =
      place.part !== null && place.pin === null
        ? board.points.find((one) => one.id === place.part)
        : undefined;
    const net = point?.net ?? findNet(board, place.net)?.id ?? place.net;
    return net === place.net ? place : { ...place, net };
  };
  let hasMoved = false;
  const readings = job.readings.map((one) => {
    const at = on(one.reading.at);
    const reference = one.reading.reference && on(one.reading.reference);
    if (at === one.reading.at && reference === one.reading.reference) return one;
    hasMoved = true;
    return { ...one, reading: { ...one.reading, at, reference } };
  });
  return hasMoved ? { ...job, readings } : job;
}
