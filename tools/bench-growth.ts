import type { Person } from '@gavrel/contract';
import { type Entry, type Subject, taggedId } from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, inWorkshop, migrate, start } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import { v4 } from 'uuid';
import { atRate, BENCH_WORKSHOP, make, percentile, signedIn } from './bench-parts';
import { seeded } from './common';

const FEW = 1_000;
const MANY = 100_000;
const PASS = 'only measured';

const packOf = (tag: string): Subject => `pack:${taggedId(BENCH_WORKSHOP, 'pack', tag)}`;
const code = (i: number) => `MG${14 + (i % 5)}-B${40 + (i % 61)}`;

/** Two entries a pack, as a workshop of many years would hold them. */
function* stock(from: number, to: number, by: string): Generator<Entry[]> {
  for (let i = from; i < to; i += 250) {
    const batch: Entry[] = [];
    for (let n = i; n < Math.min(to, i + 250); n++) {
      const s = packOf(`A-${n}`);
      batch.push(make('pack-added', [s], { tag: `A-${n}`, use: 'spare' }, by));
      batch.push(make('label-read', [s], { typeCode: code(n), ratedEnergy: { digits: '57', unit: 'Wh' } }, by));
    }
    yield batch;
  }
}

/** Sorted times of asking one after another, ms. */
async function asked(times: number, work: (i: number) => Promise<unknown>): Promise<number[]> {
  const out: number[] = [];
  for (let i = 0; i < times; i++) {
    const t = performance.now();
    await work(i);
    out.push(performance.now() - t);
  }
  return out.sort((a, b) => a - b);
}

/** Lists and search through the server, and appends at 100 a second, with a thousand packs stored and with a hundred thousand. */
export async function growth(urls: DatabaseUrls, say: (line: string) => void): Promise<void> {
  const person: Person = { id: v4(), name: 'Bench', role: 'technician', competent: false };
  const owner = connect(urls.owner, 4);
  await migrate(owner);
  await owner('workshops').insert({ id: BENCH_WORKSHOP, name: 'Bench', zone: 'UTC' });
  await inWorkshop(owner, BENCH_WORKSHOP, (trx) => addPerson(trx, BENCH_WORKSHOP, { ...person, passphrase: PASS }));
  await owner.raw('create table bare (seq bigserial primary key, entry jsonb not null)');
  const db = connect(urls.app, 4);
  const writer = new Writer(db, { workshop: BENCH_WORKSHOP, zone: 'UTC' });
  const append = (entries: Entry[]) => writer.append({ person, clockOffset: 0, entries });
  const server = await start({ urls, port: 0, dist: null, logLevel: 'silent', quota: 100_000_000 });
  const get = await signedIn(server.port, person.name, PASS);

  const random = seeded(5);
  const measure = async (packs: number) => {
    const reading = (i: number) =>
      make(
        'reading-taken',
        [packOf(`A-${Math.floor(random() * packs)}`)],
        { quantity: 'pack-voltage', figure: { digits: (11 + random()).toFixed(2), unit: 'V' }, restMinutes: 200 + (i % 3) },
        person.id,
      );
    await asked(50, () => get('/packs?limit=50'));
    for (let i = 0; i < 100; i++) await append([reading(i)]);
    return {
      list: await asked(200, () => get('/packs?limit=50')),
      search: await asked(200, (i) =>
        get(`/packs?limit=50&search=${i % 2 === 0 ? code(i) : `A-${Math.floor(random() * packs)}`}`),
      ),
      append: await atRate(10, (i) => append([reading(i)])),
      bare: await atRate(10, (i) => owner('bare').insert({ entry: JSON.stringify(reading(i)) })),
    };
  };
  try {
    for (const batch of stock(0, FEW, person.id)) await append(batch);
    const few = await measure(FEW);
    const began = performance.now();
    for (const batch of stock(FEW, MANY, person.id)) await append(batch);
    const rate = (2 * (MANY - FEW) * 1000) / (performance.now() - began);
    // What the database does by itself within a minute or so.
    await owner.raw('vacuum analyze');
    const many = await measure(MANY);
    const against = (a: readonly number[], b: readonly number[], p: number) => {
      const [x, y] = [percentile(a, p), percentile(b, p)];
      return `p${p * 100} ${x.toFixed(1)} ms against ${y.toFixed(1)} ms, ratio ${(x / y).toFixed(2)}`;
    };
    say(
      `append:  100 entries a second for 10 s over ${MANY} packs, against bare inserts: ${against(many.append, many.bare, 0.5)}; ${against(many.append, many.bare, 0.99)}`,
    );
    say(`         the same over ${FEW} packs: ${against(few.append, few.bare, 0.5)}; ${against(few.append, few.bare, 0.99)}`);
    say(`         filling it: ${Math.round(rate)} entries a second`);
    say(`lists:   a page of ${MANY} packs, against one of ${FEW}: ${against(many.list, few.list, 0.95)}`);
    say(`search:  the same: ${against(many.search, few.search, 0.95)}`);
    const page = percentile(many.list, 0.5);
    const set = percentile(await asked(5, () => get('/offline-set')), 0.5);
    say(
      `offline: what a device is to hold of ${2 * MANY} entries, asked once a day: p50 ${set.toFixed(0)} ms, ratio to a page of the list ${(set / page).toFixed(0)}`,
    );
  } finally {
    await server.stop();
    await db.destroy();
    await owner.destroy();
  }
}
