import type { Box, DocumentIndex, Hit, Named } from '@jiko/core/schematic';
import { isSame, type BoardNames } from '@jiko/core/schematic';

/** What the schematic shows: where one is, what was asked, and what is chosen. */
export interface ViewState {
  page: number;
  /** Typed into the search; empty while the hits are those of what is chosen. */
  asked: string;
  chosen: Named | null;
  hits: readonly Hit[];
  /** The hit one stands on; -1 where one is on none. */
  at: number;
}

export type ViewAction =
  | { do: 'page'; page: number }
  | { do: 'ask'; text: string }
  /** From outside, or by a click on a name in the page: the page stays where it holds a hit. */
  | { do: 'choose'; named: Named | null }
  | { do: 'hit'; by: 1 | -1 }
  | { do: 'go'; at: number }
  /** To a page, and a word on it where one is given. */
  | { do: 'send'; page: number; text: string };

export const firstState = (page: number): ViewState => ({
  page,
  asked: '',
  chosen: null,
  hits: [],
  at: -1,
});

/** Pure: what the view shows after an action. Pages count from 1. */
export function viewState(
  state: ViewState,
  action: ViewAction,
  index: DocumentIndex,
  names: BoardNames,
): ViewState {
  const last = Math.max(1, index.pages.length);
  const on = (hits: readonly Hit[], at: number, more: Partial<ViewState> = {}): ViewState => ({
    ...state,
    hits,
    at,
    page: hits[at]?.page ?? state.page,
    ...more,
  });
  switch (action.do) {
    case 'page':
      return { ...state, page: Math.min(last, Math.max(1, action.page)), at: -1 };
    case 'ask': {
      const hits = index.search(action.text, alsoCalled(action.text, names));
      return on(hits, hits.length > 0 ? 0 : -1, { asked: action.text });
    }
    case 'choose': {
      if (action.named === null) return { ...state, chosen: null, asked: '', hits: [], at: -1 };
      if (isSame(action.named, state.chosen) && state.asked === '') return state;
      const hits = hitsOf(action.named, index, names);
      const here = hits.findIndex((one) => one.page === state.page);
      return on(hits, here >= 0 ? here : bestHit(hits), { chosen: action.named, asked: '' });
    }
    case 'hit': {
      const { hits, at } = state;
      if (hits.length === 0) return state;
      return on(hits, (at + action.by + hits.length) % hits.length);
    }
    case 'send': {
      if (action.text === '') return { ...state, page: action.page, hits: [], asked: '', at: -1 };
      const hits = index.search(action.text);
      const here = hits.findIndex((one) => one.page === action.page && one.how !== 'contains it');
      return on(hits, here, { asked: action.text, page: action.page });
    }
    case 'go':
      return on(state.hits, action.at);
  }
}

/** A place somebody sent the reader to: a page, and a word on it. */
export interface Wanted {
  page: number;
  text: string;
}

/** What the view shows, with what it has followed so far of what was chosen elsewhere. */
export interface Following {
  view: ViewState;
  followed: string;
  went: Wanted | null;
}

/** Pure: goes along with what is chosen elsewhere and where the view is sent, once for each. */
export function followingOf(
  from: Following,
  chosen: Named | null,
  wanted: Wanted | null,
  index: DocumentIndex,
  names: BoardNames,
): Following {
  const followed = chosen === null ? '' : chosen.kind === 'net' ? chosen.net : chosen.ref;
  let { view } = from;
  if (followed !== from.followed && chosen)
    view = viewState(view, { do: 'choose', named: chosen }, index, names);
  if (wanted !== from.went && wanted)
    view = viewState(view, { do: 'send', ...wanted }, index, names);
  return view === from.view && followed === from.followed && wanted === from.went
    ? from
    : { view, followed, went: wanted };
}

/** Other names of the net that is asked for, so that a search by one finds all. */
const alsoCalled = (text: string, names: BoardNames): string[] => {
  const meant = names.meant(text.trim());
  return meant ? names.namesOf(meant) : [];
};

function hitsOf(named: Named, index: DocumentIndex, names: BoardNames): Hit[] {
  const [first, ...also] = names.namesOf(named);
  return index
    .search(first ?? '', also)
    .filter((one) => one.how === 'same' || one.how === 'spelt otherwise')
    .sort((a, b) => a.page - b.page || a.box.y - b.box.y || a.box.x - b.box.x);
}

/** On the page that speaks of it most: where it is drawn rather than listed. */
function bestHit(hits: readonly Hit[]): number {
  const counts = new Map<number, number>();
  for (const { page } of hits) counts.set(page, (counts.get(page) ?? 0) + 1);
  const most = Math.max(0, ...counts.values());
  return hits.findIndex((one) => counts.get(one.page) === most);
}

/** How far to enlarge a page so that a word on it can be read: 1 where it can as it is. */
export function zoomFor(box: Box, pixelsPerPoint: number, turn: number): number {
  const height = turn === 90 || turn === 270 ? box.w : box.h;
  return Math.min(6, Math.max(1, readablePixels / Math.max(1, height * pixelsPerPoint)));
}
const readablePixels = 13;
