import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Skeleton } from 'antd';
import { useMemo, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Board } from '@jiko/core/board';
import type { Box, Named } from '@jiko/core/schematic';
import { useBeside } from '../../data/beside.ts';
import { useBenchState } from '../../data/bench-state.ts';
import { documentsQuery } from '../../data/documents.ts';
import { useJobOnBoard } from '../../data/job-on-board.ts';
import { boardQuery, useJob } from '../../data/queries.ts';
import { boardOf } from '../../data/read-sheet.ts';
import { JobNotShown } from '../../widgets/job-not-shown.tsx';
import { marksOf } from '../../widgets/schematic/marks.ts';
import type { PageMark } from '../../widgets/schematic/page-view.tsx';
import { useShownDocument } from '../../widgets/schematic/shown-document.ts';
import { SchematicView, type Wanted } from '../../widgets/schematic/schematic-view.tsx';
import type { BoardDetail } from '@jiko/contract';
import { PinTablePanel } from './pin-table-panel.tsx';
import { TakePanel } from './take-panel.tsx';
import { DocumentsPanel } from './documents-panel.tsx';
import './schematic-page.css';

/** A board's documents, page by page; with a job beside it, what was measured is drawn on them. */
export function SchematicPage() {
  const { id = '' } = useParams();
  const [sent] = useSearchParams();
  const job = sent.get('job');
  const sheet = useQuery(boardQuery(id));
  const board = sheet.data ? boardOf(sheet.data) : null;
  if (sheet.isError)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="This board cannot be shown"
          description={sheet.error.message}
        />
      </div>
    );
  if (!board)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  return job ? (
    <WithJob id={job} />
  ) : (
    <Beside key={id} board={board} sheet={sheet.data} job={null} markOf={nothing} asked={null} />
  );
}

const nothing = (): null => null;

function WithJob({ id }: { id: string }) {
  const { job } = useJob(id);
  const [bench] = useBenchState(id, job);
  const found = useJobOnBoard(id, bench.source, bench.attached);
  const [asked, setAsked] = useState<Named | null>(null);
  const net = asked?.kind === 'net' ? asked.net : null;
  const markOf = useMemo(
    () =>
      found.state === 'ready' ? marksOf(found.healthy, found.trace, bench.phase, net) : nothing,
    [found, bench.phase, net],
  );
  if (found.state !== 'ready') return <JobNotShown id={id} found={found} />;
  return (
    <Beside board={found.healthy.board} job={id} markOf={markOf} asked={asked} onAsked={setAsked} />
  );
}

function Beside({
  board,
  sheet,
  job,
  markOf,
  asked,
  onAsked,
}: {
  board: Board;
  /** What is taken in goes into this one. */
  sheet?: BoardDetail | undefined;
  job: string | null;
  markOf: (named: Named) => PageMark | null;
  asked: Named | null;
  onAsked?: (named: Named) => void;
}) {
  const documents = useQuery(documentsQuery(board.id));
  const [own, setOwn] = useState<Named | null>(null);
  const told = (named: Named): void => {
    setOwn(named);
    onAsked?.(named);
  };
  const tell = useBeside(board.id, 'schematic', told);
  const chosen = onAsked ? asked : own;
  const list = documents.data ?? [];
  const [beside, setBeside] = useState<'nothing' | 'reading' | 'pins'>('nothing');
  const [marked, setMarked] = useState<{ page: number; box: Box } | null>(null);
  const [shown, setShown] = useShownDocument(board.id);
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const document = list.find((one) => one.id === shown) ?? list[0];
  return (
    <div className="schematic-page">
      <header>
        <h1>{board.title}</h1>
        {job ? (
          <span className="quiet">goes along with Trace in the other window</span>
        ) : (
          <>
            <Link to={`/boards/${board.id}`}>Play</Link>
            <Link to={`/boards/${board.id}/edit`}>Edit</Link>
            <Link to={`/boards/${board.id}/versions`}>Versions</Link>
          </>
        )}
        <span style={{ flex: 1 }} />
        {sheet && list.length > 0 && (
          <>
            <Button
              aria-pressed={beside === 'reading'}
              onClick={() => setBeside(beside === 'reading' ? 'nothing' : 'reading')}
            >
              {beside === 'reading' ? 'Close what was read' : 'Read from it'}
            </Button>
            <Button
              aria-pressed={beside === 'pins'}
              onClick={() => setBeside(beside === 'pins' ? 'nothing' : 'pins')}
            >
              Pin table
            </Button>
          </>
        )}
        <DocumentsPanel board={board.id} documents={list} />
      </header>
      {documents.isError && (
        <Alert
          type="error"
          showIcon
          title="The documents cannot be shown"
          description={documents.error.message}
        />
      )}
      {documents.data && list.length === 0 && (
        <div className="column">
          <p>
            No schematic yet. Add the PDF you have: schematic, placement drawing, data sheets of
            chips. Its pages are shown here and beside Trace, and searched by net, part and value.
          </p>
        </div>
      )}
      <div className={beside === 'nothing' ? 'pages-alone' : 'with-reading'}>
        <SchematicView
          board={board}
          documents={list}
          shown={shown}
          onShown={setShown}
          wanted={wanted}
          chosen={chosen}
          compact={beside !== 'nothing'}
          onBox={beside === 'pins' ? (page, box) => setMarked({ page, box }) : null}
          markOf={markOf}
          onChoose={(named) => {
            told(named);
            tell(named);
          }}
        />
        {beside === 'pins' && sheet && document && (
          <PinTablePanel
            key={sheet.hash}
            sheet={sheet}
            board={board}
            document={document}
            marked={marked}
          />
        )}
        {beside === 'reading' && sheet && document && (
          <TakePanel
            sheet={sheet}
            document={document}
            onGo={(text, { page }) => setWanted({ text, page })}
          />
        )}
      </div>
    </div>
  );
}
