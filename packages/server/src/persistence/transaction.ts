import type { DataSource, EntityManager } from 'typeorm';

/** Two changes that met: each waited for the other (40P01), or built on what the other changed (40001). */
export const isMeeting = (error: unknown): boolean =>
  ['40P01', '40001'].includes(String((error as { code?: unknown }).code));

/** Each meeting leaves one of the two done, so a few tries do. */
const mostTries = 6;

/** Does `work` in one transaction; anew from its beginning where it met another one. */
export async function inTransaction<T>(
  source: DataSource,
  work: (manager: EntityManager) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    try {
      return await source.transaction(work);
    } catch (error) {
      if (tries === mostTries || !isMeeting(error)) throw error;
      // Not both at the same time again.
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 20 * tries));
    }
  }
}
