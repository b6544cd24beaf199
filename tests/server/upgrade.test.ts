import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import type { Person } from '@gavrel/contract';
import { canonical, type LoggedEntry } from '@gavrel/core';
import { connect, exportLog, inWorkshop, migrate, MIGRATION_NAMES, pending, start } from '@gavrel/server';
import { hash } from '@node-rs/argon2';
import type { Knex } from 'knex';
import { makeDatabase } from '../../tools/postgres';
import { type Bench, Client, closeBench, makeBench, PASS } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await makeBench('upgrade');
});
afterAll(() => closeBench(bench));

const read = (name: string) => readFileSync(join(__dirname, '../cases', name), 'utf8');
const LOG = read('frozen-1.jsonl');
const [HEAD, ...LINES] = LOG.trimEnd().split('\n');
const WORKSHOP = (JSON.parse(HEAD!) as { workshop: { id: string; name: string; zone: string } }).workshop;
const ENTRIES = LINES.map((l) => JSON.parse(l) as LoggedEntry);
const OLA = 'a0000000-0000-4000-8000-00000000000a';

/** Only the columns this version of a table has. */
async function insert(trx: Knex.Transaction, table: string, rows: readonly Record<string, unknown>[]): Promise<void> {
  const has = await trx(table).columnInfo();
  const fits = (r: Record<string, unknown>) => Object.fromEntries(Object.entries(r).filter(([k]) => k in has));
  await trx.batchInsert(table, rows.map(fits), 500);
}

/** A database as that version left it: a log, one competent person, and tables that a fold of that time made. */
async function old(owner: Knex, version: string): Promise<void> {
  await migrate(owner, version);
  await owner('workshops').insert({ ...WORKSHOP, last_seq: ENTRIES.length, fold_version: 0 });
  await inWorkshop(owner, WORKSHOP.id, async (trx) => {
    const person = {
      workshop_id: WORKSHOP.id,
      id: OLA,
      name: 'Ola Old',
      role: 'lead',
      passhash: await hash(PASS),
      competent: true,
    };
    await insert(trx, 'people', [person]);
    await insert(
      trx,
      'entries',
      ENTRIES.map(({ seq, recordedAt, effectiveAt, ...entry }) => ({
        workshop_id: WORKSHOP.id,
        seq,
        id: entry.id,
        kind: entry.kind,
        by_person: entry.by,
        recorded_at: recordedAt,
        effective_at: effectiveAt,
        entry: JSON.stringify(entry),
      })),
    );
    const about = ENTRIES.flatMap((e) =>
      e.subjects.map((subject) => ({ workshop_id: WORKSHOP.id, subject, seq: e.seq, kind: e.kind })),
    );
    await insert(trx, 'entry_subjects', about);
  });
}

test.each(MIGRATION_NAMES.slice(0, -1))(
  'a database left by %s keeps its log to the byte, its people and its packs',
  async (version) => {
    const name = `gavrel_${version.slice(0, 3)}`;
    const urls = makeDatabase(bench.cluster, name);
    const owner = connect(urls.owner, 2);
    await old(owner, version);
    expect((await pending(owner)).length).toBe(MIGRATION_NAMES.length - MIGRATION_NAMES.indexOf(version) - 1);

    const server = await start({ urls, port: 0, dist: null, logLevel: 'silent' });
    expect(await pending(owner)).toEqual([]);
    let out = '';
    await exportLog(owner, WORKSHOP, new Writable({ write: (d: Buffer, _e, done) => ((out += d.toString()), done()) }));
    expect(out).toBe(LOG);
    const rows: { facts: unknown }[] = await inWorkshop(owner, WORKSHOP.id, (trx) => trx('packs').orderBy('tag').select('facts'));
    expect(rows.map((r) => canonical(r.facts)).join('\n') + '\n').toBe(read('frozen-1.state.jsonl'));

    const ola: Person = { id: OLA, name: 'Ola Old', role: 'lead', competent: true };
    const { person } = await (await Client.signIn(server.port, ola)).get<{ person: Person }>('/session');
    // Who was competent before trainings were recorded has a year to show one; later versions give nothing by themselves.
    expect(person).toMatchObject({ name: 'Ola Old', competent: version < '005' });
    await server.stop();
    await owner.destroy();
  },
);
