import { outputPins } from './behaviour-pins.ts';
import type { Board, Part } from './board.ts';
import { netById } from './find.ts';
import type { NetId } from './ids.ts';

/** What carries no steady volts from one of its ends to the other. */
const carriesNothing = ({ kind }: Part): boolean =>
  kind === 'capacitor' || kind === 'crystal' || kind === 'connector';

const endsOn = (part: Part, net: NetId): boolean => part.pins.some((pin) => pin.net === net);

const crystalsOn = (board: Board, net: NetId): Part[] =>
  board.parts.filter((part) => part.kind === 'crystal' && endsOn(part, net));

/**
 * Why nobody can say what a hand meter shows on a net, where nothing on the sheet gives it volts: no
 * source, no pin that drives, no part that leads there. Null where something does. That it plays at 0 V
 * then says nothing of a good board.
 */
export function undrivenBecause(board: Board, net: NetId): string | null {
  const kind = netById(board, net)?.kind;
  if (kind !== 'signal' && kind !== 'analog') return null;
  if (board.button?.net === net || board.sources.some((source) => source.net === net)) return null;
  if (board.stages.some((stage) => stage.gives.includes(net))) return null;
  const crystals = crystalsOn(board, net);
  const isBeside = (part: Part): boolean =>
    part.kind === 'resistor' &&
    crystals.some((crystal) => crystal.pins.every((pin) => endsOn(part, pin.net)));
  if (board.parts.some((part) => endsOn(part, net) && !carriesNothing(part) && !isBeside(part)))
    return null;
  const isDriven = board.chips.some((chip) =>
    chip.behaviours.some((behaviour) =>
      outputPins(behaviour).some((pin) => chip.pins.get(pin) === net),
    ),
  );
  if (isDriven) return null;
  return crystals.length > 0
    ? `${net} is an end of the crystal ${crystals[0]!.ref}: while it swings a hand meter shows some tenths of a volt up to half of its chip's supply, and the tip may stop it. A scope tells`
    : `nothing on the sheet says what drives ${net}`;
}
