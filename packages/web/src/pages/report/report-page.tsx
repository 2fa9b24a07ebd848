import dayjs from 'dayjs';
import { useMutation } from '@tanstack/react-query';
import { Alert, Button, Segmented, Skeleton, Space } from 'antd';
import { useMemo } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { api } from '@jiko/contract';
import { readingsCsv } from '@jiko/core/formats';
import {
  buildReport,
  ownerReport,
  printedMarkdown,
  technicianReport,
  type Printed,
} from '@jiko/core/report';
import { requestBlob } from '../../data/http.ts';
import { useHealthyBoard } from '../../data/job-on-board.ts';
import { useJob } from '../../data/queries.ts';
import { saveBlob, saveFile } from '../../data/save-file.ts';
import { PrintedView } from './printed-view.tsx';
import '../../widgets/readings.css';
import './report.css';

/** What was attached differs from reading to reading: the report judges by the bare board. */
const nothingAttached: readonly string[] = [];

/** The write-up, for the owner and for who works on the board next, from one record. */
export function ReportPage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const isOwner = params.get('for') === 'owner';
  const { job, events, error, isLoading } = useJob(id);
  const { healthy, trouble } = useHealthyBoard(job, job?.intake?.source ?? '', nothingAttached);
  const printed = useMemo(() => {
    if (!healthy || events.length === 0) return null;
    return isOwner
      ? ownerReport(healthy, events, (at) => dayjs(at).format('YYYY-MM-DD'))
      : technicianReport(buildReport(healthy, events));
  }, [events, healthy, isOwner]);
  const pdf = useMutation({
    mutationFn: (report: Printed) => requestBlob(api.print, report),
    onSuccess: (blob, report) => saveBlob(`${fileName(report, isOwner)}.pdf`, blob),
  });

  if (error || trouble)
    return (
      <div className="column">
        <Alert
          type="error"
          showIcon
          title="This report cannot be shown"
          description={error?.message ?? trouble}
        />
      </div>
    );
  if (isLoading || !printed || !job || !healthy)
    return (
      <div className="column">
        <Skeleton active />
      </div>
    );
  const name = fileName(printed, isOwner);
  return (
    <article className={`report${isOwner ? ' is-owner' : ''}`}>
      <div className="report-bar no-print">
        <Segmented
          aria-label="Who reads the report"
          value={isOwner ? 'owner' : 'next'}
          onChange={(next) =>
            setParams(next === 'owner' ? { for: 'owner' } : {}, { replace: true })
          }
          options={[
            { value: 'owner', label: 'For the owner' },
            { value: 'next', label: 'For the next technician' },
          ]}
        />
        <Space wrap>
          <Button
            onClick={() =>
              saveFile(
                `${name}.csv`,
                readingsCsv(
                  healthy.board,
                  job.readings
                    .filter((one) => one.standing.kind === 'stands')
                    .map((one) => one.reading),
                ),
                'text/csv',
              )
            }
          >
            Readings as CSV
          </Button>
          <Button onClick={() => saveFile(`${name}.md`, printedMarkdown(printed), 'text/markdown')}>
            Save as Markdown
          </Button>
          <Button loading={pdf.isPending} onClick={() => pdf.mutate(printed)}>
            Save as PDF
          </Button>
          <Button type="primary" onClick={() => window.print()}>
            Print
          </Button>
        </Space>
      </div>
      {pdf.error && (
        <Alert
          className="no-print"
          type="error"
          showIcon
          title="The PDF could not be made"
          description={pdf.error.message}
        />
      )}
      <PrintedView printed={printed} />
    </article>
  );
}

const fileName = (report: Printed, isOwner: boolean): string =>
  `${report.title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}${isOwner ? '-owner' : ''}`;
