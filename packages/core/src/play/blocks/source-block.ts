import type { Source } from '../../board/index.ts';
import type { SourceSwitches } from '../netlist.ts';
import { leastSeconds, Remembering, type Bench, type Block, type Comparators } from './block.ts';

/** How long a load must last before an idling adapter believes it: common practice, no source. */
const wakeSeconds = 0.02;

/** An adapter that stands at a low voltage until it is loaded. */
export class IdlingSourceBlock extends Remembering implements Block {
  readonly name: string;
  private readonly source: Source;
  private readonly switches: SourceSwitches;
  private readonly bench: Bench;
  private readonly is = { awake: false, due: null as number | null };

  constructor(source: Source, switches: SourceSwitches, bench: Bench) {
    super();
    this.name = source.title;
    this.source = source;
    this.switches = switches;
    this.bench = bench;
  }

  protected fields(): object {
    return this.is;
  }
  protected comparators(): Comparators[] {
    return [];
  }
  state(): string {
    return this.is.awake ? 'w' : 'i';
  }
  dueAt(): number | null {
    return this.is.due;
  }

  look(): void {
    const { is, bench, switches, source } = this;
    if (is.awake) return;
    const { device } = switches;
    const amps = (device.volts - bench.volts[device.node]!) / device.ohms;
    if (amps < source.wakesAtAmps) is.due = null;
    else is.due ??= bench.now + Math.max(leastSeconds, wakeSeconds);
  }

  fire(): void {
    this.is.due = null;
    this.is.awake = true;
    this.switches.volts.set(this.source.volts);
    this.bench.log(this.name, `sees a load and gives ${this.source.volts} V`);
  }
}
