import { findNet, type Board, type NetId } from '@jiko/core/board';
import type { Mode } from '@jiko/core/readings';

// What the page holds beside the job: the line being typed with the point it was begun at, the
// technician's own choice of point, and what was said last. Pure, so that it can be tested.

/** A pin of a part; or a point by its id, without a pin. */
export interface PinPlace {
  part: string;
  pin: string | null;
}

/** A point the technician chose instead of the proposal. */
export interface Own {
  net: NetId;
  /** A pin of its own, or null: the usual place of the net. */
  pin: PinPlace | null;
  /** Null: against ground. */
  reference: NetId | null;
  mode: Mode;
  supersedes: string[];
}

/** Where a reading belongs: fixed when its typing begins, whatever is proposed meanwhile. */
export interface ProbePoint {
  net: NetId;
  pin: PinPlace | null;
  reference: NetId | null;
  mode: Mode;
}

/**
 * A point on the sheet as it is now: under its present name where the net was renamed or joined, null
 * where the sheet does not have it any more.
 */
export function pointNow<T extends { net: NetId; reference: NetId | null }>(
  board: Board,
  point: T | null,
): T | null {
  if (!point) return null;
  const net = findNet(board, point.net)?.id;
  const reference = point.reference === null ? null : findNet(board, point.reference)?.id;
  return net === undefined || reference === undefined ? null : { ...point, net, reference };
}

export interface Said {
  kind: 'trouble' | 'recorded';
  text: string;
}

export interface PageState {
  text: string;
  /** The point of what is typed; null while the line is empty. */
  begun: ProbePoint | null;
  own: Own | null;
  said: Said | null;
}

export type PageAction =
  /** The line changed; `asked` is the point it would be for were it begun now. */
  | { do: 'type'; text: string; asked: ProbePoint | null }
  /** Another point, mode or lead; null: back to what is proposed. */
  | { do: 'choose'; own: Own | null }
  | { do: 'refuse'; text: string }
  | { do: 'record'; text: string }
  | { do: 'say'; said: Said };

const pointOf = ({ net, pin, reference, mode }: ProbePoint): ProbePoint => ({
  net,
  pin,
  reference,
  mode,
});

export function pageState(state: PageState, action: PageAction): PageState {
  switch (action.do) {
    case 'type': {
      const begun =
        action.text === '' ? null : (state.begun ?? (action.asked && pointOf(action.asked)));
      return { ...state, text: action.text, begun, said: null };
    }
    case 'choose': {
      const { own } = action;
      // Chosen while something is typed: it was typed for this point. Given up, it is gone.
      if (own === null) return { text: '', begun: null, own, said: null };
      return { ...state, begun: state.text === '' ? null : pointOf(own), own, said: null };
    }
    case 'refuse':
      return { ...state, said: { kind: 'trouble', text: `${action.text} Nothing was recorded.` } };
    case 'record':
      return { text: '', begun: null, own: null, said: { kind: 'recorded', text: action.text } };
    case 'say':
      return { ...state, said: action.said };
  }
}

const draftKey = (job: string): string => `jiko-entry-${job}`;

/** What was typed before the page went away, at the point it was typed for. */
export function keptDraft(job: string, isPoint: (point: ProbePoint) => boolean): PageState {
  const none: PageState = { text: '', begun: null, own: null, said: null };
  try {
    const kept = JSON.parse(localStorage.getItem(draftKey(job)) ?? 'null') as {
      text?: unknown;
      begun?: ProbePoint;
    } | null;
    if (!kept || typeof kept.text !== 'string' || !kept.begun || !isPoint(kept.begun)) return none;
    const begun = pointOf(kept.begun);
    return {
      ...none,
      text: kept.text,
      begun,
      own: { ...begun, supersedes: [] },
    };
  } catch {
    return none;
  }
}

export function keepDraft(job: string, { text, begun }: PageState): void {
  if (text === '') localStorage.removeItem(draftKey(job));
  else localStorage.setItem(draftKey(job), JSON.stringify({ text, begun }));
}
