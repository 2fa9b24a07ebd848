import type { Board, NetId } from '@jiko/core/board';
import { playFed, usualSetup } from '@jiko/core/play';
import { hideShort, type FedBench, type HiddenShort } from '@jiko/bench';
import {
  huntOn,
  shortCandidates,
  type FedRail,
  type Hunt,
  type HuntLog,
} from '@jiko/core/short-hunt';
import type { OhmsRead } from '@jiko/core/trace';

/** A hidden short hunted down by what the hunt proposes. */
export interface ShortRun {
  board: string;
  seed: number;
  net: NetId;
  hidden: string;
  said: string;
  right: boolean;
  /** Probability of what was named, when it was named. */
  sure: number;
  proven: boolean;
  actions: number;
  /** Good parts that were taken off. */
  needless: number;
  /** Settings that lift a net above what it ever has, or burn a part. */
  harmful: number;
  trail: string[];
}

const mostActions = 20;
const sureEnough = 0.9;
const overVolts = 0.3;
/** In the short and on the way to it: more burns a part. */
const burningWatts = 6;

export function shortRun(board: Board, seed: number): ShortRun {
  const hidden = hideShort(board, seed);
  const { net } = hidden;
  const setup = usualSetup(board);
  const ohms: OhmsRead[] = [];
  const fed: FedRail[] = [];
  let lifted: string[] = [];
  const trail: string[] = [];
  let harmful = 0;
  const read = (at: NetId): void => {
    ohms.push({
      id: `${ohms.length}`,
      net: at,
      ohms: hidden.ohms(at, lifted),
      lifted: [...lifted],
    });
  };
  read(net);
  const first = ohms[0]!.ohms;
  const all = shortCandidates(board, net, first, { findings: [], tried: [], habits: [] });
  const hunt = (): Hunt => {
    const log: HuntLog = { ohms, fed };
    return huntOn(board, setup, net, all, log, lifted);
  };
  let now = hunt();
  let actions = 0;
  while (actions < mostActions && !now.proven) {
    const [lead] = now.candidates;
    // What cannot be taken off is named once all else is unlikely.
    if (lead && lead.take.seconds === null && lead.probability > sureEnough) break;
    const action = now.actions[0];
    if (!action) break;
    actions++;
    trail.push(`${action.kind} ${action.what.join(' ')}`);
    switch (action.kind) {
      case 'split': {
        const [ref] = action.what as [string];
        const part = board.parts.find((one) => one.ref === ref)!;
        lifted = [...lifted, ref];
        part.pins.forEach((pin) => read(pin.net));
        lifted = lifted.filter((one) => one !== ref);
        break;
      }
      case 'lift': {
        const [ref] = action.what as [string];
        lifted = [...lifted, ref];
        read(all.find((one) => one.name === ref)?.net ?? net);
        break;
      }
      case 'inject': {
        const at = action.what[1] ?? null;
        const { volts, limitAmps } = now.injection;
        const bench = hidden.feed(net, at, volts, limitAmps);
        harmful += isHarmful(hidden, { net: now.injection.net, volts, limitAmps }, bench) ? 1 : 0;
        const warm = bench.camera();
        fed.push({
          id: `${fed.length}`,
          net,
          at,
          amps: bench.amps,
          volts: bench.volts,
          warm: [{ part: warm?.part ?? null, rise: warm?.rise ?? null }],
          drops: [],
        });
        trail.push(
          `  ${bench.amps.toPrecision(2)} A: ${warm ? `${warm.part} +${warm.rise.toFixed(1)}` : 'nothing'}`,
        );
        break;
      }
      case 'drops': {
        const [, at, ...places] = action.what as [string, string, ...string[]];
        const { volts, limitAmps } = now.injection;
        const bench = hidden.feed(net, at, volts, limitAmps);
        harmful += isHarmful(hidden, { net: now.injection.net, volts, limitAmps }, bench) ? 1 : 0;
        fed.push({
          id: `${fed.length}`,
          net,
          at,
          amps: bench.amps,
          volts: bench.volts,
          warm: [],
          drops: places.map((part) => ({ part, volts: bench.drop(part) })),
        });
        trail.push(
          `  ${fed
            .at(-1)!
            .drops.map((one) => `${one.part} ${(one.volts * 1000).toFixed(1)}`)
            .join(', ')} mV`,
        );
        break;
      }
    }
    now = hunt();
  }
  const lead = now.candidates[0]!;
  const said = now.proven?.part ?? lead.name;
  return {
    board: board.id,
    seed,
    net,
    hidden: hidden.title,
    said,
    right: said === hidden.name,
    sure: now.proven ? 1 : lead.probability,
    proven: now.proven !== null,
    actions,
    needless: lifted.filter((ref) => ref !== hidden.name).length,
    harmful,
    trail,
  };
}

/** Held against the board by itself: burnt open, no net above what it ever has; with the short, no part that burns. */
function isHarmful(
  { board }: HiddenShort,
  feed: { net: NetId; volts: number; limitAmps: number },
  bench: FedBench,
): boolean {
  if (bench.amps * bench.volts > burningWatts) return true;
  const fed = playFed(board, usualSetup(board), feed, []);
  return (
    !fed ||
    board.nets.some((net) => {
      const most = net.rangeVolts?.[1] ?? (net.volts === null ? null : net.volts * 1.05);
      return (
        net.kind === 'rail' && most !== null && (fed.volts.get(net.id) ?? 0) > most + overVolts
      );
    })
  );
}
