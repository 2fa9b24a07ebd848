import type { Chip, NetId, Regulator } from '../../board/index.ts';
import { unreachable } from '../../base/index.ts';
import {
  driverKey,
  setPin,
  type BoardCircuit,
  type PinDriver,
  type RegulatorSwitches,
} from '../netlist.ts';
import { Comparators, leastSeconds, Remembering, type Bench, type Block } from './block.ts';

type Plan =
  | 'start'
  | 'ramp'
  | 'stop'
  | 'trip'
  | 'good'
  | 'not good'
  | 'retry'
  | 'charge in full'
  | 'unfold';

/** How long an overload is borne before a regulator trips, and before one that hiccups tries again. */
const tripSeconds = 0.0005;
const retrySeconds = 0.05;
/** Part of its limit that a folded-back regulator still gives: data-sheet habit, from memory. */
const foldedPart = 0.25;

export class RegulatorBlock extends Remembering implements Block {
  readonly name: string;
  private readonly regulator: Regulator;
  private readonly bench: Bench;
  private readonly isVirtual: boolean;
  private readonly switches: RegulatorSwitches | undefined;
  private readonly good: PinDriver | undefined;
  private readonly needed: Comparators;
  private readonly input: number;
  private readonly sense: number;
  private readonly is = {
    state: 'off' as 'off' | 'ramping' | 'on' | 'tripped',
    plan: null as Plan | null,
    due: null as number | null,
    goodShown: false,
    /** Giving less than its limit: folded back, or still pre-charging. */
    reduced: false,
  };

  constructor(chip: Chip, regulator: Regulator, built: BoardCircuit, bench: Bench) {
    super();
    this.name = `${chip.ref} ${regulator.name}`;
    this.regulator = regulator;
    this.bench = bench;
    this.isVirtual = chip.virtual;
    this.switches = built.regulators.get(regulator);
    this.good = regulator.powerGood
      ? built.drivers.get(driverKey(chip, regulator.powerGood))
      : undefined;
    this.needed = new Comparators(bench, chip, regulator.needs);
    this.input = bench.nodeOf(chip.pins.get(regulator.in) as NetId);
    this.sense = bench.nodeOf(chip.pins.get(regulator.sense) as NetId);
  }

  protected fields(): object {
    return this.is;
  }
  protected comparators(): Comparators[] {
    return [this.needed];
  }
  state(): string {
    const { state, goodShown, reduced } = this.is;
    return `${state.charAt(0)}${goodShown ? 'g' : ''}${reduced ? 'r' : ''}`;
  }
  dueAt(): number | null {
    return this.is.due;
  }

  private later(plan: Plan, seconds: number): void {
    if (this.is.plan === plan) return;
    this.is.plan = plan;
    this.is.due = this.bench.now + Math.max(leastSeconds, seconds);
  }
  private cancel(): void {
    this.is.plan = null;
    this.is.due = null;
  }
  private turn(on: boolean): void {
    this.switches?.on.set(on ? 1 : 0);
    const { precharge, limitAmps } = this.regulator;
    this.is.reduced = on && precharge !== null;
    this.switches?.limit.set(on && precharge ? precharge.limitAmps : limitAmps);
  }
  private showGood(shown: boolean): void {
    this.is.goodShown = shown;
    if (this.good) setPin(this.good, shown ? 'release' : 'low');
  }

  look(): void {
    const { bench, regulator, is } = this;
    const inputVolts = bench.volts[this.input]!;
    // A rail known only by its stage says nothing of its chip's supply: not good is low.
    const supplied = this.isVirtual || inputVolts > 1;
    if (this.good && !is.goodShown) setPin(this.good, supplied ? 'low' : 'release');
    const wanted = this.needed.met();
    switch (is.state) {
      case 'off':
        if (wanted) this.later('start', regulator.onDelaySeconds);
        else this.cancel();
        return;
      case 'ramping':
        if (!wanted) {
          this.cancel();
          is.state = 'off';
        }
        return;
      case 'on':
        if (wanted) this.lookWhileOn(inputVolts);
        else this.later('stop', leastSeconds);
        return;
      case 'tripped':
        if (!wanted) {
          is.state = 'off';
          this.cancel();
        } else if (regulator.overload === 'hiccup') this.later('retry', retrySeconds);
        else this.cancel();
        return;
      default:
        unreachable(is.state);
    }
  }

  private lookWhileOn(inputVolts: number): void {
    const { bench, regulator, is } = this;
    const output = bench.volts[this.sense]!;
    const full = regulator.pass === 'switch' ? inputVolts : regulator.volts;
    const reached = output > full * 0.9;
    // Without its input a rail is low for another reason than overload.
    const overloaded = output < full * 0.6 && inputVolts > full * 0.9;
    switch (regulator.overload) {
      case 'hiccup':
      case 'latch':
        if (overloaded) return this.later('trip', tripSeconds);
        break;
      case 'foldback':
        if (overloaded && !is.reduced) return this.later('trip', tripSeconds);
        if (is.reduced && reached) return this.later('unfold', leastSeconds);
        break;
      case 'constant-current':
        if (is.reduced && regulator.precharge && output > regulator.precharge.belowVolts)
          return this.later('charge in full', regulator.precharge.seconds);
        break;
    }
    if (reached && !is.goodShown) this.later('good', regulator.powerGoodDelaySeconds);
    else if (!reached && is.goodShown) this.later('not good', leastSeconds);
    else this.cancel();
  }

  fire(): void {
    const { is, bench, regulator } = this;
    const plan = is.plan;
    this.cancel();
    switch (plan) {
      case null:
        return;
      case 'start':
        is.state = 'ramping';
        this.later('ramp', regulator.softStartSeconds);
        return;
      case 'ramp':
        this.turn(true);
        is.state = 'on';
        bench.log(this.name, regulator.precharge ? 'pre-charges' : 'is on');
        return;
      case 'stop':
        this.turn(false);
        this.showGood(false);
        is.state = 'off';
        bench.log(this.name, 'is off');
        return;
      case 'trip':
        this.showGood(false);
        if (regulator.overload === 'foldback') {
          is.reduced = true;
          this.switches?.limit.set(regulator.limitAmps * foldedPart);
          bench.log(this.name, 'is overloaded and folds back');
          return;
        }
        this.turn(false);
        is.state = 'tripped';
        bench.log(this.name, 'is overloaded and shuts down');
        return;
      case 'unfold':
      case 'charge in full':
        is.reduced = false;
        this.switches?.limit.set(regulator.limitAmps);
        bench.log(
          this.name,
          plan === 'unfold' ? 'gives its full current again' : 'charges in full',
        );
        return;
      case 'good':
        this.showGood(true);
        if (this.good) bench.log(this.name, 'says power good');
        return;
      case 'not good':
        this.showGood(false);
        return;
      case 'retry':
        is.state = 'off';
        return;
      default:
        unreachable(plan);
    }
  }
}
