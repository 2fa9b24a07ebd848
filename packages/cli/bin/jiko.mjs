#!/usr/bin/env node
import '@oxc-node/core/register';

const { main } = await import('../src/main.ts');
process.exitCode = await main(process.argv.slice(2), process.stdout, process.stderr);
