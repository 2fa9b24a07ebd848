import { readFileSync } from 'node:fs';
import { percent, type Figure } from './hidden-faults.ts';

interface MutationReport {
  files: Record<string, { mutants: { status: string; mutatorName: string }[] }>;
}

/** What `npm run mutants` left last, by file: how many changes the tests noticed; none where it never ran. */
export function mutantRows(path: URL): Figure[] {
  let report: MutationReport;
  try {
    report = JSON.parse(readFileSync(path, 'utf8')) as MutationReport;
  } catch {
    return [];
  }
  return Object.entries(report.files).map(([file, { mutants }]) => {
    const valid = mutants.filter(
      (one) => !['CompileError', 'RuntimeError', 'Ignored'].includes(one.status),
    );
    const noticed = valid.filter((one) => one.status === 'Killed' || one.status === 'Timeout');
    return [
      `mutants of ${file.replace('packages/core/src/', '')} noticed by the tests beside it`,
      '75 %',
      `${percent(noticed.length, valid.length)} of ${valid.length}`,
    ];
  });
}
