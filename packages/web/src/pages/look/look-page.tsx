import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert } from 'antd';
import { useMemo, useState } from 'react';
import { api, boardLookSchema, type BoardLook } from '@jiko/contract';
import { drawnPicture, type NetId, type PartRef, type Side } from '@jiko/core/board';
import { type Trace } from '@jiko/core/trace';
import { findingEffects, powerPath } from '@jiko/core/prepare';
import type { EventInput } from '@jiko/core/record';
import { useBench } from '../../data/bench.ts';
import { useBeside } from '../../data/beside.ts';
import { useJobDiagnosis } from '../../data/job-diagnosis.ts';
import { request } from '../../data/http.ts';
import { sendBoardPicture } from '../../data/pictures.ts';
import { useSheetEditing } from '../../data/sheet-edit.ts';
import { putPlaces } from '../../data/board-places.ts';
import { lookQuery } from '../../data/queries.ts';
import { record } from '../../offline/outbox.ts';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { BoardView } from './board-view.tsx';
import { FindingsList } from './findings-list.tsx';
import { LookBar } from './look-bar.tsx';
import { PartPanel, type Marked } from './part-panel.tsx';
import { snapTo, spotsOn } from './picture-places.ts';
import './look.css';

const nothing: BoardLook = { pictures: [], places: [] };

/** The board picture: what is seen on it, and where its parts are. */
export const LookPage = withJob(LookView);

function LookView(view: JobViewProps) {
  const { id, job, healthy, trace } = view;
  const { board } = healthy;
  const { who } = useBench();
  const client = useQueryClient();
  const look = useQuery(lookQuery(board.id));
  const { pictures, places } = look.data ?? nothing;
  const drawn = useMemo(() => drawnPicture(board), [board]);

  const { diagnosis } = useJobDiagnosis(view);
  const effects = useMemo(
    () => findingEffects(healthy, trace, diagnosis, job.findings),
    [healthy, trace, diagnosis, job.findings],
  );

  const [side, setSide] = useState<Side>('top');
  const [marked, setMarked] = useState<Marked | null>(null);
  const [isPlacing, setPlacing] = useState(false);
  const [aspects, setAspects] = useState<Record<string, number>>({});
  const [trouble, setTrouble] = useState<string | null>(null);
  const missing = trace.firstMissing?.net ?? firstShorted(trace);
  const [to, setTo] = useState<NetId | null>(null);
  const target = to ?? missing ?? lastOnPath(trace);
  const path = useMemo(() => (target ? powerPath(healthy, target) : []), [healthy, target]);

  const photo = pictures.find((one) => one.side === side) ?? null;
  const frame = photo?.id ?? 'drawn';
  const aspect = photo ? (aspects[photo.id] ?? 1.5) : drawn.width / drawn.height;
  const shown = { side, frame, aspect };
  const spots = useMemo(
    () => spotsOn(board, drawn, places, { side, frame, aspect }),
    [board, drawn, places, side, frame, aspect],
  );

  const place = useMutation({
    mutationFn: (wanted: Parameters<typeof putPlaces>[1]) => putPlaces(board.id, wanted),
    onSuccess: (next) => {
      setTrouble(null);
      client.setQueryData(lookQuery(board.id).queryKey, next);
    },
    onError: (error) => setTrouble(`The place was not kept. ${error.message}`),
  });
  const takeBack = useMutation({
    mutationFn: (picture: string) =>
      request(boardLookSchema, api.boardPicture(picture), { method: 'DELETE' }),
    onSuccess: (next) => client.setQueryData(lookQuery(board.id).queryKey, next),
    onError: (error) => setTrouble(`The photo was not taken back. ${error.message}`),
  });
  const keep = (...bodies: EventInput[]): void => {
    record(id, who, bodies);
  };
  const editing = useSheetEditing(job, (hash) => keep({ type: 'sheet', hash }));
  const makePoint = async (title: string): Promise<boolean> => {
    const spot = marked?.at;
    if (!spot) return false;
    const ref = await editing.edit({ do: 'add-point', title, net: null, side: spot.side });
    if (ref === null) return false;
    const { u, v } = spot;
    place.mutate([{ ref, frame: spot.frame, at: { side: spot.side, u, v }, who }]);
    setMarked({ part: ref, at: null });
    return true;
  };
  const show = (ref: string): void => {
    const at = drawn.placeOf(ref);
    const own = places.find((one) => one.ref === ref && pictures.some((p) => p.id === one.frame));
    setMarked({ part: ref, at: null });
    setPlacing(false);
    const there = own?.at.side ?? at?.side;
    if (there) setSide(there);
  };
  const tell = useBeside(board.id, 'work', (named) => {
    if (named.kind === 'part') show(named.ref);
    else setTo(named.net);
  });
  const select = (ref: string): void => {
    tell({ kind: 'part', ref: ref as PartRef });
    show(ref);
  };
  const click = (at: { u: number; v: number }): void => {
    if (isPlacing && marked?.part) {
      place.mutate([{ ref: marked.part, frame, at: { side, ...at }, who }]);
      setPlacing(false);
      return;
    }
    const near = snapTo(spots, at, aspect);
    if (near) tell({ kind: 'part', ref: near.ref as PartRef });
    setMarked(near ? { part: near.ref, at: null } : { part: null, at: { side, ...at, frame } });
  };

  return (
    <div className="look">
      <section className="look-main" aria-label="Board picture">
        <LookBar
          board={board}
          healthy={healthy}
          side={side}
          onSide={setSide}
          target={target}
          onTarget={setTo}
          onPart={select}
          hasPhoto={photo !== null}
          onPhoto={async (file) => {
            await sendBoardPicture(board.id, side, file);
            await client.invalidateQueries(lookQuery(board.id));
          }}
          onTakeBack={() => photo && takeBack.mutate(photo.id)}
          onSchematic={() =>
            window.open(`/boards/${board.id}/schematic?job=${id}`, `jiko-schematic-${board.id}`)
          }
        />
        {(trouble ?? editing.trouble ?? look.error) && (
          <Alert type="error" title={trouble ?? editing.trouble ?? look.error?.message} closable />
        )}
        <BoardView
          board={board}
          healthy={healthy}
          trace={trace}
          drawn={drawn}
          photo={photo}
          shown={shown}
          spots={spots}
          path={path}
          findings={job.findings}
          marked={marked}
          isPlacing={isPlacing}
          onAspect={(next) => photo && setAspects((old) => ({ ...old, [photo.id]: next }))}
          onClick={click}
        />
        <p className="look-hint quiet">
          {isPlacing
            ? `Click where ${marked?.part ?? 'the part'} is.`
            : photo
              ? spots.length < 3
                ? 'Choose a part, then Place it here: two placed parts bring all others of the sheet along.'
                : 'Click a part to mark what is seen there; click between parts to mark the spot itself.'
              : drawn.isEmpty
                ? 'The sheet gives no places: add a photo of this side, or place parts on the bare outline.'
                : `Drawn from the places on the sheet${side === 'bottom' ? ', seen from below' : ''}. Click a part to mark what is seen there, or add a photo of this side.`}
        </p>
      </section>
      <section className="look-side" aria-label="What is seen">
        <PartPanel
          key={marked?.part ?? `spot ${marked?.at?.u} ${marked?.at?.v}`}
          job={id}
          healthy={healthy}
          trace={trace}
          marked={marked}
          spot={spots.find((one) => one.ref === marked?.part) ?? null}
          side={side}
          frame={frame}
          isPlacing={isPlacing}
          onPlacing={setPlacing}
          onUnplace={(ref) => place.mutate([{ ref, frame, at: null, who }])}
          onRecord={(body) => {
            keep(body);
            setMarked(null);
          }}
          onPoint={makePoint}
        />
        <FindingsList
          board={healthy.board}
          effects={effects}
          findings={job.findings}
          onPick={select}
          onRecord={keep}
        />
      </section>
    </div>
  );
}

/** A net that was read as shorted, cold. */
function firstShorted({ readings }: Trace): NetId | null {
  const short = readings.find(
    ({ standing, verdict }) => standing.kind === 'stands' && verdict.kind === 'shorted',
  );
  return (short?.reading.at.net as NetId | undefined) ?? null;
}

/** Where the way to the goal ends, among the rails. */
function lastOnPath({ stages }: Trace): NetId | null {
  return stages.findLast((one) => one.onPath)?.stage.gives[0] ?? null;
}
