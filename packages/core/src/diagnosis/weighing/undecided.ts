import { type Board, type NetId, joinedNets } from '../../board/index.ts';
import { voltsPlace, type Dictionary } from '../../dictionary/index.ts';
import type { PoweredPhase } from '../../readings/index.ts';

// A play knows one threshold for each enable. Data sheets promise less: surely off below a level,
// surely on above another, and between the two one chip starts and its neighbour does not.

/** A regulator as seen from a net it makes or reports on. */
export interface Maker {
  /** Places of the nets that let it on, with the threshold in volts. */
  enables: readonly { place: number; volts: number }[];
  /** Place of the net that feeds it. */
  feed: number;
}

/** Of a threshold in volts, surely off below the one and surely on above the other. Common practice, no source. */
const surelyOffPart = 0.5;
const surelyOnPart = 1.7;
/** An enable this near to what the healthy board has is not dragged. */
const sameAsHealthyPart = 0.15;
/** A feed below this part of its volts lets nothing up. */
const leastFeedPart = 0.7;

/** By place of a net: the regulators that make it, or whose power-good it is. */
export function makersOf(board: Board, nets: readonly NetId[]): readonly (readonly Maker[])[] {
  const placeOf = new Map(nets.map((net, place) => [net, place]));
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  const groups = joinedNets(board);
  const makers = nets.map((): Maker[] => []);
  for (const { pins, behaviours, fitted } of board.chips)
    for (const one of fitted ? behaviours : []) {
      if (one.do !== 'regulator') continue;
      const feed = placeOf.get(pins.get(one.in) as NetId);
      const enables = one.needs.flatMap(({ pin, side, volts, than }) => {
        const net = pins.get(pin) as NetId;
        const place = placeOf.get(net);
        // A supply that must be there is no enable.
        const isEnable = side === 'above' && than === null && kinds.get(net) !== 'rail';
        return isEnable && pin !== one.in && place !== undefined ? [{ place, volts }] : [];
      });
      if (feed === undefined || enables.length === 0) continue;
      const made = new Set([one.out, one.sense].map((pin) => groups.get(pins.get(pin) as NetId)));
      const reported = one.powerGood === null ? undefined : pins.get(one.powerGood);
      nets.forEach((net, place) => {
        const isMade = groups.get(net) !== undefined && made.has(groups.get(net));
        if (isMade || net === reported) makers[place]!.push({ enables, feed });
      });
    }
  return makers;
}

/**
 * Volts a net has under a row if a regulator whose enable stands in between decides the other way than in
 * the play; null where none does.
 */
export function otherwise(
  dictionary: Dictionary,
  makers: readonly Maker[],
  row: number,
  phase: PoweredPhase,
  place: number,
): number | null {
  if (makers.length === 0) return null;
  const { volts, swings } = dictionary;
  const here = voltsPlace(dictionary, row, phase, 0);
  const healthy = voltsPlace(dictionary, 0, phase, 0);
  const up = volts[healthy + place]!;
  const isUp = volts[here + place]! > up / 2;
  for (const { enables, feed } of makers) {
    const isBetween = enables.some(({ place: at, volts: threshold }) => {
      const value = volts[here + at]!;
      const usual = volts[healthy + at]!;
      return (
        value > surelyOffPart * threshold &&
        value < surelyOnPart * threshold &&
        Math.abs(value - usual) > sameAsHealthyPart * usual &&
        !swings.has(here + at)
      );
    });
    if (!isBetween) continue;
    if (isUp) return 0;
    if (volts[here + feed]! > leastFeedPart * volts[healthy + feed]!) return up;
  }
  return null;
}
