import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Select } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { ListedBoard } from '@jiko/contract';
import { boardIdFrom } from '@jiko/core/first-sheet';
import { blankSheet } from '@jiko/core/formats';
import { boardQuery } from '../../data/queries.ts';
import { importPreviewQuery } from '../../data/import-preview.ts';
import { saveSheet } from '../../data/save-sheet.ts';

/** A file of another format that was picked. */
export interface Picked {
  name: string;
  text: string;
}

const formatText = {
  kicad: 'KiCad netlist',
  'ipc-d-356': 'IPC-D-356A',
  csv: 'CSV table',
} as const;

/** What a file of another format would change, before anything of it is kept. */
export function ImportPanel({
  picked,
  boards,
  onClose,
}: {
  picked: Picked;
  boards: readonly ListedBoard[];
  onClose: () => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [into, setInto] = useState('');
  const sheet = useQuery({ ...boardQuery(into), enabled: into !== '' });
  const title = picked.name.replace(/\.[^.]*$/, '');
  const id = boardIdFrom(title, new Set(boards.map((one) => one.id)));
  const text = into === '' ? blankSheet(id, title) : (sheet.data?.text ?? null);
  const preview = useQuery({
    ...importPreviewQuery(text ?? '', picked.text),
    enabled: text !== null,
  });
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const keep = async (): Promise<void> => {
    if (!preview.data?.ok) return;
    setBusy(true);
    try {
      const row = await saveSheet(
        client,
        preview.data.text,
        into === '' ? null : (sheet.data?.hash ?? null),
      );
      void navigate(`/boards/${row.id}/edit`);
    } catch (error) {
      setTrouble(`${(error as Error).message} Nothing was kept.`);
      setBusy(false);
    }
  };
  const { data } = preview;
  return (
    <section className="import-panel" aria-label="Take a file in">
      <h2>{picked.name}</h2>
      <p>
        <label>
          <span className="quiet">into </span>
          <Select
            aria-label="Into which sheet"
            style={{ width: 280 }}
            value={into}
            showSearch={{ optionFilterProp: 'label' }}
            onChange={setInto}
            options={[
              { value: '', label: `a new sheet: ${title}` },
              ...boards
                .filter((one) => !one.archived)
                .map((one) => ({ value: one.id, label: one.title })),
            ]}
          />
        </label>{' '}
        <Button onClick={onClose}>Leave it</Button>
      </p>
      {trouble !== null && <Alert type="error" showIcon title={trouble} />}
      {preview.isError && <Alert type="error" showIcon title={preview.error.message} />}
      {data && !data.ok && (
        <Alert
          type="error"
          showIcon
          title="It cannot be taken in; nothing was kept"
          description={<Lines of={data.why} />}
        />
      )}
      {data?.ok && (
        <>
          <h3>
            {formatText[data.format]}:{' '}
            {data.done.length === 0 ? 'it changes nothing' : `${data.done.length} changes`}
          </h3>
          <Lines of={data.done} />
          {data.troubles.length > 0 && (
            <>
              <h3 className="tone-bad">Could not be read</h3>
              <Lines of={data.troubles} />
            </>
          )}
          {data.doubts.length > 0 && (
            <>
              <h3 className="tone-warn">Doubtful by it</h3>
              <Lines of={data.doubts} />
            </>
          )}
          {data.left.length > 0 && (
            <>
              <h3 className="quiet">Stays open</h3>
              <Lines of={data.left} />
            </>
          )}
          <Button
            type="primary"
            loading={isBusy}
            disabled={data.done.length === 0}
            onClick={() => void keep()}
          >
            {into === '' ? 'Keep it as a new sheet' : 'Keep it as a new version'}
          </Button>
        </>
      )}
    </section>
  );
}

function Lines({ of }: { of: readonly string[] }) {
  return (
    <ul>
      {of.slice(0, 60).map((one, at) => (
        <li key={at}>{one}</li>
      ))}
      {of.length > 60 && <li className="quiet">and {of.length - 60} more</li>}
    </ul>
  );
}
