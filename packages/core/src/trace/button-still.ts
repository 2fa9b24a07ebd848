import { isBad, valueText } from '../readings/index.ts';
import type { JudgedReading } from './judged.ts';
import type { FirstMissing, Known } from './known.ts';

/** A line that keeps so much of what it reads at rest did not move. */
const stillPart = 0.7;
/** A line that is pulled up stands higher at rest, in volts. */
const leastRest = 0.5;

/**
 * The line of the button reads as at rest while the button is held: nothing that comes after the press
 * can come. What is missing is the button, or the way from its pads to the line. Null where nobody read
 * the line so, or where it moves.
 */
export function buttonStill({ healthy, readings }: Known): FirstMissing | null {
  const { button } = healthy.board;
  if (!button) return null;
  const lastIn = (phase: 'standby' | 'pressed'): JudgedReading | undefined =>
    readings.findLast(
      ({ standing, isHere, reading }) =>
        standing.kind === 'stands' &&
        isHere &&
        reading.at.net === button.net &&
        reading.mode === 'volts' &&
        reading.phase === phase &&
        reading.reference === null,
    );
  const voltsOf = (judged: JudgedReading | undefined): number | null =>
    judged?.reading.value.kind === 'number' ? judged.reading.value.value : null;
  const atRest = lastIn('standby');
  // A line that does not stand at rest has another fault first.
  if (atRest && isBad(atRest.verdict)) return null;
  const held = voltsOf(lastIn('pressed'));
  const usual = healthy.expect(button.net, 'volts', 'standby');
  const rest = voltsOf(atRest) ?? (usual.kind === 'value' ? usual.value : null);
  // One that rests at nothing is pressed to something: it cannot be told by this.
  if (held === null || rest === null || rest < leastRest) return null;
  if (held < stillPart * rest) return null;
  const stage = healthy.stageOfNet(button.net);
  const reads = valueText({ kind: 'number', value: held, trend: 'steady' }, 'volts');
  return {
    stage: stage?.id ?? healthy.stages[0]!.stage.id,
    title: stage?.title ?? 'Button',
    net: button.net,
    certain: true,
    why: `${button.net} reads ${reads} while the button is held: it does not move, so nothing after the press can come. The trouble sits at ${button.part ?? 'the button'}, or between its pads and ${button.net}.`,
    needs: [],
    pulledDown: null,
  };
}
