import { connect as dial, createServer, type Server, type Socket } from 'node:net';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { text } from 'node:stream/consumers';
import { canonical, type Entry, taggedId } from '@gavrel/core';
import { connect, exportLog, inWorkshop, rebuild, start } from '@gavrel/server';
import { type Cluster, killCluster, stopCluster } from '../../tools/postgres';
import { promote, startReplica, waitForReplica } from '../../tools/replica';
import { type Bench, Client, closeBench, makeBench, WORKSHOP } from './harness';

/** One address in front of two databases, as a managed one has it: it leads to whichever is told. */
class Front {
  private readonly open = new Set<Socket>();
  private readonly server: Server;
  constructor(private leads: number) {
    this.server = createServer((socket) => {
      const on = dial(this.leads, '127.0.0.1');
      for (const [a, b] of [
        [socket, on],
        [on, socket],
      ] as const) {
        this.open.add(a);
        a.on('error', () => b.destroy()).on('close', () => (this.open.delete(a), b.destroy()));
        a.pipe(b);
      }
    });
  }
  listen = () =>
    new Promise<number>((r) => this.server.listen(0, '127.0.0.1', () => r((this.server.address() as AddressInfo).port)));
  turnTo(port: number): void {
    this.leads = port;
    for (const s of this.open) s.destroy();
  }
  close(): void {
    this.turnTo(0);
    this.server.close();
  }
}

let bench: Bench;
let replica: Cluster;
const AS = { id: WORKSHOP, name: 'Test bench', zone: 'Europe/Lisbon' };
beforeAll(async () => {
  bench = await makeBench('replica');
  replica = await startReplica(bench.cluster, join(bench.folder, 'replica'), { fsync: false });
  await waitForReplica(bench.cluster);
});
afterAll(async () => {
  stopCluster(replica, 'immediate');
  await closeBench(bench);
});

const through = (port: number) => ({
  app: bench.urls.app.replace(`:${bench.cluster.port}/`, `:${port}/`),
  owner: bench.urls.owner.replace(`:${bench.cluster.port}/`, `:${port}/`),
});

async function exported(url: string): Promise<string> {
  const db = connect(url, 1);
  const out = new PassThrough();
  const [, lines] = await Promise.all([exportLog(db, AS, out).finally(() => out.end()), text(out)]);
  await db.destroy();
  return lines;
}

test('the database dies, its replica takes over: what was acknowledged is there once, what was not goes out again', async () => {
  const front = new Front(bench.cluster.port);
  const urls = through(await front.listen());
  const server = await start({ urls, port: 0, dist: null, logLevel: 'silent' });
  const tech = await Client.signIn(server.port, bench.people.tech);
  const acknowledged: Entry[] = [];
  let refused = 0;
  const work = async (n: number) => {
    const tag = `R-${n}`;
    const entry = tech.entry('pack-added', [`pack:${taggedId(WORKSHOP, 'pack', tag)}`], { tag, use: 'removed' });
    for (;;) {
      const r = await tech.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries: [entry] });
      if (r.status === 200) return acknowledged.push(entry);
      expect(r.status).toBe(503);
      refused += 1;
      await new Promise((done) => setTimeout(done, 50));
    }
  };
  for (let n = 0; n < 20; n++) await work(n);
  // Who only reads may read the replica: the same bytes, and workshops as far apart.
  await new Promise((done) => setTimeout(done, 500));
  const there = through(replica.port);
  expect(await exported(there.owner)).toBe(await exported(bench.urls.owner));
  const reader = connect(there.app, 1);
  expect(await reader('entries').select('id')).toEqual([]);
  await reader.destroy();

  const working = Promise.all(Array.from({ length: 60 }, (_, n) => work(100 + n)));
  killCluster(bench.cluster);
  // Somebody is told before another one takes over.
  while (refused === 0) await new Promise((done) => setTimeout(done, 10));
  promote(replica);
  front.turnTo(replica.port);
  await working;
  await work(200);

  const owner = connect(there.owner, 1);
  const rows: { seq: string; entry: Entry }[] = await inWorkshop(owner, WORKSHOP, (trx) =>
    trx('entries').orderBy('seq').select('seq', 'entry'),
  );
  expect(rows.map((r) => Number(r.seq))).toEqual(rows.map((_, i) => i + 1));
  expect(rows.map((r) => canonical(r.entry)).sort()).toEqual(acknowledged.map((e) => canonical(e)).sort());
  expect((await rebuild(owner, { workshop: WORKSHOP, zone: 'UTC', now: new Date() })).drift).toEqual([]);
  await owner.destroy();
  await server.stop();
  front.close();
});
