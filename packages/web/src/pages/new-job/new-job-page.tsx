import { useNavigate } from 'react-router';
import { useBench } from '../../data/bench.ts';
import { record } from '../../offline/outbox.ts';
import { IntakeForm } from '../../widgets/intake-form.tsx';

export function NewJobPage() {
  const { who } = useBench();
  const navigate = useNavigate();
  return (
    <div className="column" style={{ maxWidth: 900 }}>
      <header>
        <h1>New job</h1>
      </header>
      <IntakeForm
        draftKey="jiko-new-job"
        before={null}
        label="Open the job"
        onIntake={(intake) => {
          const id = crypto.randomUUID();
          record(id, who, [{ type: 'intake', intake }], true);
          void navigate(`/jobs/${id}/door`);
        }}
      />
    </div>
  );
}
