import { isFet, type NetId, findChip, findPart } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import type { Job } from '../record/index.ts';

/** What may have killed a part, and what stands next in line and may have died with it. */
export interface Aftermath {
  part: string;
  killedBy: string;
  /** Nets behind it, nearest first, with why they are to be read. */
  next: { net: NetId; why: string }[];
}

const mostNext = 4;

/** For each part that was replaced: common practice, no source. */
export function aftermathOf(healthy: HealthyBoard, job: Job): Aftermath[] {
  const { board, upstream } = healthy;
  const replaced = new Set(
    job.repairs
      .filter((one) => one.struck === null && one.body.action === 'replaced')
      .flatMap(({ body }) => body.parts),
  );
  return [...replaced].flatMap((ref): Aftermath[] => {
    const behind = board.nets
      .filter((net) => upstream.of(net.id).some((one) => one.via === ref))
      .map((net) => net.id)
      .sort((a, b) => upstream.distance(a) - upstream.distance(b));
    const killedBy = causeOf(healthy, ref);
    if (killedBy === null && behind.length === 0) return [];
    return [
      {
        part: ref,
        killedBy: killedBy ?? '',
        next: behind.slice(0, mostNext).map((net) => ({
          net,
          why: `${net} is behind ${ref}: source off, read it for a short before power`,
        })),
      },
    ];
  });
}

function causeOf({ board }: HealthyBoard, ref: string): string | null {
  const part = findPart(board, ref);
  const chip = findChip(board, ref);
  if (chip)
    return chip.behaviours.some((one) => one.do === 'regulator' && one.pass === 'switching')
      ? 'A regulator dies by a short on its rail, or takes the rail with it when its upper switch goes: read what it feeds.'
      : null;
  if (!part) return null;
  if (isFet(part))
    return 'A FET dies by a short behind it, by a surge from the source, or by a gate driven by half.';
  switch (part.kind) {
    case 'fuse':
      return 'A fuse has no fault of its own: something behind it drew too much. Never fit a larger one.';
    case 'tvs':
    case 'zener':
      return 'A clamp dies by volts that were too many: test the source before the device goes back to it.';
    case 'capacitor':
      return 'A ceramic capacitor cracks where the board bends: look at its neighbours in the same line.';
    case 'coil':
    case 'ferrite':
      return 'A coil burns by a short behind it.';
    case 'diode':
    case 'schottky':
      return 'A diode dies by a short behind it, or by a source the wrong way round.';
    default:
      return null;
  }
}
