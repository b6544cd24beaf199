import { existsSync, mkdtempSync, chmodSync, readFileSync, renameSync, rmSync, truncateSync, writeFileSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { admin, sql, startCluster } from '../../tools/postgres';
import { cloneIn } from './clone';

jest.setTimeout(240_000);
const folder = mkdtempSync(join(tmpdir(), 'gavrel-faults-'));
chmodSync(folder, 0o755);
const { home, gavrel, beside } = cloneIn(folder);
const at = (...path: string[]) => join(home, 'var', ...path);
const state = () => JSON.parse(readFileSync(at('state.json'), 'utf8')) as { pid: number; port: number; mode: string };
/** Everything in the log, in its order. */
function log(): string {
  const file = join(folder, `log-${Math.random()}.jsonl`);
  const r = gavrel('export', file);
  if (!existsSync(file)) throw new Error(r.stderr);
  return readFileSync(file, 'utf8');
}
let whole = '';
let port = 0;
beforeAll(() => {
  expect(gavrel('start', '--demo').stderr).not.toMatch(/gavrel: (?!installing)/);
  port = state().port;
  whole = log();
  expect(whole.split('\n').length).toBeGreaterThan(500);
}, 300_000);
afterAll(() => {
  gavrel('stop');
  rmSync(folder, { recursive: true, force: true });
});

/** Gone, or dead and not yet buried by the process that has no parent. */
const ended = (pid: number) => !existsSync(`/proc/${pid}`) || readFileSync(`/proc/${pid}/cmdline`, 'utf8') === '';

type Fault = (file: string) => void;
const missing: Fault = (f) => rmSync(f);
const holds =
  (text: string): Fault =>
  (f) =>
    writeFileSync(f, text);
const torn: Fault = (f) => truncateSync(f, Math.floor(readFileSync(f).length / 2));
const one = (said: string) =>
  said
    .trim()
    .split('\n')
    .filter((l) => !l.includes('installing'));

describe('what the database was called is lost', () => {
  const note = at('postgres', 'cluster.json');
  test.each<[string, Fault]>([
    ['missing', missing],
    ['empty', holds('')],
    ['torn', torn],
    ['null', holds('null')],
    ['of something else', holds('{"port": 1}')],
  ])('%s: nothing is touched, and it is said how to go on', (_what, fault) => {
    gavrel('stop');
    const kept = readFileSync(note);
    fault(note);
    for (const command of ['start', 'backup']) {
      const r = gavrel(command, ...(command === 'backup' ? [join(folder, 'never.dump')] : []));
      expect(r.status).toBe(1);
      expect(one(r.stderr)).toEqual([
        expect.stringMatching(/holds a database, but .*cluster\.json .*nothing was touched.*\.\/gavrel recover/),
      ]);
    }
    writeFileSync(note, kept, { mode: 0o600 });
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(log()).toBe(whole);
  });
  test('new passwords bring it back with everything in it, and the old ones do nothing', () => {
    gavrel('stop');
    const before = JSON.parse(readFileSync(note, 'utf8')) as { passwords: { super: string } };
    rmSync(note);
    expect(gavrel('recover').stdout).toMatch(/new passwords are set, the data are as they were/);
    const after = JSON.parse(readFileSync(note, 'utf8')) as typeof before;
    expect(after.passwords.super).not.toBe(before.passwords.super);
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(log()).toBe(whole);
  });
  test.each<[string, string]>([
    ['its control file', 'data/global/pg_control'],
    ['its settings', 'data/postgresql.conf'],
    ['the folder of what it was about to write', 'data/pg_wal'],
  ])('%s is gone: it is said what the database says and how to go on, and put back it is whole', (_what, path) => {
    gavrel('stop');
    const away = join(folder, 'away');
    renameSync(at('postgres', path), away);
    expect(one(gavrel('start').stderr)).toEqual([
      expect.stringMatching(/did not start: .+\. Nothing was touched; see .*server\.log.*\.\/gavrel restore FILE/),
    ]);
    if (existsSync(at('postgres', path))) rmSync(at('postgres', path), { recursive: true });
    renameSync(away, at('postgres', path));
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(log()).toBe(whole);
  });
  test.each<[string, string, RegExp]>([
    ['the mark of a database', 'data/PG_VERSION', /holds files but no whole database: nothing was touched/],
    ['the database', 'data', /knows a database, but .* holds none: put it back where it was/],
  ])('%s is gone: no new one is made over it', (_what, path, words) => {
    gavrel('stop');
    const away = join(folder, 'away');
    renameSync(at('postgres', path), away);
    expect(one(gavrel('start').stderr)).toEqual([expect.stringMatching(words)]);
    if (existsSync(at('postgres', path))) rmSync(at('postgres', path), { recursive: true });
    renameSync(away, at('postgres', path));
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(log()).toBe(whole);
  });
});

describe('what the machine room remembered is lost', () => {
  test.each<[string, Fault]>([
    ['missing', missing],
    ['empty', holds('')],
    ['torn', torn],
    ['null', holds('null')],
    ['of something else', holds('{"port": "4780", "mode": "none"}')],
  ])('%s: the same world at the same port, whether it runs or not', (_what, fault) => {
    const { pid } = state();
    fault(at('state.json'));
    const again = gavrel('start');
    expect(again.stdout).toContain(`runs already: http://127.0.0.1:${port}`);
    expect(gavrel('status').stdout).toContain(`runs, http://127.0.0.1:${port}`);
    process.kill(pid, 'SIGKILL');
    expect(gavrel('stop').stdout).toContain('stopped');
    fault(existsSync(at('state.json')) ? at('state.json') : (writeFileSync(at('state.json'), '{}'), at('state.json')));
    expect(gavrel('start').stdout).toContain(`http://127.0.0.1:${port}`);
    expect(state()).toMatchObject({ mode: 'demo', port });
    expect(log()).toBe(whole);
  });
  test('with two worlds here nobody guesses which', () => {
    gavrel('start', '--own');
    gavrel('stop');
    rmSync(at('state.json'));
    expect(one(gavrel('start').stderr)).toEqual([
      expect.stringContaining('say which, ./gavrel start --own or ./gavrel start --demo'),
    ]);
    expect(gavrel('start', '--demo').stdout).toContain(`:${port}`);
  });
});

describe('start and stop tell the truth', () => {
  test('another clone’s server is never taken for one’s own', () => {
    gavrel('stop');
    const stranger = spawn(process.execPath, ['-e', 'setInterval(() => {}, 1000)', 'tools/serve.ts']);
    writeFileSync(at('state.json'), JSON.stringify({ mode: 'demo', port, pid: stranger.pid }));
    expect(gavrel('stop').stdout).toContain('stopped');
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(stranger.exitCode === null && !stranger.killed).toBe(true);
    stranger.kill();
  });
  test('a server that stands still is replaced, and ended though it does not listen', () => {
    const { pid } = state();
    process.kill(pid, 'SIGSTOP');
    expect(gavrel('status').stdout).toContain('runs, but does not answer');
    expect(gavrel('start').stdout).toContain(`:${port}`);
    expect(state().pid).not.toBe(pid);
    expect(ended(pid)).toBe(true);
  });
  test('five starts at once: one works, the others wait and say the same address', async () => {
    gavrel('stop');
    const all = await Promise.all([1, 2, 3, 4, 5].map(() => beside('start')));
    expect(all.map((r) => [r.code, /http:\/\/127\.0\.0\.1:(\d+)/.exec(r.out)?.[1]])).toEqual(all.map(() => [0, String(port)]));
    expect(all.filter((r) => r.out.includes('runs already'))).toHaveLength(4);
    expect(log()).toBe(whole);
  });
});

test('a copy that would run commands as the database’s user runs none, and is refused', async () => {
  const [copy, evil, mark] = ['copy.dump', 'evil.dump', 'ran'].map((f) => join(folder, f)) as [string, string, string];
  expect(gavrel('backup', copy).stdout).toContain('read back');
  gavrel('stop');
  const c = await startCluster(at('postgres'));
  sql(c, 'postgres', 'create database evil');
  admin(c, 'pg_restore', ['-d', 'evil', copy]);
  // An index that is built where it is put in place, and calls what it is told to: the cluster's superuser could run a program.
  sql(
    c,
    'evil',
    `create function f(x int) returns int language plpgsql immutable as $f$ begin
       if current_database() <> 'evil' then copy (select 1) to program 'touch ${mark}'; end if; return x; end $f$;
     create table t (x int); insert into t values (1); create index on t (f(x));`,
  );
  admin(c, 'pg_dump', ['--format=custom', '-f', evil, '-d', 'evil']);
  sql(c, 'postgres', 'drop database evil');
  expect(gavrel('restore', evil, '--replace').stderr).toMatch(/evil\.dump is not a whole copy/);
  expect(existsSync(mark)).toBe(false);
  expect(gavrel('start').stdout).toContain(`:${port}`);
  expect(log()).toBe(whole);
});
