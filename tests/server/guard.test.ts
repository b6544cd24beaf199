import type { AppendResponse } from '@gavrel/contract';
import { once } from 'node:events';
import { get, type IncomingMessage, request } from 'node:http';
import type { Socket } from 'node:net';
import { json } from 'node:stream/consumers';
import { openApi } from '@gavrel/contract/openapi';
import { taggedId } from '@gavrel/core';
import { inWorkshop, type Running, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, markedWorkshop, PASS, serveBench, WORKSHOP } from './harness';

jest.setTimeout(180_000);
const ELSEWHERE = '33333333-3333-4333-8333-333333333333';
const MARK = 'belongs-to-others';
let bench: Bench;
let server: Running;
let lead: Client;

beforeAll(async () => {
  bench = await makeBench('guard');
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
  await markedWorkshop(bench.owner, ELSEWHERE, MARK);
});
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

/** An address may sign in thirty times a minute: a server of its own counts anew. */
const anew = async () => {
  await server.stop();
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
};

const paths = openApi('test').paths as Record<string, Record<string, unknown>>;
const operations = Object.entries(paths).flatMap(([path, methods]) =>
  Object.keys(methods).map((m) => [m.toUpperCase(), path] as const),
);

test('the document names every route there is', async () => {
  expect(operations.length).toBeGreaterThan(40);
  // What ends the session would end the test.
  const asked = operations.filter(([m, p]) => p !== '/api/news' && !(m === 'DELETE' && /\/sessions?$/.test(p)));
  for (const [method, path] of asked) {
    const r = await lead.request(method, path.replace(/^\/api/, '').replace(/\{\w+\}/g, v4()), method === 'GET' ? undefined : {});
    const words = await r.text();
    expect([method, path, /No such address/.test(words)]).toEqual([method, path, false]);
  }
});

describe('two workshops', () => {
  beforeAll(anew);
  test('a session of one workshop is nobody in another; its rows cannot be crossed to in SQL either', async () => {
    const port = server.port;
    const theirs = await fetch(`http://127.0.0.1:${port}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: `${MARK} Lou`, passphrase: PASS, device: 'test' }),
    });
    expect(theirs.status).toBe(401);
    const seen = await inWorkshop(server.services.db, WORKSHOP, async (trx) => {
      const tables = [
        'people',
        'packs',
        'places',
        'jobs',
        'consignments',
        'owners',
        'sessions',
        'trainings',
        'tries',
        'incidents',
        'practised',
        'entries',
      ];
      return Promise.all(tables.map(async (t) => (await trx(t).where('workshop_id', ELSEWHERE)).length));
    });
    expect(seen.every((n) => n === 0)).toBe(true);
    const crossing = inWorkshop(server.services.db, WORKSHOP, (trx) =>
      trx('trainings').insert({ workshop_id: ELSEWHERE, person_id: v4(), kind: 'air', until: '2030-01-01' }),
    );
    await expect(crossing).rejects.toThrow(/row-level security/);
  });
});

describe('at the door', () => {
  beforeAll(anew);
  const base = () => `http://127.0.0.1:${server.port}`;
  test.each([
    ['another site says so itself', { 'sec-fetch-site': 'cross-site' }, 403],
    ['a sister site', { 'sec-fetch-site': 'same-site' }, 403],
    ['an origin that is not ours', { origin: 'http://elsewhere.example' }, 403],
    ['a hidden origin', { origin: 'null' }, 403],
    ['our own page', { 'sec-fetch-site': 'same-origin' }, 401],
    ['a program', {}, 401],
  ])('a write from %s', async (_, headers, status) => {
    const body = JSON.stringify({ name: 'x', passphrase: 'y', device: 'z' });
    const r = await fetch(`${base()}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...(headers as Record<string, string>) },
      body,
    });
    expect(r.status).toBe(status);
  });

  test('headers: no frame, no sniffing, no referrer, scripts from here alone', async () => {
    const { headers } = await fetch(`${base()}/api/about`);
    expect(headers.get('x-frame-options')).toBe('DENY');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('referrer-policy')).toBe('no-referrer');
    expect(headers.get('content-security-policy')).toMatch(/script-src 'self';/);
    expect(headers.get('content-security-policy')).not.toMatch(/unsafe/);
    expect(headers.get('x-request-id')).toMatch(/\S{8,}/);
    expect(headers.get('strict-transport-security')).toBeNull();
  });

  test('nothing a person is told stays behind in the browser or on the way', async () => {
    const bytes = Buffer.from('no picture');
    for (const path of ['/about', '/session', '/people', '/packs', '/entries', '/nowhere', `/blobs/${'0'.repeat(64)}`])
      expect((await lead.request('GET', path)).headers.get('cache-control')).toBe('no-store');
    expect((await lead.raw('PUT', `/blobs/${'0'.repeat(64)}`, bytes, 'image/png')).headers.get('cache-control')).toBe('no-store');
  });
  /** A name in the address cannot be asked for through fetch. */
  const named = (host: string) =>
    new Promise<number>((done, fail) =>
      get({ port: server.port, host: '127.0.0.1', path: '/api/about', headers: { host } }, (r) => {
        r.resume();
        done(r.statusCode!);
      }).on('error', fail),
    );
  test('a name of somebody else’s that points here reads nothing', async () => {
    for (const ours of ['127.0.0.1:1', 'localhost', 'LOCALHOST.:80', 'bench.localhost', '[::1]:80'])
      expect(await named(ours)).toBe(200);
    const theirs = ['elsewhere.example', 'localhost.example', '127.0.0.1.example', 'notlocalhost'];
    expect(await Promise.all(theirs.map(named))).toEqual(theirs.map(() => 421));
  });
  test('a body is JSON, and says so: a form of another site cannot pretend', async () => {
    for (const type of ['text/plain', 'application/x-www-form-urlencoded', '']) {
      const r = await lead.raw('POST', '/entries', Buffer.from('{"entries":[]}'), type);
      expect(r.status).toBe(415);
    }
  });

  test('a line of news ends with its session, and a session holds a few', async () => {
    const c = await Client.signIn(server.port, bench.people.tech);
    const open = () => fetch(`${base()}/api/news`, { headers: { cookie: c.cookie } });
    const lines = await Promise.all(Array.from({ length: 8 }, open));
    expect(lines.map((l) => l.status)).toEqual(Array(8).fill(200));
    expect((await open()).status).toBe(429);
    const ended = Promise.all(lines.map((l) => l.text()));
    expect((await lead.request('PATCH', `/people/${c.person.id}`, { disabled: true })).status).toBe(204);
    expect((await ended).every((t) => t.includes('event: alive'))).toBe(true);
    await lead.request('PATCH', `/people/${c.person.id}`, { disabled: false });
  });

  test('alive, ready, and figures for this machine only, with no name in them', async () => {
    expect(await (await fetch(`${base()}/healthz`)).text()).toBe('alive');
    expect(await (await fetch(`${base()}/readyz`)).text()).toBe('ready');
    const figures = await (await fetch(`${base()}/metrics`)).text();
    expect(figures).toMatch(/gavrel_request_seconds_count\{method="GET",route="\/api\/about",status="200"\} \d/);
    expect(figures).not.toMatch(/Lea Lead|Tim Tech|[0-9a-f]{8}-[0-9a-f]{4}/);
    expect((await fetch(`${base()}/metrics`, { headers: { 'x-forwarded-for': '10.0.0.9' } })).status).toBe(403);
  });

  test('an address that a client makes up does not get it more tries', async () => {
    const own = await serveBench(bench);
    const tries = [];
    for (let i = 0; i < 33; i++)
      tries.push(
        await fetch(`http://127.0.0.1:${own.port}/api/session`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', 'x-forwarded-for': `10.0.0.${i}` },
          body: '{}',
        }).then((r) => r.status),
      );
    await own.stop();
    expect(tries.slice(-2)).toEqual([429, 429]);
  });
});

test('a stopping server finishes what it accepted and says that it is not ready', async () => {
  const own = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent' });
  const c = await Client.signIn(own.port, bench.people.tech);
  const line = await fetch(`http://127.0.0.1:${own.port}/api/news`, { headers: { cookie: c.cookie } });
  const entries = Array.from({ length: 300 }, (_, i) => {
    const tag = `STOP-${i}`;
    return c.entry('pack-added', [`pack:${taggedId(WORKSHOP, 'pack', tag)}`], { tag, use: 'removed' });
  });
  const body = Buffer.from(JSON.stringify({ deviceTime: new Date().toISOString(), entries }));
  const headers = { cookie: c.cookie, 'content-type': 'application/json', 'content-length': body.length };
  const at = { host: '127.0.0.1', port: own.port };
  const sent = request({ ...at, path: '/api/entries', method: 'POST', headers });
  const answered = once(sent, 'response') as Promise<[IncomingMessage]>;
  // Half of it has come when the server is told to stop.
  sent.write(body.subarray(0, body.length >> 1));
  // Connections are taken in the order they came: once a later one is answered, this one is the server's.
  const [socket] = (await once(sent, 'socket')) as [Socket];
  if (socket.connecting) await once(socket, 'connect');
  const later = request({ ...at, path: '/readyz', agent: false }).end();
  (await (once(later, 'response') as Promise<[IncomingMessage]>))[0].resume();
  const stopped = Promise.all([own.stop(), line.text()]);
  sent.end(body.subarray(body.length >> 1));
  const [answer] = await answered;
  const { results } = (await json(answer)) as AppendResponse;
  await stopped;
  expect(results.map((r) => r.status)).toEqual(entries.map(() => 'accepted'));
  await expect(fetch(`http://127.0.0.1:${own.port}/readyz`)).rejects.toThrow();
});
