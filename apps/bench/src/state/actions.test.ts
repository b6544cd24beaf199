import 'fake-indexeddb/auto';
import type { Person } from '@gavrel/contract';
import * as log from '../device/store';
import { draft } from '../device/write';
import { Actions, STATION_UNDO_MS, UNDO_MS } from './actions';
import { makeStore, type Store } from '.';
import { applyEntries } from './projection';
import { signedIn } from './session';

jest.mock('../device/store', () => {
  const actual = jest.requireActual<typeof log>('../device/store');
  return { ...actual, entriesOf: jest.fn(actual.entriesOf) };
});
// Jest runs no dynamic import here.
jest.mock('./schemas', () => ({ loadSchemas: jest.fn(), schemasHere: () => jest.requireActual('@gavrel/contract/schemas') }));
const { outbox, rememberSession, startOver } = log;

const WORKSHOP = { id: '11111111-1111-4111-8111-111111111111', name: 'W', zone: 'UTC' };
const PACK = 'pack:b0000000-0000-4000-8000-000000000001' as const;
const person = (n: number): Person => ({
  id: `a0000000-0000-4000-8000-00000000000${n}`,
  name: `P${n}`,
  role: 'technician',
  competent: false,
});

jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick', 'performance'] });

let store: Store;
let actions: Actions;
const enter = (n: number) => store.dispatch(signedIn({ person: person(n), workshop: WORKSHOP, people: [] }));
const write = (purpose: 'use' | 'recycling') => actions.write([draft('intended', [PACK], { purpose })], `meant for ${purpose}`);

beforeEach(async () => {
  await startOver();
  store = makeStore();
  actions = new Actions(store);
  enter(1);
});

test('an entry is its writer’s, also when the device changes hands before its turn comes', async () => {
  const written = [write('use'), write('recycling')];
  enter(2);
  written.push(write('use'));
  expect((await Promise.all(written)).flat().map((e) => e.by)).toEqual([person(1).id, person(1).id, person(2).id]);
  expect((await outbox()).map((i) => i.by).sort()).toEqual([person(1).id, person(1).id, person(2).id]);
});

test('what could not be kept is said with its words and why, stops nothing, and is forgotten when something is kept', async () => {
  const put = jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
    throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
  });
  await expect(write('use')).rejects.toThrow(/storage of this device is full/);
  put.mockRestore();
  expect(store.getState().view).toMatchObject({ lost: { words: 'meant for use' }, undo: null });
  expect(await outbox()).toEqual([]);
  await write('recycling');
  expect(store.getState().view.lost).toBeNull();
  expect(await outbox()).toHaveLength(1);
});

test('what the server would refuse by who writes it is refused before it is kept, danger never', async () => {
  const place = draft('place-added', ['place:c0000000-0000-4000-8000-000000000001'], {
    name: 'S',
    kind: 'shelf',
    holds: ['sound'],
  });
  await expect(actions.write([place], 'place S')).rejects.toThrow(/Not written: only a lead may do this/);
  expect(store.getState().view.lost).toMatchObject({ words: 'place S' });
  store.dispatch(signedIn({ person: { ...person(3), role: 'viewer' }, workshop: WORKSHOP, people: [] }));
  await expect(write('use')).rejects.toThrow(/a viewer reads only/);
  expect(await outbox()).toEqual([]);
  await actions.write([draft('finding-recorded', [PACK], { code: 'smoke' })], 'smoke');
  expect(await outbox()).toHaveLength(1);
});

test('a finding written while an older state is on its way stands on the screen', async () => {
  const codes = () => store.getState().logbook.packs[PACK.slice(5)]?.findings.map((f) => f.body.code) ?? [];
  const [first] = await write('use');
  const { entriesOf } = jest.requireActual<typeof log>('../device/store');
  let go = () => {};
  jest.mocked(log.entriesOf).mockImplementationOnce(async (subject) => {
    const before = await entriesOf(subject);
    await new Promise<void>((r) => (go = r));
    return before;
  });
  const slow = applyEntries(store, [first!]);
  const found = actions.write([draft('finding-recorded', [PACK], { code: 'smoke' })], 'smoke');
  for (let i = 0; i < 30; i++) await jest.advanceTimersByTimeAsync(1);
  go();
  await Promise.all([slow, found]);
  expect(codes()).toEqual(['smoke']);
});

test('an answer at a station may be taken back for a minute, danger goes at once, and when the station closes all of it goes', async () => {
  const say = (code: string) => actions.write([draft('finding-recorded', [PACK], { code })], code, STATION_UNDO_MS);
  const waits = async () => (await outbox()).map((i) => i.sendAfter - Date.now());
  await say('swollen');
  expect(await waits()).toEqual([STATION_UNDO_MS]);
  await actions.release();
  expect(await waits()).toEqual([UNDO_MS]);
  expect(store.getState().view.undo!.until - Date.now()).toBe(UNDO_MS);
  await say('smoke');
  expect(Math.min(...(await waits()))).toBe(0);
});

describe('danger on a device that can keep nothing', () => {
  const write = () => actions.write([draft('finding-recorded', [PACK], { code: 'smoke' })], 'smoke');
  const answering = (async (_path: string, init: { body: string }) => {
    const { entries } = JSON.parse(init.body) as { entries: { id: string; at: string }[] };
    const results = entries.map((e) => ({ id: e.id, status: 'accepted', seq: 9, recordedAt: e.at, effectiveAt: e.at }));
    return { ok: true, status: 200, text: async () => JSON.stringify({ results }) };
  }) as never;
  const condition = () => store.getState().logbook.packs[PACK.slice(5)]?.findings.map((f) => f.body.code);
  let put: jest.SpyInstance;
  beforeEach(() => {
    put = jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
    });
  });
  afterEach(() => put.mockRestore());
  test('goes to the server at once and is shown; the device says that it does not keep it', async () => {
    globalThis.fetch = answering;
    await write();
    expect(condition()).toEqual(['smoke']);
    expect(store.getState().logbook.unsentHazards).toBe(0);
    expect(store.getState().view.lost?.why).toMatch(/The server has it.*could not keep it/);
  });
  test('the server does not take it: it stays on the screen, and why is said', async () => {
    globalThis.fetch = (async (_path: string, init: { body: string }) => {
      const { entries } = JSON.parse(init.body) as { entries: { id: string }[] };
      const problem = { type: 'x', title: 'Not yours to send', status: 403 };
      const results = entries.map((e) => ({ id: e.id, status: 'refused', problem }));
      return { ok: true, status: 200, text: async () => JSON.stringify({ results }) };
    }) as never;
    await write();
    expect(condition()).toEqual(['smoke']);
    expect(store.getState().view.lost?.why).toMatch(/does not take it, tell the others yourself: Not yours to send/);
  });
  test('is shown and counted while the server does not answer either, and goes out when it does', async () => {
    globalThis.fetch = (async () => Promise.reject(new TypeError('failed'))) as never;
    await write();
    expect(condition()).toEqual(['smoke']);
    expect(store.getState().logbook.unsentHazards).toBe(1);
    expect(store.getState().view.lost?.why).toMatch(/tell the others yourself, and leave this page open/);
    globalThis.fetch = answering;
    await (actions as unknown as { sync: { sendDanger: () => Promise<boolean> } }).sync.sendDanger();
    expect(store.getState().logbook.unsentHazards).toBe(0);
    // Nobody has to leave the page open any more.
    expect(store.getState().view.lost).toBeNull();
  });
});

describe('opening with a remembered person', () => {
  const opens = async (status: number, json: unknown) => {
    await rememberSession({ person: person(1), workshop: WORKSHOP, people: [] });
    globalThis.fetch = (async () => ({ ok: status < 400, status, text: async () => JSON.stringify(json) })) as never;
    store = makeStore();
    await new Actions(store).open();
    return store.getState().session;
  };
  test.each([429, 500, 503])('a server that answers %p did not say who is signed in: the work goes on', async (status) => {
    expect(await opens(status, { type: 'x', title: 'No', status })).toMatchObject({ status: 'in' });
  });
  test('a server that knows of nobody asks to sign in again', async () => {
    expect(await opens(200, { workshop: WORKSHOP, session: null })).toMatchObject({ status: 'out', expired: true });
  });
});

describe('signing out', () => {
  const session = { person: person(1), workshop: WORKSHOP, people: [] };
  const asked: string[] = [];
  /** A server that holds the session until it is told; null: nobody answers. */
  const server = (here: boolean) => {
    let open = true;
    asked.length = 0;
    globalThis.fetch = (async (path: string, init: { method: string }) => {
      if (!here) throw new TypeError('failed');
      asked.push(`${init.method} ${path}`);
      if (init.method === 'DELETE') open = false;
      const json = init.method === 'DELETE' ? '' : JSON.stringify({ workshop: WORKSHOP, session: open ? session : null });
      return { ok: true, status: init.method === 'DELETE' ? 204 : 200, text: async () => json };
    }) as never;
  };
  const reload = async () => {
    store = makeStore();
    actions = new Actions(store);
    await actions.open();
    return store.getState().session.status;
  };
  test('without the server lets nobody back in by a reload, with or without it; the server is told first of all', async () => {
    await rememberSession(session);
    server(false);
    await actions.signOut();
    expect(store.getState().session.status).toBe('out');
    expect(await reload()).toBe('out');
    server(true);
    expect(await reload()).toBe('out');
    expect(asked.slice(0, 2)).toEqual(['DELETE /api/session', 'GET /api/about']);
  });
  test('everywhere, without the server, ends every session before the next person enters', async () => {
    await rememberSession(session);
    server(false);
    await actions.signOut(true);
    server(true);
    await actions.signIn('P2', 'x').catch(() => undefined);
    expect(asked.slice(0, 2)).toEqual(['DELETE /api/sessions', 'POST /api/session']);
  });
});

test('what the server would refuse by what it says is not kept, and is said by its field; danger is kept whatever it says', async () => {
  const story = 'x'.repeat(4001);
  const job = 'job:b0000000-0000-4000-8000-000000000002' as const;
  await expect(actions.write([draft('job-opened', [job], { complaint: story })], 'job')).rejects.toThrow(
    'Not written yet: what is wrong is longer than 4000 characters: shorten it.',
  );
  expect(await outbox()).toEqual([]);
  const swollen = await actions.write([draft('finding-recorded', [PACK], { code: 'swollen', note: story })], 'swollen');
  expect(swollen).toHaveLength(1);
  // A correction is held to what it corrects.
  const [kept] = await actions.write([draft('job-opened', [job], { complaint: 'dies' })], 'job');
  const mend = (complaint: string) =>
    actions.write([draft('corrected', [job], { body: { complaint }, reason: 'more words' }, kept!.id)], 'mended');
  await expect(mend(story)).rejects.toThrow('what is wrong is longer');
  expect(await mend('dies at once')).toHaveLength(1);
});
