import { spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { dailyBackups, thinOut } from './archive.mjs';
import { runningCluster, sql, startCluster } from './cluster.mjs';
import { clusterState, holdFolder, moveOldData } from './data-folder.mjs';

const tool = fileURLToPath(new URL('./data.mjs', import.meta.url));
const made = [];
const folder = () => {
  const path = mkdtempSync(join(tmpdir(), 'jiko-data-'));
  // The database's user has to enter what mkdtemp made for this user alone.
  chmodSync(path, 0o755);
  made.push(path);
  return path;
};
afterAll(() => {
  for (const path of made) rmSync(path, { recursive: true, force: true });
});
const run = (place, ...words) => {
  const environment = { ...process.env, JIKO_DATA: place };
  delete environment.DATABASE_URL;
  const done = spawnSync(process.execPath, [tool, ...words], {
    encoding: 'utf8',
    env: environment,
  });
  return { status: done.status, text: `${done.stdout}${done.stderr}` };
};

/** Tables like the app's, with so many entries. */
const fill = ({ bin, ownerUrl }, entries) =>
  sql(
    bin,
    ownerUrl,
    `CREATE TABLE IF NOT EXISTS migrations (name text); CREATE TABLE IF NOT EXISTS job (id int);
     CREATE TABLE IF NOT EXISTS job_event (id int, body text); CREATE TABLE IF NOT EXISTS dictionary (name text);
     INSERT INTO migrations VALUES ('first'); INSERT INTO job VALUES (1); INSERT INTO dictionary VALUES ('left out');
     INSERT INTO job_event SELECT n, E'line\\nbreak \\\\. tab\\t ' || n FROM generate_series(1, ${entries}) n`,
  );
const count = ({ bin, ownerUrl }) => Number(sql(bin, ownerUrl, 'SELECT count(*) FROM job_event'));

describe('the data folder', () => {
  it('never deletes what it did not make: a folder called pg of the user, or half a copy', async () => {
    const place = folder();
    mkdirSync(join(place, 'pg'));
    writeFileSync(join(place, 'pg', 'thesis.txt'), 'three years');
    await expect(startCluster(place)).rejects.toThrow(
      /thesis\.txt.*no PG_VERSION.*leaves it as it is/s,
    );
    expect(readFileSync(join(place, 'pg', 'thesis.txt'), 'utf8')).toBe('three years');
    expect(readdirSync(place)).toEqual(['pg']);
    const file = folder();
    writeFileSync(join(file, 'pg'), 'no folder');
    expect(() => clusterState(file)).toThrow('is not a folder');
  });

  it('starts after a start that was cut off while it made the database', async () => {
    const place = folder();
    mkdirSync(join(place, 'pg.new-0123abcd', 'base'), { recursive: true });
    mkdirSync(join(place, 'pg.new-mine'));
    mkdirSync(join(place, 'pg'));
    const cluster = await startCluster(place);
    expect(cluster.isRunning()).toBe(true);
    cluster.stop();
    expect(readdirSync(place).filter((name) => name.startsWith('pg.new'))).toEqual(['pg.new-mine']);
  });

  it('changes no mode of a folder above, and says where the database cannot enter', async () => {
    if (process.getuid() !== 0) return;
    const above = folder();
    chmodSync(above, 0o700);
    const place = join(above, 'data');
    await expect(startCluster(place)).rejects.toThrow(
      /user postgres, who cannot enter .*JIKO_DATA/s,
    );
    expect(statSync(above).mode & 0o777).toBe(0o700);
  });

  it('names what helps where the database is of a PostgreSQL that is not installed', async () => {
    const place = folder();
    mkdirSync(join(place, 'pg'));
    writeFileSync(join(place, 'pg', 'PG_VERSION'), '9\n');
    await expect(startCluster(place)).rejects.toThrow(
      /made by PostgreSQL 9.*apt-get install postgresql-9.*npx jiko upgrade.*npx jiko restore FILE --replace/s,
    );
    expect(readdirSync(join(place, 'pg'))).toEqual(['PG_VERSION']);
  });

  it('keeps its data over a lost password file, a new role password and a stale lock', async () => {
    const place = folder();
    const first = await startCluster(place);
    fill(first, 5);
    expect(sql(first.bin, first.ownerUrl, 'SHOW data_checksums')).toBe('on');
    expect(
      sql(first.bin, first.url, 'SELECT rolsuper FROM pg_roles WHERE rolname = current_user'),
    ).toBe('f');
    first.stop();
    rmSync(join(place, 'pg.password'));
    // A process that lives, and is no database.
    writeFileSync(join(place, 'pg', 'postmaster.pid'), `${process.pid}\n`);
    const said = [];
    const again = await startCluster(place, { say: (text) => said.push(text) });
    expect(count(again)).toBe(5);
    expect(said.join()).toContain('a new password was set');
    expect(statSync(join(place, 'pg.password')).mode & 0o777).toBe(0o600);
    again.stop();
  });

  it('is moved from where earlier versions kept it, link and all; never over data', async () => {
    const [old, real, now] = [folder(), folder(), folder()];
    const cluster = await startCluster(real);
    fill(cluster, 7);
    symlinkSync(join(real, 'pg'), join(old, 'pg'));
    expect(() => moveOldData(old, now)).toThrow('stop that Jiko first');
    cluster.stop();
    expect(moveOldData(old, now)).toContain(`was moved from ${real}/pg`);
    expect(existsSync(join(old, 'pg'))).toBe(false);
    const moved = await startCluster(now);
    expect(count(moved)).toBe(7);
    moved.stop();
    const other = await startCluster(old);
    other.stop();
    expect(moveOldData(old, now)).toContain('still lies in');
    expect(existsSync(join(old, 'pg', 'PG_VERSION'))).toBe(true);
  });
});

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
    let held = null;
    for (let tries = 0; held === null && tries < 50; tries++)
      held = await holdFolder(place).catch(() => new Promise((done) => setTimeout(done, 50, null)));
    expect(held).not.toBeNull();
    await held.release();
    const next = await holdFolder(place);
    await next.release();
  });

  it('two at once: one gets it', async () => {
    const place = folder();
    const both = await Promise.allSettled([holdFolder(place), holdFolder(place)]);
    const got = both.filter((one) => one.status === 'fulfilled');
    expect(got).toHaveLength(1);
    expect(both.find((one) => one.status === 'rejected').reason.message).toMatch(
      /try again in a moment/,
    );
    await got[0].value.release();
  });
});

describe('backup and restore', () => {
  it('while it runs: every row read back, and restored whole into a new folder', async () => {
    const place = folder();
    const cluster = await startCluster(place);
    fill(cluster, 3000);
    const file = join(place, 'all.backup');
    // Entries go on arriving: the file is of one moment.
    const writing = spawn(
      join(cluster.bin, 'psql'),
      [
        '-X',
        '-q',
        '-d',
        cluster.ownerUrl,
        '-c',
        "INSERT INTO job_event SELECT n, 'late' FROM generate_series(1, 200000) n",
      ],
      { stdio: 'ignore' },
    );
    const done = run(place, 'backup', file);
    expect(done.text).toMatch(/1 jobs with \d+ entries.*read back whole/);
    await new Promise((end) => (writing.exitCode === null ? writing.once('exit', end) : end()));
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

  it('never over data without being told so, and then what was there is kept', async () => {
    const place = folder();
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
    expect(existsSync(join(place, aside, 'PG_VERSION'))).toBe(true);
    expect(existsSync(join(place, `${aside}.password`))).toBe(true);
  });

  it('a damaged or strange file is said at once, and changes nothing', async () => {
    const place = folder();
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

  it('the one of the day is only replaced by one that reads back', async () => {
    const place = folder();
    const cluster = await startCluster(place);
    fill(cluster, 20);
    expect(run(place, 'backup', '--daily').text).toContain('20 entries');
    const [day] = dailyBackups(join(place, 'backups'));
    const before = readFileSync(join(place, 'backups', day.name));
    // Tables that cannot be dumped: the attempt fails.
    sql(cluster.bin, cluster.ownerUrl, 'ALTER TABLE migrations RENAME TO elsewhere');
    expect(run(place, 'backup', '--daily').status).toBe(1);
    expect(readFileSync(join(place, 'backups', day.name)).equals(before)).toBe(true);
    expect(readdirSync(join(place, 'backups'))).toEqual([day.name]);
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
    thinOut(place);
    expect(dailyBackups(place).map((one) => one.name)).toEqual(
      [9, 8, 7, 6, 5, 4, 3].map((day) => `jiko-2026-11-0${day}.backup`),
    );
    expect(readdirSync(place)).toHaveLength(9);
  });
});
