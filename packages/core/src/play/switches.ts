import type { RegulatorDevice, ResistorDevice, SourceDevice } from '../circuit/index.ts';

/**
 * Everything a play may move in a circuit between two solves: pins, sources, regulators. Each write
 * is compared with what stands there, so that nothing is solved again while only time goes by, and
 * the position of all switches together has a number: the same number, the same circuit.
 */
export class Switchboard {
  /** Whether any switch moved since this was last set to false. */
  isMoved = true;
  readonly switches: Switch[] = [];
  private high = 0;
  private low = 0;

  /**
   * The same while every switch stands the same; where one differs, by however little, the same by
   * chance once in 2 to the 53.
   */
  get position(): number {
    return (this.high >>> 0) * 0x200000 + (this.low >>> 11);
  }

  add(name: string, device: Switchable, field: SwitchField): Switch {
    const one = new Switch(this, this.switches.length, name, device, field);
    this.switches.push(one);
    return one;
  }

  moved(index: number, from: number, to: number): void {
    this.isMoved = true;
    this.high ^= mixed(index, from, 1) ^ mixed(index, to, 1);
    this.low ^= mixed(index, from, 0x5bd1e995) ^ mixed(index, to, 0x5bd1e995);
  }

  /** Positions by name, to be taken up by the switchboard of a like board. */
  save(): Map<string, number> {
    return new Map(this.switches.map((one) => [one.name, one.value]));
  }

  restore(saved: ReadonlyMap<string, number>): void {
    for (const one of this.switches) {
      const value = saved.get(one.name);
      if (value !== undefined) one.set(value);
    }
  }
}

type Switchable = ResistorDevice | SourceDevice | RegulatorDevice;
type SwitchField = 'siemens' | 'on' | 'volts' | 'limitAmps' | 'maxAmps';

export class Switch {
  value: number;
  readonly name: string;
  private readonly board: Switchboard;
  private readonly index: number;
  private readonly device: Switchable;
  private readonly field: SwitchField;

  constructor(
    board: Switchboard,
    index: number,
    name: string,
    device: Switchable,
    field: SwitchField,
  ) {
    this.board = board;
    this.index = index;
    this.name = name;
    this.device = device;
    this.field = field;
    this.value = Number((device as unknown as Record<SwitchField, number | boolean>)[field]);
  }

  /** Siemens, volts or amps; 1 and 0 for on and off. */
  set(value: number): void {
    if (value === this.value) return;
    this.board.moved(this.index, this.value, value);
    this.value = value;
    (this.device as unknown as Record<SwitchField, number | boolean>)[this.field] =
      this.field === 'on' ? value !== 0 : value;
  }
}

const bits = new Float64Array(1);
const halves = new Uint32Array(bits.buffer);

/** A number that looks random for each switch and value, another with each seed. */
function mixed(index: number, value: number, seed: number): number {
  // Adding zero makes -0 and 0 the same.
  bits[0] = value + 0;
  let h = Math.imul(index + seed, 0x9e3779b1);
  h = Math.imul(h ^ halves[0]! ^ (h >>> 15), 0x85ebca6b);
  h = Math.imul(h ^ halves[1]! ^ (h >>> 13), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return h ^ (h >>> 15);
}
