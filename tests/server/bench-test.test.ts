import type { BenchTestResponse } from '@gavrel/contract';
import type { Subject } from '@gavrel/core';
import { BENCH, benchCsv, measureLog, readLog } from '@gavrel/core/discharge';
import { fullyCharged, packWith, randomOf } from '@gavrel/core/practice';
import { connect, type Running, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { BenchStore } from '../../apps/server/src/operate/bench-store';
import { BenchTests } from '../../apps/server/src/operate/bench-tests';
import { soundPack as soundEntries } from '../../packages/core/src/logbook/testing';
import { type StandIn, STAND_INS, standIn } from '../../tools/instruments';
import { type Bench, Client, closeBench, makeBench, WORKSHOP } from './harness';

const KIND = STAND_INS.find((k) => k.name === 'load')!;
/** Three cells, full, of a curve that falls below the cut-off; ten hours of it pass in a few seconds. */
const truth = fullyCharged({ ...packWith([], randomOf(2)), ratedMah: 5000, health: 0.8 });
const HURRY = 3000;

let bench: Bench;
let server: Running;
/** What another server of the workshop asks. */
let db: ReturnType<typeof connect>;
let store: BenchStore;
// What ends by itself is soon over; what one server waits for of another has the time a busy machine may take.
const PACE = { watchedMs: 3000, askMs: 100, everyMs: 100, noteMs: 100, lostMs: 4000, stopMs: 20_000 };
let lead: Client;
let tech: Client;
let viewer: Client;
const loads: StandIn[] = [];
beforeAll(async () => {
  bench = await makeBench('bench_test');
  server = await start({ urls: bench.urls, port: 0, dist: null, benchPace: PACE });
  db = connect(bench.urls.app);
  store = new BenchStore(db, WORKSHOP, PACE.lostMs);
  lead = await Client.signIn(server.port, bench.people.lead);
  tech = await Client.signIn(server.port, bench.people.tech);
  viewer = await Client.signIn(server.port, bench.people.viewer);
});
afterAll(async () => {
  await server.stop();
  await db.destroy();
  for (const l of loads) await l.close();
  await closeBench(bench);
});

const said = (results: readonly { status: string }[]) => expect(results.filter((r) => r.status !== 'accepted')).toEqual([]);

/** A load on record, and where it is reached. */
async function load(hurry = 1): Promise<{ id: string; at: StandIn }> {
  const at = await standIn(KIND, truth, 0, 1, hurry);
  loads.push(at);
  const id = v4();
  const about: Subject[] = [`instrument:${id}`];
  said(
    await lead.append([
      lead.entry('instrument-added', about, { name: 'Load 1', measures: 'discharge', accuracy: { percent: 0.1, digits: 3 } }),
      lead.entry('instrument-connected', about, { address: { host: '127.0.0.1', port: at.port, speaks: 'scpi' } }),
    ]),
  );
  return { id, at };
}

/** A pack that somebody looked at, with label and gauge. */
async function soundPack(): Promise<string> {
  const id = v4();
  const about: Subject[] = [`pack:${id}`];
  said(
    await tech.append(
      soundEntries().map((e) =>
        tech.entry(e.kind, about, e.kind === 'pack-added' ? { tag: `L-${id.slice(0, 8)}`, use: 'removed' } : e.body),
      ),
    ),
  );
  return id;
}
const ask = (who: Client, id: string, body: object) => who.request('POST', `/instruments/${id}/bench-test`, body);
const begin = async (id: string, pack: string, body: object = {}) =>
  (await ask(tech, id, { pack, amperes: 1, cutOff: 9, ...body })).json() as Promise<BenchTestResponse & { detail?: string }>;
async function watch(id: string, from = 0): Promise<BenchTestResponse> {
  const r = await tech.request('GET', `/instruments/${id}/bench-test?from=${from}`);
  expect(r.status).toBe(200);
  return (await r.json()) as BenchTestResponse;
}
async function untilEnd(id: string): Promise<BenchTestResponse> {
  for (;;) {
    const t = await watch(id);
    if (t.end !== null) return t;
    await new Promise((r) => setTimeout(r, 300));
  }
}
const after = (ms: number) => new Promise((r) => setTimeout(r, ms));

test('a test runs down to its cut-off, row by row, and its log is measured like any other', async () => {
  const [{ id }, pack] = [await load(HURRY), await soundPack()];
  expect(await begin(id, pack)).toMatchObject({ pack, amperes: 1, cutOff: 9, end: null, by: tech.person.name });
  await after(1500);
  const some = await watch(id);
  expect(some.rows.length).toBeGreaterThan(2);
  // What was told is not told again.
  expect((await watch(id, some.next)).rows.length).toBeLessThan(some.rows.length);
  expect(await begin(id, pack)).toMatchObject({ detail: expect.stringMatching(/runs on it/) });
  expect(await begin((await load()).id, pack)).toMatchObject({ detail: expect.stringMatching(/another load/) });
  const t = await untilEnd(id);
  expect(t.end).toEqual({ whole: true, off: true, words: 'Down to 9 V.' });
  const found = measureLog(readLog(benchCsv(t.rows, t.began)), { ampereHours: 5 }, 3);
  // Its clock runs 3000 times as fast as ours.
  expect((found.healthPercent!.hi + found.healthPercent!.lo) / 2 / (100 / HURRY)).toBeCloseTo(0.8, 0);
  expect(found.resistanceOhm).not.toBeNull();
}, 120_000);

test('a danger recorded on any device ends it, and none is begun after', async () => {
  const [{ id }, pack] = [await load(), await soundPack()];
  await begin(id, pack);
  await after(1200);
  said(await lead.append([lead.entry('finding-recorded', [`pack:${pack}`], { code: 'swollen' })]));
  const { end } = await untilEnd(id);
  expect(end).toMatchObject({ whole: false, off: true, words: expect.stringMatching(/^Stopped: It is damaged/) });
  expect((await begin(id, pack)).detail).toMatch(/It is damaged: no current is drawn/);
});

test('who may not, and what is not known, begins nothing; anybody stops it and hears that it is off', async () => {
  const [{ id, at }, pack] = [await load(), await soundPack()];
  const bare = v4();
  said(await tech.append([tech.entry('pack-added', [`pack:${bare}`], { tag: 'L-BARE', use: 'removed' })]));
  expect((await begin(id, bare)).detail).toMatch(/unproven/);
  expect((await begin(id, pack, { amperes: 4 })).detail).toMatch(/0.05 to 2.5 A/);
  expect((await begin(id, pack, { cutOff: 6 })).detail).toMatch(/8.4 and 10.5 V/);
  expect((await ask(tech, id, { pack, amperes: -1, cutOff: 9 })).status).toBe(422);
  expect((await ask(tech, id, { pack: v4(), amperes: 1, cutOff: 9 })).status).toBe(404);
  expect((await ask(viewer, id, { pack, amperes: 1, cutOff: 9 })).status).toBe(403);
  await begin(id, pack);
  await after(1200);
  const off = await viewer.request('DELETE', `/instruments/${id}/bench-test`);
  expect(await off.json()).toEqual({ off: true });
  expect((await watch(id)).end?.words).toBe(`Stopped by ${viewer.person.name}.`);
  // Nothing runs there, and it is switched off all the same.
  expect(await (await tech.request('DELETE', `/instruments/${id}/bench-test`)).json()).toEqual({ off: true });
  at.set('silence');
  expect(await (await tech.request('DELETE', `/instruments/${id}/bench-test`)).json()).toEqual({ off: false });
});

test('where no current flowed, whoever began it hears so at once', async () => {
  const { id, at } = await load();
  at.set('leads off');
  const t = await begin(id, await soundPack());
  expect(t.end).toMatchObject({ whole: false, off: true, words: expect.stringMatching(/^Not started: it sees 0.00 V/) });
});

test('left alone by every screen it stops, and a broken line ends it with words', async () => {
  const [one, two] = [await load(), await load()];
  await begin(one.id, await soundPack());
  await begin(two.id, await soundPack());
  await after(1200);
  two.at.set('silence');
  const broken = await untilEnd(two.id);
  expect(broken.end).toMatchObject({
    whole: false,
    off: false,
    words: expect.stringMatching(/does not answer.*take the lead off/),
  });
  await after(4000);
  const { end } = await watch(one.id);
  expect(end).toMatchObject({ off: true, words: expect.stringMatching(/nobody stood beside it/) });
  expect(BENCH.loadWaits).toBeGreaterThan(10);
});

test('another server tells of a test and stops it', async () => {
  const [{ id, at }, pack] = [await load(), await soundPack()];
  await begin(id, pack);
  const address = { host: '127.0.0.1', port: at.port, speaks: 'scpi' } as const;
  const other = new BenchTests(() => Promise.resolve([]), store, PACE);
  // Only there it is watched: it goes on for longer than it would alone.
  let rows = 0;
  for (const until = performance.now() + 4500; performance.now() < until; await after(300)) {
    const t = (await other.watch(id, 0))!;
    expect(t).toMatchObject({ pack, amperes: 1, cutOff: 9, by: tech.person.name, end: null });
    expect(t.rows.length).toBeGreaterThanOrEqual(rows);
    rows = t.rows.length;
  }
  expect(rows).toBeGreaterThan(10);
  const order = { amperes: 1, cutOff: 9, series: 3 };
  await expect(other.begin(id, address, { pack, order, by: lead.person })).rejects.toThrow(/runs on it/);
  expect(await other.stop(id, address, 'Stopped by another.')).toBe(true);
  const here = await watch(id);
  expect(here).toMatchObject({ end: { whole: false, off: true, words: 'Stopped by another.' } });
  expect(await other.watch(id, 0)).toEqual(here);
  // From any row on it is the same log.
  for (const from of [1, 7, here.rows.length]) expect((await watch(id, from)).rows).toEqual(here.rows.slice(from));
});

test('what a server told of a test before it was killed is there, and load and pack are free again', async () => {
  const [{ id }, pack] = [await load(), await soundPack()];
  const began = new Date().toISOString();
  await store.begin(id, { pack, order: { amperes: 1, cutOff: 9, series: 3 }, by: tech.person.id }, began);
  const row = (seconds: number) => ({ seconds, volts: 11.5, amperes: 1, celsius: null });
  await store.note(id, began, { first: 0, rows: [row(0), row(1), row(2)], end: null });
  // Its answer may be lost on the way: what was written comes again.
  for (const rows of [[row(9)], [row(3)]]) await store.note(id, began, { first: 3, rows, end: null });
  expect(await watch(id, 1)).toMatchObject({ rows: [row(1), row(2), row(3)], next: 4, end: null });
  expect((await begin(id, pack)).detail).toMatch(/runs on it/);
  expect((await begin((await load()).id, pack)).detail).toMatch(/another load/);
  await after(PACE.lostMs + 200);
  const t = await watch(id);
  expect(t).toMatchObject({
    began,
    by: tech.person.name,
    end: { whole: false, off: false, words: expect.stringMatching(/look that/) },
  });
  expect(t.rows).toHaveLength(4);
  // It only could not reach the database: it is back, and nothing of it is lost.
  expect(await store.note(id, began, { first: 4, rows: [row(4)], end: null })).toMatchObject({ stop: null });
  expect(await watch(id, 3)).toMatchObject({ rows: [row(3), row(4)], end: null });
  await after(PACE.lostMs + 200);
  expect(await begin(id, pack)).toMatchObject({ end: null });
  expect(await store.note(id, began, { first: 5, rows: [row(5)], end: null })).toBeNull();
  expect((await watch(id)).began).not.toBe(began);
  await tech.request('DELETE', `/instruments/${id}/bench-test`);
});
