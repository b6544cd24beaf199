import 'fake-indexeddb/auto';
import type { OfflineSet } from '@gavrel/contract';
import { type LoggedEntry, type Subject, taggedId } from '@gavrel/core';
import { beginSet, subjectsOnDevice, holds, keepLogs } from '../device/on-device';
import { allEntries, cursor, keepNew, keepPulled, startOver } from '../device/store';
import { type Draft, draft, makeEntry } from '../device/write';
import { Actions } from './actions';
import { fetchLogs, syncOfflineSubset } from './fetch-logs';
import { makeStore, type Store } from '.';
import { openLog } from './projection';
import { signedIn } from './session';
import { Sync } from './sync';

const W = '11111111-1111-4111-8111-111111111111';
const AUTHOR = { workshop: W, person: 'a0000000-0000-4000-8000-000000000001', device: 'test' };
const packOf = (tag: string): Subject => `pack:${taggedId(W, 'pack', tag)}`;
const NOTEBOOK: Subject = `notebook:${taggedId(W, 'notebook', 'N-1')}`;
const SHELF: Subject = `place:${taggedId(W, 'place', 'shelf')}`;
const [A, B, C] = [packOf('A'), packOf('B'), packOf('C')];

let log: LoggedEntry[];
let asked: Subject[][];
let set: OfflineSet;
let store: Store;

/** Written by others, and numbered. */
function said(...drafts: Draft[]): void {
  for (const d of drafts) {
    const at = Date.parse('2026-01-05T08:00:00Z') + log.length * 60_000;
    const e = makeEntry(AUTHOR, d, at, null);
    log.push({ ...e, seq: log.length + 1, recordedAt: e.at, effectiveAt: e.at } as LoggedEntry);
  }
}
const added = (pack: Subject, tag: string, ...more: Subject[]) => draft('pack-added', [pack, ...more], { tag, use: 'removed' });

beforeEach(async () => {
  await startOver();
  store = makeStore();
  store.dispatch(
    signedIn({
      person: { id: AUTHOR.person, name: 'Me', role: 'technician', competent: false },
      workshop: { id: W, name: 'W', zone: 'UTC' },
      people: [],
    }),
  );
  log = [];
  asked = [];
  said(added(A, 'A', NOTEBOOK), added(B, 'B'), added(C, 'C'));
  said(draft('moved', [A, SHELF], {}), draft('finding-recorded', [B], { code: 'dropped' }));
  said(draft('finding-recorded', [NOTEBOOK], { code: 'wet' }));
  set = { whole: false, last: log.length, subjects: [A], onSite: 3, held: 1 };
  globalThis.fetch = (async (path: string, init: { body?: string }) => {
    const body = init.body ? (JSON.parse(init.body) as { subjects?: Subject[]; entries?: LoggedEntry[] }) : null;
    const json = () => {
      if (path.startsWith('/api/offline-set')) return set;
      if (path.startsWith('/api/entries/of')) {
        asked.push(body!.subjects!);
        return { entries: log.filter((e) => e.subjects.some((s) => body!.subjects!.includes(s))), last: log.length };
      }
      const after = Number(/after=(\d+)/.exec(path)?.[1]);
      return { entries: log.slice(after), last: log.length };
    };
    return { ok: true, status: 200, text: async () => JSON.stringify(json()) };
  }) as never;
});

const round = () => (new Sync(store) as unknown as { round: () => Promise<void> }).round();
const shown = () => store.getState().logbook.packs;
const at = (pack: Subject) => shown()[pack.slice(5)];

test('a new device of a long log holds the set and what it names, not what other packs are about', async () => {
  await round();
  expect(Object.keys(shown())).toEqual([A.slice(5)]);
  // The wet machine reaches its pack: the machine's log came along.
  expect(at(A)!.findings.map((f) => f.body.code)).toEqual(['wet']);
  expect([...(await subjectsOnDevice())!].sort()).toEqual([A, NOTEBOOK, SHELF].sort());
  expect(await cursor()).toBe(log.length);
  expect(store.getState().logbook.holds).toMatchObject({ onSite: 3, held: 1 });
});

test('what is said of a pack that is not held brings its whole log before it is shown', async () => {
  await round();
  said(draft('looked', [B], { groups: ['smell'], where: 'pack' }));
  await round();
  expect(at(B)!.findings.map((f) => f.body.code)).toEqual(['dropped']);
  expect(at(B)!.partial).toBeUndefined();
  expect(at(C)).toBeUndefined();
});

test('without the server a pack that is not held is only a part of itself, until its log is here', async () => {
  await round();
  await keepNew([makeEntry(AUTHOR, added(B, 'B'), Date.now(), null)], Date.now() + 60_000);
  await openLog(store);
  expect(at(B)).toMatchObject({ partial: true, findings: [] });
  await fetchLogs([B]);
  await openLog(store);
  expect(at(B)!.partial).toBeUndefined();
  expect(at(B)!.findings.map((f) => f.body.code)).toEqual(['dropped']);
});

test('a pack that is not held is asked for at the server before anybody says that it is not known; without an answer nobody says so', async () => {
  await round();
  const actions = new Actions(store);
  const [b, unknown] = [B.slice(5), '00000000-0000-4000-8000-0000000000ee'];
  const onRecord = await actions.packsOnRecord([b, unknown]);
  expect(onRecord![b]!.findings.map((f) => f.body.code)).toEqual(['dropped']);
  expect(onRecord).not.toHaveProperty(unknown);
  // Both are known now, one as nobody's: nothing is asked again.
  const before = asked.length;
  expect(await actions.packsOnRecord([b, unknown])).toHaveProperty(b);
  expect(asked).toHaveLength(before);
  globalThis.fetch = (() => Promise.reject(new TypeError('gone'))) as never;
  expect(await actions.packsOnRecord([b])).toHaveProperty(b);
  expect(await actions.packsOnRecord([C.slice(5)])).toBeNull();
});

test('a device that held everything keeps what the set names, drops the rest and never what waits', async () => {
  await keepPulled(log, log.length);
  const mine = makeEntry(AUTHOR, draft('intended', [C], { purpose: 'use' }), Date.now(), null);
  await keepNew([mine], Date.now() + 60_000);
  await beginSet({ ...set, subjects: [A, NOTEBOOK, SHELF] }, new Date());
  expect((await allEntries()).map((e) => e.id).sort()).toEqual(
    [...log.filter((e) => e.subjects.some((s) => [A, NOTEBOOK, SHELF].includes(s))).map((e) => e.id), mine.id].sort(),
  );
  // Nothing is fetched that was here.
  expect(await syncOfflineSubset()).toBe(false);
  expect(asked).toEqual([]);
  // Asked anew on another day: what is named now and was not held is fetched, what is no longer named goes.
  await beginSet({ ...set, subjects: [B] }, new Date());
  expect(await syncOfflineSubset()).toBe(true);
  expect(asked).toEqual([[B]]);
  expect([...(await subjectsOnDevice())!]).toEqual([B]);
  expect(await holds()).toMatchObject({ held: 1 });
});

test('asked anew, a device keeps the machine and the place of a pack it keeps, and their danger', async () => {
  await round();
  await beginSet(set, new Date());
  await openLog(store);
  expect(at(A)!.findings.map((f) => f.body.code)).toEqual(['wet']);
  expect(at(A)!.partial).toBeUndefined();
  // The same when it held everything before.
  await startOver();
  await keepPulled(log, log.length);
  await beginSet(set, new Date());
  await openLog(store);
  expect(at(A)!.findings.map((f) => f.body.code)).toEqual(['wet']);
  expect(asked.flat().filter((s) => s === NOTEBOOK)).toHaveLength(1);
});

test('cut off between a pack and its machine, the pack is a part of itself until the machine’s log came too', async () => {
  await beginSet(set, new Date());
  const answering = globalThis.fetch;
  globalThis.fetch = ((path: string, init: { body?: string }) =>
    init.body?.includes('notebook:') ? Promise.reject(new TypeError('gone')) : answering(path, init as never)) as never;
  await round();
  await openLog(store);
  expect(at(A)).toMatchObject({ partial: true, findings: [] });
  globalThis.fetch = answering;
  await round();
  expect(at(A)!.partial).toBeUndefined();
  expect(at(A)!.findings.map((f) => f.body.code)).toEqual(['wet']);
});

test('a set that was interrupted goes on where it stopped', async () => {
  await beginSet({ ...set, subjects: [A, B] }, new Date());
  await keepLogs([A], []);
  await syncOfflineSubset();
  expect(asked[0]).toEqual([B]);
});
