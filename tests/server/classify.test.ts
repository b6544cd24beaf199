import type { Running } from '@gavrel/server';
import { v4 } from 'uuid';
import cases from '@gavrel/core/cases/shipping.json';
import { type Bench, Client, closeBench, makeBench, serveBench } from './harness';

let bench: Bench;
let server: Running;
let tech: Client;
beforeAll(async () => {
  bench = await makeBench('classify');
  server = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
}, 60_000);
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const ask = (body: unknown, c = tech) => c.raw('POST', '/classify', Buffer.from(JSON.stringify(body)), 'application/json');

test('the worked cases, asked by another program', async () => {
  const r = await ask({ items: cases });
  const { results } = (await r.json()) as { results: Record<string, unknown>[] };
  cases.forEach((c, i) => expect(results[i]).toMatchObject({ ...c.expect, tag: c.id }));
});

test('a bad item is named and the good ones are ruled on', async () => {
  const r = await ask({ items: [cases[0], { facts: { ratedCapacity: -1, colour: 'red' } }] });
  const { results } = (await r.json()) as { results: { outcome: string | null; problems: { column: string }[] }[] };
  expect([r.status, results[0]!.outcome, results[1]!.outcome]).toEqual([200, 'allowed', null]);
  expect(results[1]!.problems.map((p) => p.column)).toEqual(['ratedCapacity', 'colour']);
});

describe('packages for packs, asked by another program', () => {
  const kind = {
    id: 'a',
    count: 40,
    facts: {
      chemistry: 'li-ion',
      series: 3,
      nominalVoltage: 11.4,
      ratedEnergy: 50,
      energyMarked: true,
      madeOn: '2021',
      typeTested: 'yes',
      findings: [],
      conditionKnown: true,
      placement: 'loose',
      purpose: 'use',
      mass: 0.25,
    },
    outline: { length: 180, width: 105, height: 6 },
  };
  const box = { id: 'M', inner: { length: 400, width: 300, height: 200 }, tareKg: 0.5, maxGrossKg: 6, stock: 4, price: 1.9 };
  const order = { kinds: [kind], boxes: [box], route: { mode: 'road', region: 'eu', on: '2026-11-27' }, gapMm: 5 };
  const send = (body: unknown) => tech.raw('POST', '/plan', Buffer.from(JSON.stringify(body)), 'application/json');

  test('a plan with its bound', async () => {
    const r = await send(order);
    // 40 of 0.25 kg, 5.5 kg net in a box: two.
    expect([r.status, await r.json()]).toMatchObject([200, { count: 2, left: [], bound: { count: 2 }, proved: true }]);
  });
  test('what is wrong is named with its place, and what is odd stays here', async () => {
    const bad = await send({ ...order, kinds: [{ ...kind, count: 0 }] });
    expect([bad.status, await bad.json()]).toMatchObject([422, { errors: [{ field: 'kinds[0].count' }] }]);
    // 50 Wh in 50 g is no lithium-ion pack of today: it is weighed again before it is planned.
    const odd = await send({ ...order, kinds: [kind, { ...kind, id: 'b', facts: { ...kind.facts, mass: 0.05 } }] });
    expect(await odd.json()).toMatchObject({
      count: 2,
      left: [{ kind: 'b', count: 40, why: expect.stringMatching(/weigh it again/) }],
    });
  });
});

test.each([
  ['no list', {}, 422],
  ['too many', { items: Array(2001).fill({ facts: {} }) }, 422],
  ['too large', { items: [{ facts: {}, id: 'x'.repeat(5_100_000) }] }, 413],
] as const)('%s is refused with what to do', async (_what, body, status) => {
  const r = await ask(body);
  expect(r.status).toBe(status);
  expect(((await r.json()) as { title: string }).title).not.toBe('');
});

test('what is dangerous does not wait for a table', async () => {
  const items = Array.from({ length: 2000 }, (_, i) => ({ ...cases[i % cases.length], id: `row-${i}` }));
  const order: string[] = [];
  const table = ask({ items }).then((r) => (order.push('table'), r.status));
  for (let i = 0; i < 10; i++) {
    const found = tech.entry('finding-recorded', [`pack:${v4()}`], { code: 'smoke' });
    expect((await tech.append([found]))[0]!.status).toBe('accepted');
    order.push('smoke');
  }
  expect([await table, order.indexOf('table')]).toEqual([200, 10]);
}, 60_000);

test('more tables than threads and waiting room are told to come again, the others are answered', async () => {
  const items = Array.from({ length: 300 }, (_, i) => cases[i % cases.length]);
  const statuses = await Promise.all(Array.from({ length: 120 }, async () => (await ask({ items })).status));
  expect(new Set(statuses)).toEqual(new Set([200, 503]));
  expect((await ask({ items })).status).toBe(200);
}, 120_000);
