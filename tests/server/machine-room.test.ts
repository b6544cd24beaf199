import { spawn } from 'node:child_process';
import { chmodSync, cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect } from '@gavrel/server';
import { cloneIn } from './clone';
import { freePort, isRunning, killCluster, makeDatabase, startCluster, stopCluster } from '../../tools/postgres';

jest.setTimeout(300_000);
const folder = mkdtempSync(join(tmpdir(), 'gavrel-room-'));
chmodSync(folder, 0o755);
const where = join(folder, 'postgres');
const SAFE = { fsync: true };
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ones = async (url: string) => {
  const db = connect(url, 1);
  const n = await db('kept').count().first();
  await db.destroy();
  return Number((n as { count: string }).count);
};

test('the cluster: private, kept through a kill, a stale pid file and a port that was taken', async () => {
  const first = await startCluster(where, SAFE);
  const { owner } = makeDatabase(first, 'gavrel_room');
  expect(statSync(join(where, 'cluster.json')).mode & 0o077).toBe(0);
  expect(statSync(join(where, 'data')).mode & 0o077).toBe(0);
  const db = connect(owner, 1);
  await db.raw('create table kept (x int)');
  await db.raw('insert into kept values (1)');
  const { rows } = (await db.raw('show listen_addresses')) as { rows: { listen_addresses: string }[] };
  expect(rows[0]!.listen_addresses).toBe('127.0.0.1');
  await db.destroy();

  killCluster(first);
  const second = await startCluster(where, SAFE);
  expect(await ones(makeDatabase(second, 'gavrel_room').owner)).toBe(1);

  // A pid file that names a living process which is no database.
  stopCluster(second, 'immediate');
  writeFileSync(
    join(where, 'data', 'postmaster.pid'),
    `${process.pid}\n${join(where, 'data')}\n1\n5432\n\n127.0.0.1\n  1 1\nready   \n`,
  );
  expect(isRunning(second)).toBe(false);
  const third = await startCluster(where, SAFE);
  expect(await ones(makeDatabase(third, 'gavrel_room').owner)).toBe(1);

  stopCluster(third);
  const thief = createServer().listen(third.port, '127.0.0.1');
  await new Promise((r) => thief.once('listening', r));
  const fourth = await startCluster(where, SAFE);
  expect(fourth.port).not.toBe(third.port);
  expect(await ones(makeDatabase(fourth, 'gavrel_room').owner)).toBe(1);
  thief.close();
  stopCluster(fourth, 'immediate');
});

test('a wrong password does not get in', async () => {
  const c = await startCluster(where, SAFE);
  const url = makeDatabase(c, 'gavrel_room').app.replace(c.passwords.app, 'guess');
  const db = connect(url, 1);
  await expect(db.raw('select 1')).rejects.toThrow(/password authentication failed/);
  await db.destroy();
  stopCluster(c, 'immediate');
});

test('a free port is free', async () => {
  const port = await freePort();
  const s = createServer().listen(port, '127.0.0.1');
  await new Promise((r) => s.once('listening', r));
  expect(await freePort(port)).not.toBe(port);
  s.close();
});

describe('the one command, in a folder of its own', () => {
  const { home, gavrel } = cloneIn(folder);
  afterAll(() => gavrel('stop'));

  test('starts, says one address, starts again quickly, survives a killed server, and stops', async () => {
    const first = gavrel('start');
    expect(first.stderr).not.toMatch(/gavrel: (?!installing)/);
    const address = /http:\/\/127\.0\.0\.1:\d+/.exec(first.stdout)![0];
    expect(first.stdout.match(/http/g)).toHaveLength(1);
    const about = (await (await fetch(`${address}/api/about`)).json()) as { demo: boolean; accounts: unknown[] };
    expect(about).toMatchObject({ demo: true, session: null });
    expect(about.accounts.length).toBeGreaterThan(2);
    const page = await fetch(address);
    expect(page.headers.get('content-security-policy')).not.toContain('unsafe-inline');
    expect(await page.text()).toContain('<div id="root">');
    expect((await fetch(`${address}/pack/anything`, { headers: { accept: 'text/html' } })).status).toBe(200);
    expect((await fetch(`${address}/nothing.js`)).status).toBe(404);

    expect(gavrel('start').stdout).toContain('runs already');
    const state = () => JSON.parse(readFileSync(join(home, 'var/state.json'), 'utf8')) as { pid: number; port: number };
    process.kill(state().pid, 'SIGKILL');
    const again = gavrel('start');
    expect(again.stdout).toContain(address);
    expect(gavrel('status').stdout).toMatch(/server {4}runs.*\ndatabase {2}runs/);
    // Whoever started it, what serves has no right of the machine's master, where its user can read the program at all.
    const { pid } = JSON.parse(readFileSync(join(home, 'var/state.json'), 'utf8')) as { pid: number };
    const [uids, groups] = ['Uid', 'Groups'].map((k) =>
      new RegExp(`^${k}:(.*)$`, 'm')
        .exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]!
        .trim()
        .split(/\s+/),
    );
    if (!first.stdout.includes('runs as root')) expect([...uids!, ...groups!]).not.toContain('0');
    expect(gavrel('rebuild').stdout).toContain('nothing differed');
    expect(gavrel('export', join(folder, 'log.jsonl')).stdout).toMatch(/\d+ entries written/);
    expect(gavrel('export', join(folder, 'log.jsonl')).stderr).toMatch(/exists already: name another file/);
    expect(gavrel('stop').stdout).toContain('stopped');
    expect(gavrel('status').stdout).toMatch(/server {4}does not run\ndatabase {2}does not run/);
  });

  test('a copy is read back, never written over, and put in place whole; what was there is copied before', async () => {
    const [copy, before, after] = ['copy.dump', 'before.jsonl', 'after.jsonl'].map((f) => join(folder, f)) as [
      string,
      string,
      string,
    ];
    gavrel('start');
    gavrel('export', before);
    expect(gavrel('backup', copy).stdout).toMatch(/^[1-9]\d* entries, last [1-9]\d*, 5 people.*read back/m);
    expect(statSync(copy).mode & 0o077).toBe(0);
    expect(gavrel('backup', copy).stderr).toMatch(/exists already: name another file/);
    expect(gavrel('backup', '--auto').stdout).toMatch(/backups\/gavrel_demo-.*\.dump/);
    expect(gavrel('backup', '--auto').stdout).toContain('the day has its copy');
    expect(gavrel('restore', copy, '--replace').stderr).toMatch(/the server runs: \.\/gavrel stop first/);
    gavrel('stop');
    expect(gavrel('restore', copy).stderr).toMatch(/a logbook here already: add --replace/);
    const torn = join(folder, 'torn.dump');
    writeFileSync(torn, readFileSync(copy).subarray(0, 40_000));
    expect(gavrel('restore', torn, '--replace').stderr).toMatch(/torn\.dump is not a whole copy/);
    // With its manifest beside it, one changed byte is enough.
    const changed = Buffer.from(readFileSync(copy));
    changed[changed.length >> 1]! ^= 1;
    writeFileSync(torn, changed);
    cpSync(`${copy}.manifest.json`, `${torn}.manifest.json`);
    expect(gavrel('restore', torn, '--replace').stderr).toMatch(/not the copy its manifest describes/);
    expect(gavrel('restore', copy, '--replace').stdout).toMatch(/what was here is in .*before-restore-.*\n.*put in place/);
    gavrel('export', after);
    expect(readFileSync(after, 'utf8')).toBe(readFileSync(before, 'utf8'));
    gavrel('stop');
  });

  test('a sealed copy shows nothing, opens by its passphrase alone, and not when it was changed', () => {
    const [copy, words, others] = ['sealed.age', 'words', 'others'].map((f) => join(folder, f)) as [string, string, string];
    writeFileSync(words, 'four slow brass herons\n');
    writeFileSync(others, 'four quick brass herons\n');
    expect(gavrel('backup', copy, '--passphrase-file', words).stdout).toMatch(/5 people.*read back/);
    const sealed = readFileSync(copy);
    expect([sealed.includes('PGDMP'), sealed.subarray(0, 21).toString()]).toEqual([false, 'age-encryption.org/v1']);
    const restore = (...args: string[]) => gavrel('restore', copy, '--replace', ...args).stderr;
    expect(restore()).toMatch(/lies behind a passphrase/);
    expect(restore('--passphrase-file', others)).toMatch(/does not open: another passphrase/);
    const changed = Buffer.from(sealed);
    changed[changed.length - 100]! ^= 1;
    writeFileSync(copy, changed);
    expect(restore('--passphrase-file', words)).toMatch(/not the copy its manifest describes/);
    rmSync(`${copy}.manifest.json`);
    expect(restore('--passphrase-file', words)).toMatch(/does not open: another passphrase, or it was changed/);
    writeFileSync(copy, sealed);
    const put = gavrel('restore', copy, '--replace', '--passphrase-file', words).stdout;
    expect(put).toMatch(/no manifest lies beside.*put in place/s);
    expect(readdirSync(join(home, 'var/backups')).filter((f) => f.startsWith('.open'))).toEqual([]);
  });

  test('a port that another program took is said, not worked around: the browsers’ outboxes belong to it', async () => {
    const { port } = JSON.parse(readFileSync(join(home, 'var/state.json'), 'utf8')) as { port: number };
    // A process of its own: this one stands still while the command runs.
    const thief = spawn(
      process.execPath,
      ['-e', `require('net').createServer().listen(${port},'127.0.0.1',()=>console.log('up'))`],
      { stdio: ['ignore', 'pipe', 'ignore'] },
    );
    await new Promise((r) => thief.stdout!.once('data', r));
    const r = gavrel('start');
    thief.kill();
    expect([r.status, r.stderr.trim().split('\n')]).toEqual([
      1,
      [expect.stringContaining(`port ${port} is taken by another program: stop that program`)],
    ]);
  });

  test.each([
    [['frobnicate'], /there is no command frobnicate: \.\/gavrel help lists them/],
    [['export'], /name the file/],
    [['import', 'nowhere.jsonl'], /there is no file nowhere\.jsonl/],
    [['backup'], /name the file/],
    [['restore', 'nowhere.dump'], /there is no file nowhere\.dump/],
    [['torture', '--seed', 'x'], /--seed takes a whole number/],
  ])('%p fails in one line that says what to do', (args, line) => {
    const r = gavrel(...args);
    expect(r.status).toBe(1);
    expect(
      r.stderr
        .trim()
        .split('\n')
        .filter((l) => l.startsWith('gavrel:')),
    ).toHaveLength(1);
    expect(r.stderr).toMatch(line);
  });
});
