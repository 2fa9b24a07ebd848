import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import type { EventInput } from '@jiko/core/record';
import { netsInDoubt } from '@jiko/core/trace';
import { useBench } from '../../data/bench.ts';
import { useBenchState } from '../../data/bench-state.ts';
import { useJobOnBoard } from '../../data/job-on-board.ts';
import { jobSheetQuery, useJob } from '../../data/queries.ts';
import { record } from '../../offline/outbox.ts';
import { JobNotShown } from '../../widgets/job-not-shown.tsx';
import { CameIn } from './came-in.tsx';
import { Desk } from './desk.tsx';
import { FirstSigns } from './first-signs.tsx';
import { MakeSafe } from './make-safe.tsx';
import { SimpleThings } from './simple-things.tsx';
import './door.css';

/** From the counter to the closed lid: intake, simple things, first signs, making safe. */
export function DoorPage() {
  const { id = '' } = useParams();
  const { who } = useBench();
  const { job } = useJob(id);
  const [bench] = useBenchState(id, job);
  const found = useJobOnBoard(id, bench.source, bench.attached);
  const sheet = useQuery(jobSheetQuery(job));
  const { source, attached } = bench;
  const setup = useMemo(() => ({ source, attached, lifted: [] }), [source, attached]);
  if (found.state !== 'ready') return <JobNotShown found={found} />;
  const keep = (...bodies: EventInput[]): void => {
    record(id, who, bodies);
  };
  const part = { id, job: found.job, healthy: found.healthy, onRecord: keep };
  return (
    <div className="door">
      <div>
        <CameIn {...part} />
        <FirstSigns {...part} sheet={sheet.data} setup={setup} near={netsInDoubt(found.trace)} />
        <Desk {...part} />
      </div>
      <div>
        <SimpleThings {...part} />
        <MakeSafe {...part} />
      </div>
    </div>
  );
}
