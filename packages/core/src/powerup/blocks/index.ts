import type { Board, Source } from '../../board/index.ts';
import { unreachable } from '../../base/index.ts';
import type { BoardCircuit } from '../netlist.ts';
import type { Bench, Block } from './block.ts';
import { FollowerBlock } from './follower-block.ts';
import { RegulatorBlock } from './regulator-block.ts';
import { SequenceBlock } from './sequence-block.ts';
import { IdlingSourceBlock } from './source-block.ts';

export type { Bench, Block, BlockMemory } from './block.ts';

/** Every behaviour of every fitted chip, and the connected source where it idles. */
export function makeBlocks(
  board: Board,
  connected: Source,
  built: BoardCircuit,
  bench: Bench,
): Block[] {
  const blocks: Block[] = [];
  const switches = built.sources.get(connected.id);
  if (connected.idleVolts !== null && switches)
    blocks.push(new IdlingSourceBlock(connected, switches, bench));
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    const hasClock =
      chip.crystal === null || board.parts.some((part) => part.ref === chip.crystal && part.fitted);
    for (const behaviour of chip.behaviours) {
      switch (behaviour.do) {
        case 'regulator':
          blocks.push(new RegulatorBlock(chip, behaviour, built, bench));
          break;
        case 'follower':
          blocks.push(new FollowerBlock(chip, behaviour, built, bench));
          break;
        case 'sequence':
          blocks.push(new SequenceBlock(chip, behaviour, built, bench, hasClock));
          break;
        default:
          unreachable(behaviour);
      }
    }
  }
  return blocks;
}
