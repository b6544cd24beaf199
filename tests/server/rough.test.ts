import type { AppendResponse } from '@gavrel/contract';
import type { Entry, Subject } from '@gavrel/core';
import { type Running, start } from '@gavrel/server';
import { v7 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let tech: Client;
let second: Client;
beforeAll(async () => {
  bench = await makeBench('rough');
  server = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
  second = await Client.signIn(server.port, bench.people.second);
}, 60_000);
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const PACK: Subject = `pack:${v7()}`;
const found = (c: Client, note: string, more: object = {}) =>
  ({ ...c.entry('finding-recorded', [PACK], { code: 'smoke', note }), ...more }) as Entry;
/** Nested lists around a text. */
const deep = (levels: number) => JSON.parse(`${'{"a":'.repeat(levels)}1${'}'.repeat(levels)}`) as object;

describe('an entry that no database keeps', () => {
  test.each<[string, (c: Client) => object, string]>([
    ['half a character', (c) => found(c, 'smoke \ud800 here'), 'body.note'],
    ['half a character where nobody reads', (c) => found(c, 'x', { device: '\udfff' }), 'device'],
    ['the year 0', (c) => found(c, 'x', { at: '0000-01-01T00:00:00.000Z' }), 'at'],
    ['the year 9999', (c) => found(c, 'x', { at: '9999-12-31T23:59:59.999Z' }), 'at'],
    ['30 February', (c) => found(c, 'x', { at: '2026-02-30T08:00:00.000Z' }), 'at'],
    [
      'a name that reaches into a program',
      (c) => JSON.parse(JSON.stringify(found(c, 'x')).replace('"note"', '"__proto__"')) as object,
      'body.__proto__',
    ],
    ['nesting without end', (c) => found(c, 'x', { body: { code: 'smoke', more: deep(2000) } }), 'body.more.a.a.a.a.a.a.a.a.a.a'],
  ])('%s is refused, its field named, and what was sent beside it is stored', async (_what, make, field) => {
    const good = found(second, 'beside');
    const send = (c: Client, entries: readonly object[]) =>
      c.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries });
    const [bad, other] = await Promise.all([send(tech, [found(tech, 'before'), make(tech)]), send(second, [good])]);
    expect([bad.status, other.status]).toEqual([200, 200]);
    const { results } = (await bad.json()) as AppendResponse;
    expect(results[0]!.status).toBe('accepted');
    expect(results[1]).toMatchObject({ status: 'refused', problem: { status: 422, errors: [{ field }] } });
    expect(((await other.json()) as AppendResponse).results[0]!.status).toBe('accepted');
  });
  test('a device whose clock is a thousand years off is told so', async () => {
    const r = await tech.request('POST', '/entries', { deviceTime: '3026-01-01T00:00:00.000Z', entries: [found(tech, 'x')] });
    expect(r.status).toBe(422);
    expect(await r.text()).toContain('set the clock');
  });
});

test('a statement is corrected fifty times over; then it is said anew', async () => {
  const first = tech.entry('label-read', [PACK], { typeCode: 'A-0' });
  const chain: Entry[] = [first];
  for (let i = 1; i <= 51; i++) {
    const body = { body: { typeCode: `A-${i}` }, reason: 'misread' };
    chain.push(tech.entry('corrected', [PACK], body, { replaces: chain[i - 1]!.id }));
  }
  const results = await tech.append(chain);
  expect(results.slice(0, 51).every((r) => r.status === 'accepted')).toBe(true);
  expect(results[51]).toMatchObject({
    status: 'refused',
    problem: { errors: [{ detail: expect.stringContaining('say it anew') as string }] },
  });
});

describe('much that is right', () => {
  test('one person writes so much in an hour: the rest waits on the device, danger never does', async () => {
    const own = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent', quota: 10 });
    const c = await Client.signIn(own.port, bench.people.tech);
    const looked = () => c.entry('looked', [PACK], { groups: ['smell'] });
    const send = (entries: readonly object[]) => c.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries });
    const said = async (r: Response) => ((await r.json()) as AppendResponse).results.map((x) => x.status);
    expect(await said(await send(Array.from({ length: 10 }, looked)))).toEqual(Array(10).fill('accepted'));
    expect((await send([looked()])).status).toBe(429);
    expect(await said(await send([looked(), found(c, 'smoke'), looked()]))).toEqual(['later', 'accepted', 'later']);
    const other = await Client.signIn(own.port, bench.people.second);
    expect((await other.append([other.entry('looked', [PACK], { groups: ['smell'] })]))[0]!.status).toBe('accepted');
    await own.stop();
  });
  test('two thousand summaries filed with the policy are read once, not with every entry', async () => {
    const lead = await Client.signIn(server.port, bench.people.lead);
    const policy: Subject = `policy:${WORKSHOP}`;
    const file = (n: number) => lead.entry('summary-filed', [policy], { typeCode: `T-${n}`, items: ['maker'] });
    for (let i = 0; i < 4; i++) await lead.append(Array.from({ length: 500 }, (_, k) => file(1 + i * 500 + k)));
    const read = async () => {
      const trx = await server.services.db.transaction();
      await trx.raw("select set_config('gavrel.workshop', ?, true)", [WORKSHOP]);
      const seen: number[] = [];
      trx.on('query-response', (r: { rows: unknown[] }) => seen.push(r.rows.length));
      await server.services.writer.policy.of(trx);
      await trx.commit();
      return Math.max(...seen);
    };
    // Whoever looked while they were filed has read them in part: now all are read, and none of them again.
    await read();
    expect(await read()).toBe(0);
    await lead.append([file(9999)]);
    expect(await read()).toBeLessThanOrEqual(1);
    await tech.append([found(tech, 'smoke')]);
    expect(await read()).toBeLessThanOrEqual(1);
  });
});

describe('what is larger than any use', () => {
  test('a hundred thousand fields, or a thousand levels, are no pack: said at once', async () => {
    const wide = Object.fromEntries(Array.from({ length: 100_000 }, (_, i) => [`x${i}`, i]));
    const facts = { chemistry: 'li-ion' };
    const items = [{ facts: wide }, { facts: deep(3000) }, { facts }];
    const fast = await time(() => tech.request('POST', '/classify', { items: [{ facts }, { facts }, { facts }] }));
    const slow = await time(() => tech.request('POST', '/classify', { items }));
    expect(slow.r.status).toBe(200);
    const { results } = (await slow.r.json()) as { results: { problems: { words: string }[] }[] };
    expect(results.map((x) => x.problems[0]?.words ?? '')).toEqual([
      expect.stringContaining('100000 fields'),
      'no such field',
      '',
    ]);
    // Quadratic it took a minute: as a share of reading 2 MB of text beside the smallest request it is nothing.
    expect(slow.ms / Math.max(1, fast.ms)).toBeLessThan(500);
  });
  test.each([
    ['/session', 'POST'],
    ['/session/switch', 'POST'],
    ['/session/pin', 'PUT'],
    ['/people', 'POST'],
    ['/calendar', 'POST'],
    [`/owners/${v7()}`, 'PUT'],
  ])('%s takes no megabytes', async (path, method) => {
    // It listens to the end before it answers: whoever is cut off while sending never sees why.
    const r = await tech.request(method, path, `{"pin":"${'1'.repeat(2_000_000)}"}`);
    expect([r.status, r.headers.get('content-type')]).toEqual([413, 'application/problem+json']);
  });
});

async function time(work: () => Promise<Response>): Promise<{ r: Response; ms: number }> {
  const t = performance.now();
  const r = await work();
  return { r, ms: performance.now() - t };
}
