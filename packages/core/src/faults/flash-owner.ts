import { findChip, type Board, type Chip, type PartRef } from '../board/index.ts';

/**
 * The chip that runs from a flash: the controller or chipset that shares a signal with it, else the
 * one whose FLASH pin stands on its supply, else the only controller; null where none is known.
 */
export function flashOwner(board: Board, ref: PartRef): Chip | null {
  const flash = findChip(board, ref);
  if (!flash) return null;
  const runners = board.chips.filter((one) => one.kind === 'controller' || one.kind === 'chipset');
  const kinds = new Map(board.nets.map((net) => [net.id, net.kind]));
  const signals = [...flash.pins.values()].filter((net) => kinds.get(net) === 'signal');
  const bySignal = runners.filter((one) =>
    [...one.pins.values()].some((net) => signals.includes(net)),
  );
  const bySupply = runners.filter((one) => {
    const supply = one.pins.get('FLASH');
    return supply !== undefined && [...flash.pins.values()].includes(supply);
  });
  const controllers = runners.filter((one) => one.kind === 'controller');
  for (const found of [bySignal, bySupply, controllers])
    if (found.length === 1) return found[0] as Chip;
  return null;
}
