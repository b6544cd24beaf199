import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openApi } from '@gavrel/contract/openapi';
import { migrate, connect, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { build } from './build';
import { ROOT, Trouble } from './common';
import { ACCOUNTS } from './demo/people';
import { seedDemo } from './demo/world';
import { makeDatabase, startCluster, stopCluster } from './postgres';

/** Set inside a network of loopback alone: whatever a scanner asks for, nothing leaves the machine. */
const INSIDE = 'GAVREL_SCAN_INSIDE';
/** Modules of the web scanner that need no host outside. */
const MODULES =
  'backup,blindsql,cookieflags,crlf,csp,csrf,exec,file,htaccess,http_headers,methods,permanentxss,redirect,shellshock,sql,xss';
const WEB_SECONDS = 420;
const SQL_SECONDS = 90;
const A_UUID = v4();

/** Runs a scanner, at most so long. @returns what it said. */
const run = (command: string, args: readonly string[], seconds: number): Promise<string> =>
  new Promise((done) => {
    const child = spawn('timeout', ['-k', '5', String(seconds), command, ...args], { stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const s of [child.stdout, child.stderr]) s.on('data', (d: Buffer) => (said += d.toString()));
    child.on('close', () => done(said));
  });

/** Signs in and returns what the browser would send. */
async function signIn(base: string, name: string, passphrase: string): Promise<string> {
  const r = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, passphrase, device: 'scan' }),
  });
  if (!r.ok) throw new Trouble(`the scan could not sign in: ${r.status}`);
  return r.headers
    .getSetCookie()
    .map((c) => c.split(';')[0]!)
    .join('; ');
}

/** Requests the server has answered so far, by its own count. */
async function answered(base: string): Promise<number> {
  const figures = await (await fetch(`${base}/metrics`)).text();
  return [...figures.matchAll(/^gavrel_request_seconds_count\{.*\} (\d+)$/gm)].reduce((sum, m) => sum + Number(m[1]), 0);
}

interface Finding {
  readonly category: string;
  readonly where: string;
  readonly info: string;
}

/** Every address that is read, with a query of each parameter, tried by the web scanner. */
async function web(base: string, cookie: string, folder: string): Promise<Finding[]> {
  const out = join(folder, 'web.json');
  const paths = openApi('scan').paths as Record<string, { get?: { parameters?: { name: string; in: string }[] } }>;
  const addresses = Object.entries(paths).flatMap(([path, { get }]) => {
    if (!get || path === '/api/news') return [];
    const query = (get.parameters ?? [])
      .filter((p) => p.in === 'query')
      .map((p) => `${p.name}=1`)
      .join('&');
    return [`${base}${path.replace(/\{\w+\}/g, A_UUID)}${query && `?${query}`}`];
  });
  const starts = addresses.flatMap((a) => ['-s', a]);
  const how = ['--flush-session', '--no-bugreport', '-v', '0', '--max-scan-time', String(WEB_SECONDS - 30), '-S', 'normal'];
  await run(
    'wapiti',
    ['-u', `${base}/`, ...starts, '-H', `Cookie: ${cookie}`, '-m', MODULES, ...how, '-f', 'json', '-o', out],
    WEB_SECONDS,
  );
  const report = JSON.parse(readFileSync(out, 'utf8')) as Record<
    'vulnerabilities' | 'anomalies',
    Record<string, { path: string; info: string; method: string }[]>
  >;
  return [...Object.entries(report.vulnerabilities), ...Object.entries(report.anomalies)].flatMap(([category, all]) =>
    all.map((f) => ({ category, where: `${f.method} ${f.path}`, info: f.info })),
  );
}

/** Where a text of the asker's reaches the database: `*` marks the place. */
const PLACES: readonly (readonly [string, string, string?])[] = [
  ['GET', '/api/packs?search=x*&limit=5'],
  ['GET', `/api/packs?condition=sound&place=${A_UUID}&cursor=abc*`],
  ['GET', '/api/jobs?search=x*'],
  ['GET', '/api/entries?after=1*&limit=5'],
  ['GET', `/api/packs/${A_UUID}*`],
  ['POST', '/api/entries/of', `{"subjects":["pack:${A_UUID}*"]}`],
  ['POST', '/api/classify', '{"items":[{"facts":{"chemistry":"li-ion*"},"route":{"mode":"road"}}]}'],
  ['PUT', `/api/owners/${A_UUID}`, '{"name":"Ada*","contact":"x*"}'],
  ['POST', '/api/people', '{"name":"Ada*","role":"viewer"}'],
];

/** @returns the places where the scanner of databases got through. */
async function database(base: string, cookie: string, folder: string, say: (line: string) => void): Promise<string[]> {
  const through: string[] = [];
  const unfinished: string[] = [];
  for (const [method, path, data] of PLACES) {
    const args = [
      '-u',
      `${base}${path}`,
      '--method',
      method,
      '--cookie',
      cookie,
      '--batch',
      '--flush-session',
      '--level',
      '3',
      '--risk',
      '2',
      '--dbms',
      'postgresql',
      '--output-dir',
      folder,
      '-v',
      '1',
      '--ignore-code',
      '*',
    ];
    const said = await run(
      'sqlmap',
      data ? [...args, '--data', data, '-H', 'content-type: application/json'] : args,
      SQL_SECONDS,
    );
    const found = /is vulnerable|sqlmap identified the following injection/.test(said);
    const tested = /do not appear to be injectable|does not seem to be injectable/.test(said);
    say(`  ${found ? 'THROUGH' : tested ? 'not through' : 'not to the end'}  ${method} ${path}`);
    if (!found && !tested) unfinished.push(`${method} ${path}: ${said.trim().split('\n').slice(-4).join(' ')}`);
    if (found) through.push(`${method} ${path}`);
  }
  // A scanner that asked nothing found nothing: that is no answer.
  if (unfinished.length === PLACES.length) throw new Trouble(`the database scanner tested nothing: ${unfinished[0]}`);
  return through;
}

/** Two scanners from Debian's packages against a server of their own, with the demo world in it, in a network of loopback alone. */
export async function main(say: (line: string) => void): Promise<void> {
  if (process.env[INSIDE] === undefined) {
    const again = `ip link set lo up && exec ./gavrel scan`;
    const r = spawnSync('unshare', ['--net', 'bash', '-c', again], {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, [INSIDE]: '1' },
    });
    if (r.error || r.status === null) throw new Trouble('a network of loopback alone needs the machine’s master: run it as root');
    process.exitCode = r.status;
    return;
  }
  const dist = await build(say);
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-scan-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'), { fsync: false });
  try {
    const urls = makeDatabase(cluster, 'gavrel_scan');
    const owner = connect(urls.owner, 2);
    await migrate(owner);
    await seedDemo(owner, urls, new Date());
    await owner.destroy();
    const server = await start({ urls, port: 0, dist, logLevel: 'silent', perMinute: 1e9, quota: 1e9 });
    const base = `http://127.0.0.1:${server.port}`;
    const lead = ACCOUNTS.find((a) => a.role === 'lead')!;
    const cookie = await signIn(base, lead.name, lead.passphrase);
    say('web scanner (wapiti), signed in as a lead:');
    const findings = await web(base, cookie, folder);
    for (const f of findings) say(`  ${f.category}: ${f.where}: ${f.info.split('\n')[0]}`);
    const first = await answered(base);
    say(`  ${findings.length} findings, ${first} requests`);
    say('database scanner (sqlmap), signed in as a lead:');
    const through = await database(base, await signIn(base, lead.name, lead.passphrase), folder, say);
    say(`  ${(await answered(base)) - first} requests`);
    await server.stop();
    say(`${findings.length} findings of the web scanner, ${through.length} places where the database scanner got through`);
    if (through.length > 0) process.exitCode = 1;
  } finally {
    stopCluster(cluster, 'immediate');
    rmSync(folder, { recursive: true, force: true });
  }
}
