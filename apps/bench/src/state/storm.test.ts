import 'fake-indexeddb/auto';
import { canonical, type Entry, type LoggedEntry, type Subject, taggedId } from '@gavrel/core';
import fc from 'fast-check';
import { allEntries, keepNew, outbox, startOver } from '../device/store';
import { draft, makeEntry, wire } from '../device/write';
import { makeStore } from '.';
import { signedIn } from './session';
import { Sync } from './sync';

const W = '11111111-1111-4111-8111-111111111111';
const AUTHOR = { workshop: W, person: 'a0000000-0000-4000-8000-000000000001', device: 'test' };
const OTHER = { ...AUTHOR, person: 'a0000000-0000-4000-8000-000000000002', device: 'elsewhere' };
const packOf = (n: number): Subject => `pack:${taggedId(W, 'pack', `S-${n}`)}`;

/** What may befall a request: nothing, nobody answers, the answer is lost, breaks off, or says that something is wrong. */
const WEATHER = ['fine', 'away', 'lost', 'cut', 500, 503, 429] as const;
type Weather = (typeof WEATHER)[number];
/** What may happen at the bench. */
const STEPS = ['write', 'hazard', 'other', 'round', 'full', 'room'] as const;

/** A server that stores each entry once, whatever becomes of its answers. */
class Server {
  readonly log: LoggedEntry[] = [];
  weather: () => Weather = () => 'fine';

  take(e: Entry): object {
    let known = this.log.find((x) => x.id === e.id);
    const status = known ? 'known' : 'accepted';
    known ??= { ...e, seq: this.log.length + 1, recordedAt: e.at, effectiveAt: e.at } as LoggedEntry;
    if (status === 'accepted') this.log.push(known);
    return { id: e.id, status, seq: known.seq, recordedAt: e.at, effectiveAt: e.at };
  }

  private answer(path: string, body: { entries: Entry[] } | null): object {
    if (body) return { results: body.entries.map((e) => this.take(e)) };
    const after = Number(/after=(\d+)/.exec(path)?.[1] ?? 0);
    if (path.includes('/offline-set')) return { last: this.log.length, held: null, onSite: 0, subjects: null, whole: true };
    return { entries: this.log.slice(after, after + 3), last: this.log.length };
  }

  fetch = async (path: string, init: { body?: string }) => {
    const w = this.weather();
    if (w === 'away') throw new TypeError('nobody');
    const problem = { type: 'x', title: 'No', status: w };
    const json = typeof w === 'number' ? problem : this.answer(path, init.body ? (JSON.parse(init.body) as never) : null);
    if (w === 'lost') throw new TypeError('cut off');
    const text = JSON.stringify(json);
    const status = typeof w === 'number' ? w : 200;
    return { ok: status < 400, status, text: async () => (w === 'cut' ? text.slice(0, -1) : text) };
  };
}

test('whatever befalls the answers and the storage, each entry kept is stored once, and each stored one is kept', async () => {
  const some = { maxLength: 30 };
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom(...STEPS), { minLength: 5, ...some }),
      fc.array(fc.constantFrom(...WEATHER), { minLength: 1, ...some }),
      async (steps, weather) => {
        await startOver();
        const store = makeStore();
        const person = { id: AUTHOR.person, name: 'Me', role: 'technician' as const, competent: false };
        store.dispatch(signedIn({ person, workshop: { id: W, name: 'W', zone: 'UTC' }, people: [] }));
        const server = new Server();
        globalThis.fetch = server.fetch as never;
        const sync = new Sync(store);
        const round = () => (sync as unknown as { round: () => Promise<void> }).round();
        let asked = 0;
        server.weather = () => weather[asked++ % weather.length]!;
        const room = () => jest.restoreAllMocks();
        const kept: LoggedEntry[] = [];
        for (const [n, step] of steps.entries()) {
          const e = makeEntry(AUTHOR, draft('finding-recorded', [packOf(n % 4)], { code: 'dropped' }), Date.now(), null);
          const plain = makeEntry(AUTHOR, draft('intended', [packOf(n % 4)], { purpose: 'use' }), Date.now(), null);
          const written = step === 'hazard' ? e : plain;
          if (step === 'write' || step === 'hazard')
            await keepNew([written], 0).then(
              () => kept.push(written),
              () => undefined,
            );
          else if (step === 'other')
            server.take(wire(makeEntry(OTHER, draft('looked', [packOf(n % 4)], { groups: ['smell'] }), Date.now(), null)));
          else if (step === 'round') await round();
          else if (step === 'room') room();
          else
            jest.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
              throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
            });
        }
        room();
        server.weather = () => 'fine';
        await round();
        await round();
        sync.stop();
        expect(await outbox()).toEqual([]);
        const ids = server.log.map((e) => e.id);
        expect(new Set(ids).size).toBe(ids.length);
        for (const e of kept) expect(canonical(wire(server.log.find((x) => x.id === e.id)!))).toBe(canonical(wire(e)));
        expect((await allEntries()).map((e) => `${e.id} ${e.seq}`).sort()).toEqual(
          server.log.map((e) => `${e.id} ${e.seq}`).sort(),
        );
        expect(store.getState().logbook).toMatchObject({ away: false, unsent: 0, unsentHazards: 0 });
        expect(store.getState().view.lost).toBeNull();
      },
    ),
    { numRuns: 60 },
  );
});
