import type { Board, PartRef, Source } from '../../board/index.ts';
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
    const isFitted = (ref: PartRef | null): boolean =>
      ref === null || board.parts.some((part) => part.ref === ref && part.fitted);
    const sequences: SequenceBlock[] = [];
    // A chip that hangs gives nothing else either.
    const runs = (): boolean => sequences.every((one) => !one.hangs);
    for (const behaviour of chip.behaviours) {
      switch (behaviour.do) {
        case 'regulator':
          if (behaviour.pass === 'boost' && !isFitted(chip.diode)) break;
          blocks.push(new RegulatorBlock(chip, behaviour, built, bench));
          break;
        case 'follower':
          blocks.push(new FollowerBlock(chip, behaviour, built, bench, runs));
          break;
        case 'sequence':
          sequences.push(new SequenceBlock(chip, behaviour, built, bench, isFitted(chip.crystal)));
          blocks.push(...sequences.slice(-1));
          break;
        default:
          unreachable(behaviour);
      }
    }
  }
  return blocks;
}
