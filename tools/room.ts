import { spawn } from 'node:child_process';
import { existsSync, openSync, readFileSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { backupFolder } from './backup';
import { ROOT, say, Trouble } from './common';
import { DATA, dataFolder, dropDatabase, freePort, isRunning, knownCluster, recoverCluster, stopCluster } from './postgres';
import { readState, remembered, ROOM, serverAlive, writeState } from './state';
import { SERVE } from './served';
import type { Tls } from './tls';
import { asRoot, mayServe, unprivileged } from './user';
import { chooseMode, cluster, DATABASE, foreignDatabase, ownOnly, postgresFolder, prepare } from './worlds';

/** Tried first when a folder has no port yet. */
const PREFERRED_PORT = Number(process.env.GAVREL_PORT) || 4780;
/** The log of the server is put aside at a start when it is larger, bytes. */
const LOG_MOST = 20_000_000;

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

/** Database, application and server: what runs already stays, what stands still is replaced; says one address. @throws Trouble in words. */
export async function startAll(args: readonly string[]): Promise<void> {
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
  const dist = await (await import('./build')).build(say);
  const port = state.port ?? (await freePort(PREFERRED_PORT));
  if ((await freePort(port)) !== port)
    throw new Trouble(`port ${port} is taken by another program: stop that program, or delete "port" in var/state.json`);
  const lan = args.includes('--lan') || (state.lan === true && !args.includes('--no-lan'));
  const tls = lan ? (await import('./tls')).localTls(dataFolder()) : null;
  const lanPort = state.lanPort ?? (tls ? await freePort(PREFERRED_PORT + 1) : undefined);
  const address = tls ? `https://${tls.names[0]}:${lanPort}` : '';
  const log = join(ROOT, 'var/server.log');
  if (existsSync(log) && statSync(log).size > LOG_MOST) renameSync(log, `${log}.1`);
  const out = openSync(log, 'a', 0o600);
  const settings = {
    urls,
    port,
    dist,
    accounts: mode === 'demo' ? (await import('./demo/people')).ACCOUNTS : [],
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
  const { default: QRCode } = await import('qrcode');
  say(await QRCode.toString(page, { type: 'terminal', small: true }));
  say(`on a phone of this network, once: ${page} (the code above)`);
  say(`it must show this: ${tls.fingerprint}`);
  say(`then: ${address} or https://${ip}:${trustPort - 1}`);
}

/** Ends server and database; what was accepted is finished before. */
export async function stopAll(): Promise<void> {
  const { pid } = readState();
  if (serverAlive(pid)) await endServer(pid);
  stopCluster({ folder: postgresFolder() });
  say('stopped');
}

/** What runs, in four lines. */
export async function status(): Promise<void> {
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
export async function recover(): Promise<void> {
  const { pid } = readState();
  if (serverAlive(pid)) await endServer(pid);
  await recoverCluster(postgresFolder());
  say('new passwords are set, the data are as they were: ./gavrel start');
}

/** A new demo world in place of the old one; a workshop of one's own is never touched. */
export async function resetDemo(): Promise<void> {
  ownOnly('the demo lives in our own');
  const { pid, mode, foreign } = readState();
  const serving = mode === 'demo' && !foreign && serverAlive(pid);
  if (serving) await endServer(pid);
  dropDatabase(await cluster(), DATABASE.demo);
  await prepare('demo');
  say('a new demo world is made');
  if (serving) await startAll(['start', '--demo']);
}
