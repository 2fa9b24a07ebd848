import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Alert, Button } from 'antd';
import { useRef } from 'react';
import { Link } from 'react-router';
import { api, importedSchema } from '@jiko/contract';
import { request } from '../../data/http.ts';

/** A job saved as a file elsewhere, taken over unchanged. */
export function ImportJob() {
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const take = useMutation({
    mutationFn: (picked: File) =>
      request(importedSchema, api.jobFiles, {
        method: 'POST',
        headers: { 'Content-Type': 'application/zip' },
        body: picked,
        timeoutMilliseconds: 120_000,
      }),
    onSuccess: () => void client.invalidateQueries(),
  });
  return (
    <section aria-label="Jobs from elsewhere">
      <h2>Jobs from elsewhere</h2>
      <p>
        A job saved as a file (<em>Repair</em>) brings its sheets, pictures and entries along, and
        is taken over unchanged.{' '}
        <Button loading={take.isPending} onClick={() => file.current?.click()}>
          Take a job file in
        </Button>
        <input
          ref={file}
          type="file"
          accept=".zip,application/zip"
          aria-label="Job file"
          hidden
          onChange={(event) => {
            const [picked] = event.target.files ?? [];
            if (picked) take.mutate(picked);
            event.target.value = '';
          }}
        />
      </p>
      {take.error && <Alert type="error" showIcon title={take.error.message} />}
      {take.data && (
        <Alert
          type="success"
          showIcon
          title={
            <>
              {take.data.isNew ? 'Taken over' : 'It is here already, unchanged'}:{' '}
              <Link to={`/jobs/${take.data.id}/report`}>{take.data.device}</Link>,{' '}
              {take.data.entries} entries, {take.data.pictures} pictures.
            </>
          }
        />
      )}
    </section>
  );
}
