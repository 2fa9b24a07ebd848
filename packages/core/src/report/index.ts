export { buildReport, type Report, type ReportRow } from './report.ts';
export { reportMarkdown } from './markdown.ts';
