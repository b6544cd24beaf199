import 'fake-indexeddb/auto';
import { type LoggedEntry, type Subject, taggedId } from '@gavrel/core';
import fc from 'fast-check';
import { beginSet, keepLogs } from '../device/on-device';
import * as log from '../device/store';
import { draft, type Draft, makeEntry } from '../device/write';
import { makeStore, type Store } from '.';
import { applyEntries, applySubjects, openLog, undoEntries } from './projection';

jest.mock('../device/store', () => {
  const actual = jest.requireActual<typeof log>('../device/store');
  return { ...actual, entriesOf: jest.fn(actual.entriesOf) };
});
const { keepNew, keepPulled, startOver } = log;

const W = '11111111-1111-4111-8111-111111111111';
const AUTHOR = { workshop: W, person: 'a0000000-0000-4000-8000-000000000001', device: 'test' };
const subject = (type: 'pack' | 'notebook' | 'place' | 'policy', n: number): Subject =>
  `${type}:${taggedId(W, type === 'policy' ? 'pack' : type, `${type}-${n}`)}`;

/** What may be said, of a few packs, machines and places, so that much of it meets. */
const DRAFTS: readonly ((n: number, m: number) => Draft)[] = [
  (n, m) => draft('pack-added', [subject('pack', n), subject('notebook', m)], { tag: `P-${n}`, use: 'removed' }),
  (n) => draft('pack-added', [subject('pack', n)], { tag: `P-${n}`, use: 'spare' }),
  (n) => draft('finding-recorded', [subject('pack', n)], { code: 'dropped' }),
  (_n, m) => draft('finding-recorded', [subject('notebook', m)], { code: 'wet' }),
  (_n, m) => draft('place-added', [subject('place', m)], { name: `S-${m}`, kind: 'shelf', holds: ['sound'] }),
  (n, m) => draft('moved', [subject('pack', n), subject('place', m)], {}),
  (_n, m) => draft('container-looked', [subject('place', m)], { smoke: 'smoke' }),
  (_n, m) => draft('policy-set', [subject('policy', 0)], { lookDays: 10 + m }),
];

/** The state that entries fold to, whatever way it was reached. */
const state = (store: Store) => {
  const { packs, notebooks, places, policy } = store.getState().logbook;
  return { packs, notebooks, places, policy };
};

beforeEach(startOver);

test('however entries come, are taken back and are told to another tab, both show what the whole log folds to', async () => {
  const step = fc.record({
    what: fc.constantFrom('write', 'pulled', 'undo'),
    draft: fc.nat(DRAFTS.length - 1),
    n: fc.nat(3),
    m: fc.nat(1),
    back: fc.nat(5),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 18 }), async (steps) => {
      await startOver();
      const [here, other, again] = [makeStore(), makeStore(), makeStore()];
      await Promise.all([openLog(here), openLog(other)]);
      const unsent: LoggedEntry[] = [];
      let seq = 0;
      for (const s of steps) {
        const e = makeEntry(AUTHOR, DRAFTS[s.draft]!(s.n, s.m), Date.now() + seq, null);
        if (s.what === 'undo') {
          const back = unsent.splice(-1 - s.back, 1);
          await applySubjects(
            other,
            await undoEntries(
              here,
              back.map((x) => x.id),
            ),
          );
          continue;
        }
        if (s.what === 'write') {
          await keepNew([e], Date.now() + 60_000);
          unsent.push(e);
        } else await keepPulled([{ ...e, seq: ++seq, recordedAt: e.at, effectiveAt: e.at }], seq);
        await applySubjects(other, await applyEntries(here, [e]));
      }
      await openLog(again);
      expect(state(here)).toEqual(state(again));
      expect(state(other)).toEqual(state(again));
    }),
    { numRuns: 60 },
  );
});

test.each(['whole', 'part'])('what is said of something only a newer program knows stops nothing: %s log here', async (here) => {
  const pack = subject('pack', 1);
  const newer = `consignment:${taggedId(W, 'pack', 'c')}` as Subject;
  const said = makeEntry(AUTHOR, draft('finding-recorded', [pack, newer], { code: 'smoke' }), Date.now(), null);
  const found: LoggedEntry = { ...said, seq: 1, recordedAt: said.at, effectiveAt: said.at };
  if (here === 'whole') await keepPulled([found], 1);
  else {
    await beginSet({ whole: false, last: 1, subjects: [pack], onSite: 1, held: 1 }, new Date());
    await keepLogs([pack], [found]);
  }
  const store = makeStore();
  const codes = () => store.getState().logbook.packs[pack.slice(5)]?.findings.map((f) => f.body.code);
  await applyEntries(store, [found]);
  expect(codes()).toEqual(['smoke']);
  await openLog(store);
  expect(codes()).toEqual(['smoke']);
});

test('one entry reads and changes its own subjects, however much the device holds', async () => {
  const stock = Array.from({ length: 300 }, (_, n) => makeEntry(AUTHOR, DRAFTS[1]!(n, 0), Date.now() - 1000 + n, null));
  const shelf = makeEntry(AUTHOR, DRAFTS[4]!(0, 0), Date.now(), null);
  await keepNew([...stock, shelf], Date.now());
  const store = makeStore();
  await openLog(store);
  const before = store.getState().logbook;
  jest.mocked(log.entriesOf).mockClear();
  const found = makeEntry(AUTHOR, DRAFTS[2]!(7, 0), Date.now(), null);
  await keepNew([found], Date.now());
  await applyEntries(store, [found]);
  const after = store.getState().logbook;
  expect(jest.mocked(log.entriesOf).mock.calls.map(([s]) => s)).toEqual([subject('pack', 7)]);
  expect(Object.keys(after.packs).filter((id) => after.packs[id] !== before.packs[id])).toEqual([subject('pack', 7).slice(5)]);
  // What did not change is the same object: nothing that rests on it is computed again.
  for (const r of ['notebooks', 'jobs', 'places', 'incidents', 'policy'] as const) expect(after[r]).toBe(before[r]);
});
