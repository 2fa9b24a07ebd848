import type { EventInput } from '@jiko/core/record';
import { useBench } from '../../data/bench.ts';
import { record } from '../../offline/outbox.ts';
import { GraceLine } from '../../widgets/grace-line.tsx';
import { withJob, type JobViewProps } from '../../widgets/with-job.tsx';
import { CameIn } from './came-in.tsx';
import { Desk } from './desk.tsx';
import { EarlierJobs } from './earlier-jobs.tsx';
import { FirstSigns } from './first-signs.tsx';
import { MakeSafe } from './make-safe.tsx';
import { SimpleThings } from './simple-things.tsx';
import './door.css';

/** From the counter to the closed lid: intake, simple things, first signs, making safe. */
export const DoorPage = withJob(DoorView);

function DoorView(view: JobViewProps) {
  const { id, job, healthy } = view;
  const { who } = useBench();
  const keep = (...bodies: EventInput[]): void => {
    record(id, who, bodies);
  };
  const part = { id, job, healthy, onRecord: keep };
  return (
    <div className="door">
      <div>
        <CameIn {...part} />
        <GraceLine job={job} />
        <FirstSigns view={view} onRecord={keep} />
        <Desk {...part} />
        {job.intake && <EarlierJobs id={id} intake={job.intake} />}
      </div>
      <div>
        <SimpleThings {...part} events={view.events} />
        <MakeSafe {...part} />
      </div>
    </div>
  );
}
