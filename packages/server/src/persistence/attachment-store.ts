import type { DataSource } from 'typeorm';
import type { AttachmentRow } from '@jiko/contract';
import type { AttachmentStore } from '../jobs/attachments.ts';
import { AttachmentTable, JobTable } from './entities.ts';

export function makeAttachmentStore(source: DataSource): AttachmentStore {
  const repository = source.getRepository(AttachmentTable);
  return {
    jobExists: (id) => source.getRepository(JobTable).existsBy({ id }),
    async add(jobId, { id, name, type, bytes }, content) {
      const result = await repository
        .createQueryBuilder()
        .insert()
        .values({ id, jobId, name, type, bytes, content })
        .orIgnore()
        .returning('id')
        .execute();
      if ((result.raw as unknown[]).length > 0) return 'added';
      const there = await repository.findOneBy({ id });
      return there?.jobId === jobId && there.content.equals(content) ? 'known' : 'taken';
    },
    async read(id) {
      const found = await repository.findOneBy({ id });
      if (!found) return null;
      const { name, type, bytes, content } = found;
      return { row: { id, name, type: type as AttachmentRow['type'], bytes }, content };
    },
  };
}
