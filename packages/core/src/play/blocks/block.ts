import type { Chip, Need, NetId } from '../../board/index.ts';

/** A chip's behaviour during a play: it looks at volts, says when it will act, and acts. */
export interface Block {
  readonly name: string;
  /** Looks at the present volts and plans or cancels. */
  look(): void;
  /** Its discrete state in a few letters: the same board state again means that it cycles. */
  state(): string;
  /** When it will act next, in seconds of the play; null when it waits. */
  dueAt(): number | null;
  fire(): void;
  /** All it remembers, to be taken up by the same block of a like board. */
  save(): BlockMemory;
  restore(memory: BlockMemory): void;
}

export interface BlockMemory {
  fields: object;
  held: Uint8Array[];
}

/** The bench a block stands on. */
export interface Bench {
  /** Volts by node at this moment. */
  volts: Float64Array;
  /** Seconds of the play. */
  now: number;
  nodeOf(net: NetId): number;
  log(by: string, what: string, kind?: 'gives-up'): void;
  /** A USB-C controller asks the source for volts. */
  ask(volts: number): void;
  /** Called just before a sequence gives up and shuts down. */
  givingUp(): void;
}

/** Nothing happens in no time: every transition takes at least this long. */
export const leastSeconds = 1e-6;

/** Needs of a chip with their memory: what gripped lets go only past its hysteresis. */
export class Comparators {
  readonly held: Uint8Array;
  private readonly bench: Bench;
  private readonly nodes: Int32Array;
  private readonly than: Int32Array;
  private readonly above: Uint8Array;
  private readonly threshold: Float64Array;
  private readonly hysteresis: Float64Array;

  constructor(bench: Bench, chip: Chip, needs: readonly Need[]) {
    const count = needs.length;
    this.bench = bench;
    this.held = new Uint8Array(count);
    this.nodes = new Int32Array(count);
    this.than = new Int32Array(count);
    this.above = new Uint8Array(count);
    this.threshold = new Float64Array(count);
    this.hysteresis = new Float64Array(count);
    for (let n = 0; n < count; n++) {
      const need = needs[n]!;
      this.nodes[n] = bench.nodeOf(chip.pins.get(need.pin) as NetId);
      this.than[n] = need.than === null ? 0 : bench.nodeOf(chip.pins.get(need.than) as NetId);
      this.above[n] = need.side === 'above' ? 1 : 0;
      this.threshold[n] = need.volts;
      this.hysteresis[n] = need.hysteresisVolts;
    }
  }

  get count(): number {
    return this.held.length;
  }

  /** Looks at every need; whether all are met. */
  met(): boolean {
    const { volts } = this.bench;
    let all = true;
    for (let n = 0; n < this.held.length; n++) {
      const across = volts[this.nodes[n]!]! - volts[this.than[n]!]!;
      const slack = this.held[n] ? this.hysteresis[n]! : 0;
      const holds = this.above[n]
        ? across > this.threshold[n]! - slack
        : across < this.threshold[n]! + slack;
      this.held[n] = holds ? 1 : 0;
      if (!holds) all = false;
    }
    return all;
  }

  /** Place of the first need that was not met when last looked at; -1 where all were. */
  firstBroken(): number {
    return this.held.indexOf(0);
  }
}

/** The remembering half of a block: its plain fields and its comparators. */
export abstract class Remembering {
  protected abstract fields(): object;
  protected abstract comparators(): readonly Comparators[];

  save(): BlockMemory {
    return {
      fields: { ...this.fields() },
      held: this.comparators().map((one) => one.held.slice()),
    };
  }

  restore(memory: BlockMemory): void {
    Object.assign(this.fields(), memory.fields);
    this.comparators().forEach((one, index) => {
      const held = memory.held[index];
      if (held?.length === one.held.length) one.held.set(held);
    });
  }
}
