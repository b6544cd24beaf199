import type { EntriesResponse, OfflineSet } from '@gavrel/contract';
import { type Subject, taggedId } from '@gavrel/core';
import { type Running, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let lead: Client;
const serve = async (deviceLimit: number) => {
  server = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent', deviceLimit });
  lead = await Client.signIn(server.port, bench.people.lead);
};
beforeAll(async () => {
  bench = await makeBench('offline');
  await serve(1000);
});
afterEach(() => server.stop());
afterAll(() => closeBench(bench));

const packOf = (tag: string): Subject => `pack:${taggedId(WORKSHOP, 'pack', tag)}`;
const SHELF: Subject = `place:${taggedId(WORKSHOP, 'place', 'shelf')}`;
const set = () => lead.get<OfflineSet>('/offline-set');
const packs = (s: OfflineSet) => s.subjects.filter((x) => x.startsWith('pack:'));

test('a device is told what to hold: everything while it fits, else danger first, then what is here, then what was touched last', async () => {
  const [calm, bad, hot, gone, last] = ['calm', 'bad', 'hot', 'gone', 'last'].map(packOf) as [
    Subject,
    Subject,
    Subject,
    Subject,
    Subject,
  ];
  const add = (p: Subject, tag: string) => lead.entry('pack-added', [p], { tag, use: 'removed' });
  await lead.append([
    lead.entry('place-added', [SHELF], { name: 'shelf', kind: 'shelf', holds: ['sound'] }),
    add(calm, 'calm'),
    add(bad, 'bad'),
    lead.entry('finding-recorded', [bad], { code: 'dropped' }),
    add(hot, 'hot'),
    lead.entry('finding-recorded', [hot], { code: 'hissing' }),
    add(gone, 'gone'),
    lead.entry('moved', [calm, SHELF], {}),
  ]);
  const job: Subject = `job:${v4()}`;
  const results = await lead.append([lead.entry('handed-over', [job, gone], { oldPack: 'given back' })]);
  await lead.append([add(last, 'last')]);
  expect(results[0]!.status === 'refused' ? results[0]!.problem : null).toBeNull();

  expect(await set()).toMatchObject({ whole: true, subjects: [] });
  await server.stop();
  await serve(9);
  const cut = await set();
  expect(packs(cut)).toEqual([hot, bad, last, calm, gone].slice(0, packs(cut).length));
  expect(cut).toMatchObject({ whole: false, onSite: 4, held: 4 });
  expect(cut.subjects).toContain(SHELF);
  await server.stop();
  await serve(4);
  const tight = await set();
  expect(packs(tight)[0]).toBe(hot);
  expect(tight.held).toBeLessThan(tight.onSite);

  // A place's log is what the place is folded from; the moves belong to the packs.
  const logs = await lead.request('POST', '/entries/of', { subjects: [SHELF] });
  expect(((await logs.json()) as EntriesResponse).entries.map((e) => e.kind)).toEqual(['place-added']);
  const both = await lead.request('POST', '/entries/of', { subjects: [SHELF, calm] });
  expect(((await both.json()) as EntriesResponse).entries.map((e) => e.kind)).toEqual(['place-added', 'pack-added', 'moved']);
});

test('what is worked at comes before what merely lies here, and leaves half of the room; what is critical comes before all', async () => {
  await server.stop();
  await serve(1000);
  const urn: Subject = `consignment:${v4()}`;
  const job: Subject = `job:${v4()}`;
  const [sent, inJob, ...heap] = ['sent', 'in-job', ...Array.from({ length: 12 }, (_, i) => `heap-${i}`)].map(packOf) as [
    Subject,
    Subject,
    ...Subject[],
  ];
  const add = (p: Subject, tag: string, ...more: Subject[]) => lead.entry('pack-added', [p, ...more], { tag, use: 'removed' });
  const results = await lead.append([
    add(sent, 'sent'),
    lead.entry('consignment-described', [urn], { name: 'N', destination: 'recycler' }),
    lead.entry('consigned', [urn, sent], {}),
    lead.entry('job-opened', [job], {}),
    add(inJob, 'in-job', job),
    ...heap.flatMap((p, i) => [add(p, `heap-${i}`), lead.entry('finding-recorded', [p], { code: 'dropped' })]),
  ]);
  expect(results.map((r) => r.status)).not.toContain('refused');
  await server.stop();
  await serve(20);
  const few = packs(await set());
  // The packs of the heap were touched later and are more dangerous.
  expect(few[0]).toBe(packOf('hot'));
  expect(new Set(few.slice(1, 3))).toEqual(new Set([sent, inJob]));
  expect(few.filter((p) => heap.includes(p)).length).toBeGreaterThan(0);
  // Once it is over the pack is one of many again.
  await lead.append([lead.entry('withdrawn', [urn, sent], {})]);
  expect((await set()).subjects).not.toContain(sent);
});
