import type { OfflineSet } from '@gavrel/contract';
import { type Bodies, type Entry, type Kind, type Subject, taggedId } from '@gavrel/core';
import { inWorkshop, rebuild, type Running, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let shipper: Client;
let second: Client;
beforeAll(async () => {
  bench = await makeBench('consignment');
  server = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent' });
  shipper = await Client.signIn(server.port, bench.people.lead);
  second = await Client.signIn(server.port, bench.people.lead);
});
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const packOf = (tag: string): Subject => `pack:${taggedId(WORKSHOP, 'pack', tag)}`;
const fresh = (): Subject => `consignment:${v4()}`;
/** An entry written `days` ago: devices without a network send theirs late. */
const ago = <K extends Kind>(who: Client, days: number, kind: K, subjects: readonly Subject[], body: Bodies[K]): Entry => {
  const at = new Date(Date.now() - days * 86_400_000);
  return who.entry(kind, subjects, body, { at: at.toISOString() });
};
const kept = async (who: Client, entries: readonly Entry[]) => {
  const results = await who.append(entries);
  expect(results.filter((r) => r.status === 'refused')).toEqual([]);
};
const memberOf = async (tag: string): Promise<string | undefined> => {
  const row = await inWorkshop(bench.owner, WORKSHOP, (trx) =>
    trx('packs').where('id', packOf(tag).slice(5)).first<{ facts: { consignment?: string } }>('facts'),
  );
  return row.facts.consignment;
};

test('two devices that both took a pack: it is in one consignment, on the server as in a rebuild', async () => {
  const [mine, theirs] = [fresh(), fresh()];
  await kept(shipper, [ago(shipper, 3, 'pack-added', [packOf('T-1')], { tag: 'T-1', use: 'removed' })]);
  const [early, late] = [
    ago(second, 2, 'consigned', [theirs, packOf('T-1')], {}),
    ago(shipper, 1, 'consigned', [mine, packOf('T-1')], {}),
  ];
  await kept(shipper, [ago(shipper, 1, 'consignment-described', [mine], { name: 'mine' }), late]);
  // The other device was in a cellar: its word is older and comes later.
  await kept(second, [ago(second, 2, 'consignment-described', [theirs], { name: 'theirs' }), early]);
  const member = await memberOf('T-1');
  expect([mine, theirs]).toContain(`consignment:${member}`);
  const built = await rebuild(bench.owner, { workshop: WORKSHOP, zone: 'Europe/Lisbon', now: new Date() });
  expect(built.drift).toEqual([]);
  expect(await memberOf('T-1')).toBe(member);
  const rows = await inWorkshop(bench.owner, WORKSHOP, (trx) => trx('consignments').select<{ id: string }[]>('id'));
  expect(rows.map((r) => `consignment:${r.id}`).sort()).toEqual([mine, theirs].sort());
});

test('what left twenty days ago owes a receipt, and is held by devices; once it arrived it owes none', async () => {
  const c = fresh();
  await kept(shipper, [
    ago(shipper, 21, 'pack-added', [packOf('T-2')], { tag: 'T-2', use: 'removed' }),
    ago(shipper, 20, 'consignment-described', [c], { name: 'owed', destination: 'recycler', mode: 'road', region: 'eu' }),
    ago(shipper, 20, 'consigned', [c, packOf('T-2')], {}),
    ago(shipper, 20, 'consignment-handed-over', [c, packOf('T-2')], {
      ...{
        to: 'Marram Freight',
        on: new Date(Date.now() - 20 * 86_400_000).toISOString().slice(0, 10),
        mode: 'road',
        region: 'eu',
      },
      packages: [{ id: v4(), packs: [packOf('T-2').slice(5)], rules: [] }],
    }),
  ]);
  const due = async () => JSON.stringify(await shipper.get('/due'));
  expect(await due()).toContain(c.slice('consignment:'.length));
  expect((await shipper.get<OfflineSet>('/offline-set')).whole).toBe(true);
  await kept(second, [second.entry('consignment-arrived', [c], { packs: 1 })]);
  expect(await due()).not.toContain(c.slice('consignment:'.length));
});

test('a viewer sends nothing on its way; nonsense is refused by name and the rest of the page is kept', async () => {
  const viewer = await Client.signIn(server.port, bench.people.viewer);
  const c = fresh();
  const [refused] = await viewer.append([viewer.entry('consignment-described', [c], { name: 'x' })]);
  expect(refused).toMatchObject({ status: 'refused' });
  const results = await shipper.append([
    shipper.entry('consignment-described', [c], { name: 'x' }),
    shipper.entry('plan-kept', [c], { packages: [{ id: v4(), box: v4(), packs: 'all of them' }] } as never),
    shipper.entry('consignment-described', [c], { mode: 'balloon' } as never),
  ]);
  expect(results.map((r) => r.status === 'refused')).toEqual([false, true, true]);
});
