import { execFileSync } from 'node:child_process';
import { createPrivateKey, X509Certificate } from 'node:crypto';
import { copyFileSync, mkdtempSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { request, type RequestOptions } from 'node:https';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { type Running, start } from '@gavrel/server';
import { freePort } from '../../tools/postgres';
import { localTls, ownNames, type Tls } from '../../tools/tls';
import { type Bench, closeBench, makeBench, PASS } from './harness';
import { DAY_MS } from '@gavrel/core';

const folder = mkdtempSync(join(tmpdir(), 'gavrel-tls-'));
// A second host name and a second address of the loopback network: what a phone of the workshop would use.
const NAMES = ['bench.local', '127.0.0.2', 'localhost', '127.0.0.1'];
let bench: Bench;
let server: Running;
let tls: Tls;
let port: number;
let trustPort: number;

beforeAll(async () => {
  bench = await makeBench('lan');
  tls = localTls(folder, NAMES);
  port = await freePort(0);
  trustPort = await freePort(0);
  const lan = { ...tls, address: `https://bench.local:${port}`, port, trustPort };
  server = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent', lan });
});
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
  rmSync(folder, { recursive: true, force: true });
});

const ask = (path: string, more: RequestOptions, body?: string) =>
  new Promise<{ status: number; cookie: string; text: string }>((done, failed) => {
    const r = request({ host: '127.0.0.2', port, path, servername: 'bench.local', ...more }, (answer) => {
      let text = '';
      answer.on('data', (d: Buffer) => (text += d.toString()));
      answer.on('end', () => done({ status: answer.statusCode!, cookie: String(answer.headers['set-cookie'] ?? ''), text }));
    });
    r.on('error', failed);
    r.end(body);
  });

test('a device that trusts the workshop’s authority gets in by name and by address; any other is stopped', async () => {
  const ca = tls.authority;
  expect((await ask('/api/about', { ca })).status).toBe(200);
  expect((await ask('/api/about', { ca, servername: '' })).status).toBe(200);
  await expect(ask('/api/about', {})).rejects.toThrow(/self-signed|unable to verify|unable to get/);
  await expect(ask('/api/about', { ca, servername: 'elsewhere.local' })).rejects.toThrow(/does not match/);
});

test('it answers to the names its certificate vouches for, and to no other', async () => {
  const asked = async (host: string) => (await ask('/api/about', { ca: tls.authority, method: 'GET', headers: { host } })).status;
  expect(await Promise.all(['bench.local', 'BENCH.local:1', '127.0.0.2', 'elsewhere.local'].map(asked))).toEqual([
    200, 200, 200, 421,
  ]);
});

test('the session’s cookie is Secure over TLS, and not on loopback, where there is none', async () => {
  const body = JSON.stringify({ name: bench.people.tech.name, passphrase: PASS, device: 'phone' });
  const headers = { 'content-type': 'application/json' };
  const over = await ask('/api/session', { ca: tls.authority, method: 'POST', headers }, body);
  expect(over.cookie).toMatch(/HttpOnly.*Secure.*SameSite=Strict/i);
  const plain = await fetch(`http://127.0.0.1:${server.port}/api/session`, { method: 'POST', headers, body });
  expect(plain.headers.get('set-cookie')).not.toMatch(/Secure/i);
});

test('the page that is not secure tells how to trust, and nothing else', async () => {
  const base = `http://127.0.0.2:${trustPort}`;
  const shown = await fetch(base);
  expect(shown.headers.get('content-security-policy')).not.toMatch(/unsafe/);
  const page = await shown.text();
  expect(page).toContain(tls.fingerprint);
  expect(page).toContain(`https://bench.local:${port}`);
  const given = await fetch(`${base}/gavrel-authority.crt`);
  expect([given.headers.get('content-type'), await given.text()]).toEqual(['application/x-x509-ca-cert', tls.authority]);
  for (const path of ['/api/about', '/api/entries', '/metrics'])
    expect(await (await fetch(base + path)).text()).toContain('<h1>Gavrel on this phone');
});

test('the authority is made once, its key is its owner’s alone, and it vouches for this house only', () => {
  const again = localTls(folder, [...NAMES, '127.0.0.3']);
  expect(again.authority).toBe(tls.authority);
  expect(again.cert).not.toBe(tls.cert);
  expect(localTls(folder, NAMES).cert).toBe(again.cert);
  // A month before it runs out it is made anew.
  expect(localTls(folder, NAMES, new Date(Date.now() + 380 * DAY_MS)).cert).not.toBe(again.cert);
  for (const name of ['authority.key', 'server.key']) expect(statSync(join(folder, 'tls', name)).mode & 0o077).toBe(0);
  expect(ownNames('Front Desk.example')).toContain('frontdesk.local');

  // The authority's own key signs for a stranger's name: whoever checks refuses it.
  const at = (name: string) => join(folder, 'tls', name);
  writeFileSync(at('bad.ext'), 'subjectAltName=DNS:bank.example\n');
  execFileSync('openssl', ['req', '-new', '-key', at('server.key'), '-subj', '/CN=bank.example', '-out', at('bad.csr')], {
    stdio: 'ignore',
  });
  const sign = ['x509', '-req', '-in', at('bad.csr'), '-CA', at('authority.crt'), '-CAkey', at('authority.key')];
  execFileSync('openssl', [...sign, '-CAcreateserial', '-extfile', at('bad.ext'), '-out', at('bad.crt')], { stdio: 'ignore' });
  const verify = (file: string) =>
    execFileSync('openssl', ['verify', '-CAfile', at('authority.crt'), at(file)], { encoding: 'utf8', stdio: 'pipe' });
  expect(verify('server.crt')).toContain('OK');
  expect(() => verify('bad.crt')).toThrow(/permitted subtree violation/);
});

describe('a file of its own authority or certificate is lost', () => {
  const other = mkdtempSync(join(tmpdir(), 'gavrel-tls-'));
  afterAll(() => rmSync(other, { recursive: true, force: true }));
  const FAULTS: readonly [string, (file: string) => void][] = [
    ['missing', (f) => rmSync(f)],
    ['empty', (f) => writeFileSync(f, '')],
    ['torn', (f) => truncateSync(f, Math.floor(statSync(f).size / 2))],
    ['of another workshop', (f) => copyFileSync(join(other, 'tls', basename(f)), f)],
  ];
  const all = ['server.crt', 'server.key', 'authority.crt', 'authority.key'].flatMap((name) =>
    FAULTS.map(([what, fault]) => [name, what, fault] as const),
  );
  test.each(all)('%s %s: phones go on trusting the same authority, or it is said what to do', (name, _what, fault) => {
    localTls(other, NAMES);
    const home = mkdtempSync(join(tmpdir(), 'gavrel-tls-'));
    try {
      const before = localTls(home, NAMES);
      fault(join(home, 'tls', name));
      // Without its key it goes on until a new certificate is needed: here for one name more.
      const names = name === 'authority.key' ? [...NAMES, 'more.local'] : NAMES;
      if (name.startsWith('authority')) {
        expect(() => localTls(home, names)).toThrow(/missing or damaged.*put it back from a copy. Or remove/s);
        if (name === 'authority.key') expect(localTls(home, NAMES)).toEqual(before);
      } else {
        const after = localTls(home, names);
        expect(after.fingerprint).toBe(before.fingerprint);
        const cert = new X509Certificate(after.cert);
        expect(cert.verify(new X509Certificate(before.authority).publicKey)).toBe(true);
        expect(cert.checkPrivateKey(createPrivateKey(after.key))).toBe(true);
      }
    } finally {
      rmSync(home, { recursive: true, force: true });
    }
  });
});
