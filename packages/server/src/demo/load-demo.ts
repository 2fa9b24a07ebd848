import { In, type DataSource } from 'typeorm';
import { loadSheet, type Board } from '@jiko/core/board';
import type { BoardUseCases } from '../boards/boards.ts';
import type { JobUseCases } from '../jobs/jobs.ts';
import { demoJobs } from './demo-jobs.ts';

/**
 * Puts the demo boards and jobs in: `once` only into a database without boards, `reset` in place of
 * the demo jobs that are there. Jobs of the user's own are never touched.
 */
export async function loadDemo(
  database: DataSource,
  boards: BoardUseCases,
  jobs: JobUseCases,
  sheets: readonly string[],
  when: 'once' | 'reset',
): Promise<{ boards: number; jobs: number }> {
  if (when === 'once' && (await boards.list()).length > 0) return { boards: 0, jobs: 0 };
  const loaded: Board[] = [];
  for (const text of sheets) {
    const saved = await boards.save(text);
    const sheet = loadSheet(text);
    if (!saved.ok || !sheet.ok) throw new Error(`a demo sheet does not load: ${text.slice(0, 80)}`);
    loaded.push(sheet.value);
  }
  const cases = demoJobs(loaded, new Date());
  if (when === 'reset') {
    const ids = cases.map((one) => one.id);
    await database.transaction(async (manager) => {
      await manager.delete('attachment', { jobId: In(ids) });
      await manager.delete('job_event', { jobId: In(ids) });
      await manager.delete('job', { id: In(ids) });
    });
  }
  for (const { id, events } of cases) {
    const first = await jobs.open({ id, events });
    if (!first.ok) throw new Error(first.problem.title);
  }
  return { boards: loaded.length, jobs: cases.length };
}
