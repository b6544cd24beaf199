import { spawn } from 'node:child_process';
import { join } from 'node:path';
import type { Person } from '@gavrel/contract';
import { type Subject, taggedId } from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, inWorkshop, migrate } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import { v4 } from 'uuid';
import { BENCH_WORKSHOP, make, percentile } from './bench-parts';
import { Trouble } from './common';
import { binaries, type Cluster, makeDatabase, stopCluster } from './postgres';
import { startReplica, waitForReplica } from './replica';

const PACKS = 5_000;
const TIMES = 400;
const NAME = 'gavrel_replica';

/** Dumps the database over and over, as a process of its own, until it is told to stop. */
async function dumping(c: Cluster, stop: AbortSignal): Promise<void> {
  const args = ['-h', '127.0.0.1', '-p', String(c.port), '-U', 'super', '-f', '/dev/null', NAME];
  while (!stop.aborted) {
    const child = spawn(join(binaries(), 'pg_dump'), args, { env: { PGPASSWORD: c.passwords.super }, stdio: 'ignore' });
    const code = await new Promise((done) => child.once('exit', done));
    if (code !== 0) throw new Trouble(`the database could not be dumped: ${String(code)}`);
  }
}

/** What reading the whole log costs who writes: from the same database, from a streaming replica; and what it costs to wait for that. */
export async function replicas(cluster: Cluster, say: (line: string) => void): Promise<void> {
  const urls: DatabaseUrls = makeDatabase(cluster, NAME);
  const owner = connect(urls.owner, 2);
  await migrate(owner);
  const person: Person = { id: v4(), name: 'Bench', role: 'technician', competent: false };
  await owner('workshops').insert({ id: BENCH_WORKSHOP, name: 'Bench', zone: 'UTC' });
  await inWorkshop(owner, BENCH_WORKSHOP, (trx) => addPerson(trx, BENCH_WORKSHOP, { ...person, passphrase: 'only measured' }));
  await owner.destroy();
  const db = connect(urls.app, 2);
  const writer = new Writer(db, { workshop: BENCH_WORKSHOP, zone: 'UTC' });
  const packOf = (n: number): Subject => `pack:${taggedId(BENCH_WORKSHOP, 'pack', `A-${n}`)}`;
  const added = (n: number) => make('pack-added', [packOf(n)], { tag: `A-${n}`, use: 'spare' }, person.id);
  const look = (n: number) => make('looked', [packOf(n % PACKS)], { groups: ['smell'] }, person.id);
  const append = (entries: ReturnType<typeof make>[]) => writer.append({ person, clockOffset: 0, entries });
  /** Median time of appending one entry after another, ms, while something else goes on. */
  const writing = async (beside?: Cluster): Promise<number> => {
    const stop = new AbortController();
    const other = beside ? dumping(beside, stop.signal) : null;
    const times: number[] = [];
    for (let i = 0; i < TIMES; i++) {
      const began = performance.now();
      await append([look(i)]);
      times.push(performance.now() - began);
    }
    stop.abort();
    await other;
    return percentile(
      times.sort((a, b) => a - b),
      0.5,
    );
  };
  for (let n = 0; n < PACKS; n += 250) await append(Array.from({ length: 250 }, (_, i) => added(n + i)));
  await writing();
  const quiet = await writing();
  const same = await writing(cluster);
  const replica = await startReplica(cluster, join(cluster.folder, '..', 'replica'), { fsync: true });
  try {
    const followed = await writing();
    const apart = await writing(replica);
    await waitForReplica(cluster);
    const waiting = await writing();
    const ratio = (ms: number) => `${ms.toFixed(1)} ms, ratio ${(ms / quiet).toFixed(2)}`;
    say(
      `replica: an append alone ${quiet.toFixed(1)} ms; while the same database is dumped ${ratio(same)}, while a replica on this machine is ${ratio(apart)}`,
    );
    say(`         with a replica that follows ${ratio(followed)}; waiting until it has it too ${ratio(waiting)}`);
  } finally {
    await db.destroy();
    stopCluster(replica, 'immediate');
  }
}
