import { useQuery } from '@tanstack/react-query';
import { Alert, Button, Select, Skeleton, Table } from 'antd';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { compareSheets } from '@jiko/core/sheet-edit';
import { dateText } from '../../data/dates.ts';
import { jobsQuery, versionQuery, versionsQuery } from '../../data/queries.ts';
import { useSheetSave } from '../../data/sheet-save.ts';
import { SheetClash } from '../../widgets/sheet-clash.tsx';

/** Every version of a sheet, any two of them compared in words, and the jobs the board had. */
export function VersionsPage() {
  const { id = '' } = useParams();
  const versions = useQuery(versionsQuery(id));
  const jobs = useQuery(jobsQuery);
  const [older, setOlder] = useState<string | null>(null);
  const [newer, setNewer] = useState<string | null>(null);
  const saving = useSheetSave(id);
  const list = versions.data ?? [];
  const after = newer ?? list[0]?.hash ?? '';
  const before = older ?? list[1]?.hash ?? '';
  const [a, b] = [useQuery(versionQuery(id, before)), useQuery(versionQuery(id, after))];
  const changes = useMemo(
    () => (a.data && b.data ? compareSheets(a.data.text, b.data.text) : null),
    [a.data, b.data],
  );
  if (versions.isError)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="The versions cannot be shown"
          description={versions.error.message}
        />
      </div>
    );
  if (!versions.data)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  const options = list.map((one, at) => ({
    value: one.hash,
    label: `${dateText(one.updatedAt, 'version')}${at === 0 ? ', present' : ''}`,
  }));
  const had = (jobs.data ?? []).filter((one) => one.intake.board === id);
  const showPresent = (): void => {
    setOlder(null);
    setNewer(null);
  };
  const makePresent = async (): Promise<void> => {
    const present = list[0]?.hash ?? null;
    if (a.data && (await saving.save(a.data.text, present)) !== null) showPresent();
  };
  return (
    <div className="column">
      <header>
        <h1>{list[0]?.title}</h1>
        <span className="quiet">
          {list.length} version{list.length === 1 ? '' : 's'} of its sheet
        </span>
        <Link to={`/boards/${id}/edit`}>Edit</Link>
        <Link to={`/boards/${id}`}>Play</Link>
      </header>
      <SheetClash saving={saving} onLaid={showPresent} />
      {list.length > 1 ? (
        <>
          <p>
            From{' '}
            <Select
              aria-label="Older version"
              style={{ width: 230 }}
              value={before}
              onChange={setOlder}
              options={options}
            />{' '}
            to{' '}
            <Select
              aria-label="Newer version"
              style={{ width: 230 }}
              value={after}
              onChange={setNewer}
              options={options}
            />{' '}
            <Button disabled={before === list[0]?.hash} onClick={() => void makePresent()}>
              Make the older one the present one
            </Button>
          </p>
          <h2>What changed</h2>
          {changes === null ? (
            <Skeleton active />
          ) : changes.length === 0 ? (
            <p className="quiet">Nothing but comments and the order of lines.</p>
          ) : (
            <ul className="mono" aria-label="What changed">
              {changes.slice(0, 200).map((line) => (
                <li key={line}>{line}</li>
              ))}
              {changes.length > 200 && <li>and {changes.length - 200} more</li>}
            </ul>
          )}
        </>
      ) : (
        <p className="quiet">One version so far: each save in Edit or from Trace adds one.</p>
      )}
      <h2>Jobs on this board</h2>
      <Table
        rowKey="id"
        size="small"
        dataSource={had}
        pagination={{ pageSize: 20, hideOnSinglePage: true }}
        locale={{ emptyText: 'No job yet.' }}
        columns={[
          {
            title: 'Device',
            render: (_, row) => <Link to={`/jobs/${row.id}/report`}>{row.intake.device}</Link>,
          },
          { title: 'Complaint', render: (_, row) => row.intake.complaint },
          { title: 'Ended', width: 160, render: (_, row) => row.closed ?? 'open' },
        ]}
      />
    </div>
  );
}
