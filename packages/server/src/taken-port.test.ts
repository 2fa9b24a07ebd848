import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createServer, type AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';

const database = `port_${randomUUID().slice(0, 8)}`;
const urlOf = (name: string): string => {
  const url = new URL(process.env['TEST_DATABASE_URL']!);
  url.pathname = `/${name}`;
  return url.toString();
};
async function asAdmin(text: string): Promise<void> {
  const admin = new pg.Client({ connectionString: urlOf('postgres') });
  await admin.connect();
  await admin.query(text);
  await admin.end();
}
beforeAll(() => asAdmin(`CREATE DATABASE ${database}`));
afterAll(() => asAdmin(`DROP DATABASE ${database} WITH (FORCE)`));

it('a port that is taken is told in one line, without a stack', async () => {
  const holder = createServer();
  await new Promise<void>((resolve) => holder.listen(0, '127.0.0.1', resolve));
  const { port } = holder.address() as AddressInfo;
  const server = spawn(
    process.execPath,
    ['--import', '@oxc-node/core/register', fileURLToPath(new URL('./main.ts', import.meta.url))],
    {
      cwd: fileURLToPath(new URL('../../..', import.meta.url)),
      env: {
        ...process.env,
        DATABASE_URL: urlOf(database),
        PORT: String(port),
        HOST: '127.0.0.1',
        LOG_LEVEL: 'silent',
        JIKO_DEMO: 'none',
      },
    },
  );
  let said = '';
  server.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  server.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const code = await new Promise((resolve) => server.once('exit', resolve));
  holder.close();
  expect(said.trim()).toBe(`Port ${port} is taken: set PORT to another one.`);
  expect(code).toBe(1);
}, 60_000);
