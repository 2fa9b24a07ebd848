import { nothingVolts } from './meter-limits.ts';
import type { Net, PartKind, Source } from '../board/index.ts';
import { floatingVolts } from './floating.ts';
import { verdict, type Held, type LoadBehind, type Verdict } from './verdict.ts';

/** The part a net is fed through, where that part loses next to nothing when it conducts. */
export interface SeriesFeed {
  part: string;
  kind: PartKind;
  from: string;
  /** Volts read before the part in the same condition; null where it was not read. */
  upstreamVolts: number | null;
  /** Drop expected when healthy, in volts. */
  dropVolts: number;
  /** Of a FET, whether its body diode lets through from the feed to this net. */
  diodePasses: boolean;
  /** Of a FET whose source pin is this net, its gate as read in the same condition. */
  gateVolts?: number | null;
  load?: LoadBehind;
}

/** A body diode that carries a board: up to so much (common practice). */
const bodyDiodeVolts = [0.25, 1.1] as const;
/** What a follower's gate stands above its source: the threshold and what the load asks (common practice). */
const followerVolts = [0.8, 3.5] as const;

/**
 * Two readings of one hand meter may differ by so much of themselves and be the same: 0.5 % and a digit or
 * two of each (a usual figure of such meters, from memory). Two tenths at 19 V; below what a body diode drops.
 */
const twoReadingsPart = 0.008;

const isDiodeDrop = (drop: number): boolean =>
  drop >= bodyDiodeVolts[0] && drop <= bodyDiodeVolts[1];

export function judgeVolts(volts: number, held: Held, net: Pick<Net, 'kind'>): Verdict {
  const up = Math.max(held.upVolts, nothingVolts);
  if (held.off) {
    if (Math.abs(volts) <= held.high) return verdict('good', { is: 'off', held });
    if (volts > 0 && volts <= floatingVolts(up))
      return verdict('undecided', { is: 'may-float', volts, held });
    return verdict('present', { is: 'too-early', volts, held });
  }
  if (volts >= held.low && volts <= held.high) return verdict('good', { is: 'within', held });
  if (volts < -nothingVolts) return verdict('odd', { is: 'negative', held });
  const isRail = net.kind === 'rail';
  if (volts > held.high)
    return verdict('high', { is: 'too-high', by: volts - held.value, held, isRail });
  if (volts < Math.max(nothingVolts, up * 0.15))
    return verdict('missing', { is: 'not-there', held });
  return verdict('low', { is: 'too-low', by: held.value - volts, held, isRail });
}

/** What USB Type-C gives before anything was agreed on: 5 V, with what leads lose. */
const usbVolts = [4.4, 5.6] as const;
/** Common practice, no source. */
export const leastCellVolts = 2.7;

/** What only sources do; null where the net's own volts decide. */
export function judgeSource(
  volts: number,
  held: Held,
  { kind, idleVolts }: Pick<Source, 'kind' | 'idleVolts'>,
): Verdict | null {
  if (kind === 'coin-cell' && !held.off && volts > nothingVolts && volts <= held.high)
    return volts < leastCellVolts
      ? verdict('low', { is: 'worn-cell', volts, held })
      : verdict('good', { is: 'cell', volts, held });
  // Less than a seventh is as good as nothing, whatever the source.
  if (held.off || volts >= held.low || volts < Math.max(1, held.upVolts * 0.15)) return null;
  if (idleVolts !== null && Math.abs(volts - idleVolts) <= 0.1 * idleVolts)
    return verdict('undecided', { is: 'idle-source', volts, held });
  if (kind === 'usb-c' && volts >= usbVolts[0] && volts <= usbVolts[1])
    return verdict('low', { is: 'usb-not-asked', volts, held });
  return kind === 'adapter' && idleVolts === null
    ? verdict('low', { is: 'may-idle', volts, held })
    : null;
}

/** A net behind a fuse, coil, FET or sense resistor: the drop decides, not the rail's tolerance. */
export function judgeSeries(volts: number, held: Held, series: SeriesFeed): Verdict {
  const { part, kind, from, upstreamVolts: before, dropVolts: usual, load = 'unread' } = series;
  const isFet = kind === 'pfet' || kind === 'nfet';
  const leaks = isFet && series.diodePasses;
  if (before === null) {
    if (leaks && volts > held.value - bodyDiodeVolts[1] && volts <= held.high)
      return verdict('undecided', { is: 'may-be-body-diode', volts, part, from });
    if (volts < held.low || volts > held.high) return judgeVolts(volts, held, { kind: 'rail' });
    // Nothing else feeds it: what is there came through.
    return isFet
      ? verdict('undecided', { is: 'drop-decides', part, from })
      : verdict('good', { is: 'through', part, held });
  }
  const drop = before - volts;
  const allowed = Math.max(0.06, usual * 3 + 0.02) + before * twoReadingsPart;
  if (before < nothingVolts)
    return volts < nothingVolts
      ? verdict('missing', { is: 'nothing-before', part, from })
      : verdict('odd', { is: 'fed-elsewhere', volts, from });
  if (drop < -allowed) return verdict('odd', { is: 'above-before', by: -drop, part, from });
  if (drop <= allowed) {
    if (volts < held.low) return verdict('low', { is: 'conducts-low', part, held });
    if (volts > held.high) return verdict('high', { is: 'conducts-high', part, held });
    return verdict('good', { is: 'conducts', drop: Math.abs(drop), part, usual });
  }
  if (volts < Math.max(nothingVolts, held.upVolts * 0.15))
    return verdict('missing', { is: 'blocks', part, before, load, isFuse: kind === 'fuse' });
  if (leaks && isDiodeDrop(drop)) return verdict('low', { is: 'diode-drop', drop, part });
  const gate = series.gateVolts ?? null;
  if (kind === 'nfet' && gate !== null) {
    const below = gate - volts;
    if (below >= followerVolts[0] && below <= followerVolts[1])
      return verdict('low', { is: 'follows-gate', part, below, gate, before });
  }
  return verdict('low', { is: 'drops-too-much', drop, part, usual });
}
