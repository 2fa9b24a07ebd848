import { connect } from 'node:net';
import { setTimeout } from 'node:timers/promises';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { api } from '@jiko/contract';
import { startBench, type TestBench } from '../../test/test-server.ts';

let bench: TestBench;
beforeAll(async () => {
  bench = await startBench();
});
afterAll(() => bench.end());

it('an upload that breaks off is the sender’s trouble: health says nothing of a database', async () => {
  const { hostname, port } = new URL(bench.base);
  const socket = connect(Number(port), hostname);
  socket.write(
    `POST ${api.jobFiles} HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/zip\r\nContent-Length: 100000\r\n\r\nPK`,
  );
  await setTimeout(200);
  socket.destroy();
  await setTimeout(300);
  const health = await fetch(`${bench.base}${api.health}`);
  expect(health.status).toBe(200);
  expect(await health.json()).toMatchObject({ status: 'ok', because: null });
});
