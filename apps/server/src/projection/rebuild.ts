import { canonical, fold, FOLD_VERSION, foldPolicy, gather, type Subject } from '@gavrel/core';
import type { Knex } from 'knex';
import { policySubject } from '../log/policy';
import { entriesOf } from '../log/read';
import { inWorkshop } from '../store/db';
import { type Rows, rowsOf, STORED_TYPES, type StoredType, TABLE_OF, writeRows } from './rows';
import { sqlPort } from './sql-port';

/** Subjects folded at a time: what is in memory at once. */
const PORTION = 500;

export interface RebuildContext {
  readonly workshop: string;
  readonly zone: string;
  readonly now: Date;
}

export interface Rebuilt {
  readonly entries: number;
  readonly subjects: number;
  /** Subjects whose table row differed from the replay, as `table id`. */
  readonly drift: readonly string[];
}

/** The next subjects of a type, by their order. */
async function subjectsAfter(trx: Knex.Transaction, workshop: string, type: StoredType, after: string): Promise<Subject[]> {
  const { rows } = await trx.raw<{ rows: { subject: Subject }[] }>(
    `select distinct subject from entry_subjects where workshop_id = ? and subject > ? and subject < ? order by subject limit ${PORTION}`,
    [workshop, after, `${type};`],
  );
  return rows.map((r) => r.subject);
}

/** Rows that differ from what the log says, and rows that no log is behind; the latter go. */
async function driftOf(trx: Knex.Transaction, workshop: string, table: keyof Rows, first: string, last: string, rows: Rows) {
  const stored: { id: string; facts: unknown }[] = await trx(table)
    .where('workshop_id', workshop)
    .whereRaw('id::text > ? and id::text <= ?', [first, last])
    .select('id', 'facts');
  const old = new Map(stored.map((r) => [r.id, canonical(r.facts)]));
  const drift: string[] = [];
  for (const r of rows[table]) {
    if (old.get(r.id) !== canonical(r['facts'])) drift.push(`${table} ${r.id}`);
    old.delete(r.id);
  }
  const gone = [...old.keys()];
  if (gone.length > 0) await trx(table).where('workshop_id', workshop).whereIn('id', gone).delete();
  return [...drift, ...gone.map((id) => `${table} ${id}`)];
}

/**
 * Replays the log into the tables, some subjects at a time, in one transaction. At an equal fold version whatever differed is drift and
 * is reported; after a change of the folds the difference is expected.
 */
export const rebuild = (owner: Knex, ctx: RebuildContext): Promise<Rebuilt> =>
  inWorkshop(owner, ctx.workshop, (trx) => rebuildIn(trx, ctx));

/** The same inside a transaction of the workshop that is open already. */
export async function rebuildIn(trx: Knex.Transaction, ctx: RebuildContext): Promise<Rebuilt> {
  const { workshop } = ctx;
  const row = await trx('workshops').where('id', workshop).forUpdate().first<{ fold_version: number; last_seq: string }>();
  const about = policySubject(workshop);
  const policy = foldPolicy((await entriesOf(trx, workshop, [about])).get(about)!);
  const log = sqlPort(trx, workshop);
  const seq = Number(row?.last_seq ?? 0);
  const drift: string[] = [];
  for (const type of STORED_TYPES) {
    const table = TABLE_OF[type];
    for (let after = `${type}:`, first = ''; ;) {
      const subjects = await subjectsAfter(trx, workshop, type, after);
      const end = subjects.length < PORTION;
      const diff = fold(await gather(log, subjects), [type]);
      const rows = rowsOf({ ...ctx, policy }, diff, seq);
      const last = end ? '~' : subjects[subjects.length - 1]!.slice(type.length + 1);
      drift.push(...(await driftOf(trx, workshop, table, first, last, rows)));
      await writeRows(trx, rows);
      if (end) break;
      [after, first] = [subjects[subjects.length - 1]!, last];
    }
  }
  await trx.raw(
    'delete from pack_daily d where workshop_id = ? and not exists (select from packs p where p.workshop_id = d.workshop_id and p.id = d.id)',
    [workshop],
  );
  await trx('workshops').where('id', workshop).update({ fold_version: FOLD_VERSION });
  const counted = await trx.raw<{ rows: { entries: string; subjects: string }[] }>(
    'select count(distinct seq) as entries, count(distinct subject) as subjects from entry_subjects where workshop_id = ?',
    [workshop],
  );
  const { entries, subjects } = counted.rows[0]!;
  return { entries: Number(entries), subjects: Number(subjects), drift: row?.fold_version === FOLD_VERSION ? drift : [] };
}
