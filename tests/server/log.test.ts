import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PassThrough, Readable } from 'node:stream';
import { text } from 'node:stream/consumers';
import type { EntriesResponse, PackResponse, PackRow, Page, Problem } from '@gavrel/contract';
import { canonical, type Due, type Entry, type LoggedEntry, taggedId, DAY_MS } from '@gavrel/core';
import { connect, exportLog, importLog, inWorkshop, migrate, rebuild, type Running } from '@gavrel/server';
import { v7 } from 'uuid';
import { isAway } from '../../apps/server/src/store/db';
import { killCluster, makeDatabase, startCluster, stopCluster } from '../../tools/postgres';
import { type Bench, Client, closeBench, makeBench, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let second: Running;
let tech: Client;
let other: Client;
let lead: Client;

beforeAll(async () => {
  bench = await makeBench('log');
  server = await serveBench(bench);
  second = await serveBench(bench);
  tech = await Client.signIn(server.port, bench.people.tech);
  other = await Client.signIn(second.port, bench.people.second);
  lead = await Client.signIn(server.port, bench.people.lead);
});
afterAll(async () => {
  await server.stop();
  await second.stop();
  await closeBench(bench);
});

const packId = (tag: string) => taggedId(WORKSHOP, 'pack', tag);
const newPack = (c: Client, tag: string) => c.entry('pack-added', [`pack:${packId(tag)}`], { tag, use: 'removed' });
const problemOf = async (r: Response) => (await r.json()) as Problem;

describe('appending', () => {
  test('is idempotent by id; another body under the same id is refused', async () => {
    const e = newPack(tech, 'IDEM');
    const [first] = await tech.append([e]);
    expect(first).toMatchObject({ status: 'accepted' });
    expect(await tech.append([e])).toEqual([{ ...first, status: 'known' }]);
    const [changed] = await tech.append([{ ...e, body: { tag: 'IDEM', use: 'spare' } }]);
    expect(changed).toMatchObject({ status: 'refused', problem: { status: 409 } });
  });

  test('one bad entry in a batch of 500: the good ones stay, the bad one is named', async () => {
    const batch: unknown[] = Array.from({ length: 499 }, (_, i) => newPack(tech, `B-${i}`));
    batch.splice(250, 0, tech.entry('label-read', [`pack:${packId('B-1')}`], { ratedCapacity: { digits: '-5', unit: 'Ah' } }));
    const results = await tech.append(batch);
    expect(results.filter((r) => r.status === 'accepted')).toHaveLength(499);
    expect(results[250]).toMatchObject({ status: 'refused', problem: { errors: [{ field: 'body.ratedCapacity.digits' }] } });
  });

  test.each([
    [
      'text in a number',
      { kind: 'label-read', body: { nominalVoltage: { digits: 'eleven', unit: 'V' } } },
      'body.nominalVoltage.digits',
    ],
    ['a wrong type', { kind: 'label-read', body: { series: '3' } }, 'body.series'],
    [
      'beyond any instrument',
      { kind: 'reading-taken', hazard: true, body: { quantity: 'pack-voltage', figure: { digits: '900', unit: 'V' } } },
      'body.figure',
    ],
    [
      'a wrong unit',
      { kind: 'reading-taken', hazard: true, body: { quantity: 'thickness', figure: { digits: '5', unit: 'V' } } },
      'body.figure.unit',
    ],
    ['an unknown kind', { kind: 'pack-flattened', body: {} }, 'kind'],
    ['a NUL character', { kind: 'label-read', body: { typeCode: 'A\u0000B' } }, 'body.typeCode'],
    ['a field nobody knows', { kind: 'label-read', body: { colour: 'red' } }, 'body.colour'],
    ['an impossible date', { kind: 'label-read', body: { madeOn: '2021-13' } }, 'body.madeOn'],
    ['another author', { by: v7() }, 'by'],
    ['another workshop', { workshop: v7() }, 'workshop'],
  ])('refuses %s and names the field', async (_what, change, field) => {
    const [r] = await tech.append([
      { ...tech.entry('intended', [`pack:${packId('BAD')}`], { purpose: 'use' }), ...change } as Entry,
    ]);
    expect(r).toMatchObject({ status: 'refused' });
    expect((r as { problem: Problem }).problem.errors!.map((e) => e.field)).toContain(field);
  });

  test('odd but possible values are kept: 60 V on a 3S pack', async () => {
    const [r] = await tech.append([
      tech.entry('reading-taken', [`pack:${packId('ODD')}`], {
        quantity: 'pack-voltage',
        figure: { digits: '60.00', unit: 'V' },
        confirmedOdd: true,
      }),
    ]);
    expect(r).toMatchObject({ status: 'accepted' });
  });

  test('a hazard on a pack nobody has added is kept', async () => {
    const [r] = await tech.append([tech.entry('finding-recorded', [`pack:${packId('UNSEEN')}`], { code: 'smoke' })]);
    expect(r).toMatchObject({ status: 'accepted' });
    expect((await tech.get<PackResponse>(`/packs/${packId('UNSEEN')}`)).ruling.judgement.condition).toBe('critical');
  });

  test('a viewer reads only, but may say that something smokes', async () => {
    const viewer = await Client.signIn(server.port, bench.people.viewer);
    const p = `pack:${packId('VIEW')}` as const;
    const [wish, smoke] = await viewer.append([
      viewer.entry('intended', [p], { purpose: 'use' }),
      viewer.entry('finding-recorded', [p], { code: 'smoke' }),
    ]);
    expect(wish).toMatchObject({ status: 'refused', problem: { status: 403 } });
    expect(smoke).toMatchObject({ status: 'accepted' });
  });

  test('a clock that runs ahead cannot put an entry into the future', async () => {
    const ahead = new Date(Date.now() + 3 * 3_600_000).toISOString();
    const [r] = await tech.append([tech.entry('intended', [`pack:${packId('IDEM')}`], { purpose: 'use' }, { at: ahead })], ahead);
    expect(r).toMatchObject({ status: 'accepted' });
    const { effectiveAt, recordedAt } = r as { effectiveAt: string; recordedAt: string };
    expect(effectiveAt <= recordedAt).toBe(true);
    expect(Date.parse(recordedAt) - Date.parse(effectiveAt)).toBeLessThan(5000);
  });

  test('a request that was long on its way puts nothing behind what the same device wrote later', async () => {
    const from = Date.now() - 60_000;
    const at = (ms: number) => new Date(from + ms).toISOString();
    const p = [`pack:${packId('SLOW')}`];
    const meant = (purpose: string, ms: number) => tech.entry('intended', p as never, { purpose } as never, { at: at(ms) });
    // Sent eight seconds ago by the device's clock, and then one that came at once.
    const slow = await tech.append([meant('use', 0)], new Date(Date.now() - 8000).toISOString());
    const quick = await tech.append([meant('recycling', 1000)]);
    const [first, second] = [slow, quick].map(([r]) => (r as { effectiveAt: string }).effectiveAt);
    expect(Date.parse(first!)).toBeGreaterThan(from + 7000);
    expect(second! >= first!).toBe(true);
  });

  test('two servers racing: every number once, none left out, nothing lost', async () => {
    const before = (await tech.get<EntriesResponse>('/entries?after=0&limit=1')).last;
    const writers = Array.from({ length: 24 }, (_, i) => (i % 2 === 0 ? tech : other));
    const all = await Promise.all(
      writers.map((c, i) => c.append(Array.from({ length: 10 }, (_, k) => newPack(c, `RACE-${i}-${k}`)))),
    );
    const seqs = all
      .flat()
      .map((r) => (r as { seq: number }).seq)
      .sort((a, b) => a - b);
    expect(seqs).toEqual(Array.from({ length: 240 }, (_, i) => before + 1 + i));
  });
});

describe('the log cannot be changed', () => {
  const app = () => connect(bench.urls.app, 1);
  test.each([
    'update entries set kind = kind',
    'delete from entries',
    'truncate entries',
    'update packs set workshop_id = gen_random_uuid()',
  ])('%s', async (sql) => {
    const db = app();
    await expect(inWorkshop(db, WORKSHOP, (trx) => trx.raw(sql))).rejects.toThrow(/permission denied|row-level security/);
    await db.destroy();
  });
  test('its owner is stopped by the triggers', async () => {
    await expect(inWorkshop(bench.owner, WORKSHOP, (trx) => trx.raw('update entries set kind = kind'))).rejects.toThrow(
      /append-only/,
    );
    await expect(inWorkshop(bench.owner, WORKSHOP, (trx) => trx.raw('truncate entries'))).rejects.toThrow(/append-only/);
  });
  test('another workshop sees nothing', async () => {
    const db = app();
    const seen = await inWorkshop(db, '33333333-3333-4333-8333-333333333333', (trx) => trx('entries').count().first());
    expect(seen).toEqual({ count: '0' });
    expect(await db('entries').count().first()).toEqual({ count: '0' });
    await db.destroy();
  });
});

describe('milder needs two, at the server', () => {
  const p = `pack:${packId('TWO')}` as const;
  test('author, incompetent and stranger cannot confirm; a competent second can', async () => {
    const found = tech.entry('finding-recorded', [p], { code: 'dropped' });
    const clear = tech.entry('finding-cleared', [p], { clears: [found.id], reason: 'no dent seen' });
    await tech.append([newPack(tech, 'TWO'), found, clear]);
    const confirm = (c: Client) => c.append([c.entry('confirmed', [p], { confirms: clear.id })]);
    expect((await confirm(tech))[0]).toMatchObject({ status: 'refused', problem: { errors: [{ field: 'body.confirms' }] } });
    const viewer = await Client.signIn(server.port, bench.people.viewer);
    expect((await confirm(viewer))[0]).toMatchObject({ status: 'refused' });
    expect((await lead.get<Due[]>('/due')).filter((d) => d.what === 'second person' && d.subject === p)).toHaveLength(1);
    expect((await tech.get<PackResponse>(`/packs/${packId('TWO')}`)).ruling.judgement.condition).toBe('damaged');
    expect((await confirm(other))[0]).toMatchObject({ status: 'accepted' });
    expect((await tech.get<PackResponse>(`/packs/${packId('TWO')}`)).ruling.judgement.condition).toBe('unproven');
  });
  test('a correction must fit the kind it mends and name all it is about', async () => {
    const label = tech.entry('label-read', [p], { ratedEnergy: { digits: '57', unit: 'Wh' } });
    const mend = (body: Record<string, unknown>, subjects = [p] as Entry['subjects']) =>
      tech.entry('corrected', subjects, { body, reason: 'misread' }, { replaces: label.id });
    await tech.append([label]);
    const [bad, elsewhere, good] = await tech.append([
      mend({ ratedEnergy: 57 }),
      mend({ ratedEnergy: { digits: '75', unit: 'Wh' } }, [`pack:${packId('IDEM')}`]),
      mend({ ratedEnergy: { digits: '75', unit: 'Wh' } }),
    ]);
    expect(bad).toMatchObject({ status: 'refused', problem: { errors: [{ field: 'body.body.ratedEnergy' }] } });
    expect(elsewhere).toMatchObject({ status: 'refused', problem: { errors: [{ field: 'subjects' }] } });
    expect(good).toMatchObject({ status: 'accepted' });
  });
  test('only a lead sets policy', async () => {
    const [r] = await tech.append([tech.entry('policy-set', [`policy:${WORKSHOP}`], { swelling: 'allowance' })]);
    expect(r).toMatchObject({ status: 'refused' });
  });
  test('a hazard on a notebook reaches a pack linked to it later', async () => {
    const nb = `notebook:${taggedId(WORKSHOP, 'notebook', 'NB-1')}` as const;
    await tech.append([
      tech.entry('notebook-identified', [nb], { tag: 'NB-1', plate: 'unreadable' }),
      tech.entry('finding-recorded', [nb], { code: 'swollen' }),
    ]);
    await tech.append([tech.entry('pack-added', [`pack:${packId('IN-NB')}`, nb], { tag: 'IN-NB', use: 'removed' })]);
    expect((await tech.get<PackResponse>(`/packs/${packId('IN-NB')}`)).ruling.judgement.condition).toBe('damaged');
    await tech.append([tech.entry('finding-recorded', [nb], { code: 'hissing' })]);
    expect((await tech.get<PackResponse>(`/packs/${packId('IN-NB')}`)).ruling.judgement.condition).toBe('critical');
  });

  test('an incident reaches a pack whose move arrives later; only a lead declares it over, and a second person signs', async () => {
    const box = `place:${taggedId(WORKSHOP, 'place', 'Box 9')}` as const;
    const it = `incident:${v7()}` as const;
    const [here, late] = [`pack:${packId('BOX-1')}`, `pack:${packId('BOX-2')}`] as const;
    const of = (tag: string) => tech.get<PackResponse>(`/packs/${packId(tag)}`);
    await lead.append([lead.entry('place-added', [box], { name: 'Box 9', kind: 'quarantine', holds: ['damaged', 'critical'] })]);
    await tech.append([newPack(tech, 'BOX-1'), newPack(tech, 'BOX-2'), tech.entry('moved', [here, box], {})]);
    // Long enough before that no delay of a request puts it after.
    const moved = other.entry('moved', [late, box], {}, { at: new Date(Date.now() - 60_000).toISOString() });
    await tech.append([tech.entry('incident-opened', [it, box, here], { what: 'smoke', source: packId('BOX-1') })]);
    expect((await of('BOX-1')).ruling.judgement.condition).toBe('critical');
    expect((await of('BOX-2')).ruling.judgement.condition).toBe('unproven');
    await other.append([moved]);
    expect((await of('BOX-2')).ruling.judgement.because).toContain('in-incident');
    // The look of a third person at the same box, who did not know of either.
    await new Promise((r) => setTimeout(r, 20));
    await other.append([other.entry('container-looked', [box], { smell: 'smell' })]);
    expect((await of('BOX-2')).ruling.judgement.condition).toBe('critical');

    const over = { reason: 'cold for three days' };
    const [refused] = await tech.append([tech.entry('incident-closed', [it, here, late], over)]);
    expect(refused).toMatchObject({ status: 'refused', problem: { errors: [{ detail: 'only a lead may do this' }] } });
    const close = lead.entry('incident-closed', [it, here, late], over);
    await lead.append([close]);
    const frozen = async () => (await of('BOX-2')).ruling.judgement.open.some((w) => w.startsWith('frozen'));
    expect(await frozen()).toBe(true);
    const [own] = await lead.append([lead.entry('confirmed', [it, here, late], { confirms: close.id })]);
    expect(own).toMatchObject({ status: 'refused' });
    const [untrained] = await tech.append([tech.entry('confirmed', [it, here, late], { confirms: close.id })]);
    expect(untrained).toMatchObject({ status: 'refused' });
    expect(await frozen()).toBe(true);
    await other.append([other.entry('confirmed', [it, here, late], { confirms: close.id })]);
    expect(await frozen()).toBe(false);
  });
});

describe('reading', () => {
  test('lists page by cursor, filter by condition, search forgives look-alikes and says so', async () => {
    await tech.append([tech.entry('label-read', [`pack:${packId('RACE-0-0')}`], { typeCode: 'QZ0B5-77' })]);
    const found = await tech.get<Page<PackRow>>('/packs?search=qzo85');
    expect(found.items).toMatchObject([{ tag: 'RACE-0-0', forgave: ['O taken for 0', '8 taken for B'] }]);
    const seen: string[] = [];
    for (let cursor: string | null = ''; cursor !== null;) {
      const page: Page<PackRow> = await tech.get(`/packs?search=RACE&limit=50${cursor ? `&cursor=${cursor}` : ''}`);
      seen.push(...page.items.map((i) => i.tag));
      cursor = page.next;
    }
    expect(new Set(seen).size).toBe(240);
    expect(seen).toHaveLength(240);
    expect((await tech.get<Page<PackRow>>('/packs?condition=critical')).items.map((i) => i.tag)).toContain('IN-NB');
  });
  test('errors are problem documents that say what to do', async () => {
    const missing = await tech.request('GET', `/packs/${packId('NEVER')}`);
    expect([missing.status, missing.headers.get('content-type')]).toEqual([404, 'application/problem+json']);
    expect((await problemOf(await tech.request('GET', '/packs?limit=0'))).errors).toMatchObject([{ field: 'limit' }]);
    expect((await tech.request('POST', '/entries', '{nope')).status).toBe(400);
    expect((await tech.request('GET', '/nowhere')).status).toBe(404);
    const anonymous = new Client(tech.base, bench.people.tech);
    expect((await anonymous.request('GET', '/entries')).status).toBe(401);
  });
  test('a body of 50 MB is refused, not read', async () => {
    const r = await tech.request('POST', '/entries', JSON.stringify({ junk: 'x'.repeat(50 * 1024 * 1024) })).catch(() => null);
    if (r) expect([r.status, (await problemOf(r)).detail]).toEqual([413, expect.stringContaining('smaller batches')]);
    expect((await tech.request('GET', '/session')).status).toBe(200);
  });
  test('a wrong passphrase and an unknown name answer the same', async () => {
    const ask = (name: string) => tech.request('POST', '/session', { name, passphrase: 'wrong', device: 'x' }).then(problemOf);
    expect(await ask('Tim Tech')).toEqual(await ask('Nobody Atall'));
  });
  test('the session cookie is HttpOnly and SameSite', async () => {
    const r = await tech.request('POST', '/session', { name: 'tim tech', passphrase: 'seven quiet herons', device: 'x' });
    expect(r.headers.get('set-cookie')).toMatch(/HttpOnly.*SameSite=Strict/);
  });
  test('news from one server reaches a listener at the other', async () => {
    const stream = await other.request('GET', '/news');
    const reader = stream.body!.getReader();
    await reader.read();
    const [sent] = await tech.append([newPack(tech, 'NEWS')]);
    let heard = '';
    while (!heard.includes('"seq"')) heard += Buffer.from((await reader.read()).value!).toString();
    expect(JSON.parse(/data: (\{.*\})/.exec(heard)![1]!)).toEqual({ seq: (sent as { seq: number }).seq });
    await reader.cancel();
  });
});

describe('replay and transfer', () => {
  const ctx = () => ({ workshop: WORKSHOP, zone: 'Europe/Lisbon', now: new Date() });
  const exported = async (db: typeof bench.owner) => {
    const out = new PassThrough();
    const all = text(out);
    await exportLog(db, { id: WORKSHOP, name: 'Test bench', zone: 'Europe/Lisbon' }, out);
    out.end();
    return all;
  };
  test('the tables equal a replay; a tampered row is reported and mended', async () => {
    expect((await rebuild(bench.owner, ctx())).drift).toEqual([]);
    await inWorkshop(bench.owner, WORKSHOP, (trx) =>
      trx('packs')
        .where('id', packId('TWO'))
        .update({ facts: trx.raw(`jsonb_set(facts, '{tag}', '"X"')`) }),
    );
    expect((await rebuild(bench.owner, ctx())).drift).toEqual([`packs ${packId('TWO')}`]);
    expect((await rebuild(bench.owner, ctx())).drift).toEqual([]);
  });
  test('an export, an import and an export again are byte-equal', async () => {
    const first = await exported(bench.owner);
    const urls = makeDatabase(bench.cluster, 'gavrel_copy');
    const copy = connect(urls.owner, 2);
    await migrate(copy);
    expect(await importLog(copy, Readable.from([first]), new Date())).toBeGreaterThan(700);
    expect(await exported(copy)).toBe(first);
    await expect(importLog(copy, Readable.from([first]), new Date())).rejects.toThrow('already holds a log');
    await copy.destroy();
  });
  test.each([
    ['', 'empty'],
    ['{"x":1}\n', 'not an exported log'],
    ['nonsense\n', 'line 1 is not JSON'],
  ])('a file that is no export (%p) is refused, nothing stored', async (content, message) => {
    const urls = makeDatabase(bench.cluster, 'gavrel_bad');
    const db = connect(urls.owner, 1);
    await migrate(db);
    await expect(importLog(db, Readable.from([content]), new Date())).rejects.toThrow(message);
    expect(await db('workshops').first()).toBeUndefined();
    await db.destroy();
  });
  test('every line of a file is checked as if it were sent: one that is wrong names its number, and nothing is kept', async () => {
    const lines = (await exported(bench.owner)).trimEnd().split('\n');
    const urls = makeDatabase(bench.cluster, 'gavrel_wrong');
    const db = connect(urls.owner, 1);
    await migrate(db);
    const entries = lines.map((l) => JSON.parse(l) as LoggedEntry & { body: Record<string, unknown> });
    const at = (kind: string) => entries.findIndex((e) => e.kind === kind);
    const changed = (i: number, change: object) =>
      lines.map((l, k) => (k === i ? JSON.stringify({ ...entries[i], ...change }) : l));
    const mend = at('corrected');
    const later = new Date(Date.now() + DAY_MS).toISOString();
    const wrong: [string[], number, RegExp][] = [
      [changed(3, { body: { nonsense: 1 } }), 4, /body/],
      [changed(3, { kind: 'flown' }), 4, /unknown kind flown/],
      [changed(3, { recordedAt: later }), 4, /after now/],
      [changed(3, { seq: 99 }), 4, /out of order/],
      [changed(3, { id: entries[2]!.id }), 4, /stands in the file before/],
      [changed(mend, { replaces: entries[entries.length - 1]!.id }), mend + 1, /names no entry here/],
      [changed(mend, { subjects: [...entries[mend]!.subjects, `pack:${packId('ONE')}`] }), mend + 1, /and nothing else/],
      [[...lines.slice(0, 5), '{', ...lines.slice(5)], 6, /not JSON/],
    ];
    for (const [file, line, why] of wrong) {
      const message = await importLog(db, Readable.from([`${file.join('\n')}\n`]), new Date()).then(
        () => 'read',
        (e: Error) => e.message,
      );
      expect(message).toMatch(why);
      expect(message).toMatch(new RegExp(`^line ${line}\\b`));
      expect(await db('workshops').first()).toBeUndefined();
    }
    // The same file without a fault is read afterwards.
    expect(await importLog(db, Readable.from([`${lines.join('\n')}\n`]), new Date())).toBe(lines.length - 1);
    await db.destroy();
  });
});

test('a database that is away: a clear answer, and it recovers by itself', async () => {
  stopCluster(bench.cluster, 'immediate');
  const e = newPack(tech, 'AWAY');
  const r = await tech.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries: [e] });
  expect([r.status, (await problemOf(r)).title]).toEqual([503, 'The database does not answer']);
  await startCluster(join(bench.folder, 'postgres'), { fsync: false });
  expect((await tech.append([e]))[0]).toMatchObject({ status: 'accepted' });
});

test('a database that dies within a transaction is away, not a fault: whether it was stored is not known', async () => {
  const db = connect(bench.urls.app, 1);
  const died = inWorkshop(db, WORKSHOP, async () => {
    killCluster(bench.cluster);
    await startCluster(join(bench.folder, 'postgres'), { fsync: false });
  });
  expect(isAway(await died.catch((e: unknown) => e))).toBe(true);
  await db.destroy();
});

test('a database newer than the program is refused', async () => {
  await bench.owner('migrations').insert({ name: '999-future' });
  await expect(migrate(bench.owner)).rejects.toThrow('newer than this program');
  await bench.owner('migrations').where('name', '999-future').delete();
});

test('the frozen log of this release folds to its committed state', async () => {
  const lines = readFileSync(join(__dirname, '../cases/frozen-1.jsonl'), 'utf8');
  const urls = makeDatabase(bench.cluster, 'gavrel_frozen');
  const db = connect(urls.owner, 1);
  await migrate(db);
  await importLog(db, Readable.from([lines]), new Date('2026-11-25T12:00:00Z'));
  const id = (JSON.parse(lines.split('\n')[0]!) as { workshop: { id: string } }).workshop.id;
  const rows: { facts: unknown }[] = await inWorkshop(db, id, (trx) => trx('packs').orderBy('tag').select('facts'));
  const state = rows.map((r) => canonical(r.facts)).join('\n') + '\n';
  await db.destroy();
  expect(state).toBe(readFileSync(join(__dirname, '../cases/frozen-1.state.jsonl'), 'utf8'));
});
