import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { boardIdFrom, composeSheetText, type UnknownBoard } from '@jiko/core/first-sheet';
import type { Intake } from '@jiko/core/record';
import { useBench } from '../../data/bench.ts';
import { boardQuery, boardsQuery } from '../../data/queries.ts';
import { saveSheet } from '../../data/save-sheet.ts';
import { record } from '../../offline/outbox.ts';
import { IntakeForm } from '../../widgets/intake-form.tsx';

export function NewJobPage() {
  const { who } = useBench();
  const navigate = useNavigate();
  const client = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);

  const open = async (intake: Intake, unknown: UnknownBoard | null): Promise<boolean> => {
    const id = crypto.randomUUID();
    let { board } = intake;
    let hash: string | null = null;
    if (unknown) {
      // Its sheet first: a job without its board could not be worked on.
      try {
        const known = await client.fetchQuery(boardsQuery);
        const wanted = boardIdFrom(unknown.title, new Set(known.map((one) => one.id)));
        ({ id: board, hash } = await saveSheet(client, composeSheetText(unknown, wanted), null));
      } catch (error) {
        setTrouble(`${(error as Error).message} What you wrote is kept here: try again.`);
        return false;
      }
    }
    // It stands on the sheet as it is today, until somebody moves it.
    hash ??= client.getQueryData(boardQuery(board).queryKey)?.hash ?? null;
    const stands = hash === null ? [] : [{ type: 'sheet' as const, hash }];
    record(id, who, [{ type: 'intake', intake: { ...intake, board } }, ...stands], true);
    void navigate(`/jobs/${id}/door`);
    return true;
  };

  return (
    <div className="column" style={{ maxWidth: 900 }}>
      <header>
        <h1>New job</h1>
      </header>
      <IntakeForm
        draftKey="jiko-new-job"
        before={null}
        label="Open the job"
        trouble={trouble}
        onIntake={open}
      />
    </div>
  );
}
