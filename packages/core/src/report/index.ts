export { buildReport, type Report, type ReportRow } from './report.ts';
export { ownerReport } from './owner.ts';
export { technicianReport } from './technician.ts';
export {
  blockSchema,
  printedMarkdown,
  printedSchema,
  type Block,
  type Printed,
} from './printed.ts';
