import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Alert, Button, Empty, Table, Upload } from 'antd';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, boardRowSchema, largestSheetCharacters } from '@jiko/contract';
import { lintBoard, loadSheet, sheetIssueText } from '@jiko/core/board';
import { checkHealthyPlay } from '@jiko/core/powerup';
import { postJson, request } from '../../data/http.ts';
import { boardsQuery } from '../../data/queries.ts';

interface Outcome {
  kind: 'success' | 'error' | 'warning';
  title: string;
  lines: string[];
}

export function BoardsPage() {
  const boards = useQuery(boardsQuery);
  const client = useQueryClient();
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const save = useMutation({
    mutationFn: (text: string) => request(boardRowSchema, api.boards, postJson({ text })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['boards'] }),
  });

  const take = async (file: File): Promise<void> => {
    if (file.size > largestSheetCharacters) {
      setOutcome({
        kind: 'error',
        title: `${file.name} is too large`,
        lines: [`A sheet has at most ${largestSheetCharacters / 1e6} MB. Nothing was saved.`],
      });
      return;
    }
    const text = await file.text();
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
      await save.mutateAsync(text);
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
    }
  };

  return (
    <div className="column">
      <header>
        <h1>Boards</h1>
        <Upload
          accept=".yaml,.yml,.json"
          showUploadList={false}
          beforeUpload={(file) => {
            void take(file);
            return false;
          }}
        >
          <Button type="primary" size="large" loading={save.isPending}>
            Load a sheet
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
      <Table
        rowKey="id"
        loading={boards.isLoading}
        dataSource={boards.data ?? []}
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
            width: 220,
            render: (depth: 'rails' | 'chips' | 'full') => depthText[depth],
          },
          {
            title: 'Sheet version',
            dataIndex: 'hash',
            width: 200,
            render: (hash: string) => <span className="mono quiet">{hash}</span>,
          },
        ]}
      />
    </div>
  );
}

const depthText = {
  rails: 'rails only',
  chips: 'chips and their pins',
  full: 'every part',
} as const;
