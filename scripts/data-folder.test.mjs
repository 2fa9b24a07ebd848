import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { runningCluster, startCluster } from './cluster.mjs';
import { sql, SqlError } from './connection.mjs';
import { clusterState, makeFolder, moveOldData } from './data-folder.mjs';
import { runningPostmaster } from './postmaster.mjs';
import { count, fill, folder, itLong, preparedFolder, run } from './test-cluster.mjs';

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
    if (process.getuid?.() !== 0) return;
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
    const place = await preparedFolder();
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
    /** @type {string[]} */
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

  itLong('a disk that drops while it runs never begins an empty database', async () => {
    const place = await preparedFolder();
    const first = await startCluster(place);
    fill(first, 3);
    first.stop();
    const before = readFileSync(join(place, 'pg.password'), 'utf8');
    renameSync(join(place, 'pg'), join(place, 'elsewhere'));
    const again = { port: first.port, identity: first.identity };
    await expect(startCluster(place, again)).rejects.toThrow(/is gone from .*Nothing new is begun/);
    expect(existsSync(join(place, 'pg'))).toBe(false);
    expect(readFileSync(join(place, 'pg.password'), 'utf8')).toBe(before);
    // Another database in its place is not taken either.
    const other = await startCluster(place);
    other.stop();
    await expect(startCluster(place, again)).rejects.toThrow(/Another database lies in/);
    expect(runningPostmaster(join(place, 'pg'))).toBeNull();
    rmSync(join(place, 'pg'), { recursive: true });
    rmSync(join(place, 'pg.password'));
    renameSync(join(place, 'elsewhere'), join(place, 'pg'));
    writeFileSync(join(place, 'pg.password'), before);
    const back = await startCluster(place, again);
    expect(count(back)).toBe(3);
    back.stop();
  });

  it('a wrong password is one line, the database does not stay up, and the way out works', async () => {
    const place = await preparedFolder();
    const first = await startCluster(place);
    fill(first, 4);
    first.stop();
    writeFileSync(join(place, 'pg.password'), 'wrong');
    await expect(startCluster(place)).rejects.toThrow(
      /^The password in .* Delete that file[^\n]*$/,
    );
    expect(runningPostmaster(join(place, 'pg'))).toBeNull();
    rmSync(join(place, 'pg.password'));
    const again = await startCluster(place);
    expect(count(again)).toBe(4);
    again.stop();
  });

  it('is found by any way that leads to it, and never through a path a shell would run', async () => {
    const place = folder();
    const link = join(folder(), 'link');
    symlinkSync(place, link);
    const first = await startCluster(link);
    fill(first, 2);
    expect(runningCluster(place)?.ownerUrl).toBe(first.ownerUrl);
    expect(runningCluster(link)?.ownerUrl).toBe(first.ownerUrl);
    // As after a crash of the starter: who comes by the other path takes over, and deletes no lock.
    const over = await startCluster(place);
    expect(over).toMatchObject({ tookOver: true, port: first.port });
    expect(run(link, 'backup', join(place, 'by-link.backup')).text).toContain('read back whole');
    over.stop();
    for (const bad of ['$(touch x)', '`touch x`', 'a"b', 'a\\b', 'a\nb'])
      expect(() => makeFolder(join(place, bad))).toThrow('has a character in its path');
    expect(readdirSync(place).filter((name) => /touch|a.b/.test(name))).toEqual([]);
  });
});

describe('roles', () => {
  it("neither owner nor app is a superuser, and what an earlier version made becomes the owner's", async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    // As made by the superuser an earlier version ran everything as.
    sql(
      cluster.bin,
      cluster.superUrl,
      `CREATE TABLE job (id serial PRIMARY KEY, told text); INSERT INTO job (told) VALUES ('kept');
       CREATE SEQUENCE loose; CREATE TYPE mood AS ENUM ('well'); CREATE VIEW told AS SELECT told FROM job;
       CREATE FUNCTION who() RETURNS text LANGUAGE sql SECURITY DEFINER AS 'SELECT current_user::text'`,
    );
    cluster.stop();
    const again = await startCluster(place);
    const ask = (/** @type {string} */ url, /** @type {string} */ text) =>
      sql(again.bin, url, text);
    for (const url of [again.ownerUrl, again.url]) {
      expect(ask(url, 'SELECT rolsuper FROM pg_roles WHERE rolname = current_user')).toBe('f');
      expect(() => ask(url, "COPY (SELECT 1) TO PROGRAM 'true'")).toThrow(SqlError);
      expect(() => ask(url, "SELECT pg_read_file('pg_hba.conf')")).toThrow(SqlError);
    }
    expect(ask(again.ownerUrl, 'SELECT told FROM told')).toBe('kept');
    expect(ask(again.ownerUrl, 'SELECT who()')).toBe('jiko_owner');
    ask(again.ownerUrl, 'ALTER TABLE job ADD COLUMN more int; DROP SEQUENCE loose; DROP TYPE mood');
    again.stop();
  });

  it('log and passwords are readable by who runs it alone', async () => {
    const place = await preparedFolder();
    const cluster = await startCluster(place);
    for (const name of ['pg.log', 'pg.password', 'pg.owner-password'])
      expect(statSync(join(place, name)).mode & 0o777, name).toBe(0o600);
    cluster.stop();
    expect(readFileSync(join(place, 'pg.log'), 'utf8')).not.toMatch(/PASSWORD/);
  });
});
