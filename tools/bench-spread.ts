import type { Person } from '@gavrel/contract';
import { type Entry, taggedId } from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, inWorkshop, migrate } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import type { Knex } from 'knex';
import { v4 } from 'uuid';
import { make } from './bench-parts';
import { type Cluster, makeDatabase } from './postgres';

const WORKSHOPS = 4;
const BATCHES = 60;
const BATCH = 25;

/** The partitions docs/operating.md tells of, laid before anything is stored. */
export const PARTITION = ['entries', 'entry_subjects', 'packs']
  .map(
    (t) => `
    alter table ${t} rename to ${t}_plain;
    create table ${t} (like ${t}_plain including defaults including constraints including indexes) partition by hash (workshop_id);
    ${Array.from({ length: WORKSHOPS }, (_, i) => `create table ${t}_${i} partition of ${t} for values with (modulus ${WORKSHOPS}, remainder ${i});`).join('\n')}
    alter table ${t} enable row level security;
    alter table ${t} force row level security;
    create policy apart on ${t} using (workshop_id = nullif(current_setting('gavrel.workshop', true), '')::uuid);
    drop table ${t}_plain;`,
  )
  .concat([
    'create trigger entries_append_only before update or delete on entries for each row execute function refuse_change();',
    'create trigger entries_no_truncate before truncate on entries for each statement execute function refuse_change();',
    'grant select, insert on entries, entry_subjects to gavrel_app; grant select, insert, update on packs to gavrel_app;',
  ])
  .join('\n');

interface Site {
  readonly workshop: string;
  readonly person: Person;
  readonly writer: Writer;
}

/** Workshops of one database, each with a writer of its own. */
async function sites(owner: Knex, db: Knex): Promise<Site[]> {
  const out: Site[] = [];
  for (let i = 0; i < WORKSHOPS; i++) {
    const workshop = v4();
    const person: Person = { id: v4(), name: `Bench ${i}`, role: 'technician', competent: false };
    await owner('workshops').insert({ id: workshop, name: `Bench ${i}`, zone: 'UTC' });
    await inWorkshop(owner, workshop, (trx) => addPerson(trx, workshop, { ...person, passphrase: 'only measured' }));
    out.push({ workshop, person, writer: new Writer(db, { workshop, zone: 'UTC' }) });
  }
  return out;
}

/** One batch after another, as one workshop's lock lets them: five readings each on five packs. */
async function fill({ workshop, person, writer }: Site, round: string): Promise<void> {
  for (let b = 0; b < BATCHES; b++) {
    const entries = Array.from({ length: BATCH }, (_, i): Entry => {
      const tag = `${round}-${b}-${i % 5}`;
      const pack = `pack:${taggedId(workshop, 'pack', tag)}` as const;
      const e =
        i < 5
          ? make('pack-added', [pack], { tag, use: 'spare' }, person.id)
          : make('looked', [pack], { groups: ['smell'] }, person.id);
      return { ...e, workshop };
    });
    await writer.append({ person, clockOffset: 0, entries });
  }
}

/** Entries a second, by one workshop alone and by all of them at once. */
async function measure(urls: DatabaseUrls, partitioned: boolean): Promise<{ alone: number; together: number }> {
  const owner = connect(urls.owner, 2);
  await migrate(owner);
  if (partitioned) await owner.raw(PARTITION);
  const db = connect(urls.app, 2 * WORKSHOPS);
  try {
    const all = await sites(owner, db);
    const timed = async (who: readonly Site[], round: string) => {
      const began = performance.now();
      await Promise.all(who.map((s) => fill(s, round)));
      return (who.length * BATCHES * BATCH * 1000) / (performance.now() - began);
    };
    await timed(all, 'warm');
    return { alone: await timed([all[0]!], 'alone'), together: await timed(all, 'together') };
  } finally {
    await db.destroy();
    await owner.destroy();
  }
}

/** Do workshops of one database wait for each other, and what do partitions by workshop change? */
export async function spread(cluster: Cluster, say: (line: string) => void): Promise<void> {
  for (const partitioned of [false, true]) {
    const m = await measure(makeDatabase(cluster, partitioned ? 'gavrel_parts' : 'gavrel_spread'), partitioned);
    say(
      `spread:  ${WORKSHOPS} workshops at once${partitioned ? ', partitioned by workshop' : ''}: ${Math.round(m.together)} entries a second against ${Math.round(m.alone)} of one alone, ratio ${(m.together / m.alone).toFixed(2)}`,
    );
  }
}
