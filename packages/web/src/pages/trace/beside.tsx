import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Segmented, Skeleton } from 'antd';
import { lazy, Suspense, useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import { findNet, type Board, type NetId, findChip, findPart } from '@jiko/core/board';
import type { HealthyBoard } from '@jiko/core/expectations';
import type { Phase } from '@jiko/core/readings';
import type { Named } from '@jiko/core/schematic';
import type { Trace } from '@jiko/core/trace';
import { useBeside } from '../../data/beside.ts';
import { documentsQuery } from '../../data/documents.ts';
import { useShownDocument } from '../../widgets/schematic/shown-document.ts';
import { marksOf } from '../../widgets/schematic/marks.ts';
import type { PinPlace } from './page-state.ts';
import type { Shown } from './shown-beside.ts';

// The page reader comes with the first page that is shown.
const SchematicView = lazy(async () => ({
  default: (await import('../../widgets/schematic/schematic-view.tsx')).SchematicView,
}));

/** What a click on a name in a page means for the probe: the net, at the part's first pin off ground. */
function pointOf(board: Board, named: Named): { net: NetId; pin: PinPlace | null } | null {
  if (named.kind === 'net') return { net: named.net, pin: null };
  const part = findPart(board, named.ref);
  const chip = findChip(board, named.ref);
  const pins = part
    ? part.pins.map(({ name, net }) => [name, net] as const)
    : [...(chip?.pins ?? [])];
  const first = pins.find(([, net]) => net !== board.ground) ?? pins[0];
  return first ? { net: first[1], pin: { part: named.ref, pin: first[0] } } : null;
}

/** What stands beside the probe is chosen here; another window on the board goes along with it. */
export function BesideBar({
  job,
  board,
  here,
  shown,
  onShown,
  onPick,
}: {
  job: string;
  board: Board;
  here: NetId | null;
  shown: Shown;
  onShown: (shown: Shown) => void;
  onPick: (net: NetId, pin: PinPlace | null) => void;
}) {
  const tell = useBeside(board.id, 'work', (named) => {
    const point = pointOf(board, named);
    if (point && findNet(board, point.net)) onPick(point.net, point.pin);
  });
  useEffect(() => {
    if (here !== null) tell({ kind: 'net', net: here });
    // Told once for each point, not each time the page is drawn.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [here]);
  return (
    <div className="beside-bar">
      <Segmented<Shown>
        size="small"
        aria-label="Beside the probe"
        value={shown}
        onChange={onShown}
        options={[
          { value: 'ladder', label: 'Stages' },
          { value: 'schematic', label: 'Schematic' },
        ]}
      />
      <Button
        size="small"
        type="text"
        onClick={() =>
          window.open(`/boards/${board.id}/schematic?job=${job}`, `jiko-schematic-${board.id}`)
        }
      >
        In a window of its own
      </Button>
    </div>
  );
}

/** The page of the schematic the probe is on, with what was read drawn on it. */
export function BesidePages({
  healthy,
  trace,
  phase,
  here,
  onPick,
}: {
  healthy: HealthyBoard;
  trace: Trace;
  phase: Phase;
  here: NetId | null;
  onPick: (net: NetId, pin: PinPlace | null) => void;
}) {
  const { board } = healthy;
  const documents = useQuery(documentsQuery(board.id));
  const [shown, setShown] = useShownDocument(board.id);
  const chosen = useMemo(
    (): Named | null => (here === null ? null : { kind: 'net', net: here }),
    [here],
  );
  const markOf = useMemo(() => marksOf(healthy, trace, phase, here), [healthy, trace, phase, here]);
  const choose = (named: Named): void => {
    const point = pointOf(board, named);
    if (point && findNet(board, point.net)) onPick(point.net, point.pin);
  };
  return (
    <section className="beside-pages" aria-label="Schematic">
      {documents.isError ? (
        <Alert type="error" showIcon title={documents.error.message} />
      ) : documents.data?.length === 0 ? (
        <p className="quiet">
          No schematic of this board yet.{' '}
          <Link to={`/boards/${board.id}/schematic`}>Add its PDF</Link>, and its pages stand here.
        </p>
      ) : (
        <Suspense fallback={<Skeleton active />}>
          <SchematicView
            compact
            board={board}
            documents={documents.data ?? []}
            shown={shown}
            onShown={setShown}
            chosen={chosen}
            markOf={markOf}
            onChoose={choose}
          />
        </Suspense>
      )}
    </section>
  );
}
