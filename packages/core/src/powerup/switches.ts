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
  private positions = 0;

  /** The same while every switch stands the same; different with high likelihood when one differs. */
  get position(): number {
    return this.positions;
  }

  add(name: string, device: Switchable, field: SwitchField): Switch {
    const one = new Switch(this, this.switches.length, name, device, field);
    this.switches.push(one);
    return one;
  }

  moved(index: number, from: number, to: number): void {
    this.isMoved = true;
    this.positions ^= mixed(index, from) ^ mixed(index, to);
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

/** A number that looks random for each switch and value. */
function mixed(index: number, value: number): number {
  let h = Math.imul(index + 1, 0x9e3779b1) ^ Math.imul(Math.round(value * 8191) | 0, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return h ^ (h >>> 15);
}
