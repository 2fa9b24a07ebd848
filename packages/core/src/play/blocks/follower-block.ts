import type { Chip, Follower } from '../../board/index.ts';
import { driverKey, setPin, type BoardCircuit, type PinDriver } from '../netlist.ts';
import { Comparators, leastSeconds, Remembering, type Bench, type Block } from './block.ts';

/** A chip's own capacitor carries it through a collapse of its supply for about this long. */
const holdUpSeconds = 0.01;

export class FollowerBlock extends Remembering implements Block {
  readonly name: string;
  private readonly follower: Follower;
  private readonly bench: Bench;
  private readonly driver: PinDriver;
  private readonly chipRuns: () => boolean;
  private readonly supplied: Comparators;
  private readonly needed: Comparators;
  private readonly mayStart: Comparators;
  private readonly untripped: Comparators;
  private readonly is = {
    asserted: false,
    due: null as number | null,
    target: false,
    /** Overloads seen so far, and when it may try again. */
    trips: 0,
    blockedUntil: 0,
    lostAt: 0,
    refused: false,
  };

  constructor(
    chip: Chip,
    follower: Follower,
    built: BoardCircuit,
    bench: Bench,
    chipRuns: () => boolean,
  ) {
    super();
    this.name = `${chip.ref} ${follower.name}`;
    this.follower = follower;
    this.bench = bench;
    this.chipRuns = chipRuns;
    this.driver = built.drivers.get(driverKey(chip, follower.out)) as PinDriver;
    this.supplied = new Comparators(bench, chip, follower.supply);
    this.needed = new Comparators(bench, chip, follower.needs);
    this.mayStart = new Comparators(bench, chip, follower.startNeeds);
    this.untripped = new Comparators(bench, chip, follower.trips);
  }

  protected fields(): object {
    return this.is;
  }
  protected comparators(): Comparators[] {
    return [this.supplied, this.needed, this.mayStart, this.untripped];
  }
  state(): string {
    const { asserted, trips } = this.is;
    return `${asserted ? 'a' : 'n'}${trips || ''}`;
  }
  dueAt(): number | null {
    return this.is.due;
  }

  private show(): void {
    const { follower, driver, is } = this;
    const high = (follower.active === 'high') === is.asserted;
    if (follower.liftVolts > 0) setPin(driver, is.asserted ? 'high' : 'low');
    else setPin(driver, high ? (driver.high ? 'high' : 'release') : 'low');
  }

  /** Lets go because of an overload; after the last try it stays off until its supply goes. */
  private trip(): void {
    const { follower, is, bench } = this;
    is.asserted = false;
    is.due = null;
    is.trips++;
    is.blockedUntil = bench.now + follower.retrySeconds;
    bench.log(
      this.name,
      is.trips < follower.tries
        ? 'sees an overload and lets go'
        : 'sees an overload again and stays off',
    );
  }

  look(): void {
    const { follower, is, bench } = this;
    const watches = this.untripped.count > 0;
    const isSound = this.untripped.met();
    const alive = this.supplied.met();
    if (!alive) {
      if (is.asserted) {
        // An overload takes the driver's own supply down with it: it is one all the same.
        if (watches && !isSound) this.trip();
        else bench.log(this.name, 'has lost its supply');
        is.asserted = false;
      }
      if (is.lostAt === 0) is.lostAt = bench.now;
      setPin(this.driver, 'release');
      is.due = null;
      return;
    }
    if (is.lostAt > 0) {
      if (bench.now - is.lostAt > holdUpSeconds) {
        is.trips = 0;
        is.blockedUntil = 0;
      }
      is.lostAt = 0;
    }
    const needed = this.needed.met() && this.chipRuns();
    if (is.asserted && watches && !isSound) this.trip();
    const mayStart = is.asserted || this.mayStart.met();
    if (needed && !mayStart && !is.refused) {
      is.refused = true;
      bench.log(this.name, `refuses: ${this.whyNot()}`);
    }
    const isSpent = watches && is.trips >= follower.tries;
    const wanted = needed && mayStart && !isSpent;
    this.show();
    if (wanted === is.asserted) is.due = null;
    else if (is.due === null || is.target !== wanted) {
      is.target = wanted;
      const delay = wanted ? follower.onDelaySeconds : follower.offDelaySeconds;
      const from = wanted ? Math.max(bench.now, is.blockedUntil) : bench.now;
      is.due = from + Math.max(leastSeconds, delay);
    }
  }

  private whyNot(): string {
    const need = this.follower.startNeeds[this.mayStart.firstBroken()];
    return need ? `${need.pin} is there already` : 'it may not start';
  }

  fire(): void {
    const { is } = this;
    is.due = null;
    is.asserted = is.target;
    this.show();
    this.bench.log(this.name, is.asserted ? 'is given' : 'is taken back');
  }
}
