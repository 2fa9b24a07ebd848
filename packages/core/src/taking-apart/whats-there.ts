import { netOf, type Board, type NetId } from '../board/index.ts';
import type { HealthyBoard } from '../expectations/index.ts';
import { goneParts, type Job } from '../record/index.ts';

/** A part around a stage, to be looked for under the microscope. */
export interface ExpectedPart {
  ref: string;
  kind: string;
  value: string;
  side: string;
  /** From the stage's chip; null where places are not known. */
  millimetres: number | null;
  nets: NetId[];
  state: 'unseen' | 'there' | 'missing' | 'not-fitted';
}

/** More on one net than this are decoupling of a whole board: only those near belong to the stage. */
const manyParts = 8;
const nearMillimetres = 15;

/** The parts a stage is made of: on its output, and on the small nets of the chips that make it. */
export function partsAround(healthy: HealthyBoard, job: Job, net: NetId): ExpectedPart[] {
  const { board, upstream } = healthy;
  const makers = new Set<string>(upstream.of(net).map((one) => one.via));
  const stage = healthy.stageOfNet(net);
  stage?.by.forEach((ref) => makers.add(ref));
  const chips = board.chips.filter((one) => makers.has(one.ref) && !one.virtual);
  const nets = new Set<NetId>([net, ...(stage?.gives ?? [])]);
  for (const chip of chips)
    for (const on of chip.pins.values()) if (on !== board.ground) nets.add(on);
  const [anchor] = chips.length > 0 ? chips : board.parts.filter((one) => makers.has(one.ref));
  const onNet = new Map<NetId, number>();
  for (const part of board.parts)
    for (const pin of part.pins) onNet.set(pin.net, (onNet.get(pin.net) ?? 0) + 1);
  const awayOf = (one: { x: number | null; y: number | null }): number | null =>
    anchor && anchor.x !== null && anchor.y !== null && one.x !== null && one.y !== null
      ? Math.hypot(one.x - anchor.x, one.y - anchor.y)
      : null;
  const belongs = (part: Board['parts'][number]): boolean =>
    part.pins.some((pin) => {
      if (!nets.has(pin.net) || pin.net === board.ground) return false;
      const isMain = netOf(board, pin.net).kind === 'rail' && (onNet.get(pin.net) ?? 0) > manyParts;
      const away = awayOf(part);
      return !isMain || (away !== null && away <= nearMillimetres);
    });
  const gone = new Set(goneParts(job));
  const seen = new Map(
    job.partsSeen
      .filter((one) => one.struck === null)
      .map(({ body: { part, state } }) => [part, state] as const),
  );
  return [...board.parts.filter(belongs), ...chips]
    .filter((one) => !('isGuess' in one && one.isGuess))
    .map((one): ExpectedPart => {
      const on = 'behaviours' in one ? [...one.pins.values()] : one.pins.map((pin) => pin.net);
      return {
        ref: one.ref,
        kind: one.kind,
        value: 'valueText' in one ? one.valueText : one.marking,
        side: one.side ?? '',
        millimetres: awayOf(one),
        nets: [...new Set(on)],
        state: gone.has(one.ref)
          ? 'missing'
          : !one.fitted
            ? 'not-fitted'
            : (seen.get(one.ref) ?? 'unseen'),
      };
    })
    .sort((a, b) => (a.millimetres ?? 0) - (b.millimetres ?? 0) || a.ref.localeCompare(b.ref));
}
