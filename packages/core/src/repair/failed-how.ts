import { isSeriesPart, type Board } from '../board/index.ts';
import { isBad } from '../readings/index.ts';
import type { FailureWay } from '../record/index.ts';
import type { Change, PlacedReading } from './timeline.ts';

/**
 * How a part had failed, by what was done that helped and what was read wrong before; null where the record
 * does not say. `onPart` are readings across it, `before` the point that was wrong until the change.
 */
export function failedHow(
  board: Board,
  parts: readonly string[],
  of: {
    change: Change | null;
    lifted: boolean;
    onPart: readonly PlacedReading[];
    before: PlacedReading | null;
  },
): FailureWay | null {
  if (of.change?.body.action === 'reprogrammed') return 'contents';
  if (of.change?.body.action === 'reflowed' || of.change?.body.action === 'jumper') return 'joint';
  const across = of.onPart.findLast((one) => isBad(one.judged.verdict))?.judged;
  switch (across?.verdict.kind) {
    case 'shorted':
      return 'short';
    case 'open':
      return 'open';
    case 'low':
    case 'high':
      if (across.reading.mode === 'ohms') return 'value';
      break;
    default:
      break;
  }
  if (of.lifted || of.before?.judged.verdict.kind === 'shorted') return 'short';
  const isSeries = board.parts.some((one) => parts.includes(one.ref) && isSeriesPart(one));
  const isChip = board.chips.some((one) => parts.includes(one.ref));
  const kind = of.before?.judged.verdict.kind;
  if (kind === 'missing' && isSeries) return 'open';
  return isChip && (kind === 'missing' || kind === 'low') ? 'dead' : null;
}
