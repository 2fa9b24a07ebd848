#!/usr/bin/env node
import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

// The data as a whole is kept by the scripts that start it, with built-in modules only.
const keeps = ['backup', 'restore', 'upgrade', 'where', 'export-job', 'import-job'];
const [command = '', ...words] = process.argv.slice(2);
if (keeps.includes(command)) {
  const tool = fileURLToPath(new URL('../../../scripts/data.mjs', import.meta.url));
  const done = spawnSync(process.execPath, [tool, command, ...words], { stdio: 'inherit' });
  process.exitCode = done.status ?? 1;
} else {
  await import('@oxc-node/core/register');
  const { main } = await import('../src/main.ts');
  process.exitCode = await main(process.argv.slice(2), process.stdout, process.stderr);
}
