import type { DataSource } from 'typeorm';
import { loadSheet, type Board } from '@jiko/core/board';
import type { BoardUseCases } from '../boards/boards.ts';
import type { DocumentUseCases } from '../boards/documents.ts';
import type { JobUseCases } from '../jobs/jobs.ts';
import type { SettingStore } from '../persistence/setting-store.ts';
import { demoJobs } from './demo-jobs.ts';

export type DemoState = 'loaded' | 'left-out' | 'removed';

export interface Demo {
  /**
   * `once` only where nothing was said of a demo yet, `never` says that none is wanted. Once left out or
   * removed, it does not come back by itself.
   */
  begin(when: 'once' | 'never'): Promise<{ boards: number; jobs: number }>;
  /** In place of the demo jobs that are there. Jobs of the user's own are never touched. */
  reset(): Promise<{ boards: number; jobs: number }>;
  /** Takes the demo jobs away, and those of its sheets no other job stands on. */
  remove(): Promise<void>;
  state(): Promise<DemoState>;
}

/** What the demo is loaded from: sheets as text, and schematics by board. */
export interface DemoFiles {
  sheets: readonly string[];
  schematics: readonly { board: string; name: string; content: Buffer }[];
}

/** Demo schematics are told by their ids, as demo jobs are. */
const schematicId = (at: number): string =>
  `0d0e0000-0000-4000-8000-0000d0c00${String(at).padStart(3, '0')}`;

/** `database` may delete what is the demo's, by the functions made for it, and nothing else. */
export function makeDemo(
  database: DataSource,
  boards: BoardUseCases,
  jobs: JobUseCases,
  settings: SettingStore,
  documents: DocumentUseCases,
  readDemo: () => Promise<DemoFiles>,
): Demo {
  const readSheets = async (): Promise<readonly string[]> => (await readDemo()).sheets;
  const load = async (): Promise<{ boards: number; jobs: number }> => {
    const loaded: Board[] = [];
    for (const text of await readSheets()) {
      const sheet = loadSheet(text);
      const present = sheet.ok ? await boards.find(sheet.value.id, null) : null;
      const saved = await boards.save(text, present?.ok ? present.value.hash : null);
      if (!saved.ok || !sheet.ok)
        throw new Error(`a demo sheet does not load: ${text.slice(0, 80)}`);
      loaded.push(sheet.value);
    }
    const cases = demoJobs(loaded, new Date());
    for (const { id, events } of cases) {
      const first = await jobs.open({ id, events });
      if (!first.ok) throw new Error(first.problem.title);
    }
    for (const [at, { board, name, content }] of (await readDemo()).schematics.entries()) {
      const kept = await documents.add(
        board,
        { id: schematicId(at), kind: 'schematic', name },
        content,
      );
      if (!kept.ok) throw new Error(kept.problem.detail ?? kept.problem.title);
    }
    await settings.keep('demo', 'loaded');
    return { boards: loaded.length, jobs: cases.length };
  };
  const removeJobs = (): Promise<unknown> => database.query('SELECT remove_demo_jobs()');
  return {
    async begin(when) {
      if ((await settings.read('demo')) !== null) return { boards: 0, jobs: 0 };
      if (when === 'once') return load();
      await settings.keep('demo', 'left-out');
      return { boards: 0, jobs: 0 };
    },
    async reset() {
      await removeJobs();
      return load();
    },
    async remove() {
      await removeJobs();
      await database.query(
        `DELETE FROM board_document WHERE id::text LIKE '0d0e0000-0000-4000-8000-%'`,
      );
      for (const text of await readSheets()) {
        const sheet = loadSheet(text);
        if (!sheet.ok) continue;
        // A version of one's own keeps the board; so does a job on it.
        await database.query(
          `DELETE FROM board_version WHERE id = $1 AND hash = $2
             AND NOT EXISTS (SELECT FROM job WHERE intake->>'board' = $1)
             AND NOT EXISTS (SELECT FROM board_version WHERE id = $1 AND hash <> $2)`,
          [sheet.value.id, sheet.value.hash],
        );
      }
      await settings.keep('demo', 'removed');
    },
    state: async () => ((await settings.read('demo')) as DemoState | null) ?? 'left-out',
  };
}
