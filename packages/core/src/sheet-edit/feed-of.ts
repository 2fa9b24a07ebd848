import type { Board, NetId } from '../board/index.ts';

/** What a sheet at rails depth says feeds a net, lets it on and says that it is good; null where it says nothing. */
export function feedOf(
  board: Board,
  net: string | null,
): { feed: NetId | null; enable: NetId | null; powerGood: NetId | null } {
  const stage = board.stages.find((one) => one.gives.some((given) => given === net));
  const chip = board.chips.find(
    (one) => one.virtual && stage && one.ref === `${stage.id}-regulator`,
  );
  const on = (pin: string): NetId | null => chip?.pins.get(pin) ?? null;
  return { feed: on('FEED'), enable: on('ENABLE'), powerGood: on('PG') };
}
