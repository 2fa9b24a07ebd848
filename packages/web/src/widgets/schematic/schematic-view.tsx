import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Input, Select, Skeleton } from 'antd';
import type { InputRef } from 'antd';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { z } from 'zod';
import type { BoardDocument } from '@jiko/contract';
import type { Board } from '@jiko/core/board';
import { boardNames, isSame, type Box, type DocumentIndex, type Named } from '@jiko/core/schematic';
import { keep, kept } from '../../data/kept.ts';
import { documentIndexQuery } from '../../data/documents.ts';
import { PageThumb } from './page-canvas.tsx';
import { PageView, type PageMark } from './page-view.tsx';
import {
  firstState,
  followingOf,
  viewState,
  type Following,
  type ViewAction,
  type Wanted,
} from './view-state.ts';
import './schematic.css';

export interface SchematicProps {
  board: Board;
  documents: readonly BoardDocument[];
  /** Id of the document that is shown; the first one where there is none such. */
  shown: string;
  onShown: (id: string) => void;
  wanted?: Wanted | null;
  /** What the work is at: its places are marked, and the page follows. */
  chosen: Named | null;
  /** What was read of a net and how it was judged, or what is expected; drawn beside its name. */
  markOf: (named: Named) => PageMark | null;
  onChoose: (named: Named) => void;
  /** Marking a box on the page; null where that is not asked for. */
  onBox?: ((page: number, box: Box) => void) | null;
  /** In a split: no row of thumbnails. */
  compact?: boolean;
  /** Further buttons of the bar. */
  more?: ReactNode;
}

const pageSchema = z.number().int().min(1);

export type { Wanted } from './view-state.ts';

/** The pages of a board's documents, searched by names, with what was measured drawn on them. */
export function SchematicView({ documents, shown: shownId, onShown, ...props }: SchematicProps) {
  const shown = documents.find((one) => one.id === shownId) ?? documents[0];
  const loaded = useQuery(documentIndexQuery(shown?.id ?? ''));
  if (!shown) return null;
  if (loaded.isError)
    return (
      <Alert
        type="error"
        showIcon
        title={`${shown.name} cannot be shown`}
        description={loaded.error.message}
      />
    );
  if (!loaded.data) return <Skeleton active />;
  const picker =
    documents.length > 1 ? (
      <Select
        size="small"
        aria-label="Document"
        value={shown.id}
        popupMatchSelectWidth={false}
        onChange={onShown}
        options={documents.map((one) => ({ value: one.id, label: `${one.name} (${one.kind})` }))}
      />
    ) : null;
  return (
    <Pages key={shown.id} {...props} document={shown} index={loaded.data.index} picker={picker} />
  );
}

function Pages({
  board,
  document,
  index,
  picker,
  chosen,
  markOf,
  onChoose,
  compact = false,
  wanted = null,
  onBox = null,
  more,
}: Omit<SchematicProps, 'documents' | 'shown' | 'onShown'> & {
  document: BoardDocument;
  index: DocumentIndex;
  picker: ReactNode;
}) {
  const names = useMemo(() => boardNames(board), [board]);
  const placeKey = `jiko-page-${document.id}`;
  const [last, setLast] = useState<Following>(() => ({
    view: firstState(kept(placeKey, pageSchema, 1)),
    followed: '',
    went: wanted,
  }));
  // What is chosen elsewhere is followed; what is chosen here comes back the same way.
  const following = useCallback(
    (from: Following): Following => followingOf(from, chosen, wanted, index, names),
    [chosen, wanted, index, names],
  );
  const { view: state } = useMemo(() => following(last), [following, last]);
  const act = useCallback(
    (action: ViewAction): void =>
      setLast((from) => {
        const now = following(from);
        return { ...now, view: viewState(now.view, action, index, names) };
      }),
    [following, index, names],
  );
  useEffect(() => keep(placeKey, state.page), [placeKey, state.page]);
  const search = useRef<InputRef>(null);
  const root = useRef<HTMLDivElement>(null);

  // F3 and the search are asked for from anywhere on the page, the entry line included.
  useEffect(() => {
    const keys = (event: globalThis.KeyboardEvent): void => {
      if (event.key === 'F3') {
        event.preventDefault();
        act({ do: 'hit', by: event.shiftKey ? -1 : 1 });
      } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'f') {
        event.preventDefault();
        search.current?.focus({ cursor: 'all' });
      }
    };
    window.addEventListener('keydown', keys);
    return () => window.removeEventListener('keydown', keys);
  }, [act]);
  const onKeys = (event: KeyboardEvent): void => {
    if ((event.target as HTMLElement).tagName === 'INPUT') return;
    if (event.key === 'PageDown') act({ do: 'page', page: state.page + 1 });
    else if (event.key === 'PageUp') act({ do: 'page', page: state.page - 1 });
    else if (event.key === 'Home') act({ do: 'page', page: 1 });
    else if (event.key === 'End') act({ do: 'page', page: index.pages.length });
    else return;
    event.preventDefault();
  };

  const hit = state.hits[state.at] ?? null;
  const here = index.pages[state.page - 1];
  const open = (): void => {
    const meant = hit && names.meant(hit.text);
    if (meant) onChoose(meant);
  };
  return (
    <div
      className={`schematic${compact ? ' is-compact' : ''}`}
      ref={root}
      role="presentation"
      onKeyDown={onKeys}
    >
      <div className="schematic-bar" role="toolbar" aria-label="Schematic">
        {picker}
        <Input
          ref={search}
          size="small"
          allowClear
          aria-label="Search the pages"
          placeholder="net, part or value · Ctrl F"
          value={state.asked}
          onChange={(event) => act({ do: 'ask', text: event.target.value })}
          onPressEnter={(event) => (event.shiftKey ? open() : act({ do: 'hit', by: 1 }))}
        />
        <span className="hits-count quiet" aria-live="polite">
          {state.hits.length > 0
            ? `${state.at + 1 || '–'} of ${state.hits.length}`
            : state.asked !== ''
              ? 'not found'
              : ''}
        </span>
        <Button
          size="small"
          disabled={state.hits.length === 0}
          title="Shift F3"
          aria-label="Hit before"
          onClick={() => act({ do: 'hit', by: -1 })}
        >
          ‹
        </Button>
        <Button
          size="small"
          disabled={state.hits.length === 0}
          title="F3"
          aria-label="Next hit"
          onClick={() => act({ do: 'hit', by: 1 })}
        >
          ›
        </Button>
        <span style={{ flex: 1 }} />
        <Button
          size="small"
          aria-label="Page before"
          disabled={state.page <= 1}
          onClick={() => act({ do: 'page', page: state.page - 1 })}
        >
          ↑
        </Button>
        <span className="quiet">
          page {state.page} of {index.pages.length}
        </span>
        <Button
          size="small"
          aria-label="Next page"
          disabled={state.page >= index.pages.length}
          onClick={() => act({ do: 'page', page: state.page + 1 })}
        >
          ↓
        </Button>
        {more}
      </div>
      <div className="schematic-body">
        {!compact && (
          <div className="schematic-list">
            {state.asked !== '' || state.hits.length > 0 ? (
              <ol aria-label="Hits">
                {state.hits.map((one, at) => (
                  <li key={at}>
                    <button
                      type="button"
                      className={at === state.at ? 'is-here' : ''}
                      onClick={() => act({ do: 'go', at })}
                    >
                      <b>p {one.page}</b> <span className="mono">{one.text}</span>
                      <small>{one.around.join(' ')}</small>
                    </button>
                  </li>
                ))}
                {state.hits.length === 0 && (
                  <li className="quiet">Nothing like it in this document.</li>
                )}
              </ol>
            ) : (
              <ol aria-label="Pages" className="thumbs">
                {index.pages.map(({ page, width, height }) => (
                  <li key={page}>
                    <button
                      type="button"
                      className={page === state.page ? 'is-here' : ''}
                      aria-label={`Page ${page}`}
                      onClick={() => act({ do: 'page', page })}
                    >
                      <span style={{ aspectRatio: `${width} / ${height}` }}>
                        <PageThumb document={document.id} page={page} />
                      </span>
                      {page}
                    </button>
                  </li>
                ))}
              </ol>
            )}
          </div>
        )}
        {here && (
          <PageView
            document={document.id}
            page={here}
            tokens={index.tokens}
            hit={hit?.page === here.page ? hit : null}
            hits={state.hits}
            names={names}
            isChosen={(named) => isSame(named, chosen ?? state.chosen)}
            markOf={markOf}
            onBox={onBox && ((box) => onBox(here.page, box))}
            onChoose={(named) => {
              act({ do: 'choose', named });
              onChoose(named);
            }}
          />
        )}
      </div>
      {here && !here.hasText && (
        <p className="schematic-note" role="note">
          {document.pagesWithText === 0
            ? 'Nothing but pictures in this document: its pages are shown, and cannot be searched.'
            : 'This page is a picture: it is shown, and cannot be searched.'}
        </p>
      )}
    </div>
  );
}
