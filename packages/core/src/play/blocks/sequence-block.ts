import { outputPins, type Chip, type Need, type Sequence } from '../../board/index.ts';
import { unreachable } from '../../base/index.ts';
import { driverKey, setPin, type BoardCircuit, type PinDriver } from '../netlist.ts';
import { Comparators, leastSeconds, Remembering, type Bench, type Block } from './block.ts';

type Plan = 'hang' | 'step' | 'pulse ends' | 'time is up' | 'abort' | 'reset ends';

/** After a dip of its supply a chip holds itself in reset for about this long: data-sheet habit, from memory. */
const resetSeconds = 0.02;

export class SequenceBlock extends Remembering implements Block {
  readonly name: string;
  private readonly sequence: Sequence;
  private readonly bench: Bench;
  private readonly pins: string[];
  private readonly drivers: ReadonlyMap<string, PinDriver>;
  private readonly supplied: Comparators;
  private readonly needed: Comparators;
  private readonly sound: Comparators;
  private readonly waits: (Comparators | null)[];
  private readonly hasClock: boolean;
  private readonly is = {
    state: 'asleep' as 'asleep' | 'hung' | 'running' | 'done' | 'gave-up',
    index: 0,
    tries: 0,
    plan: null as Plan | null,
    due: null as number | null,
    waitEndsAt: null as number | null,
    pulsing: false,
    /** Since when its supply is there; null while it is not. */
    suppliedAt: null as number | null,
    /** Its own reset after a dip of its supply. */
    inResetUntil: 0,
  };

  constructor(
    chip: Chip,
    sequence: Sequence,
    built: BoardCircuit,
    bench: Bench,
    hasClock: boolean,
  ) {
    super();
    this.name = `${chip.ref} ${sequence.name}`;
    this.sequence = sequence;
    this.bench = bench;
    this.hasClock = hasClock;
    this.pins = outputPins(sequence);
    this.drivers = new Map(
      this.pins.map((pin) => [pin, built.drivers.get(driverKey(chip, pin)) as PinDriver]),
    );
    this.supplied = new Comparators(bench, chip, sequence.supply);
    this.needed = new Comparators(bench, chip, sequence.needs);
    // What it aborts on, turned round: sound while none of them holds.
    const opposite = (need: Need): Need => ({
      ...need,
      side: need.side === 'above' ? 'below' : 'above',
    });
    this.sound = new Comparators(bench, chip, sequence.abort.map(opposite));
    this.waits = sequence.steps.map((step) =>
      step.kind === 'wait' ? new Comparators(bench, chip, step.needs) : null,
    );
  }

  protected fields(): object {
    return this.is;
  }
  protected comparators(): Comparators[] {
    const waits = this.waits.filter((one) => one !== null);
    return [this.supplied, this.needed, this.sound, ...waits];
  }
  /** Supplied and released, but it does not run. */
  get hangs(): boolean {
    return this.is.state === 'hung';
  }
  state(): string {
    const { state, index, tries, pulsing } = this.is;
    return `${state.charAt(0)}${index}.${tries}${pulsing ? 'p' : ''}`;
  }
  dueAt(): number | null {
    return this.is.due;
  }

  private plan(plan: Plan, seconds: number): void {
    this.is.plan = plan;
    this.is.due = this.bench.now + Math.max(leastSeconds, seconds);
  }
  private cancel(): void {
    this.is.plan = null;
    this.is.due = null;
  }
  private set(pin: string, level: 'high' | 'low' | 'release'): void {
    const driver = this.drivers.get(pin);
    if (driver) setPin(driver, level);
  }
  private idleLevel(pin: string): 'high' | 'low' | 'release' {
    return this.sequence.idle.find((one) => one.pin === pin)?.level ?? 'release';
  }
  private idle(): void {
    for (const pin of this.pins) this.set(pin, this.idleLevel(pin));
  }
  private next(): void {
    this.is.index++;
    this.is.waitEndsAt = null;
  }
  private restart(): void {
    const { is } = this;
    is.index = 0;
    is.pulsing = false;
    is.waitEndsAt = null;
    this.cancel();
  }
  private giveUp(why: string): void {
    const { is, bench, sequence } = this;
    bench.givingUp();
    bench.log(this.name, `gives up: ${why}`, 'gives-up');
    this.idle();
    this.restart();
    is.tries++;
    is.state = is.tries <= sequence.retries ? 'running' : 'gave-up';
  }

  look(): void {
    const { is, bench, sequence } = this;
    if (!this.supplied.met()) {
      // What has run keeps itself in reset for a while after a dip.
      if (is.state !== 'asleep') is.inResetUntil = bench.now + resetSeconds;
      is.state = 'asleep';
      is.tries = 0;
      is.suppliedAt = null;
      this.restart();
      for (const pin of this.pins) this.set(pin, 'release');
      return;
    }
    is.suppliedAt ??= bench.now;
    if (is.state === 'asleep') {
      this.idle();
      if (bench.now < is.inResetUntil) {
        is.plan = 'reset ends';
        is.due = is.inResetUntil;
        return;
      }
      if (!this.needed.met()) {
        this.cancel();
        return;
      }
      if (!this.hasClock) {
        is.state = 'hung';
        bench.log(this.name, 'has no clock and does not run');
      } else if (this.needed.count > 0 && bench.now - is.suppliedAt < sequence.settleSeconds) {
        // A supervisor that gains its supply at the same moment still pulls the reset down.
        if (is.plan !== 'hang') this.plan('hang', 0);
        return;
      } else {
        this.cancel();
        is.state = 'running';
        bench.log(this.name, 'wakes');
      }
    } else if (!this.needed.met()) {
      is.state = 'asleep';
      this.restart();
      this.idle();
      return;
    }
    if (is.state === 'hung') return;
    if (is.index > 0 && is.state !== 'gave-up' && !this.sound.met()) {
      if (is.plan !== 'abort') this.plan('abort', leastSeconds);
      return;
    }
    if (is.state !== 'running' || is.pulsing) return;
    const step = sequence.steps[is.index];
    if (!step) {
      is.state = 'done';
      this.cancel();
      return;
    }
    if (step.kind !== 'wait') {
      if (is.due === null) this.plan('step', step.kind === 'pause' ? step.seconds : 0);
      return;
    }
    if (this.waits[is.index]?.met()) {
      if (is.plan !== 'step') this.plan('step', 0);
    } else if (step.withinSeconds === null) this.cancel();
    else {
      is.waitEndsAt ??= bench.now + step.withinSeconds;
      is.plan = 'time is up';
      is.due = is.waitEndsAt;
    }
  }

  fire(): void {
    const { is, sequence } = this;
    const plan = is.plan;
    this.cancel();
    const step = sequence.steps[is.index];
    switch (plan) {
      case null:
      case 'reset ends':
        return;
      case 'hang':
        is.state = 'hung';
        this.bench.log(this.name, 'was released from reset too early and hangs');
        return;
      case 'step':
        this.step();
        return;
      case 'pulse ends':
        is.pulsing = false;
        if (step?.kind === 'pulse') this.set(step.pin, this.idleLevel(step.pin));
        this.next();
        return;
      case 'time is up':
        if (step?.kind === 'wait')
          this.giveUp(`waited for ${step.needs.map((need) => need.pin).join(' and ')}`);
        return;
      case 'abort': {
        const cause = sequence.abort[this.sound.firstBroken()];
        this.giveUp(cause ? `${cause.pin} is ${cause.side} ${cause.volts} V` : 'aborted');
        return;
      }
      default:
        unreachable(plan);
    }
  }

  private step(): void {
    const { is, bench, sequence } = this;
    const step = sequence.steps[is.index];
    if (!step) return;
    switch (step.kind) {
      case 'wait':
      case 'pause':
        break;
      case 'drive':
        for (const { pin, level } of step.levels) this.set(pin, level);
        bench.log(
          this.name,
          `drives ${step.levels.map(({ pin, level }) => `${pin} ${level}`).join(', ')}`,
        );
        break;
      case 'pulse':
        is.pulsing = true;
        this.set(step.pin, step.level);
        bench.log(this.name, `pulses ${step.pin}`);
        this.plan('pulse ends', step.seconds);
        return;
      case 'ask':
        bench.ask(step.volts);
        bench.log(this.name, `asks for ${step.volts} V`);
        break;
      case 'mark':
        bench.log(this.name, step.text);
        break;
      default:
        unreachable(step);
    }
    this.next();
  }
}
