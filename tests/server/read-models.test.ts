import type { NoticedPacks, PackPage, PackRow, Page } from '@gavrel/contract';
import {
  type Condition,
  DAY_MS,
  DEFAULT_POLICY,
  type Due,
  type JobFacts,
  type NotebookFacts,
  type PackOwed,
  type PlaceFacts,
  taggedId,
  workshopDues,
} from '@gavrel/core';
import type { NoticedPack } from '@gavrel/core/dispatch';
import { inWorkshop, type Running } from '@gavrel/server';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let tech: Client;
let lead: Client;
const id = (type: 'pack' | 'notebook' | 'place', tag: string) => taggedId(WORKSHOP, type, tag);
const job = v7();
const all = ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] as const;

/** Waits until the thread that judges anew has reached a pack. */
async function untilStored(tag: string, condition: Condition): Promise<void> {
  for (let seen = ''; seen !== condition; await new Promise((r) => setTimeout(r, 50))) {
    const row = await inWorkshop(bench.owner, WORKSHOP, (trx) =>
      trx('pack_daily').where('id', id('pack', tag)).first<{ condition: string }>('condition'),
    );
    seen = row.condition;
  }
}

beforeAll(async () => {
  bench = await makeBench('read');
  server = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
  lead = await Client.signIn(server.port, bench.people.lead);
  const nb = `notebook:${id('notebook', 'N-7')}` as const;
  const p = `pack:${id('pack', 'P-7')}` as const;
  const place = `place:${id('place', 'Shelf')}` as const;
  const instrument = { name: 'Calliper 1', accuracy: { percent: 0, digits: 0, fixed: 0.03 } };
  await lead.append([lead.entry('place-added', [place], { name: 'Shelf', kind: 'shelf', holds: ['sound'] })]);
  const results = await tech.append([
    tech.entry('notebook-identified', [nb], { tag: 'N-7', plate: 'read', maker: 'Velloway', model: 'Finch 11' }),
    tech.entry('job-opened', [`job:${job}`, nb], { complaint: 'dies at once' }),
    tech.entry('pack-added', [p, nb, `job:${job}`], { tag: 'P-7', use: 'removed', slot: 'internal' }),
    tech.entry('looked', [p], { groups: [...all] }),
    tech.entry('reading-taken', [p], { quantity: 'pack-voltage', figure: { digits: '3.85', unit: 'V' }, restMinutes: 200 }),
    tech.entry('reading-taken', [p], {
      quantity: 'new-thickness',
      figure: { digits: '5.00', unit: 'mm' },
      source: 'measured-new',
      instrument,
    }),
    tech.entry('reading-taken', [p], {
      quantity: 'thickness',
      figure: { digits: '5.40', unit: 'mm' },
      point: 'centre',
      instrument,
    }),
    tech.entry('label-read', [p], { series: 1 }),
    tech.entry('moved', [p, place], {}),
    tech.entry('due-set', [`job:${job}`], { what: 'proof', on: '2026-12-01', note: 'arrived empty' }),
  ]);
  expect(results.map((r) => r.status)).toEqual(Array(10).fill('accepted'));
});
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

test('jobs, notebooks and places are folded, found by words, and linked', async () => {
  expect(await tech.get<JobFacts>(`/jobs/${job}`)).toMatchObject({
    complaint: 'dies at once',
    packs: [id('pack', 'P-7')],
    closedAt: null,
  });
  expect(await tech.get<NotebookFacts>(`/notebooks/${id('notebook', 'N-7')}`)).toMatchObject({ model: 'Finch 11', job });
  expect((await tech.get<Page<{ id: string }>>('/notebooks?search=finch')).items).toHaveLength(1);
  expect((await tech.get<Page<{ id: string }>>('/notebooks?search=100%25')).items).toHaveLength(0);
  expect((await tech.get<Page<{ id: string }>>('/jobs?search=dies')).items).toMatchObject([{ id: job }]);
  expect(await tech.get<PlaceFacts[]>('/places')).toMatchObject([{ name: 'Shelf', kind: 'shelf' }]);
  expect((await tech.get<Page<PackRow>>(`/packs?place=${id('place', 'Shelf')}`)).items).toMatchObject([
    { tag: 'P-7', condition: 'damaged' },
  ]);
});

test('what is due: what was set, what follows, until it is met', async () => {
  const dues = await tech.get<Due[]>('/due');
  expect(dues.map((d) => d.what).sort()).toEqual(['look', 'proof']);
  const proof = dues.find((d) => d.what === 'proof')!;
  await tech.append([tech.entry('due-met', [`job:${job}`], { meets: proof.id })]);
  expect((await tech.get<Due[]>('/due')).map((d) => d.what)).toEqual(['look']);
});

test('a milder policy changes the stock only once a second lead has confirmed it; back to caution at once', async () => {
  const condition = async () => (await tech.get<Page<PackRow>>('/packs?search=P-7')).items[0]!.condition;
  const policy = [`policy:${WORKSHOP}`] as const;
  const set = lead.entry('policy-set', [...policy], { swelling: 'allowance' });
  await lead.append([set]);
  expect(await condition()).toBe('damaged');
  expect((await lead.append([lead.entry('confirmed', [...policy], { confirms: set.id })]))[0]).toMatchObject({
    status: 'refused',
  });
  await inWorkshop(bench.owner, WORKSHOP, (trx) => trx('people').where('id', bench.people.second.id).update({ role: 'lead' }));
  const second = await Client.signIn(server.port, { ...bench.people.second, role: 'lead' });
  expect((await second.append([second.entry('confirmed', [...policy], { confirms: set.id })]))[0]).toMatchObject({
    status: 'accepted',
  });
  expect(await condition()).toBe('sound');
  // Also what is stored, without anybody asking: lists are filtered by it.
  await untilStored('P-7', 'sound');
  await lead.append([lead.entry('policy-set', [...policy], { swelling: 'any' })]);
  expect(await condition()).toBe('damaged');
  await untilStored('P-7', 'damaged');
  expect((await tech.get<PackPage>('/packs?condition=damaged&search=P-7')).items).toHaveLength(1);
});

test('what aged, was judged by another program, or by a clock that ran ahead, is judged anew', async () => {
  const at = new Date(Date.now() - 29.5 * DAY_MS).toISOString();
  const stale = { 'OLD-1': { good_until: '2020-01-01' }, 'OLD-2': { basis: 'another' }, 'OLD-3': { judged_at: '2090-01-01' } };
  for (const tag of Object.keys(stale)) {
    const p = `pack:${id('pack', tag)}` as const;
    await tech.append([
      tech.entry('pack-added', [p], { tag, use: 'spare' }, { at }),
      tech.entry('looked', [p], { groups: [...all] }, { at }),
      tech.entry('gauge-read', [p], { maxError: 1 }, { at }),
      tech.entry('cycled', [p], { went: 'as-usual' }, { at }),
    ]);
  }
  const conditions = async () => (await tech.get<PackPage>('/packs?search=OLD')).items.map((i) => i.condition);
  expect(await conditions()).toEqual(['sound', 'sound', 'sound']);
  const good = await inWorkshop(bench.owner, WORKSHOP, (trx) =>
    trx('pack_daily').where('id', id('pack', 'OLD-1')).first<{ good_until: Date }>('good_until'),
  );
  // The server corrects a device's clock by some milliseconds.
  expect(Math.abs(good!.good_until.getTime() - Date.parse(at) - 30 * DAY_MS)).toBeLessThan(1000);
  await server.stop();
  for (const [tag, marks] of Object.entries(stale))
    await inWorkshop(bench.owner, WORKSHOP, (trx) =>
      trx('pack_daily')
        .where('id', id('pack', tag))
        .update({ condition: 'critical', ...marks }),
    );
  server = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
  lead = await Client.signIn(server.port, bench.people.lead);
  expect(await conditions()).toEqual(['sound', 'sound', 'sound']);
  // And the thread that judges anew reaches them without being asked again.
  for (const tag of Object.keys(stale)) await untilStored(tag, 'sound');
});

test('another policy is told by what is stored of the facts, unless another program or older facts stored it', async () => {
  const p = (tag: string) => `pack:${id('pack', tag)}` as const;
  const tags = ['IN-USED', 'IN-OTHER', 'IN-OLDER', 'IN-NONE'];
  for (const tag of tags)
    await tech.append([
      tech.entry('pack-added', [p(tag)], { tag, use: 'spare' }),
      tech.entry('looked', [p(tag)], { groups: [...all] }),
      tech.entry('gauge-read', [p(tag)], { maxError: 1 }),
      tech.entry('cycled', [p(tag)], { went: 'as-usual' }),
    ]);
  // Marked, so that it shows from where a condition was told.
  const mark = `jsonb_set(inputs, '{assessed,condition}', '"spent"')`;
  const marked = [mark, `jsonb_set(${mark}, '{by}', '"another"')`, `jsonb_set(${mark}, '{seq}', '0')`, 'null'];
  await inWorkshop(bench.owner, WORKSHOP, async (trx) => {
    for (const [i, tag] of tags.entries())
      for (const set of [`pack_daily set basis = 'another'`, `packs set inputs = ${marked[i]}`])
        await trx.raw(`update ${set} where id = ?`, [id('pack', tag)]);
  });
  const listed = (await tech.get<PackPage>('/packs?search=IN-')).items.map((i) => [i.tag, i.condition]);
  expect(Object.fromEntries(listed)).toEqual({
    'IN-USED': 'spent',
    'IN-OTHER': 'sound',
    'IN-OLDER': 'sound',
    'IN-NONE': 'sound',
  });
  await server.stop();
  server = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
  lead = await Client.signIn(server.port, bench.people.lead);
  await untilStored('IN-USED', 'spent');
  for (const tag of tags.slice(1)) await untilStored(tag, 'sound');
  // What was judged by facts is stored with it.
  const { rows } = await inWorkshop(bench.owner, WORKSHOP, (trx) =>
    trx.raw<{ rows: { told: string }[] }>(
      `select distinct inputs->'assessed'->>'condition' as told from packs where id = any(?::uuid[])`,
      [tags.slice(1).map((tag) => id('pack', tag))],
    ),
  );
  expect(rows).toEqual([{ told: 'sound' }]);
});

test('a session that was signed out, or has run out, is over', async () => {
  const c = await Client.signIn(server.port, bench.people.viewer);
  expect((await c.request('GET', '/session')).status).toBe(200);
  expect((await c.request('DELETE', '/session')).status).toBe(204);
  expect((await c.request('GET', '/session')).status).toBe(401);
  const d = await Client.signIn(server.port, bench.people.viewer);
  await inWorkshop(bench.owner, WORKSHOP, (trx) =>
    trx('sessions')
      .where('person_id', bench.people.viewer.id)
      .update({ expires_at: new Date(0) }),
  );
  expect((await d.request('GET', '/session')).status).toBe(401);
});

test('guessing is slowed down', async () => {
  const tries = await Promise.all(
    Array.from({ length: 40 }, () =>
      tech.request('POST', '/session', { name: 'Tim Tech', passphrase: 'guess', device: 'x' }).then((r) => r.status),
    ),
  );
  expect(new Set(tries)).toEqual(new Set([401, 429]));
});

test('passphrases and tokens are stored only as hashes', async () => {
  const rows = await inWorkshop(bench.owner, WORKSHOP, async (trx) => [
    await trx('people').select('passhash'),
    await trx('sessions').select('token_hash'),
  ]);
  const text = JSON.stringify(rows);
  expect(text).toContain('$argon2id$');
  expect(text).not.toContain('seven quiet herons');
});

test('what thousands of packs owe is told by a thread as by the server itself, and danger goes in meanwhile', async () => {
  const before = await tech.get<Due[]>('/due');
  const tags = Array.from({ length: 2100 }, (_, i) => `HEAP-${i}`);
  for (let from = 0; from < tags.length; from += 200) {
    // Something else is due of each: none of them is like another.
    const part = tags.slice(from, from + 200).flatMap((tag, i) => {
      const pack = `pack:${id('pack', tag)}` as const;
      return [
        tech.entry('pack-added', [pack], { tag, use: 'spare' }),
        tech.entry('due-set', [pack], { what: 'return', on: '2027-01-09', note: `HEAP ${from + i}` }),
      ];
    });
    expect((await tech.append(part)).filter((r) => r.status !== 'accepted')).toEqual([]);
  }
  const smoke = tech.entry('finding-recorded', [`pack:${id('pack', 'HEAP-7')}`], { code: 'smoke' });
  const [after, appended] = await Promise.all([tech.get<Due[]>('/due'), tech.append([smoke])]);
  expect(appended[0]).toMatchObject({ status: 'accepted' });
  const heap = after.filter((d) => /Place \d+ packs|HEAP/.test(`${d.title} ${d.note}`));
  expect(heap.length).toBeGreaterThan(2100);
  // One of them may have begun to smoke before the list was made.
  const grouped = Math.max(...heap.map((d) => Number(/Place (\d+) packs/.exec(d.title)?.[1] ?? 0)));
  expect(grouped).toBeGreaterThanOrEqual(2099);
  const rest = (all: readonly Due[]) => all.filter((d) => !heap.includes(d) && !/HEAP/.test(`${d.title} ${d.note}`));
  expect(rest(after)).toEqual(rest(before));
});

test('what is due is the same whether every pack is read or one for all that owe the same', async () => {
  const places = (['drum', 'quarantine', 'shelf'] as const).map((kind) => ({ kind, id: id('place', `Due ${kind}`) }));
  await lead.append(places.map((p) => lead.entry('place-added', [`place:${p.id}`], { name: p.kind, kind: p.kind, holds: [] })));
  const day = fc.constantFrom('2026-11-02', '2026-11-03');
  const moment = fc.constantFrom('2026-11-02T09:00:00.000Z', '2026-11-20T09:00:00.000Z');
  const seldom = <T>(a: fc.Arbitrary<T>) => fc.oneof({ weight: 6, arbitrary: fc.constant(null) }, { weight: 1, arbitrary: a });
  const someOwed = fc
    .record({
      place: fc.option(fc.constantFrom(...places.map((p) => p.id))),
      agedLook: fc.option(day),
      on: day,
      watch: seldom(fc.record({ since: moment, next: moment })),
      wasteSince: seldom(moment),
      extra: seldom(fc.constant(true)),
    })
    .map(({ on, extra, ...o }, i = v7()): PackOwed => {
      const line = { subject: `pack:${i}`, note: 'unproven', on, derived: true };
      const look = { ...line, id: `look:${i}`, what: 'look' as const, title: `Look at ${i}` };
      const other = { ...line, id: `return:${i}`, what: 'return' as const, title: 'Return owed' };
      return { ...o, id: i, tag: i, dues: extra ? [look, other] : [look] };
    });
  const empty = () => inWorkshop(bench.owner, WORKSHOP, (trx) => trx('pack_daily').where('workshop_id', WORKSHOP).delete());
  await empty();
  const without = new Set((await tech.get<Due[]>('/due')).map((d) => d.id));
  const facts = await inWorkshop(bench.owner, WORKSHOP, (trx) => trx('places').pluck('facts'));
  const told = (list: readonly Due[]) =>
    // Any of the packs that lie nowhere stands for them.
    list.filter((d) => !without.has(d.id)).map((d) => (d.id.startsWith('looks:none') ? { ...d, subject: '' } : d));
  await fc.assert(
    fc.asyncProperty(fc.array(someOwed, { minLength: 20, maxLength: 120 }), async (packs) => {
      await empty();
      const row = { workshop_id: WORKSHOP, seq: 0, condition: 'sound', judged_at: new Date(), basis: '' };
      await inWorkshop(bench.owner, WORKSHOP, (trx) =>
        trx('pack_daily').insert(packs.map((p) => ({ ...row, id: p.id, owed: JSON.stringify(p) }))),
      );
      const read = { packs, places: facts, jobs: [], notebooks: [], incidents: [], consignments: [] };
      const expected = workshopDues(read, DEFAULT_POLICY, new Date(), (iso) => iso.slice(0, 10));
      expect(told(await tech.get<Due[]>('/due'))).toEqual(told(expected));
    }),
    { numRuns: 15 },
  );
});

test('a notice is held against the whole stock: what is here, in a job, gone, and what nobody can tell of', async () => {
  const p = (tag: string) => `pack:${id('pack', tag)}` as const;
  const notice = v7();
  const tags = ['NT-HERE', 'NT-JOB', 'NT-GONE', 'NT-BARE', 'NT-OTHER'];
  const drum = `place:${id('place', 'Notice drum')}` as const;
  const open = `job:${v7()}` as const;
  await lead.append([
    lead.entry('place-added', [drum], { name: 'Notice drum', kind: 'drum', holds: ['sound', 'spent', 'damaged', 'unproven'] }),
    lead.entry('notice-filed', [`notice:${notice}`], {
      title: 'NT: leaks',
      says: 'Stop.',
      on: '2026-11-01',
      ranges: [{ typeCode: 'NT-C0DE', madeFrom: '2024' }],
    }),
  ]);
  const results = await tech.append([
    tech.entry('job-opened', [open], { complaint: 'leaks' }),
    ...tags.map((tag) => tech.entry('pack-added', [p(tag), ...(tag === 'NT-JOB' ? [open] : [])], { tag, use: 'removed' })),
    ...tags
      .filter((t) => t !== 'NT-BARE')
      .map((t) => tech.entry('label-read', [p(t)], { typeCode: t === 'NT-OTHER' ? 'XX-1' : 'NT-CODE', madeOn: '2024-03' })),
  ]);
  const gone = await lead.append([
    lead.entry('drum-collected', [drum, p('NT-GONE')], { collection: v7(), to: 'recycler' }),
    lead.entry('finding-recorded', [p('NT-GONE')], { code: 'safety-recall' }),
  ]);
  expect([...results, ...gone].filter((r) => r.status !== 'accepted')).toEqual([]);
  const ask = (path = '') => tech.get<NoticedPacks>(`/notices/${notice}/packs${path}`);
  // Stretch by stretch: the stock is larger than one.
  const items: NoticedPack[] = [];
  let asked = 0;
  for (let next: string | null = ''; next !== null; asked++) {
    const page: NoticedPacks = await ask(next && `?cursor=${next}`);
    items.push(...page.items);
    ({ next } = page);
  }
  expect(asked).toBe(2);
  const told = Object.fromEntries(items.filter((i) => i.tag.startsWith('NT-')).map((i) => [i.tag, i]));
  // The letter O and the figure 0 are taken for each other: that is said, and it is not sure.
  const hit = { sure: false, why: [expect.stringMatching(/O taken for 0|0 taken for O/)] };
  expect(told).toEqual({
    'NT-HERE': { id: id('pack', 'NT-HERE'), tag: 'NT-HERE', group: 'here', hit, found: false },
    'NT-JOB': { id: id('pack', 'NT-JOB'), tag: 'NT-JOB', group: 'in a job', hit, found: false },
    'NT-GONE': { id: id('pack', 'NT-GONE'), tag: 'NT-GONE', group: 'gone', hit, found: true },
    'NT-BARE': { id: id('pack', 'NT-BARE'), tag: 'NT-BARE', group: 'here', hit: null, found: false },
  });
  expect(new Set(items.map((i) => i.id)).size).toBe(items.length);
  expect((await tech.request('GET', `/notices/${v7()}/packs`)).status).toBe(404);
  expect((await tech.request('GET', `/notices/${notice}/packs?cursor=1`)).status).toBe(400);
});
