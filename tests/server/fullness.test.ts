import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { taggedId } from '@gavrel/core';
import { cloneIn } from './clone';
import { Client } from './harness';

jest.setTimeout(300_000);
const folder = mkdtempSync(join(tmpdir(), 'gavrel-full-'));
chmodSync(folder, 0o755);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const lines = (said: string) =>
  said
    .trim()
    .split('\n')
    .filter((l) => l !== '' && !l.includes('installing'));
const stateOf = (home: string) => JSON.parse(readFileSync(join(home, 'var/state.json'), 'utf8')) as { port: number };
/** A server that started anew has hung up on the lines of the one before: the second try is on one of its own. */
const again = <T>(work: () => Promise<T>): Promise<T> =>
  work().catch((e: Error) => (e.message === 'fetch failed' ? work() : Promise.reject(e)));
const WREN = { id: '', name: 'Wren Adair', role: 'technician', competent: false } as const;
const enter = (port: number) => again(() => Client.signIn(port, WREN, 'nine grey pebbles'));

describe('each thing in var, gone or another', () => {
  const { home, gavrel, env } = cloneIn(folder, 'each');
  const at = (name: string) => join(home, 'var', name);
  beforeAll(() => void expect(gavrel('start', '--demo').status).toBe(0));
  afterAll(() => gavrel('stop'));
  const gone = (f: string) => rmSync(f, { recursive: true, force: true });
  const folderThere = (f: string) => {
    gone(f);
    mkdirSync(f);
  };
  test.each<[string, string, (f: string) => void]>(
    ['server.log', 'command.lock', 'backups'].flatMap((name) =>
      (
        [
          ['missing', gone],
          ['a folder', folderThere],
        ] as const
      ).map(([what, fault]): [string, string, (f: string) => void] => [name, what, fault]),
    ),
  )('%s is %s: it starts with everything in it, or says in a line what to do', (name, _what, fault) => {
    const { port } = stateOf(home);
    gavrel('stop');
    fault(at(name));
    const r = gavrel('start');
    if (r.status === 0) expect(r.stdout).toContain(`:${port}`);
    else {
      expect(lines(r.stderr)).toEqual([expect.stringMatching(new RegExp(`${name}.*:|: .*${name}`))]);
      gone(at(name));
      expect(gavrel('start').stdout).toContain(`:${port}`);
    }
    expect(lines(gavrel('rebuild').stdout)[0]).toMatch(/^[5-9]\d\d entries replayed.*nothing differed/);
  });
  test('the application that is built is emptied: it is not served half, but built anew', async () => {
    const dist = join(home, 'apps/bench/dist');
    gavrel('stop');
    writeFileSync(join(dist, 'index.html'), '');
    const start = spawn('bash', ['./gavrel', 'start'], { cwd: home, env, detached: true });
    // That it builds is enough: the suite has built once already, and that takes minutes.
    const said = await new Promise<string>((done) => {
      let all = '';
      for (const s of [start.stdout, start.stderr])
        s.on('data', (d: Buffer) => (all += d.toString()).includes('building') && done(all));
      start.on('close', () => done(all));
    });
    expect(said).toMatch(/building the application/);
    while (existsSync(join(dist, 'index.html'))) await new Promise((r) => setTimeout(r, 20));
    process.kill(-start.pid!, 'SIGKILL');
    await new Promise((done) => (start.exitCode === null && start.signalCode === null ? start.on('close', done) : done(null)));
    expect(lines(gavrel('status').stdout).join()).not.toMatch(/http:/);
  });
});

describe('a small disk', () => {
  const { home, gavrel } = cloneIn(folder, 'small');
  const room = join(home, 'var');
  mkdirSync(room);
  const mount = (...how: string[]) => spawnSync('mount', [...how, room]).status === 0;
  // Only the machine's master mounts one; where tests may not, nothing is said of a full disk.
  const small = mount('-t', 'tmpfs', '-o', 'size=25m,mode=755', 'tmpfs');
  afterAll(() => {
    mount('-o', 'remount,rw');
    gavrel('stop');
    spawnSync('umount', ['-l', room]);
  });
  (small ? test : test.skip)('too full to begin: said in one line, and with room it begins', () => {
    const r = gavrel('start', '--demo');
    expect(r.status).toBe(1);
    expect(lines(r.stderr).pop()).toMatch(/could not be made.*[Nn]o space left|disk is full/);
    expect(mount('-o', 'remount,size=400m')).toBe(true);
    expect(gavrel('start', '--demo').status).toBe(0);
  });
  (small ? test : test.skip)(
    'full while it works: what is not stored is not said to be, and with room everything goes on',
    async () => {
      const { port } = stateOf(home);
      const c = await enter(port);
      const filler = join(room, 'filler');
      spawnSync('dd', ['if=/dev/zero', `of=${filler}`, 'bs=1M']);
      const pack = `pack:${taggedId('d0000000-0000-4000-8000-000000000000', 'pack', 'FULL')}` as const;
      const workshop = (await c.get<{ workshop: { id: string }; person: { id: string } }>('/session')) ?? null;
      const said: string[] = [];
      let refused: number | null = null;
      for (let i = 0; i < 60 && refused === null; i++) {
        const entries = Array.from({ length: 400 }, () => ({
          ...c.entry('label-read', [pack], { chemistry: 'li-ion', typeCode: 'x'.repeat(60), serial: 'y'.repeat(60) } as never),
          workshop: workshop.workshop.id,
          by: workshop.person.id,
        }));
        const r = await c.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries });
        if (r.status === 200) said.push(...entries.map((e) => e.id));
        else refused = r.status;
      }
      expect([429, 503]).toContain(refused);
      rmSync(filler);
      const file = join(folder, 'after.jsonl');
      expect(gavrel('stop').stdout).toContain('stopped');
      expect(gavrel('start').status).toBe(0);
      gavrel('export', file);
      const kept = readFileSync(file, 'utf8');
      expect(said.filter((id) => !kept.includes(id))).toEqual([]);
    },
  );
  (small ? test : test.skip)('read-only: said in one line', () => {
    gavrel('stop');
    expect(mount('-o', 'remount,ro')).toBe(true);
    const r = gavrel('start');
    expect([r.status, lines(r.stderr)]).toEqual([1, [expect.stringMatching(/var cannot be written: make it writable/)]]);
    mount('-o', 'remount,rw');
  });
});

describe('a clock that turns', () => {
  const { home, gavrel, env } = cloneIn(folder, 'clock');
  const at = (by: string, ...args: string[]) =>
    spawnSync('faketime', ['-f', by, 'bash', './gavrel', ...args], { cwd: home, encoding: 'utf8', env });
  afterAll(() => gavrel('stop'));
  test.each(['-2y', '+30y'])('by %s and back: it starts, lets people in, and keeps everything', async (by) => {
    if (!existsSync('/usr/bin/faketime')) throw new Error('faketime is missing');
    expect(gavrel('start', '--demo').status).toBe(0);
    const before = lines(gavrel('rebuild').stdout)[0]!;
    gavrel('stop');
    expect(at(by, 'start').status).toBe(0);
    const then = await enter(stateOf(home).port);
    expect((await then.request('GET', '/packs')).status).toBe(200);
    // A lock of half a minute, made by that clock.
    const wrong = () =>
      fetch(`${then.base}/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'Odo Maribel', passphrase: 'wrong', device: 'x' }),
      });
    for (let i = 0; i < 6; i++) await again(wrong);
    expect((await wrong()).status).toBe(429);
    gavrel('stop');
    expect(gavrel('start').status).toBe(0);
    const now = await enter(stateOf(home).port);
    expect((await now.request('GET', '/packs')).status).toBe(200);
    expect(lines(gavrel('rebuild').stdout)[0]).toBe(before);
    const r = await again(wrong);
    // Half a minute at most, whatever the clock said.
    const wait = r.status === 429 ? Number(/Wait (\d+) seconds/.exec(((await r.json()) as { detail: string }).detail)![1]) : 0;
    expect(wait).toBeLessThanOrEqual(60);
    // What the turned clock let in is no key for years.
    expect((await again(() => then.request('GET', '/session'))).status).toBe(401);
  });
});
