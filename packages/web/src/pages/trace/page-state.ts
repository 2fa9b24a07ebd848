import { z } from 'zod';
import { findChip, findNet, findPart, type Board, type NetId } from '@jiko/core/board';
import { modes, type Mode } from '@jiko/core/readings';
import { keep, kept } from '../../data/kept.ts';

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
  /** The point of what is typed; null while the line is empty, or while its point is still being made. */
  begun: ProbePoint | null;
  /** The point shown while another one is being searched for: the page does not move on meanwhile. */
  held: ProbePoint | null;
  own: Own | null;
  /** A point of one's own on its way: it is chosen as soon as the sheet has it. */
  coming: string | null;
  /** The net the drawing was around when one's own choice began to move about in it. */
  anchor: NetId | null;
  said: Said | null;
  /** What Enter was pressed for though the bench strip says otherwise: pressed again, it counts. */
  asked: string | null;
}

export const emptyPage: PageState = {
  text: '',
  begun: null,
  held: null,
  own: null,
  coming: null,
  anchor: null,
  said: null,
  asked: null,
};

export type PageAction =
  /** The line changed; `asked` is the point it would be for were it begun now. */
  | { do: 'type'; text: string; asked: ProbePoint | null }
  /** Another point, mode or lead; null: back to what is proposed. `anchor` is what is drawn now. */
  | { do: 'choose'; own: Own | null; anchor?: NetId | null }
  /** The search for another point, or for the other lead's, has the keys; null: it has them no more. */
  | { do: 'hold'; point: ProbePoint | null }
  /** A point of one's own was made: what is typed from here on is for it. */
  | { do: 'await'; point: string }
  | { do: 'refuse'; text: string }
  /** Nothing was recorded yet: what must be true of the bench for `of` is asked first. */
  | { do: 'ask'; of: string; text: string }
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
      const asked = state.coming === null ? action.asked : null;
      const begun = action.text === '' ? null : (state.begun ?? (asked && pointOf(asked)));
      return { ...state, text: action.text, begun, said: null, asked: null };
    }
    case 'choose': {
      const { own, anchor = state.anchor } = action;
      // Chosen while something is typed: it was typed for this point. Given up, it is gone.
      if (own === null) return emptyPage;
      const begun = state.text === '' ? null : pointOf(own);
      return { ...state, begun, held: null, own, coming: null, anchor, said: null, asked: null };
    }
    case 'hold':
      return { ...state, held: action.point && pointOf(action.point) };
    case 'await':
      // Typed while the point was being made: it was typed for this point.
      return {
        ...state,
        begun: null,
        held: null,
        own: null,
        coming: action.point,
        said: null,
        asked: null,
      };
    case 'refuse':
      return { ...state, said: { kind: 'trouble', text: `${action.text} Nothing was recorded.` } };
    case 'ask':
      return { ...state, said: { kind: 'trouble', text: action.text }, asked: action.of };
    case 'record':
      return { ...emptyPage, said: { kind: 'recorded', text: action.text } };
    case 'say':
      return { ...state, said: action.said };
  }
}

/** The technician's own point on the sheet as it is now: the one on its way too, once the sheet has it. */
export function ownNow(board: Board, { own, coming }: PageState, cold: boolean): Own | null {
  const sent = coming === null ? null : placeCalled(board, coming);
  return sent
    ? { ...sent, reference: null, mode: cold ? 'ohms' : 'volts', supersedes: [] }
    : pointNow(board, own);
}

/** What another page sent along: a point, a net, or a part by its first pin that is not on ground. */
function placeCalled(board: Board, name: string): Pick<Own, 'net' | 'pin'> | null {
  const point = board.points.find((one) => one.id === name);
  if (point) return { net: point.net, pin: { part: point.id, pin: null } };
  const net = findNet(board, name);
  if (net) return { net: net.id, pin: null };
  const chip = [...(findChip(board, name)?.pins ?? [])].map(([pin, of]) => ({
    name: pin,
    net: of,
  }));
  const pin = (findPart(board, name)?.pins ?? chip).find((one) => one.net !== board.ground);
  return pin ? { net: pin.net, pin: { part: name, pin: pin.name } } : null;
}

const draftKey = (job: string): string => `jiko-entry-${job}`;

const draftSchema = z.object({
  text: z.string(),
  begun: z.object({
    net: z.string().transform((net) => net as NetId),
    pin: z.object({ part: z.string(), pin: z.string().nullable() }).nullable(),
    reference: z
      .string()
      .transform((net) => net as NetId)
      .nullable(),
    mode: z.enum(modes),
  }),
});

/** What was typed before the page went away, at the point it was typed for. */
export function keptDraft(job: string, isPoint: (point: ProbePoint) => boolean): PageState {
  const draft = kept<z.output<typeof draftSchema> | null>(
    draftKey(job),
    draftSchema.nullable() as never,
    null,
  );
  if (!draft || !isPoint(draft.begun)) return emptyPage;
  const { text, begun } = draft;
  return { ...emptyPage, text, begun, own: { ...begun, supersedes: [] } };
}

export function keepDraft(job: string, { text, begun }: Pick<PageState, 'text' | 'begun'>): void {
  keep(draftKey(job), text === '' ? null : { text, begun: begun && pointOf(begun) });
}
