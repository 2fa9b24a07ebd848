import type { Report } from './report.ts';

/** The report as Markdown (CommonMark with the usual pipe tables). */
export function reportMarkdown(report: Report): string {
  const lines: string[] = [`# ${inline(report.title)}`, ''];
  for (const fact of report.facts) lines.push(`- **${fact.name}:** ${inline(fact.value)}`);
  lines.push('', '## Finding', '');
  if (report.missing) {
    const sure = report.missing.certain ? 'First missing stage' : 'First missing stage so far';
    lines.push(`**${sure}: ${inline(report.missing.title)}.** ${inline(report.missing.why)}`, '');
  } else if (report.before.length === 0) lines.push('No missing stage has been read.', '');
  for (const one of report.before) {
    lines.push(
      `**Before "${inline(one.repair)}" the first missing stage was: ${inline(one.title)}.** ${inline(one.why)}`,
      '',
    );
  }
  lines.push(report.reached, '');
  if (report.close) {
    lines.push(
      '## Outcome',
      '',
      `${report.close.outcome}. Cause (${report.close.proof}): ${inline(report.close.cause)}${report.close.reason && ` ${inline(report.close.reason)}`}`,
      '',
    );
  }
  for (const { title, lines: said } of report.sections)
    lines.push(`## ${title}`, '', ...said.map((one) => `- ${inline(one)}`), '');
  lines.push('## What was done', '');
  if (report.done.length === 0) lines.push('Nothing was changed on the board.', '');
  else lines.push(...report.done.map((one) => `- ${inline(one.text)} (${inline(one.who)})`), '');
  lines.push('## Readings', '');
  if (report.readings.length === 0) lines.push('None.', '');
  else {
    lines.push(
      '| phase | point | reading | expected | verdict | why |',
      '| --- | --- | --- | --- | --- | --- |',
    );
    for (const row of report.readings) {
      const strike = (text: string): string => (row.isVoid ? `~~${cell(text)}~~` : cell(text));
      const why = row.aside ? `${row.why} (${row.aside})` : row.why;
      lines.push(
        `| ${row.phase} | ${cell(row.point)} | ${strike(row.reading)} | ${cell(row.expected)} | ${row.verdict} | ${cell(why)} |`,
      );
    }
    lines.push('');
  }
  lines.push(
    '## Stages on the way',
    '',
    ...report.stages.map((one) => `- ${inline(one.title)}: ${one.state}`),
    '',
  );
  if (report.notes.length > 0) {
    lines.push(
      '## Notes',
      '',
      ...report.notes.map((one) => `- ${inline(one.text)} (${inline(one.who)})`),
      '',
    );
  }
  return lines.join('\n');
}

/** Keeps what a user typed from being read as markup. */
const inline = (text: string): string =>
  text.replace(/([\\`*_[\]<>|~])/g, '\\$1').replace(/\s*\n\s*/g, ' ');
const cell = inline;
