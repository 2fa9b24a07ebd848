import { Writable } from 'node:stream';
import pino from 'pino';
import { QueryFailedError } from 'typeorm';
import { expect, it } from 'vitest';
import { loggedError } from './log-error.ts';

it('a log says what failed and where, and nothing of what was being written', () => {
  const lines: string[] = [];
  const sink = new Writable({
    write(chunk: Buffer, _encoding, done) {
      lines.push(chunk.toString());
      done();
    },
  });
  const logger = pino({ serializers: { err: loggedError } }, sink);
  const cause = Object.assign(new Error('disk full'), {
    code: '53100',
    detail: 'Key (complaint)=(Dead since the tea) already exists.',
  });
  const picture = Buffer.alloc(2_000_000, 7);
  logger.error(
    { err: new QueryFailedError('INSERT INTO job_event', ['Dead since the tea', picture], cause) },
    'request failed',
  );
  expect(lines).toHaveLength(1);
  expect(lines[0]).toContain('disk full');
  expect(lines[0]).toContain('log-error.test.ts');
  expect(JSON.parse(lines[0]!)).toMatchObject({ err: { type: 'QueryFailedError', code: '53100' } });
  expect(lines[0]).not.toContain('tea');
  expect(lines[0]!.length).toBeLessThan(5000);
});
