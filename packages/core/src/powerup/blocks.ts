import type { Board, Chip, Follower, Need, NetId, Regulator, Sequence } from '../board/index.ts';
import { outputPins } from '../board/index.ts';
import { unreachable } from '../base/index.ts';
import { driverKey, setPin, type BoardCircuit, type PinDriver } from './netlist.ts';

/** A chip's behaviour during a play: it looks at volts, says when it will act, and acts. */
export interface Block {
  name: string;
  /** Looks at the present volts and plans or cancels. */
  look(): void;
  /** Its discrete state in a few letters: the same board state again means that it cycles. */
  state(): string;
  /** When it will act next, in seconds of the play; null when it waits. */
  dueAt(): number | null;
  fire(): void;
}

export interface BlockContext {
  voltsAt(net: NetId): number;
  now(): number;
  log(by: string, what: string): void;
  /** A USB-C controller asks the source for volts. */
  ask(volts: number): void;
  /** Called just before a sequence gives up and shuts down. */
  givingUp(): void;
}

export function makeBlocks(board: Board, built: BoardCircuit, context: BlockContext): Block[] {
  const blocks: Block[] = [];
  for (const chip of board.chips) {
    if (!chip.fitted) continue;
    for (const behaviour of chip.behaviours) {
      switch (behaviour.do) {
        case 'regulator':
          blocks.push(regulatorBlock(chip, behaviour, built, context));
          break;
        case 'follower':
          blocks.push(followerBlock(chip, behaviour, built, context));
          break;
        case 'sequence':
          blocks.push(sequenceBlock(chip, behaviour, built, context));
          break;
        default:
          unreachable(behaviour);
      }
    }
  }
  return blocks;
}

/** Nothing happens in no time: every transition takes at least this long. */
const leastSeconds = 1e-6;

/** Comparators with memory: what gripped lets go only past its hysteresis. */
function comparators(chip: Chip, needs: readonly Need[], context: BlockContext): () => boolean {
  const held = needs.map(() => false);
  return () => {
    let all = true;
    needs.forEach((need, index) => {
      const volts = context.voltsAt(chip.pins.get(need.pin) as NetId);
      const slack = held[index] ? need.hysteresisVolts : 0;
      held[index] = need.side === 'above' ? volts > need.volts - slack : volts < need.volts + slack;
      if (!held[index]) all = false;
    });
    return all;
  };
}

function regulatorBlock(
  chip: Chip,
  regulator: Regulator,
  built: BoardCircuit,
  context: BlockContext,
): Block {
  const name = `${chip.ref} ${regulator.name}`;
  const device = built.regulators.get(regulator);
  const good = regulator.powerGood
    ? built.drivers.get(driverKey(chip, regulator.powerGood))
    : undefined;
  const needed = comparators(chip, regulator.needs, context);
  const input = chip.pins.get(regulator.in) as NetId;
  const sense = chip.pins.get(regulator.sense) as NetId;
  type State = 'off' | 'ramping' | 'on' | 'tripped';
  let state: State = 'off';
  let due: number | null = null;
  let act: (() => void) | null = null;
  let plan = '';
  let goodShown = false;

  const later = (what: string, seconds: number, action: () => void): void => {
    if (plan === what) return;
    plan = what;
    due = context.now() + Math.max(leastSeconds, seconds);
    act = action;
  };
  const cancel = (): void => {
    plan = '';
    due = null;
    act = null;
  };
  const drive = (on: boolean): void => {
    if (device) device.on = on;
  };
  const showGood = (shown: boolean): void => {
    goodShown = shown;
    if (good) setPin(good, shown ? 'release' : 'low');
  };
  const isGood = (): boolean =>
    regulator.pass === 'switch'
      ? context.voltsAt(sense) > context.voltsAt(input) * 0.9
      : context.voltsAt(sense) > regulator.volts * 0.9;

  return {
    name,
    state: () => `${state.charAt(0)}${goodShown ? 'g' : ''}`,
    dueAt: () => due,
    look() {
      // A rail known only by its stage says nothing of its chip's supply: not good is low.
      const supplied = chip.virtual || context.voltsAt(input) > 1;
      if (good && !goodShown) setPin(good, supplied ? 'low' : 'release');
      const wanted = needed();
      switch (state) {
        case 'off':
          if (wanted) {
            later('start', regulator.onDelaySeconds, () => {
              state = 'ramping';
              later('ramp', regulator.softStartSeconds, () => {
                drive(true);
                state = 'on';
                context.log(name, 'is on');
              });
            });
          } else cancel();
          return;
        case 'ramping':
          if (!wanted) {
            cancel();
            state = 'off';
          }
          return;
        case 'on': {
          if (!wanted) {
            later('stop', leastSeconds, () => {
              drive(false);
              showGood(false);
              state = 'off';
              context.log(name, 'is off');
            });
            return;
          }
          const reached = isGood();
          const full = regulator.pass === 'switch' ? context.voltsAt(input) : regulator.volts;
          const collapsed = context.voltsAt(sense) < full * 0.6;
          if (collapsed && context.voltsAt(input) > full * 0.9) {
            later('trip', 0.0005, () => {
              drive(false);
              showGood(false);
              state = 'tripped';
              context.log(name, 'is overloaded and shuts down');
            });
          } else if (reached && !goodShown) {
            later('good', regulator.powerGoodDelaySeconds, () => {
              showGood(true);
              if (good) context.log(name, 'says power good');
            });
          } else if (!reached && goodShown) {
            later('not good', leastSeconds, () => showGood(false));
          } else cancel();
          return;
        }
        case 'tripped':
          if (!wanted) state = 'off';
          else if (regulator.overload === 'hiccup') {
            later('retry', 0.05, () => {
              state = 'off';
            });
          } else cancel();
          return;
        default:
          unreachable(state);
      }
    },
    fire() {
      const action = act;
      cancel();
      action?.();
    },
  };
}

function followerBlock(
  chip: Chip,
  follower: Follower,
  built: BoardCircuit,
  context: BlockContext,
): Block {
  const name = `${chip.ref} ${follower.name}`;
  const driver = built.drivers.get(driverKey(chip, follower.out)) as PinDriver;
  const supplied = comparators(chip, follower.supply, context);
  const needed = comparators(chip, follower.needs, context);
  const mayStart = comparators(chip, follower.startNeeds, context);
  let asserted = false;
  let due: number | null = null;
  let target = false;

  const show = (): void => {
    const high = (follower.active === 'high') === asserted;
    if (follower.liftVolts > 0) setPin(driver, asserted ? 'high' : 'low');
    else setPin(driver, high ? (driver.high ? 'high' : 'release') : 'low');
  };
  return {
    name,
    state: () => (asserted ? 'a' : 'n'),
    dueAt: () => due,
    look() {
      const alive = supplied();
      const ready = needed() && (asserted || mayStart());
      const wanted = alive && ready;
      if (!alive) {
        if (asserted) {
          asserted = false;
          context.log(name, 'has lost its supply');
        }
        setPin(driver, 'release');
        due = null;
        return;
      }
      show();
      if (wanted === asserted) due = null;
      else if (due === null || target !== wanted) {
        target = wanted;
        const delay = wanted ? follower.onDelaySeconds : follower.offDelaySeconds;
        due = context.now() + Math.max(leastSeconds, delay);
      }
    },
    fire() {
      due = null;
      asserted = target;
      show();
      context.log(name, asserted ? 'is given' : 'is taken back');
    },
  };
}

function sequenceBlock(
  chip: Chip,
  sequence: Sequence,
  built: BoardCircuit,
  context: BlockContext,
): Block {
  const name = `${chip.ref} ${sequence.name}`;
  const pins = outputPins(sequence);
  const driver = (pin: string): PinDriver => built.drivers.get(driverKey(chip, pin)) as PinDriver;
  const supplied = comparators(chip, sequence.supply, context);
  const needed = comparators(chip, sequence.needs, context);
  const aborts = sequence.abort.map((need) => comparators(chip, [need], context));
  const waits = sequence.steps.map((step) =>
    step.kind === 'wait' ? comparators(chip, step.needs, context) : () => true,
  );
  let state: 'asleep' | 'running' | 'done' | 'gave-up' = 'asleep';
  let index = 0;
  let tries = 0;
  let due: number | null = null;
  let act: (() => void) | null = null;
  let waitEndsAt: number | null = null;
  let pulsing = false;

  const plan = (seconds: number, action: () => void): void => {
    due = context.now() + Math.max(leastSeconds, seconds);
    act = action;
  };
  const idle = (): void => {
    for (const pin of pins) {
      setPin(driver(pin), sequence.idle.find((one) => one.pin === pin)?.level ?? 'release');
    }
  };
  const next = (): void => {
    index++;
    waitEndsAt = null;
  };
  const giveUp = (why: string): void => {
    context.givingUp();
    context.log(name, `gives up: ${why}`);
    idle();
    index = 0;
    waitEndsAt = null;
    pulsing = false;
    tries++;
    state = tries <= sequence.retries ? 'running' : 'gave-up';
  };

  return {
    name,
    state: () => `${state.charAt(0)}${index}.${tries}${pulsing ? 'p' : ''}`,
    dueAt: () => due,
    look() {
      const alive = supplied();
      if (!alive) {
        state = 'asleep';
        index = 0;
        tries = 0;
        pulsing = false;
        waitEndsAt = null;
        due = null;
        act = null;
        for (const pin of pins) setPin(driver(pin), 'release');
        return;
      }
      if (state === 'asleep') {
        idle();
        if (needed()) {
          state = 'running';
          context.log(name, 'wakes');
        } else return;
      } else if (!needed()) {
        state = 'asleep';
        index = 0;
        pulsing = false;
        due = null;
        act = null;
        idle();
        return;
      }
      if (index > 0 && state !== 'gave-up') {
        const cause = aborts.findIndex((aborted) => aborted());
        if (cause >= 0) {
          const need = sequence.abort[cause] as Need;
          plan(leastSeconds, () => giveUp(`${need.pin} is ${need.side} ${need.volts} V`));
          return;
        }
      }
      if (state !== 'running' || pulsing) return;
      const step = sequence.steps[index];
      if (!step) {
        state = 'done';
        due = null;
        act = null;
        return;
      }
      switch (step.kind) {
        case 'wait': {
          if (waits[index]?.()) {
            plan(leastSeconds, next);
          } else if (step.withinSeconds === null) {
            due = null;
            act = null;
          } else {
            waitEndsAt ??= context.now() + step.withinSeconds;
            due = waitEndsAt;
            act = () => giveUp(`waited for ${step.needs.map((need) => need.pin).join(' and ')}`);
          }
          return;
        }
        case 'pause':
          if (due === null) plan(step.seconds, next);
          return;
        case 'drive':
          if (due === null) {
            plan(leastSeconds, () => {
              for (const { pin, level } of step.levels) setPin(driver(pin), level);
              context.log(
                name,
                `drives ${step.levels.map(({ pin, level }) => `${pin} ${level}`).join(', ')}`,
              );
              next();
            });
          }
          return;
        case 'pulse':
          plan(leastSeconds, () => {
            pulsing = true;
            setPin(driver(step.pin), step.level);
            context.log(name, `pulses ${step.pin}`);
            plan(step.seconds, () => {
              pulsing = false;
              setPin(
                driver(step.pin),
                sequence.idle.find((one) => one.pin === step.pin)?.level ?? 'release',
              );
              next();
            });
          });
          return;
        case 'ask':
          if (due === null) {
            plan(leastSeconds, () => {
              context.ask(step.volts);
              context.log(name, `asks for ${step.volts} V`);
              next();
            });
          }
          return;
        case 'mark':
          if (due === null) {
            plan(leastSeconds, () => {
              context.log(name, step.text);
              next();
            });
          }
          return;
        default:
          unreachable(step);
      }
    },
    fire() {
      const action = act;
      due = null;
      act = null;
      action?.();
    },
  };
}
