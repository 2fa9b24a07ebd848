import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { holdFolder } from './data-folder.mjs';
import { folder, run } from './test-cluster.mjs';

/** The process that holds a lock on a file, as the kernel tells it; 0: nobody. @param {string} file */
function keeperOf(file) {
  const { ino } = statSync(file);
  const found = readFileSync('/proc/locks', 'utf8')
    .split('\n')
    .find((line) => line.includes(`:${ino} `) && !line.includes('->'));
  return Number(found?.trim().split(/\s+/)[4] ?? 0);
}

/** @param {number} id */
function parentOf(id) {
  try {
    return Number(/\nPPid:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1]);
  } catch {
    return 0;
  }
}

/** Whether somebody stands in line for the lock on a file. @param {string} file */
const isWaitedFor = (file) => {
  const { ino } = statSync(file);
  return readFileSync('/proc/locks', 'utf8')
    .split('\n')
    .some((line) => line.includes(`:${ino} `) && line.includes('->'));
};

describe('one holder', () => {
  it('is told of by its address, and followed at once when it is killed', async () => {
    const place = folder();
    const holder = spawn(
      process.execPath,
      [
        '--input-type=module',
        '-e',
        `import { holdFolder } from ${JSON.stringify(new URL('./data-folder.mjs', import.meta.url).href)};
         const held = await holdFolder(${JSON.stringify(place)});
         held.says('http://127.0.0.1:4600');
         console.log('held');
         setInterval(() => {}, 1000);`,
      ],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    await new Promise((done) => holder.stdout.once('data', done));
    await expect(holdFolder(place)).rejects.toThrow(
      `Jiko already runs on this data: http://127.0.0.1:4600 (data folder ${place}).`,
    );
    // Restoring under a running app is refused the same way, before anything is looked at.
    const refused = run(place, 'restore', '/nowhere');
    expect(refused.text.trim().split('\n')).toEqual([expect.stringContaining('already runs')]);
    holder.kill('SIGKILL');
    await new Promise((done) => holder.once('exit', done));
    /** @type {Awaited<ReturnType<typeof holdFolder>> | null} */
    let held = null;
    for (let tries = 0; held === null && tries < 50; tries++)
      held = await holdFolder(place).catch(() => new Promise((done) => setTimeout(done, 50, null)));
    expect(held).not.toBeNull();
    await held?.release();
    const next = await holdFolder(place);
    await next.release();
  });

  it('two at once: one gets it', async () => {
    const place = folder();
    const both = await Promise.allSettled([holdFolder(place), holdFolder(place)]);
    const got = both.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
    expect(got).toHaveLength(1);
    expect(
      both.flatMap((one) => (one.status === 'rejected' ? [one.reason.message] : []))[0],
    ).toMatch(/try again in a moment/);
    await got[0]?.release();
  });

  it('keeps the lock when what keeps it is killed, and lets go of it in the end', async () => {
    const place = folder();
    /** @type {string[]} */
    const lost = [];
    const held = await holdFolder(place, (words) => lost.push(words));
    const keeper = () => keeperOf(join(place, 'lock'));
    const first = keeper();
    expect(first).toBeGreaterThan(0);
    process.kill(first, 'SIGKILL');
    // While the killed one goes away the kernel tells it, nobody, or an odd number.
    const isAnother = () => keeper() !== first && parentOf(keeper()) === process.pid;
    for (let tries = 0; !isAnother() && tries < 1000; tries++)
      await new Promise((done) => setTimeout(done, 20));
    await expect(holdFolder(place)).rejects.toThrow('try again in a moment');
    await held.release();
    const next = await holdFolder(place);
    await next.release();
    expect(lost).toEqual([]);
  });

  it('says so where somebody else got the lock first', async () => {
    const place = folder();
    /** @type {string[]} */
    const lost = [];
    const held = await holdFolder(place, (words) => lost.push(words));
    const own = keeperOf(join(place, 'lock'));
    const other = spawn('flock', [join(place, 'lock'), 'sh', '-c', 'echo got; exec sleep 60'], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    for (let tries = 0; !isWaitedFor(join(place, 'lock')) && tries < 1000; tries++)
      await new Promise((done) => setTimeout(done, 20));
    process.kill(own, 'SIGKILL');
    for (let tries = 0; lost.length === 0 && tries < 1000; tries++)
      await new Promise((done) => setTimeout(done, 20));
    expect(lost.join()).toContain('The lock was lost');
    // It ends all the same, and at once.
    await held.release();
    other.kill('SIGKILL');
    await once(other, 'exit');
  });
});
