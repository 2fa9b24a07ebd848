import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  statSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { backup, dailyBackups, thinOut } from './archive.mjs';
import { runningCluster, startCluster } from './cluster.mjs';
import { environmentOf, sql } from './connection.mjs';
import { wholeMark } from './data-folder.mjs';
import { count, fill, folder, itLong, preparedFolder, run, tool } from './test-cluster.mjs';

describe('backup and restore', () => {
  it('while it runs: every row read back, and restored whole into a new folder', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 3000);
    const file = join(place, 'all.backup');
    // Entries go on arriving: the file is of one moment.
    const writing = spawn(
      join(cluster.bin, 'psql'),
      [
        '-X',
        '-q',
        '-c',
        "INSERT INTO job_event SELECT n, 'late' FROM generate_series(1, 200000) n",
      ],
      { stdio: 'ignore', env: environmentOf(cluster.ownerUrl) },
    );
    const done = run(place, 'backup', file);
    expect(done.text).toMatch(/1 jobs with \d+ entries.*read back whole/);
    if (writing.exitCode === null) await once(writing, 'exit');
    expect(run(place, 'backup', file).text).toContain('is there already');
    expect(runningCluster(place)).not.toBeNull();
    cluster.stop();

    const other = folder();
    expect(run(other, 'restore', file).text).toMatch(
      /Restored from .*: 1 jobs with \d+ entries, counted after/,
    );
    const restored = await startCluster(other);
    expect([3000, 203000]).toContain(count(restored));
    expect(
      sql(restored.bin, restored.ownerUrl, 'SELECT body FROM job_event WHERE id = 7 LIMIT 1'),
    ).toBe('line\nbreak \\. tab\t 7');
    expect(sql(restored.bin, restored.ownerUrl, 'SELECT count(*) FROM dictionary')).toBe('0');
    restored.stop();
  });

  itLong('never over data without being told so, and then what was there is kept', async () => {
    const place = await preparedFolder();
    const first = await startCluster(place);
    fill(first, 10);
    first.stop();
    expect(run(place, 'backup', join(place, 'ten.backup')).status).toBe(0);
    const more = await startCluster(place);
    fill(more, 5);
    more.stop();
    const refused = run(place, 'restore', join(place, 'ten.backup'));
    expect(refused).toMatchObject({
      status: 1,
      text: expect.stringContaining('With --replace it is set aside'),
    });
    const done = run(place, 'restore', join(place, 'ten.backup'), '--replace');
    expect(done.text).toContain('What was there is kept');
    const now = await startCluster(place);
    expect(count(now)).toBe(10);
    now.stop();
    const aside = readdirSync(place).find((name) => /^pg\.set-aside-[\dT-]+$/.test(name));
    expect(existsSync(join(place, String(aside), 'PG_VERSION'))).toBe(true);
    expect(existsSync(join(place, `${aside}.password`))).toBe(true);
  });

  it('a damaged or strange file is said at once, and changes nothing', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 5000);
    const file = join(place, 'b.backup');
    run(place, 'backup', file);
    truncateSync(file, statSync(file).size - 2000);
    cluster.stop();
    const other = folder();
    writeFileSync(join(other, 'holiday.jpg'), 'no archive');
    expect(run(other, 'restore', file).text).toContain('is no backup that can be read');
    expect(run(other, 'restore', join(other, 'holiday.jpg')).text).toContain('is no backup');
    expect(run(other, 'restore', join(other, 'none')).text).toContain('There is no file');
    expect(readdirSync(other).filter((name) => name !== 'lock')).toEqual(['holiday.jpg']);
    expect(run(other, 'backup').text).toContain('holds no data yet');
    expect(run(other, 'import-job', file).text).toContain('No Jiko runs on');
    expect(run(other, 'export-job', 'no id').text).toContain('npx jiko export-job');
  });

  itLong('the one of the day is only replaced by one that reads back', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 20);
    expect(run(place, 'backup', '--daily').text).toContain('20 entries');
    const [day = ''] = dailyBackups(join(place, 'backups'));
    const before = readFileSync(join(place, 'backups', day));
    // Tables that cannot be dumped: the attempt fails.
    sql(cluster.bin, cluster.ownerUrl, 'ALTER TABLE migrations RENAME TO elsewhere');
    expect(run(place, 'backup', '--daily').status).toBe(1);
    expect(readFileSync(join(place, 'backups', day)).equals(before)).toBe(true);
    expect(readdirSync(join(place, 'backups'))).toEqual([day]);
    sql(cluster.bin, cluster.ownerUrl, 'ALTER TABLE elsewhere RENAME TO migrations');
    fill(cluster, 5);
    expect(run(place, 'backup', '--daily').text).toContain('25 entries');
    cluster.stop();
  });

  it('a restore cut off between its two renames begins nothing anew', async () => {
    const place = folder();
    mkdirSync(join(place, 'restoring-0123abcd', 'pg'), { recursive: true });
    writeFileSync(join(place, 'restoring-0123abcd', 'pg', 'PG_VERSION'), '15\n');
    mkdirSync(join(place, 'pg.set-aside-2026-11-26T100000'));
    await expect(startCluster(place)).rejects.toThrow(/A restore was cut off.*restoring-0123abcd/s);
    expect(existsSync(join(place, 'pg'))).toBe(false);
  });

  it('daily ones are kept seven deep, and nothing else beside them is touched', () => {
    const place = folder();
    for (let day = 1; day <= 9; day++)
      writeFileSync(join(place, `jiko-2026-11-0${day}.backup`), 'x');
    for (const mine of ['jiko-2026-11-01T101010.backup', 'notes.txt'])
      writeFileSync(join(place, mine), 'x');
    thinOut(place, new Date('2026-11-09T12:00:00Z'));
    expect(dailyBackups(place)).toEqual(
      [9, 8, 7, 6, 5, 4, 3].map((day) => `jiko-2026-11-0${day}.backup`),
    );
    expect(readdirSync(place)).toHaveLength(9);
  });

  it("those of a wrong clock push out no true one, and today's stays", () => {
    const place = folder();
    const names = [
      '2026-11-08',
      '2026-11-09',
      ...[1, 2, 3, 4, 5, 6, 7].map((day) => `2099-01-0${day}`),
    ];
    for (const name of names) writeFileSync(join(place, `jiko-${name}.backup`), 'x');
    thinOut(place, new Date('2026-11-09T12:00:00Z'));
    expect(dailyBackups(place)).toHaveLength(9);
    thinOut(place, new Date('2099-01-07T12:00:00Z'));
    expect(dailyBackups(place)).toHaveLength(7);
  });

  it('are readable by who made them alone, the folder too, also those of an earlier version', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 5);
    const backups = join(place, 'backups');
    mkdirSync(backups);
    chmodSync(backups, 0o755);
    const old = join(backups, 'jiko-2026-11-01.backup');
    writeFileSync(old, 'x');
    chmodSync(old, 0o644);
    // As somebody who waits for it: the half-written file is private already.
    const watcher = spawn(
      'sh',
      [
        '-c',
        `for i in $(seq 400); do stat -c %a ${backups}/*.part-* 2>/dev/null; sleep 0.01; done`,
      ],
      { stdio: ['ignore', 'pipe', 'ignore'] },
    );
    let seen = '';
    watcher.stdout.on('data', (chunk) => (seen += chunk));
    expect(run(place, 'backup', '--daily').status).toBe(0);
    cluster.stop();
    watcher.kill();
    await once(watcher, 'close');
    expect(new Set(seen.trim().split('\n').filter(Boolean))).toEqual(new Set(['600']));
    expect(statSync(backups).mode & 0o777).toBe(0o700);
    for (const name of readdirSync(backups))
      expect(statSync(join(backups, name)).mode & 0o777, name).toBe(0o600);
  });

  it('end where the database says an error, and leave no half file', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 5);
    // As on a full disk: the database answers, and cannot keep the snapshot that was asked for.
    const snapshots = join(place, 'pg', 'pg_snapshots');
    chmodSync(snapshots, 0o500);
    await expect(backup(cluster.bin, cluster.ownerUrl, join(place, 'a.backup'))).rejects.toThrow(
      'The database does not answer',
    );
    chmodSync(snapshots, 0o700);
    const none = cluster.ownerUrl.replace('/postgres', '/none');
    await expect(backup(cluster.bin, none, join(place, 'a.backup'))).rejects.toThrow(
      'The database does not answer',
    );
    const stopped = AbortSignal.timeout(1);
    await expect(
      backup(cluster.bin, cluster.ownerUrl, join(place, 'b.backup'), { signal: stopped }),
    ).rejects.toThrow();
    expect(readdirSync(place).filter((name) => /backup/.test(name))).toEqual([]);
    cluster.stop();
  });

  it('told to stop, the tool ends what it started and clears up', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 200_000);
    const file = join(place, 'big.backup');
    const child = spawn(process.execPath, [tool, 'backup', file], {
      env: { ...process.env, JIKO_DATA: place, DATABASE_URL: undefined, JIKO_TIED: 'yes' },
      stdio: ['pipe', 'ignore', 'pipe'],
    });
    const parts = () => readdirSync(place).filter((name) => name.includes('.part-'));
    for (let tries = 0; parts().length === 0 && tries < 500; tries++)
      await new Promise((done) => setTimeout(done, 10));
    expect(parts()).toHaveLength(1);
    // Who started it is gone.
    child.stdin?.end();
    const [status] = await once(child, 'exit');
    expect(status).toBe(1);
    expect(parts()).toEqual([]);
    expect(existsSync(file)).toBe(false);
    const left = sql(
      cluster.bin,
      cluster.superUrl,
      "SELECT count(*) FROM pg_stat_activity WHERE application_name IN ('psql', 'pg_dump') AND pid <> pg_backend_pid()",
    );
    expect(Number(left)).toBe(0);
    cluster.stop();
  });

  it('a restore runs no program out of the file', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 5);
    // Where anybody may write: else the program would fail for that alone.
    const open = folder();
    chmodSync(open, 0o777);
    const proof = join(open, 'pwned');
    sql(
      cluster.bin,
      cluster.superUrl,
      `CREATE FUNCTION run() RETURNS text LANGUAGE plpgsql AS $$ BEGIN
         IF to_regclass('public.armed') IS NOT NULL THEN COPY (SELECT 1) TO PROGRAM 'touch ${proof}'; END IF;
         RETURN 'x'; END $$;
       CREATE MATERIALIZED VIEW evil AS SELECT run() AS what;
       CREATE TABLE armed (id int)`,
    );
    const file = join(place, 'evil.backup');
    const dumped = spawnSync(join(cluster.bin, 'pg_dump'), ['-Fc', '-x', '-O', '-f', file], {
      env: environmentOf(cluster.superUrl),
    });
    expect(dumped.status).toBe(0);
    cluster.stop();
    const done = run(folder(), 'restore', file);
    expect(done).toMatchObject({ status: 1, text: expect.stringContaining('was not restored') });
    expect(existsSync(proof)).toBe(false);
  });

  itLong('what was killed in the middle is cleared away; what was whole is finished', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    fill(cluster, 6);
    mkdirSync(join(place, 'backups'));
    cluster.stop();
    // Killed restores: one in the middle of it, one counted whole but for the last move.
    const half = join(place, 'restoring-00000001');
    mkdirSync(half);
    const left = await startCluster(half);
    writeFileSync(join(place, 'backups', 'jiko-2026-11-01.backup.part-0123abcd'), 'x');
    writeFileSync(join(place, 'backups', 'mine.part-x'), 'x');
    const again = await startCluster(place);
    expect(left.isRunning()).toBe(false);
    expect(count(again)).toBe(6);
    again.stop();
    expect(existsSync(half)).toBe(false);
    expect(readdirSync(join(place, 'backups'))).toEqual(['mine.part-x']);

    const fresh = folder();
    const whole = join(fresh, 'restoring-00000002');
    mkdirSync(whole);
    const restored = await startCluster(whole);
    fill(restored, 8);
    restored.stop();
    writeFileSync(join(whole, wholeMark), '');
    /** @type {string[]} */
    const said = [];
    const finished = await startCluster(fresh, { say: (text) => said.push(text) });
    expect(count(finished)).toBe(8);
    expect(said.join()).toContain('was finished');
    finished.stop();
    expect(existsSync(whole)).toBe(false);
  });
});
