import type { NetId } from '../board/index.ts';
import { valueText } from '../readings/index.ts';
import { statusOf } from './judged.ts';
import type { FirstMissing, Known } from './known.ts';

/** A line that keeps so much of what it reads at rest did not move. */
const stillPart = 0.7;

/**
 * The line of the button reads as at rest while the button is held: nothing that comes after the press
 * can come. What is missing is the button, or the way from its pads to the line. Null where nobody read
 * the line so, or where it moves.
 */
export function buttonStill({ healthy, readings }: Known): FirstMissing | null {
  const { button } = healthy.board;
  if (!button) return null;
  const read = (phase: 'standby' | 'pressed'): number | null => {
    const last = readings.findLast(
      ({ standing, isHere, reading }) =>
        standing.kind === 'stands' &&
        isHere &&
        reading.at.net === button.net &&
        reading.mode === 'volts' &&
        reading.phase === phase &&
        reading.reference === null,
    )?.reading.value;
    return last?.kind === 'number' ? last.value : null;
  };
  const held = read('pressed');
  const usual = healthy.expect(button.net, 'volts', 'standby');
  const rest = read('standby') ?? (usual.kind === 'value' ? usual.value : null);
  // A line that does not stand at rest has another fault first.
  if (held === null || rest === null || held < stillPart * rest) return null;
  if (statusOf(readings, button.net, 'standby').kind === 'bad') return null;
  const stage = healthy.stageOfNet(button.net);
  const reads = valueText({ kind: 'number', value: held, trend: 'steady' }, 'volts');
  return {
    stage: stage?.id ?? healthy.stages[0]!.stage.id,
    title: stage?.title ?? 'Button',
    net: button.net as NetId,
    certain: true,
    why: `${button.net} reads ${reads} while the button is held: it does not move, so nothing after the press can come. The trouble sits at ${button.part ?? 'the button'}, or between its pads and ${button.net}.`,
    needs: [],
    pulledDown: null,
  };
}
