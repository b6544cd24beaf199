import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream, existsSync, openSync, readFileSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import {
  connect,
  type DatabaseUrls,
  exportLog,
  importLog,
  migrate,
  MIGRATION_NAMES,
  pending,
  rebuild,
  theWorkshop,
} from '@gavrel/server';
import type { Knex } from 'knex';
import QRCode from 'qrcode';
import { backup, backupFolder, copyTo, daily, restoreCopy } from './backup';
import { build } from './build';
import { option, ROOT, Trouble } from './common';
import { ACCOUNTS, seedDemo } from './demo/world';
import { makeOwn } from './own';
import {
  type Cluster,
  databaseExists,
  DATA,
  dataFolder,
  dropDatabase,
  freePort,
  isRunning,
  knownCluster,
  makeDatabase,
  recoverCluster,
  startCluster,
  stopCluster,
} from './postgres';
import { readState, remembered, ROOM, SERVE, serverAlive, writeState } from './state';
import { checkManifest, manifestOf } from './seal';
import { localTls, type Tls } from './tls';
import { asRoot, mayServe, unprivileged } from './user';

const say = (line: string): void => void process.stdout.write(`${line}\n`);
const DATABASE = { demo: 'gavrel_demo', own: 'gavrel_own' } as const;
/** Tried first when a folder has no port yet. */
const PREFERRED_PORT = Number(process.env.GAVREL_PORT) || 4780;
/** The log of the server is put aside at a start when it is larger, bytes. */
const LOG_MOST = 20_000_000;

async function chooseMode(args: readonly string[]): Promise<'demo' | 'own'> {
  if (args.includes('--demo')) return 'demo';
  // Nobody wants demo people in a database they keep elsewhere.
  if (args.includes('--own') || foreignDatabase()) return 'own';
  const { state, lost } = remembered();
  if (lost) say(`${lost}: going on with what the machine still knows`);
  if (state.mode) return state.mode;
  const here = await worldsHere();
  if (here.length === 1) return here[0]!;
  if (!process.stdin.isTTY) {
    if (here.length === 0) return 'demo';
    throw new Trouble(
      'both the demo world and a workshop of your own are here: say which, ./gavrel start --own or ./gavrel start --demo',
    );
  }
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const given = await ask.question('Start with the demo world, or with your own empty workshop? [demo/own] ');
  ask.close();
  return given.trim().toLowerCase().startsWith('o') ? 'own' : 'demo';
}

const postgresFolder = () => join(dataFolder(), 'postgres');

/** The worlds whose databases are here, where nothing remembers which one is in use. */
async function worldsHere(): Promise<('demo' | 'own')[]> {
  if (knownCluster(postgresFolder()) === null) return [];
  const c = await cluster();
  return (['demo', 'own'] as const).filter((w) => databaseExists(c, DATABASE[w]));
}

const cluster = (): Promise<Cluster> => startCluster(postgresFolder());

async function withOwner<T>(urls: DatabaseUrls, work: (db: Knex) => Promise<T>): Promise<T> {
  const db = connect(urls.owner, 2);
  try {
    return await work(db);
  } finally {
    await db.destroy();
  }
}

/** A PostgreSQL of one's own choice instead of the private one: its owner migrates, its application role serves. */
function foreignDatabase(): DatabaseUrls | null {
  const { DATABASE_URL: owner, DATABASE_APP_URL: app } = process.env;
  if (!owner) return null;
  if (!app) throw new Trouble('DATABASE_URL needs DATABASE_APP_URL beside it, for the role gavrel_app: see docs/operating.md');
  return { owner, app };
}

async function prepare(mode: 'demo' | 'own'): Promise<DatabaseUrls> {
  const foreign = foreignDatabase();
  const c = foreign ? null : await cluster();
  const urls = foreign ?? makeDatabase(c!, DATABASE[mode]);
  await withOwner(urls, async (db) => {
    const waiting = await pending(db);
    if (c && waiting.length > 0 && waiting.length < MIGRATION_NAMES.length) {
      const file = join(backupFolder(), `before-${waiting[0]}-${Date.now()}.dump`);
      say(`${backup(c, DATABASE[mode], file)} copied to ${file} before the database is changed`);
    }
    await migrate(db);
    if (await db('workshops').first()) return;
    if (mode === 'demo') await seedDemo(db, urls, new Date());
    else await makeOwn(db, say);
  });
  return urls;
}

const healthy = (port: number | undefined): Promise<boolean> =>
  fetch(`http://127.0.0.1:${port}/api/health`, { signal: AbortSignal.timeout(3000) }).then(
    (r) => r.ok,
    () => false,
  );

/** Asks the server for its health until it answers, or says what its log ends with. */
async function untilHealthy(port: number, log: string): Promise<void> {
  for (let i = 0; i < 150; i++) {
    if (await healthy(port)) return;
    await new Promise((r) => setTimeout(r, 100));
  }
  const last = existsSync(log) ? readFileSync(log, 'utf8').trim().split('\n').pop() : '';
  throw new Trouble(`the server does not answer: ${last ?? ''} (see var/server.log)`);
}

/** Waits for a server to go. A stopping one finishes what it accepted: its port is free a moment later. */
async function gone(pid: number, ms: number): Promise<boolean> {
  for (let i = 0; i < ms / 100 && serverAlive(pid); i++) await new Promise((r) => setTimeout(r, 100));
  return !serverAlive(pid);
}

/** Ends the server: asked first, then killed. @throws Trouble when it is still there. */
async function endServer(pid: number): Promise<void> {
  process.kill(pid, 'SIGTERM');
  if (await gone(pid, 10_000)) return;
  process.kill(pid, 'SIGKILL');
  if (!(await gone(pid, 5000)))
    throw new Trouble(`the server, process ${pid}, does not stop: end it by hand, then run this again`);
}

async function startAll(args: readonly string[]): Promise<void> {
  const mode = await chooseMode(args);
  const foreign = foreignDatabase() !== null;
  const state = readState();
  if (serverAlive(state.pid)) {
    const same = state.mode === mode && !state.foreign && !foreign;
    if (same && !args.some((a) => a.endsWith('lan')) && isRunning(await cluster()) && (await healthy(state.port)))
      return say(`Gavrel runs already: http://127.0.0.1:${state.port}`);
    await endServer(state.pid);
  }
  const urls = await prepare(mode);
  const dist = await build(say);
  const port = state.port ?? (await freePort(PREFERRED_PORT));
  if ((await freePort(port)) !== port)
    throw new Trouble(`port ${port} is taken by another program: stop that program, or delete "port" in var/state.json`);
  const lan = args.includes('--lan') || (state.lan === true && !args.includes('--no-lan'));
  const tls = lan ? localTls(dataFolder()) : null;
  const lanPort = state.lanPort ?? (tls ? await freePort(PREFERRED_PORT + 1) : undefined);
  const address = tls ? `https://${tls.names[0]}:${lanPort}` : '';
  const log = join(ROOT, 'var/server.log');
  if (existsSync(log) && statSync(log).size > LOG_MOST) renameSync(log, `${log}.1`);
  const out = openSync(log, 'a', 0o600);
  const settings = {
    urls,
    port,
    dist,
    accounts: mode === 'demo' ? ACCOUNTS : [],
    backups: foreign ? null : backupFolder(),
    trustProxy: process.env.GAVREL_TRUST_PROXY === '1',
    hosts: (process.env.GAVREL_HOST ?? '')
      .split(',')
      .map((h) => h.trim())
      .filter(Boolean),
    logLevel: 'info',
    ...(tls && { lan: { ...tls, address, port: lanPort!, trustPort: lanPort! + 1 } }),
  };
  const told = { ...(!foreign && { mode }), foreign, port, lan, ...(lanPort && { lanPort }) };
  const drop = asRoot && mayServe(dist);
  if (asRoot && !drop)
    say(
      'the user postgres cannot read this folder, so the server runs as root: move the folder out of root’s own, or start as another user',
    );
  backupFolder();
  const child = spawn(process.execPath, [...SERVE.execArgv, SERVE.file], {
    ...(drop && unprivileged()),
    cwd: ROOT,
    detached: true,
    stdio: ['ignore', out, out],
    env: {
      ...process.env,
      GAVREL_SERVE: JSON.stringify(settings),
      [ROOM]: ROOT,
      [`${ROOM}_STATE`]: JSON.stringify(told),
      [DATA]: dataFolder(),
    },
  });
  child.unref();
  writeState({ ...told, pid: child.pid! });
  await untilHealthy(port, log);
  if (tls) await tellLan(tls, address, lanPort! + 1);
  say(`Gavrel (${mode === 'demo' ? 'demo world' : 'your workshop'}): http://127.0.0.1:${port}`);
}

/** Where phones go, and how they come to trust it: by a page that is not secure, and so by comparing what is said here. */
async function tellLan(tls: Tls, address: string, trustPort: number): Promise<void> {
  const ip = tls.names.find((n) => /^\d/.test(n) && !n.startsWith('127.')) ?? '127.0.0.1';
  const page = `http://${ip}:${trustPort}`;
  say(await QRCode.toString(page, { type: 'terminal', small: true }));
  say(`on a phone of this network, once: ${page} (the code above)`);
  say(`it must show this: ${tls.fingerprint}`);
  say(`then: ${address} or https://${ip}:${trustPort - 1}`);
}

async function stopAll(): Promise<void> {
  const { pid } = readState();
  if (serverAlive(pid)) await endServer(pid);
  stopCluster({ folder: postgresFolder() });
  say('stopped');
}

async function status(): Promise<void> {
  const { state, lost } = remembered();
  const { pid, port, mode } = state;
  if (lost) say(lost);
  const answers = serverAlive(pid) && (await healthy(port));
  say(
    `server    ${!serverAlive(pid) ? 'does not run' : answers ? `runs, http://127.0.0.1:${port}` : 'runs, but does not answer: ./gavrel start'}`,
  );
  say(`database  ${databaseWords()}`);
  say(`workshop  ${mode ?? 'not chosen yet'}`);
  say(`data      ${dataFolder()}`);
}

function databaseWords(): string {
  try {
    const c = knownCluster(postgresFolder());
    return c && isRunning(c) ? `runs on loopback port ${c.port}` : 'does not run';
  } catch (e) {
    return (e as Error).message;
  }
}

/** New passwords for a database whose notes were lost. */
async function recover(): Promise<void> {
  const { pid } = readState();
  if (serverAlive(pid)) await endServer(pid);
  await recoverCluster(postgresFolder());
  say('new passwords are set, the data are as they were: ./gavrel start');
}

/** The database of the mode in use, or the foreign one; another one is never touched. */
async function current(): Promise<DatabaseUrls> {
  const foreign = foreignDatabase();
  if (foreign) return foreign;
  const { mode } = readState();
  if (!mode) throw new Trouble('nothing to work on yet: run ./gavrel start first');
  return makeDatabase(await cluster(), DATABASE[mode]);
}

function fileArgument(args: readonly string[], what: string): string {
  const file = args[1];
  if (!file || file.startsWith('--')) throw new Trouble(`name the file: ./gavrel ${what} FILE`);
  return file;
}

async function exportTo(file: string): Promise<void> {
  if (existsSync(file)) throw new Trouble(`${file} exists already: name another file`);
  const urls = await current();
  const part = `${file}.part`;
  const out = createWriteStream(part, { flags: 'w', mode: 0o600 });
  const count = await withOwner(urls, async (db) => {
    const { id, name, zone } = await theWorkshop(db);
    return exportLog(db, { id, name, zone }, out);
  });
  await new Promise<void>((done, failed) => out.end((e?: Error | null) => (e ? failed(e) : done())));
  renameSync(part, file);
  say(`${count} entries written to ${file}`);
}

async function importFrom(file: string): Promise<void> {
  if (!existsSync(file)) throw new Trouble(`there is no file ${file}`);
  const urls = foreignDatabase() ?? makeDatabase(await cluster(), DATABASE.own);
  const count = await withOwner(urls, async (db) => {
    await migrate(db);
    const n = await importLog(db, createReadStream(file), new Date());
    await makeOwn(db, say);
    return n;
  });
  if (!foreignDatabase()) writeState({ mode: 'own' });
  say(`${count} entries read; ./gavrel start shows them`);
}

/** @throws Trouble when the database in use is somebody else's. */
function ownOnly(instead: string): void {
  if (foreignDatabase()) throw new Trouble(`DATABASE_URL names a database that is not ours to copy or replace: ${instead}`);
}

/** `--auto` is the day's copy, as the server asks for it. */
async function backupTo(args: readonly string[]): Promise<void> {
  const { mode } = readState();
  if (!mode) throw new Trouble('nothing to copy yet: run ./gavrel start first');
  ownOnly('use what comes with it, or ./gavrel export');
  const c = await cluster();
  if (args.includes('--auto')) return say((await daily(c, DATABASE[mode], new Date())) ?? 'the day has its copy');
  const file = fileArgument(args, 'backup');
  say(`${await copyTo(c, DATABASE[mode], file, passphraseOf(args))}: written to ${file} and read back`);
  say(`what it is stands in ${manifestOf(file)}: keep both`);
}

/** The passphrase of a copy: the first line of a file, since what stands on a command line others read. */
function passphraseOf(args: readonly string[]): string | null {
  const file = option(args, 'passphrase-file');
  if (file === undefined) return null;
  if (!existsSync(file)) throw new Trouble(`there is no file ${file || 'named after --passphrase-file'}`);
  const passphrase = readFileSync(file, 'utf8').split('\n')[0]!.trim();
  if (passphrase.length < 12) throw new Trouble(`the passphrase in ${file} is shorter than 12 characters: take four words`);
  return passphrase;
}

async function restoreFrom(args: readonly string[]): Promise<void> {
  ownOnly('use what comes with it, or ./gavrel import');
  const file = fileArgument(args, 'restore');
  const { pid, mode = 'own' } = readState();
  if (serverAlive(pid)) throw new Trouble('the server runs: ./gavrel stop first, so that nothing is written meanwhile');
  say(await checkManifest(file));
  const how = { replace: args.includes('--replace'), passphrase: passphraseOf(args) };
  const { said, before } = await restoreCopy(await cluster(), file, DATABASE[mode], how);
  writeState({ mode });
  if (before) say(`what was here is in ${before}`);
  say(`${said}: put in place; ./gavrel start shows it`);
}

async function rebuildAll(): Promise<void> {
  const urls = await current();
  const r = await withOwner(urls, async (db) => {
    const w = await theWorkshop(db);
    return rebuild(db, { workshop: w.id, zone: w.zone, now: new Date() });
  });
  say(
    `${r.entries} entries replayed into ${r.subjects} subjects; ${r.drift.length === 0 ? 'nothing differed' : `differed: ${r.drift.join(', ')}`}`,
  );
  if (r.drift.length > 0) process.exitCode = 1;
}

async function resetDemo(): Promise<void> {
  ownOnly('the demo lives in our own');
  const { pid, mode, foreign } = readState();
  const serving = mode === 'demo' && !foreign && serverAlive(pid);
  if (serving) await endServer(pid);
  dropDatabase(await cluster(), DATABASE.demo);
  await prepare('demo');
  say('a new demo world is made');
  if (serving) await startAll(['start', '--demo']);
}

async function main(args: readonly string[]): Promise<void> {
  switch (args[0] ?? 'help') {
    case 'start':
      return startAll(args);
    case 'stop':
      return stopAll();
    case 'status':
      return status();
    case 'recover':
      return recover();
    case 'reset-demo':
      return resetDemo();
    case 'export':
      return exportTo(fileArgument(args, 'export'));
    case 'import':
      return importFrom(fileArgument(args, 'import'));
    case 'backup':
      return backupTo(args);
    case 'restore':
      return restoreFrom(args);
    case 'rebuild':
      return rebuildAll();
    case 'classify':
      return (await import('./classify')).main(args, (text) => void process.stdout.write(text));
    case 'plan':
      return (await import('./plan')).main(args, (text) => void process.stdout.write(text));
    case 'log':
      return (await import('./log')).main(args, (text) => void process.stdout.write(text));
    case 'instruments':
      return (await import('./instruments')).main(args.slice(1), say);
    case 'practice':
      return (await import('./practice')).main(args.slice(1), say);
    case 'read-label':
      return (await import('./read-label')).main(args.slice(1), (text) => void process.stdout.write(text));
    case 'torture':
      return (await import('./torture')).main(args, say);
    case 'bench':
      return (await import('./bench')).main(args, say);
    case 'licences':
      return (await import('./licences')).main(say);
    case 'scan':
      return (await import('./scan')).main(say);
    case 'screenshots':
      return (await import('./screenshots')).main(say);
    case 'test':
      return (await import('./test')).main(say);
    case 'help':
    case '-h':
    case '--help':
      return void process.stdout.write(readFileSync(join(ROOT, 'tools/help.txt'), 'utf8'));
    default:
      throw new Trouble(`there is no command ${args[0]}: ./gavrel help lists them`);
  }
}

/** What the machine refuses, in words that say what to do. */
const MACHINE: Readonly<Record<string, (path: string) => string>> = {
  ENOSPC: (path) => `the disk is full (${path}): free some space, then run this again`,
  EDQUOT: (path) => `the disk quota is used up (${path}): free some space, then run this again`,
  EROFS: (path) => `${path} cannot be written, it is read-only: make it writable, then run this again`,
  EACCES: (path) => `${path} may not be read or written by this user: run this as who owns the folder`,
  EPERM: (path) => `${path} may not be changed by this user: run this as who owns the folder`,
  ECONNREFUSED: () => 'the database does not answer: start it, or mend DATABASE_URL',
  ENOTFOUND: () => 'the host in DATABASE_URL is not known: mend it',
  ETIMEDOUT: () => 'the database does not answer in time: start it, or mend DATABASE_URL',
};

/** One line for whoever ran it. */
function line(e: unknown): string {
  const { code, path, message, errors } = e as NodeJS.ErrnoException & { errors?: readonly NodeJS.ErrnoException[] };
  const known = MACHINE[code ?? errors?.[0]?.code ?? ''];
  if (known) return known(path ?? 'a file');
  return message.split('\n')[0]!;
}

/** Commands whose output is all they are for. */
const FOR_OUTPUT: readonly (string | undefined)[] = ['classify', 'export', 'log', 'plan', 'practice', 'read-label'];
// Whoever reads may stop reading, as `head` does: then such a command is done, and every other one goes on without being heard.
process.stdout.on('error', (e: NodeJS.ErrnoException) => {
  if (e.code !== 'EPIPE') throw e;
  if (FOR_OUTPUT.includes(process.argv[2])) process.exit(0);
});

main(process.argv.slice(2)).catch((e: unknown) => {
  const said = e instanceof Error && (e instanceof Trouble || !process.env.GAVREL_DEBUG) ? line(e) : String((e as Error).stack);
  process.stderr.write(`gavrel: ${said}\n`);
  process.exitCode = 1;
});
