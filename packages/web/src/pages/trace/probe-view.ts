import { netOf, pinText, type Board, type NetId, findPartOrChip } from '@jiko/core/board';
import {
  gainWords,
  orderToRead,
  walkNext,
  type Diagnosis,
  type Finding,
  type Proposal,
} from '@jiko/core/diagnosis';
import { probePlace, type Trace } from '@jiko/core/trace';
import type { HealthyBoard } from '@jiko/core/expectations';
import {
  entryTroubleText,
  otherMoment,
  parseEntry,
  suits,
  usualMeter,
  valueText,
  type Expectation,
  type Mode,
  type Phase,
} from '@jiko/core/readings';
import { formatQuantity } from '@jiko/core/units';
import type { ProbeView } from './probe-card.tsx';
import type { Own, PinPlace } from './page-state.ts';
import { outcomeText } from './proposal-text.ts';

// What the probe card shows, worked out from what the core says.

/** What a point is to read; across a part, what the healthy play says there. */
function expected(
  healthy: HealthyBoard,
  net: NetId,
  reference: NetId | null,
  mode: Mode,
  phase: Phase,
): Expectation {
  if (!reference) return healthy.expect(net, mode, phase);
  const snapshot = phase === 'cold' ? undefined : healthy.play.phases.get(phase);
  if (mode !== 'volts' || !snapshot)
    return { kind: 'unknown', because: 'through the part, unless it is open' };
  const volts = (snapshot.volts.get(net) ?? 0) - (snapshot.volts.get(reference) ?? 0);
  return {
    kind: 'unknown',
    because: `about ${formatQuantity(Number(volts.toPrecision(2)), 'volts')}`,
  };
}

/** The probe on the card: the technician's own point, or the proposal. */
export function viewOf(
  healthy: HealthyBoard,
  trace: Trace,
  own: Own | null,
  phase: Phase,
): ProbeView | null {
  const { board } = healthy;
  if (own) {
    const place = own.pin ? pinPlace(board, own.pin) : probePlace(board, own.net);
    return {
      net: own.net,
      pin: own.pin,
      reference: own.reference,
      title: netOf(board, own.net).title,
      place: place.text,
      side: place.side,
      order: orderToRead({ ...own, place: own.pin ? pinShort(own.pin) : place.text, phase }),
      why: '',
      mode: own.mode,
      phase,
      expectation: expected(healthy, own.net, own.reference, own.mode, phase),
      own: true,
    };
  }
  const next = walkNext(trace);
  if (!next) return null;
  const fits = suits(next.phase, phase);
  return {
    net: next.net,
    pin: null,
    reference: null,
    title: netOf(board, next.net).title,
    place: next.place.text,
    side: next.place.side,
    order: orderToRead({ ...next, place: next.place.text }),
    why: sentence(next.why),
    mode: next.mode,
    phase: next.phase,
    expectation: fits ? healthy.expect(next.net, next.mode, phase) : next.expectation,
    own: false,
  };
}

/** The point read last, while what to read next is still being worked out: the line stays where it is. */
export function viewMeanwhile(healthy: HealthyBoard, trace: Trace, phase: Phase): ProbeView | null {
  const { board, stages } = healthy;
  const last = trace.readings.findLast(({ reading }) =>
    board.nets.some((one) => one.id === reading.at.net),
  )?.reading;
  const net = (last?.at.net as NetId | undefined) ?? stages[0]?.stage.gives[0];
  if (!net) return null;
  const mode = last?.mode ?? (phase === 'cold' ? 'ohms' : 'volts');
  const view = viewOf(
    healthy,
    trace,
    { net, pin: null, reference: null, mode, supersedes: [] },
    phase,
  );
  return (
    view && {
      ...view,
      own: false,
      why: 'What to read next is being worked out. Any point can be read meanwhile.',
    }
  );
}

const pinShort = ({ part, pin }: PinPlace): string => (pin === null ? part : `${part}.${pin}`);

function pinPlace(board: Board, { part, pin }: PinPlace): { text: string; side: string } {
  const point = pin === null ? board.points.find((one) => one.id === part) : undefined;
  if (point) return { text: point.title || point.id, side: point.side ?? '' };
  return {
    text: `${part}, pin ${pin === null ? '' : pinText(board, part, pin)}, at the pin itself`,
    side: findPartOrChip(board, part)?.side ?? '',
  };
}

/** The reading that splits the suspects best for the time it takes. */
export function viewOfProposal(
  healthy: HealthyBoard,
  proposal: Proposal,
  diagnosis: Diagnosis,
  finding: Finding | null,
): ProbeView {
  const outcomes = proposal.outcomes
    .slice(0, 3)
    .map((outcome) => outcomeText(proposal, outcome, diagnosis.classTitles));
  const gain = gainWords(proposal.gainBits);
  return {
    net: proposal.net,
    pin: null,
    reference: proposal.reference,
    title: netOf(healthy.board, proposal.net).title,
    place: proposal.across ? `${proposal.across}, from end to end` : proposal.place.text,
    side: proposal.place.side,
    order: orderToRead({ ...proposal, place: proposal.place.text }),
    why: proposal.isRepeat
      ? `Once more: a tip that did not touch reads the same. It ${gain}.`
      : finding
        ? `${finding.part ?? 'The board'}: ${finding.kind.replace('-', ' ')} seen there. It ${gain}.`
        : `It ${gain}.`,
    outcomes: [...outcomes, `${proposal.gainBits.toFixed(1)} bit in ${proposal.seconds} s`],
    mode: proposal.mode,
    phase: proposal.phase,
    expectation: expected(healthy, proposal.net, proposal.reference, proposal.mode, proposal.phase),
    own: false,
  };
}

export function echoOf(
  text: string,
  probe: ProbeView | null,
  phase: Phase,
): { kind: 'trouble' | 'understood' | 'hint'; text: string } {
  if (text.trim() === '' || !probe) {
    const other = probe && otherMoment(probe, phase);
    if (other)
      return {
        kind: 'trouble',
        text: `Read ${other.phase === 'cold' ? 'cold' : `in ${other.phase}`}; the bench strip says ${phase}.`,
      };
    return {
      kind: 'hint',
      text: 'Enter records · ? could not reach · * OL · 0.2/0.6 swinging · + phase · − mode · ?? all keys',
    };
  }
  const parsed = parseEntry(text, probe.mode, usualMeter);
  return parsed.ok
    ? { kind: 'understood', text: valueText(parsed.value, probe.mode) }
    : { kind: 'trouble', text: entryTroubleText(parsed.error) };
}

const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
