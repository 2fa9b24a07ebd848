import { isMended } from '../record/index.ts';
import { heading, paragraph, titledList, titledTable, type Printed } from './printed.ts';
import type { Report } from './report.ts';

/** The whole trace with its proof, for who works on the board next. */
export function technicianReport(report: Report): Printed {
  const { close } = report;
  const isFound = close !== null && isMended(close.outcome);
  const blocks = blocksOf(report, isFound);
  const words = new Set(JSON.stringify(blocks).split(/[^\w#+-]+/));
  return {
    title: report.title,
    blocks: [
      ...blocks,
      ...titledList(
        'Names that stand for parts nobody has found on the board yet',
        report.standIns
          .filter(({ ref }) => words.has(ref))
          .map(({ ref, title }) => `${ref}: ${title}`),
      ),
    ],
  };
}

function blocksOf(report: Report, isFound: boolean): Printed['blocks'] {
  const { missing, close, proof } = report;
  return [
    { kind: 'title', text: report.title },
    { kind: 'facts', facts: report.facts },
    heading('Finding'),
    ...(missing
      ? [
          paragraph(
            missing.why,
            `${missing.certain ? 'First missing stage' : 'First missing stage so far'}: ${missing.title}.`,
          ),
        ]
      : report.before.length === 0
        ? [paragraph('No missing stage has been read.')]
        : []),
    ...report.before.map((one) =>
      paragraph(one.why, `Before "${one.repair}" the first missing stage was: ${one.title}.`),
    ),
    paragraph(report.reached),
    ...(close
      ? [
          heading('Outcome'),
          paragraph(
            `Cause (${close.proof.replaceAll('-', ' ')}): ${(close.cause || 'none named').replace(/\.$/, '')}${close.parts && close.parts !== close.cause ? ` (${close.parts})` : ''}. ${close.reason}`,
            `Outcome: ${close.outcome.replaceAll('-', ' ')}.`,
          ),
        ]
      : []),
    ...titledList('Proof by the record', [
      `By the record: ${proof.proof.replaceAll('-', ' ')}${proof.parts.length > 0 ? `, ${proof.parts.join(', ')}` : ''}.`,
      ...proof.steps.map((one) => `${one.holds ? 'Yes' : 'No'}: ${one.text}.`),
      ...(proof.wanting ? [proof.wanting] : []),
    ]),
    ...titledList(
      'What was done',
      report.done.map((one) => `${one.text} (${one.who})`),
    ),
    ...titledList('Changed without effect', report.withoutEffect),
    ...titledList(isFound ? 'Read as good' : 'Excluded', report.excluded),
    ...titledList('Left when it was given up', report.left),
    ...titledTable(
      'Before and after',
      [
        ['Point', 0.4],
        ['Before', 0.2],
        ['After', 0.2],
        ['So', 0.2],
      ],
      report.retest,
    ),
    ...titledList('Before it went back', report.verified),
    ...titledList('Open ends', report.openEnds),
    ...report.sections.flatMap((one) => titledList(one.title, one.lines)),
    ...titledTable(
      'Readings',
      [
        ['Phase', 0.1],
        ['Point', 0.24],
        ['Reading', 0.12],
        ['Expected', 0.27],
        ['Verdict', 0.27],
      ],
      report.readings.map((row) => [
        row.phase,
        row.point,
        row.isVoid ? `(${row.reading})` : row.reading,
        row.expected,
        [row.verdict, row.aside, row.verdict === 'good' ? '' : row.why].filter(Boolean).join('; '),
      ]),
    ),
    ...titledList(
      'Stages on the way',
      report.stages.map((one) => `${one.title}: ${one.state}`),
    ),
    ...titledList(
      'Notes',
      report.notes.map((one) => `${one.text} (${one.who})`),
    ),
    ...(report.pictures.length > 0
      ? [
          heading('Pictures'),
          ...report.pictures.map((one) => ({ kind: 'picture' as const, ...one })),
        ]
      : []),
  ];
}
