import 'fake-indexeddb/auto';
import type { Entry, LoggedEntry } from '@gavrel/core';
import { makeStore, type Store } from '.';
import { allEntries, keepNew, outbox, startOver } from '../device/store';
import { draft, makeEntry } from '../device/write';
import { openLog } from './projection';
import { signedIn } from './session';
import { isUrgent, Sync } from './sync';
import { screenLocked, screenOpened } from './view';

const ME = 'a0000000-0000-4000-8000-000000000001';
const AUTHOR = { workshop: '11111111-1111-4111-8111-111111111111', person: ME, device: 'test' };
const PACK = 'pack:b0000000-0000-4000-8000-000000000001' as const;

interface Sent {
  readonly entries: readonly Entry[];
}

let store: Store;
let sync: Sync;
let sent: Sent[];
let answer: (path: string, body: Sent | null) => { status: number; json: unknown } | 'away';

const entry = (kind: 'intended' | 'finding-recorded', code = 'dropped', by = AUTHOR): LoggedEntry =>
  makeEntry(
    by,
    kind === 'intended' ? draft('intended', [PACK], { purpose: 'use' }) : draft('finding-recorded', [PACK], { code }),
    Date.now(),
    null,
  );

const accept = (body: Sent) => ({
  status: 200,
  json: {
    results: body.entries.map((e, i) => ({ id: e.id, status: 'accepted', seq: i + 1, recordedAt: e.at, effectiveAt: e.at })),
  },
});
const nothingNew = { status: 200, json: { entries: [], last: 0, whole: true } };

beforeEach(async () => {
  await startOver();
  store = makeStore();
  store.dispatch(
    signedIn({
      person: { id: ME, name: 'Me', role: 'technician', competent: false },
      workshop: { id: AUTHOR.workshop, name: 'W', zone: 'UTC' },
      people: [],
    }),
  );
  await openLog(store);
  sent = [];
  answer = (_path, body) => (body ? accept(body) : nothingNew);
  globalThis.fetch = (async (path: string, init: { body?: string }) => {
    const body = init.body ? (JSON.parse(init.body) as Sent) : null;
    const a = answer(path, body);
    if (a === 'away') throw new TypeError('failed');
    if (body) sent.push(body);
    return {
      ok: a.status < 400,
      status: a.status,
      text: async () => (a.json === 'cut' ? '{"entries": [' : JSON.stringify(a.json)),
    };
  }) as never;
  sync = new Sync(store);
});
afterEach(() => sync.stop());

/** One round, to its end. */
const round = () => (sync as unknown as { round: () => Promise<void> }).round();

describe('sending', () => {
  test('what is behind its Undo bar waits, and so does what came after it', async () => {
    await keepNew([entry('intended')], Date.now() + 60_000);
    await keepNew([entry('finding-recorded')], 0);
    await round();
    expect(sent).toEqual([]);
    expect(await outbox()).toHaveLength(2);
  });
  test('smoke does not wait its turn', async () => {
    const smoke = entry('finding-recorded', 'smoke');
    expect(isUrgent(smoke)).toBe(true);
    await keepNew([entry('intended')], Date.now() + 60_000);
    await keepNew([smoke], Date.now() + 60_000);
    await round();
    expect(sent.flatMap((s) => s.entries.map((e) => e.kind))).toEqual(['finding-recorded']);
    expect(await outbox()).toHaveLength(1);
  });
  test('goes out in order, without what only the server may say, and is settled with its number', async () => {
    // Faster than the clock ticks.
    const all = Array.from({ length: 40 }, (_, i) => entry(i % 2 === 0 ? 'intended' : 'finding-recorded'));
    await keepNew(all, 0);
    await round();
    expect(sent[0]!.entries.map((e) => e.id)).toEqual(all.map((e) => e.id));
    expect(Object.keys(sent[0]!.entries[0]!)).not.toContain('seq');
    expect(await outbox()).toEqual([]);
    expect(store.getState().logbook.packs[PACK.slice(5)]!.unsent).toBe(0);
  });
  test('another person’s entries stay until that person signs in', async () => {
    await keepNew([entry('intended', '', { ...AUTHOR, person: 'a0000000-0000-4000-8000-000000000009' })], 0);
    await round();
    expect(sent).toEqual([]);
  });
  test('what the server refuses comes back with its reason and is not sent again', async () => {
    answer = (_path, body) =>
      body
        ? {
            status: 200,
            json: {
              results: body.entries.map((e) => ({
                id: e.id,
                status: 'refused',
                problem: { type: 'x', title: 'No', status: 422 },
              })),
            },
          }
        : nothingNew;
    await keepNew([entry('intended')], 0);
    await round();
    await round();
    expect(sent).toHaveLength(1);
    expect(store.getState().logbook.refused).toMatchObject([{ problem: { title: 'No' } }]);
    expect(store.getState().logbook.unsent).toBe(0);
  });
  test.each<[string, (body: Sent) => { status: number; json: unknown }]>([
    ['all of it', () => ({ status: 429, json: { type: 'x', title: 'Later', status: 429 } })],
    [
      'some of it',
      (body) => ({
        status: 200,
        json: {
          results: body.entries.map((e, i) =>
            i === 0
              ? { id: e.id, status: 'accepted', seq: 1, recordedAt: e.at, effectiveAt: e.at }
              : { id: e.id, status: 'later', problem: { type: 'x', title: 'Later', status: 429 } },
          ),
        },
      }),
    ],
  ])('the server takes %s later: it stays here, and what others found comes all the same', async (what, says) => {
    const theirs = { ...entry('finding-recorded', 'smoke', { ...AUTHOR, person: ME.replace('1', '2') }), seq: 7 };
    answer = (path, body) =>
      body ? says(body) : path.startsWith('/api/entries?') ? { status: 200, json: { entries: [theirs], last: 7 } } : nothingNew;
    await keepNew([entry('finding-recorded'), entry('intended')], 0);
    await round();
    expect(await outbox()).toHaveLength(what === 'all of it' ? 2 : 1);
    expect(store.getState().logbook.refused).toEqual([]);
    expect((await allEntries()).map((e) => e.id)).toContain(theirs.id);
  });
  test('nobody answers: everything is kept, and the screen says so; then it goes out', async () => {
    answer = () => 'away';
    await keepNew([entry('finding-recorded')], 0);
    await openLog(store);
    await round();
    expect(store.getState().logbook).toMatchObject({ away: true, unsent: 1, unsentHazards: 1 });
    answer = (_p, body) => (body ? accept(body) : nothingNew);
    await round();
    expect(store.getState().logbook).toMatchObject({ away: false, unsent: 0 });
  });
  test('while nobody was checked only hazards go out; the server’s answer locks the device, and then everything waits for its person', async () => {
    store.dispatch(screenLocked());
    store.dispatch(screenOpened({ unchecked: true }));
    answer = () => 'away';
    await keepNew([entry('intended'), entry('finding-recorded')], 0);
    await round();
    expect(store.getState().view).toMatchObject({ locked: false, unchecked: true });
    answer = (_p, body) => (body ? accept(body) : nothingNew);
    await round();
    expect(store.getState().view).toMatchObject({ locked: true, unchecked: true });
    await round();
    expect(sent.flatMap((s) => s.entries.map((e) => e.kind))).toEqual(['finding-recorded']);
    store.dispatch(screenOpened({ unchecked: false }));
    await round();
    expect(sent.flatMap((s) => s.entries.map((e) => e.kind))).toEqual(['finding-recorded', 'intended']);
  });
  test('a session that ended keeps the work and asks to sign in again', async () => {
    answer = () => ({ status: 401, json: { type: 'x', title: 'Nobody is signed in', status: 401 } });
    await keepNew([entry('intended')], 0);
    await round();
    expect(store.getState().session).toMatchObject({ status: 'out', expired: true });
    expect(await outbox()).toHaveLength(1);
    await round();
    expect((sync as unknown as { timer: unknown }).timer).toBeNull();
  });
  test('an answer that breaks off is none: what others wrote is asked for again, and nothing is said to be lost', async () => {
    answer = () => ({ status: 200, json: 'cut' });
    await round();
    expect(store.getState().logbook.away).toBe(true);
    expect(store.getState().view.lost).toBeNull();
  });
  test('a late no to a session that ended does not end the next one', async () => {
    answer = () => {
      sync.start();
      return { status: 401, json: { type: 'x', title: 'Nobody is signed in', status: 401 } };
    };
    await round();
    expect(store.getState().session.status).toBe('in');
  });
});

test('danger that another device found is shown also where it cannot be stored, and is stored when there is room', async () => {
  const numbered = (e: LoggedEntry, seq: number) => ({ ...e, seq, recordedAt: e.at, effectiveAt: e.at });
  // It lies behind something that could not be stored either.
  const pages = [numbered(entry('intended'), 1), numbered(entry('finding-recorded', 'smoke'), 2)];
  answer = (path) => {
    const after = Number(/after=(\d)/.exec(path)?.[1] ?? 9);
    return after > 2 ? nothingNew : { status: 200, json: { entries: pages.slice(after, after + 1), last: 2 } };
  };
  const codes = () => store.getState().logbook.packs[PACK.slice(5)]?.findings.map((f) => f.body.code);
  const put = jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
  });
  await round();
  await openLog(store);
  expect(codes()).toEqual(['smoke']);
  expect(store.getState().view.lost?.words).toBe('What others wrote is not kept here');
  put.mockRestore();
  await round();
  expect(store.getState().view.lost).toBeNull();
  expect((await allEntries()).map((e) => e.seq).sort()).toEqual([1, 2]);
  expect(codes()).toEqual(['smoke']);
});

test('the time of an entry is never before what was seen on its subject', () => {
  const e = makeEntry(
    AUTHOR,
    draft('intended', [PACK], { purpose: 'use' }),
    Date.parse('2026-01-01T00:00:00Z'),
    '2026-01-02T00:00:00.000Z',
  );
  expect(e.at).toBe('2026-01-02T00:00:00.001Z');
});
