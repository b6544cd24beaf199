import { canonical, FOLD_VERSION, foldPack, foldPolicy, type LoggedEntry, type Subject, withReached } from '@gavrel/core';
import type { Knex } from 'knex';
import { inWorkshop } from '../store/db';
import { policySubject } from './policy';
import { type Context, otherRows, packRow } from './project';
import { entriesAfter, logged, ofType } from './read';
import { NO_ROWS, type Rows, TABLES, writeRows } from './write';

export interface Rebuilt {
  readonly entries: number;
  readonly subjects: number;
  /** Subjects whose table row differed from the replay, as `table id`. */
  readonly drift: readonly string[];
}

/** Every entry by subject, read in portions. */
async function bySubject(trx: Knex.Transaction, workshop: string): Promise<{ map: Map<Subject, LoggedEntry[]>; count: number }> {
  const map = new Map<Subject, LoggedEntry[]>();
  let count = 0;
  for (let after = 0; ;) {
    const rows = await entriesAfter(trx, workshop, after, 5000);
    if (rows.length === 0) return { map, count };
    count += rows.length;
    after = Number(rows[rows.length - 1]!.seq);
    for (const e of rows.map(logged)) {
      for (const s of e.subjects) {
        const list = map.get(s);
        if (list) list.push(e);
        else map.set(s, [e]);
      }
    }
  }
}

/** Replays the log into rows, without looking at the tables. */
function replay(ctx: Context, map: ReadonlyMap<Subject, LoggedEntry[]>): Rows {
  const policy = foldPolicy(map.get(policySubject(ctx.workshop)) ?? []);
  const packs = ofType(map.keys(), 'pack').flatMap((id) => {
    const facts = foldPack(
      id,
      withReached(map.get(`pack:${id}`)!, (s) => map.get(s)),
    );
    return facts ? [packRow(ctx, facts, policy)] : [];
  });
  return { packs, ...otherRows(ctx.workshop, map) };
}

/**
 * Replays the log and swaps the result in. At an equal fold version whatever differed is drift and is reported; after a change of
 * the folds the difference is expected.
 */
export const rebuild = (owner: Knex, ctx: Context): Promise<Rebuilt> =>
  inWorkshop(owner, ctx.workshop, (trx) => rebuildIn(trx, ctx));

/** The same inside a transaction of the workshop that is open already. */
export async function rebuildIn(trx: Knex.Transaction, ctx: Context): Promise<Rebuilt> {
  const workshop = await trx('workshops').where('id', ctx.workshop).forUpdate().first<{ fold_version: number }>();
  const { map, count } = await bySubject(trx, ctx.workshop);
  const fresh = replay(ctx, map);
  const drift: string[] = [];
  for (const table of TABLES) {
    const old = new Map(
      (await trx(table).where('workshop_id', ctx.workshop).select('id', 'facts')).map((r: { id: string; facts: unknown }) => [
        r.id,
        canonical(r.facts),
      ]),
    );
    const rows = fresh[table] as readonly { id: string; facts: unknown }[];
    for (const r of rows) if (old.get(r.id) !== canonical(r.facts)) drift.push(`${table} ${r.id}`);
    const now = new Set(rows.map((r) => r.id));
    for (const id of old.keys()) if (!now.has(id)) drift.push(`${table} ${id}`);
    await trx(table).where('workshop_id', ctx.workshop).delete();
    for (let i = 0; i < rows.length; i += 500) await writeRows(trx, { ...NO_ROWS, [table]: rows.slice(i, i + 500) });
  }
  await trx('workshops').where('id', ctx.workshop).update({ fold_version: FOLD_VERSION });
  return { entries: count, subjects: map.size, drift: workshop?.fold_version === FOLD_VERSION ? drift : [] };
}
