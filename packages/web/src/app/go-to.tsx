import { useQuery } from '@tanstack/react-query';
import { AutoComplete, Modal } from 'antd';
import { useMemo, useState } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { deriveJob } from '@jiko/core/record';
import { sums } from '@jiko/core/sums';
import { findWords } from '@jiko/core/words';
import { boardsQuery, jobQuery, jobSearchQuery, jobSheetQuery } from '../data/queries.ts';
import { boardOf } from '../data/read-sheet.ts';
import { groupsFor, type GoTarget } from './go-targets.ts';

const pages: readonly [title: string, to: string, also: string][] = [
  ['New job', '/jobs/new', 'take in'],
  ['Jobs', '/jobs', 'bench'],
  ['Boards', '/boards', 'sheets'],
  ['Shelf', '/shelf', 'stock, donor boards'],
  ['Sums', '/sums', 'calculations'],
  ['Words', '/words', 'glossary, rules of thumb'],
  ['Shop', '/shop', 'backup, dates, demo'],
];
const views: readonly [title: string, path: string, also: string][] = [
  ['Door', 'door', 'intake, signs, draw'],
  ['Look', 'look', 'findings, picture'],
  ['Cold', 'cold', 'ohms, diode-mode, power up'],
  ['Trace', 'trace', 'readings, suspects'],
  ['Stage', 'stage', 'pins, short hunt'],
  ['Repair', 'repair', 'done, verify, close'],
  ['Report', 'report', 'owner, print'],
];

/** Ctrl K: any job, board, net, part, sum, word or page by a few letters. */
export function GoTo({ job, onClose }: { job: string | null; onClose: () => void }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [typed, setTyped] = useState('');
  const jobs = useQuery(jobSearchQuery({ q: typed.slice(0, 200) }));
  const boards = useQuery(boardsQuery);
  const here = useBoardOfJob(job);
  const ofJob = useMemo(() => (job && here ? inJob(job, here) : []), [job, here]);
  const targets: GoTarget[] = [
    ...ofJob,
    ...pages.map(([title, to, also]) => page(title, to, also)),
    ...(job ? views.map(([title, path, also]) => page(title, `/jobs/${job}/${path}`, also)) : []),
    ...(boards.data ?? []).map((board): GoTarget => ({
      kind: 'board',
      title: board.title,
      beside: board.id,
      also: [board.id],
      to: `/boards/${board.id}`,
    })),
    ...sums.map((sum): GoTarget => ({
      kind: 'sum',
      title: sum.title,
      beside: sum.asks,
      also: [sum.asks],
      to: `/sums/${sum.id}`,
    })),
    ...(typed.trim() === '' ? [] : findWords(typed)).map((word): GoTarget => ({
      kind: 'word',
      title: word.term,
      beside: word.says,
      also: [`${word.says} ${word.room}`],
      to: `/words?q=${encodeURIComponent(word.term)}`,
    })),
  ];
  // While the next ones are fetched, those of the letters before would be gone to by mistake.
  const isOld = typed.trim() === '' || jobs.isPlaceholderData;
  const hits = (isOld ? [] : (jobs.data?.rows ?? [])).map((row): GoTarget => ({
    kind: 'job',
    title: row.intake.device,
    beside: `${row.boardTitle}: ${row.intake.complaint}`,
    also: [],
    to: `/jobs/${row.id}/trace`,
  }));
  const options = groupsFor(typed, targets, hits).map(({ title: label, targets: some }) => ({
    label,
    options: some.map(({ title, beside, to }) => ({
      value: to,
      label: (
        <span className="go-to">
          <strong>{title}</strong> <span className="quiet">{beside}</span>
        </span>
      ),
    })),
  }));
  const go = (to: string): void => {
    onClose();
    if (to !== pathname) void navigate(to);
  };
  return (
    <Modal
      open
      title="Go to"
      footer={null}
      width={640}
      style={{ top: 60 }}
      onCancel={onClose}
      styles={{ body: { minHeight: 480 } }}
    >
      <AutoComplete
        autoFocus
        open
        defaultActiveFirstOption
        style={{ width: '100%' }}
        listHeight={420}
        value={typed}
        options={options}
        showSearch={{ filterOption: false, onSearch: setTyped }}
        onSelect={go}
        // The open list would keep it to itself.
        onKeyDown={(event) => event.key === 'Escape' && onClose()}
        aria-label="Go to"
        placeholder="a job, board, net, part, sum, word or page"
        notFoundContent="Nothing is called that."
        getPopupContainer={(node) => node.parentElement ?? document.body}
      />
    </Modal>
  );
}

const page = (title: string, to: string, also: string): GoTarget => ({
  kind: 'page',
  title,
  beside: also,
  also: [also],
  to,
});

/** The board a job stands on, read as its pages read it; null outside a job and while it is fetched. */
function useBoardOfJob(id: string | null) {
  const detail = useQuery({ ...jobQuery(id ?? ''), enabled: id !== null });
  const job = useMemo(() => (detail.data ? deriveJob(detail.data.events) : null), [detail.data]);
  const sheet = useQuery({ ...jobSheetQuery(job), enabled: job !== null });
  return sheet.data ? boardOf(sheet.data) : null;
}

function inJob(job: string, board: NonNullable<ReturnType<typeof boardOf>>): GoTarget[] {
  const at = (point: string): string => `/jobs/${job}/trace?point=${encodeURIComponent(point)}`;
  return [
    ...board.nets.map((net): GoTarget => ({
      kind: 'net',
      title: net.id,
      beside: net.title,
      also: [...net.aliases, net.title],
      to: at(net.id),
    })),
    ...[...board.parts, ...board.chips.filter(({ virtual }) => !virtual)].map((part): GoTarget => ({
      kind: 'part',
      title: part.ref,
      beside: part.title || part.kind,
      also: [part.title],
      to: at(part.ref),
    })),
  ];
}
