import { isMended } from '@jiko/core/record';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Checkbox, Dropdown, Empty, Input, Space, Table, Upload } from 'antd';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, boardRowsSchema, largestSheetCharacters, type ListedBoard } from '@jiko/contract';
import { lintBoard, loadSheet, sheetIssueText } from '@jiko/core/board';
import { boardIdFrom, composeSheetText, nothingChosen } from '@jiko/core/first-sheet';
import { importFormat, largestImportCharacters } from '@jiko/core/formats';
import { checkHealthyPlay } from '@jiko/core/expectations';
import { copySheet } from '@jiko/core/sheet-edit';
import { postJson, request } from '../../data/http.ts';
import { boardQuery, boardsQuery, jobsQuery } from '../../data/queries.ts';
import { saveFile } from '../../data/save-file.ts';
import { saveSheet } from '../../data/save-sheet.ts';
import { sheetCheckQuery } from '../../data/sheet-check.ts';
import { ImportPanel, type Picked } from './import-panel.tsx';
import { sheetAs, sheetFormats, type SheetFormat } from './sheet-formats.ts';
import { UnknownBoardFields } from '../../widgets/first-sheet/choice-fields.tsx';

interface Outcome {
  kind: 'success' | 'error' | 'warning';
  title: string;
  lines: string[];
}

export function BoardsPage() {
  const boards = useQuery(boardsQuery);
  const client = useQueryClient();
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const jobs = useQuery(jobsQuery);
  const navigate = useNavigate();
  const [wanted, setWanted] = useState('');
  const [withArchived, setWithArchived] = useState(false);
  const [isSaving, setSaving] = useState(false);
  const [picked, setPicked] = useState<Picked | null>(null);
  const [fresh, setFresh] = useState<typeof unnamed | null>(null);
  const all = boards.data ?? [];
  const shown = all.filter(
    (one) =>
      (withArchived || !one.archived) &&
      `${one.title} ${one.revision} ${one.id}`.toLowerCase().includes(wanted.toLowerCase()),
  );
  const say = (error: unknown, title: string): void =>
    setOutcome({ kind: 'error', title, lines: [(error as Error).message] });

  const make = async (): Promise<void> => {
    if (!fresh) return;
    const id = boardIdFrom(fresh.title, new Set(all.map((one) => one.id)));
    try {
      await saveSheet(client, composeSheetText(fresh, id), null);
      void navigate(`/boards/${id}/edit`);
    } catch (error) {
      say(error, 'The sheet was not saved');
    }
  };
  const copy = async (row: ListedBoard): Promise<void> => {
    try {
      const { text } = await client.fetchQuery(boardQuery(row.id));
      const title = `${row.title} copy`;
      const id = boardIdFrom(title, new Set(all.map((one) => one.id)));
      await saveSheet(client, copySheet(text, id, title), null);
      setOutcome({ kind: 'success', title: `${title} is saved`, lines: [] });
    } catch (error) {
      say(error, `${row.title} was not copied`);
    }
  };
  const keepAsFile = async (row: ListedBoard, as: SheetFormat): Promise<void> => {
    try {
      const { text } = await client.fetchQuery(boardQuery(row.id));
      const made = sheetAs(as, text);
      if (!made.ok) return setOutcome({ kind: 'warning', title: made.error, lines: [] });
      saveFile(`${row.id}.${sheetFormats[as].suffix}`, made.value, sheetFormats[as].type);
    } catch (error) {
      say(error, `${row.title} was not written`);
    }
  };
  const archive = async (row: ListedBoard): Promise<void> => {
    try {
      const body = { ...postJson({ archived: !row.archived }), method: 'PUT' };
      client.setQueryData(
        boardsQuery.queryKey,
        await request(boardRowsSchema, api.archived(row.id), body),
      );
    } catch (error) {
      say(error, `${row.title} stays as it was`);
    }
  };

  const take = async (file: File): Promise<void> => {
    if (file.size > (isSheetFile(file.name) ? largestSheetCharacters : largestImportCharacters)) {
      setOutcome({
        kind: 'error',
        title: `${file.name} is too large`,
        lines: [
          `A sheet has at most ${largestSheetCharacters / 1e6} MB, a netlist ${largestImportCharacters / 1e6} MB. Nothing was saved.`,
        ],
      });
      return;
    }
    const text = await file.text();
    if (importFormat(text) !== null && !/^\s*(?:#|format:|\{)/.test(text)) {
      setOutcome(null);
      setPicked({ name: file.name, text });
      return;
    }
    const loaded = loadSheet(text);
    if (!loaded.ok) {
      setOutcome({
        kind: 'error',
        title: `${file.name} cannot be used; nothing was saved`,
        lines: loaded.error.map(sheetIssueText),
      });
      return;
    }
    const doubts = [...lintBoard(loaded.value, text), ...checkHealthyPlay(loaded.value, text)];
    try {
      setSaving(true);
      // Over a sheet that is there: as the next version of the one listed here.
      const present = all.find((one) => one.id === loaded.value.id)?.hash ?? null;
      await saveSheet(client, text, present);
      setOutcome({
        kind: doubts.length > 0 ? 'warning' : 'success',
        title: `${loaded.value.title} is saved${doubts.length > 0 ? ', with doubts' : ''}`,
        lines: doubts.map(sheetIssueText),
      });
    } catch (error) {
      setOutcome({
        kind: 'error',
        title: `${file.name} was not saved`,
        lines: [(error as Error).message],
      });
    } finally {
      setSaving(false);
    }
  };

  return (
    <div className="column">
      <header>
        <h1>Boards</h1>
        <Input
          allowClear
          aria-label="Search boards"
          placeholder="name, marking"
          style={{ width: 200 }}
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        <Checkbox
          checked={withArchived}
          onChange={(event) => setWithArchived(event.target.checked)}
        >
          put away too
        </Checkbox>
        <Button size="large" onClick={() => setFresh(fresh ? null : unnamed)}>
          A first sheet
        </Button>
        <Upload
          accept=".yaml,.yml,.json,.net,.ipc,.d356,.csv,.txt"
          showUploadList={false}
          beforeUpload={(file) => {
            void take(file);
            return false;
          }}
        >
          <Button type="primary" size="large" loading={isSaving}>
            Load a sheet or a netlist
          </Button>
        </Upload>
      </header>
      {boards.isError && (
        <Alert
          type="error"
          showIcon
          title="The boards cannot be shown"
          description={boards.error.message}
        />
      )}
      {outcome && (
        <Alert
          style={{ marginBottom: 16 }}
          type={outcome.kind}
          showIcon
          closable={{ onClose: () => setOutcome(null) }}
          title={outcome.title}
          description={
            outcome.lines.length > 0 && (
              <ul style={{ margin: 0, paddingLeft: 18 }}>
                {outcome.lines.slice(0, 20).map((line) => (
                  <li key={line}>{line}</li>
                ))}
                {outcome.lines.length > 20 && <li>and {outcome.lines.length - 20} more</li>}
              </ul>
            )
          }
        />
      )}
      {picked && (
        <ImportPanel
          key={picked.name + picked.text.length}
          picked={picked}
          boards={all}
          onClose={() => setPicked(null)}
        />
      )}
      {fresh && (
        <>
          <UnknownBoardFields {...fresh} placeholder="its name" onChange={setFresh} />
          <p>
            <Button type="primary" disabled={fresh.title.trim() === ''} onClick={() => void make()}>
              Make it and open it in Edit
            </Button>
          </p>
        </>
      )}
      <Table
        rowKey="id"
        loading={boards.isLoading}
        dataSource={shown}
        pagination={false}
        locale={{
          emptyText: <Empty description="No board sheet yet. Load one written in YAML or JSON." />,
        }}
        columns={[
          {
            title: 'Board',
            dataIndex: 'title',
            render: (title: string, row) => (
              <Link to={`/boards/${row.id}`}>
                <strong>{title}</strong>
              </Link>
            ),
          },
          { title: 'Revision', dataIndex: 'revision', width: 120 },
          {
            title: 'Depth',
            dataIndex: 'depth',
            width: 150,
            render: (depth: 'rails' | 'chips' | 'full') => depthText[depth],
          },
          {
            title: 'Checked',
            width: 150,
            render: (_, row) => <LintGlance board={row.id} hash={row.hash} />,
          },
          {
            title: 'Jobs',
            width: 130,
            render: (_, row) => {
              const had = (jobs.data ?? []).filter((one) => one.intake.board === row.id);
              const mended = had.filter(
                (one) => one.closed !== null && isMended(one.closed),
              ).length;
              return had.length === 0 ? (
                <span className="quiet">none</span>
              ) : (
                <Link to={`/boards/${row.id}/versions`}>
                  {had.length}
                  {mended > 0 && `, ${mended} repaired`}
                </Link>
              );
            },
          },
          {
            title: '',
            width: 400,
            render: (_, row) => (
              <Space size={4}>
                <Link to={`/boards/${row.id}/edit`}>Edit</Link>
                <Link to={`/boards/${row.id}/schematic`}>Schematic</Link>
                <Link to={`/boards/${row.id}/versions`}>Versions</Link>
                <Button size="small" type="text" onClick={() => void copy(row)}>
                  Copy
                </Button>
                <Dropdown
                  trigger={['click']}
                  menu={{
                    items: Object.entries(sheetFormats).map(([key, { title }]) => ({
                      key,
                      label: title,
                    })),
                    onClick: ({ key }) => void keepAsFile(row, key as SheetFormat),
                  }}
                >
                  <Button size="small" type="text">
                    Save as file
                  </Button>
                </Dropdown>
                <Button size="small" type="text" onClick={() => void archive(row)}>
                  {row.archived ? 'Take out again' : 'Put away'}
                </Button>
              </Space>
            ),
          },
        ]}
      />
    </div>
  );
}

/** What lint and a healthy play say of the present version; the sentences stand in Edit. */
function LintGlance({ board, hash }: { board: string; hash: string }) {
  const sheet = useQuery(boardQuery(board));
  const text = sheet.data?.hash === hash ? sheet.data.text : null;
  const check = useQuery({
    ...sheetCheckQuery(text ?? '', text ?? ''),
    enabled: text !== null,
    placeholderData: undefined,
    gcTime: 600_000,
  });
  if (sheet.isError || check.isError) return <span className="quiet">could not be checked</span>;
  if (!check.data) return <span className="quiet">…</span>;
  const { issues } = check.data;
  const first = issues[0];
  if (!first) return <span className="tone-good">no doubts</span>;
  return (
    <Link to={`/boards/${board}/edit`} title={first.text} className="tone-warn">
      {issues.length} {issues.length === 1 ? 'doubt' : 'doubts'}
    </Link>
  );
}

const isSheetFile = (name: string): boolean => /\.(?:ya?ml|json)$/i.test(name);

const unnamed = { title: '', marking: '', choices: nothingChosen };

const depthText = {
  rails: 'rails only',
  chips: 'chips and their pins',
  full: 'every part',
} as const;
