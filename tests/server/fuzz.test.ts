import { openApi } from '@gavrel/contract/openapi';
import { MODES, taggedId } from '@gavrel/core';
import { type Running, start } from '@gavrel/server';
import Ajv2020, { type ValidateFunction } from 'ajv/dist/2020';
import addFormats from 'ajv-formats';
import { v4 } from 'uuid';
import { seeded } from '../../tools/common';
import { type Bench, Client, closeBench, makeBench, markedWorkshop, WORKSHOP } from './harness';

/** Requests that are sent, from how many hands at a time. */
const REQUESTS = 10_000;
const HANDS = 8;
const ELSEWHERE = '33333333-3333-4333-8333-333333333333';
const MARK = 'belongs-to-others';

// A guard against hanging: beside another file it takes longer than alone.
jest.setTimeout(900_000);
let bench: Bench;
let server: Running;
let lead: Client;
beforeAll(async () => {
  bench = await makeBench('fuzz');
  server = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent', quota: 1e9, perMinute: 1e9 });
  lead = await Client.signIn(server.port, bench.people.lead);
  await markedWorkshop(bench.owner, ELSEWHERE, MARK);
});
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

interface Operation {
  readonly responses: Record<string, { readonly content?: Record<string, { readonly schema: object }>; readonly $ref?: string }>;
}
const document = openApi('test');
const ajv = new Ajv2020({ strict: false });
addFormats(ajv);
ajv.addSchema(document, 'document');
const compiled = new Map<string, ValidateFunction>();
const validator = (pointer: string): ValidateFunction => {
  const known = compiled.get(pointer) ?? ajv.compile({ $ref: `document#${pointer}` });
  compiled.set(pointer, known);
  return known;
};
const escaped = (part: string) => part.replace(/~/g, '~0').replace(/\//g, '~1');

const PACK = taggedId(WORKSHOP, 'pack', 'HERE');
const now = () => new Date().toISOString();
/** What is right, to be spoilt. */
const RIGHT: Record<string, () => unknown> = {
  '/api/session': () => ({ name: 'Lea Lead', passphrase: 'wrong', device: 'x' }),
  '/api/session/switch': () => ({ person: lead.person.id, pin: '7302' }),
  '/api/session/passphrase': () => ({ passphrase: 'wrong', fresh: 'nine slow barges' }),
  '/api/session/pin': () => ({ passphrase: 'wrong', pin: '7302' }),
  '/api/people': () => ({ name: `New ${v4().slice(0, 8)}`, role: 'viewer' }),
  '/api/people/outside': () => ({ name: `Out ${v4().slice(0, 8)}`, until: '2030-01-01' }),
  '/api/people/{id}': () => ({ role: 'shipper', disabled: false }),
  '/api/people/{id}/trainings': () => ({ kind: 'assess', until: '2030-01-01' }),
  '/api/entries': () => ({
    deviceTime: now(),
    entries: [
      lead.entry('pack-added', [`pack:${PACK}`], { tag: 'HERE', use: 'removed' }),
      lead.entry('finding-recorded', [`pack:${PACK}`], { code: 'smoke', note: 'x' }),
      lead.entry('due-set', [`pack:${PACK}`], { due: v4(), what: 'look', on: '2026-12-01', note: 'x' } as never),
      lead.entry('label-read', [`pack:${PACK}`], { chemistry: 'li-ion', nominalVoltage: { digits: '11.4', unit: 'V' } }),
    ],
  }),
  '/api/entries/of': () => ({ subjects: [`pack:${PACK}`] }),
  '/api/entries/sign': () => ({
    deviceTime: now(),
    person: bench.people.second.id,
    how: 'passphrase',
    secret: 'wrong',
    entries: [lead.entry('confirmed', [`pack:${PACK}`], { confirms: v4() })],
  }),
  '/api/owners/{id}': () => ({ name: 'Ada', contact: '' }),
  '/api/session/practice': () => ({
    person: lead.person.id,
    sessions: [{ scenario: 'x', begun: now(), at: now(), full: true, harm: 0, found: true, bet: { sure: 0.5, right: false } }],
  }),
  '/api/plan': () => ({
    kinds: [
      {
        id: 'a',
        count: 3,
        facts: { chemistry: 'li-ion', series: 3, nominalVoltage: 11.4, ratedEnergy: 45, mass: 0.25, placement: 'loose' },
        outline: { length: 180, width: 105, height: 6 },
      },
    ],
    boxes: [
      {
        id: 'M',
        inner: { length: 400, width: 300, height: 200 },
        tareKg: 0.5,
        maxGrossKg: 20,
        stock: 4,
        price: 1.9,
      },
    ],
    route: { mode: 'road', region: 'eu', on: '2026-11-26' },
    gapMm: 5,
    fillKgPerBox: 0.2,
    price: { perPackage: 4, perKg: 0.6 },
  }),
  '/api/classify': () => ({
    items: MODES.map((mode) => ({
      facts: { chemistry: 'li-ion', series: 3, ratedEnergy: 45 },
      route: { mode, on: '2026-11-26' },
    })),
  }),
};
const NASTY: readonly unknown[] = [
  null,
  '',
  0,
  -1,
  1e308,
  0.1,
  true,
  [],
  {},
  'x'.repeat(300),
  '\ud800',
  '\u0000',
  '2099-99-99',
  '0000-01-01T00:00:00.000Z',
  "'; drop table entries; --",
  '=cmd|calc!A1',
  '9'.repeat(40),
  JSON.parse('{"__proto__": {"a": 1}}'),
  { constructor: { prototype: 1 } },
  [[[[[[[[[[[[[[1]]]]]]]]]]]]]],
];
const random = seeded(20261126);
const pick = <T>(from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

/** One thing in it is another, goes, or comes twice. */
function spoilt(value: unknown): unknown {
  if (typeof value !== 'object' || value === null || random() < 0.15) return pick(NASTY);
  if (Array.isArray(value)) {
    const i = Math.floor(random() * value.length);
    return random() < 0.2 ? [...value, ...value] : value.map((v, k) => (k === i ? spoilt(v) : (v as unknown)));
  }
  const keys = Object.keys(value);
  const key = pick([...keys, '__proto__', 'extra']);
  const { [key]: gone, ...rest } = value as Record<string, unknown>;
  return random() < 0.2 ? rest : { ...rest, [key]: spoilt(gone) };
}

const RAW = ['', '{', '[]', 'null', '{"entries":[null]}', '"\\ud800"', '{"__proto__":{"a":1}}', '['.repeat(5000), 'ÿ\u0000'];
const IDS = () => [v4(), PACK, bench.people.viewer.id, '..', '%00', "'; drop table entries; --", '0', 'ÿ', '0'.repeat(64)];
const QUERY = ['after', 'before', 'limit', 'cursor', 'search', 'condition', 'place', 'on', 'region'];
const ASKED = [
  '',
  '-1',
  '1',
  '50',
  '1e9',
  '%',
  '\u0000',
  '9'.repeat(40),
  'sound',
  '2099-99-99',
  '2026-11-26',
  'ÿ',
  'constructor',
  PACK,
];

test(`${REQUESTS} requests, half right and wrong: no fault of ours, no other workshop’s data, and every answer as the document says`, async () => {
  const operations = Object.entries(document.paths as Record<string, Record<string, Operation>>).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, o]) => ({ path, method, o })),
  );
  // What ends the session would end the test, and a line of news does not end.
  const asked = operations.filter(
    ({ path, method }) => path !== '/api/news' && !(method === 'delete' && /\/sessions?$/.test(path)),
  );
  const wrong: string[] = [];
  const statuses = new Map<number, number>();
  let sent = 0;
  const once = async () => {
    const { path, method, o } = asked[sent++ % asked.length]!;
    const where = path.replace(/^\/api/, '').replace(/\{\w+\}/g, () => encodeURIComponent(pick(IDS())));
    const search = method === 'get' ? `?${new URLSearchParams({ [pick(QUERY)]: pick(ASKED), [pick(QUERY)]: pick(ASKED) })}` : '';
    const right = RIGHT[path]?.();
    const body =
      method === 'get' || method === 'delete'
        ? undefined
        : random() < 0.15 || !right
          ? pick(RAW)
          : JSON.stringify(random() < 0.2 ? right : spoilt(right));
    const type =
      method === 'put' && path.startsWith('/api/blobs')
        ? pick(['image/png', 'image/jpeg', 'application/gzip', 'text/html', ''])
        : random() < 0.03
          ? 'text/plain'
          : 'application/json';
    const r = await fetch(lead.base + where + search, {
      method: method.toUpperCase(),
      headers: { cookie: lead.cookie, 'content-type': type },
      ...(body !== undefined && { body }),
    });
    const words = await r.text();
    statuses.set(r.status, (statuses.get(r.status) ?? 0) + 1);
    const say = (what: string) =>
      wrong.push(`${what}: ${method} ${where}${search} ${(body ?? '').slice(0, 400)} -> ${r.status} ${words.slice(0, 300)}`);
    if (r.status >= 500) say('a fault of ours');
    if (words.includes(MARK)) say('another workshop’s data');
    if (/at \w+ \(|node_modules|select |postgres/i.test(words)) say('tells of its inside');
    const [name, told] = o.responses[r.status]
      ? [String(r.status), o.responses[r.status]!]
      : r.status >= 400
        ? ['default', o.responses.default]
        : ['', undefined];
    if (!told) return say('not in the document');
    const problem = name === 'default';
    const mime = (r.headers.get('content-type') ?? '').split(';')[0]!;
    if (problem && mime !== 'application/problem+json') return say(`is called ${mime}`);
    if (!problem && told.content && !(mime in told.content)) return say(`is called ${mime}`);
    if (!problem && !told.content) return words === '' ? undefined : say('says more than nothing');
    if (!mime.endsWith('json')) return;
    const pointer = problem
      ? '/components/schemas/Problem'
      : `/paths/${escaped(path)}/${method}/responses/${name}/content/${escaped(mime)}/schema`;
    const check = validator(pointer);
    if (!check(JSON.parse(words))) say(`not as the document says, ${ajv.errorsText(check.errors)}`);
  };
  await Promise.all(
    Array.from({ length: HANDS }, async () => {
      while (sent < REQUESTS && wrong.length < 20) await once();
    }),
  );
  expect(wrong).toEqual([]);
  // It was not turned away at the door: most of what can be answered was.
  expect(statuses.get(200)).toBeGreaterThan(REQUESTS / 10);
  expect(statuses.get(422)).toBeGreaterThan(REQUESTS / 20);
});
