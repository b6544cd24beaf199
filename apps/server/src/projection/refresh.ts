import { setTimeout as sleep } from 'node:timers/promises';
import { BY_DANGER, type Condition, type PackFacts } from '@gavrel/core';
import type { Knex } from 'knex';
import type { PolicyLog } from '../log/policy';
import { inWorkshop } from '../store/db';
import { basisOf, dailyRow, STALE, staleBy } from './rows';

/** Packs judged anew at a time. */
const BATCH = 500;
/** Of them written in one transaction: a danger on one of them waits for its end. */
const WRITTEN = 50;

export interface RefreshTask {
  readonly db: Knex;
  readonly workshop: string;
  readonly zone: string;
  readonly policy: PolicyLog;
}

/** Packs whose condition has to be judged anew. */
export async function staleCount(trx: Knex.Transaction, workshop: string, basis: string, now: Date): Promise<number> {
  const { rows } = await trx.raw<{ rows: { n: string }[] }>(
    `select count(*) as n from pack_daily d where d.workshop_id = ? and ${STALE}`,
    [workshop, ...staleBy(basis, now)],
  );
  return Number(rows[0]!.n);
}

interface StaleRow {
  readonly id: string;
  readonly seq: string;
  readonly facts: PackFacts;
}

/** Writes rows over those that nobody wrote meanwhile; what somebody is just writing is left out. */
const write = (db: Knex, workshop: string, fresh: readonly ReturnType<typeof dailyRow>[]): Promise<void> =>
  inWorkshop(db, workshop, async (trx) => {
    // It can be computed again at any time: nobody waits for the disk because of it.
    await trx.raw('set local synchronous_commit = off');
    await trx.raw(
      `with fresh as (select * from jsonb_populate_recordset(null::pack_daily, ?::jsonb)),
       free as (select d.id from pack_daily d join fresh f on f.id = d.id and f.seq = d.seq
                where d.workshop_id = ? for update of d skip locked)
       update pack_daily d set condition = f.condition, judged_at = f.judged_at, good_until = f.good_until, basis = f.basis, owed = f.owed
       from fresh f join free using (id) where d.workshop_id = ? and d.id = f.id`,
      [JSON.stringify(fresh), workshop, workshop],
    );
  });

/**
 * Judges up to 500 stale packs of one condition anew, by the order of their ids. What an append wrote meanwhile is newer and stays; what one
 * is just writing is left to the next round, so that neither waits for the other.
 * @returns the last id of the batch; null where there was none left.
 */
async function refreshBatch(
  { db, workshop, zone, policy: log }: RefreshTask,
  from: Condition,
  after: string,
  now: Date,
): Promise<string | null> {
  const { stale, policy } = await inWorkshop(db, workshop, async (trx) => {
    const policy = await log.of(trx);
    const { rows } = await trx.raw<{ rows: StaleRow[] }>(
      `select d.id, d.seq, p.facts from pack_daily d join packs p on p.workshop_id = d.workshop_id and p.id = d.id
       where d.workshop_id = ? and d.condition = ? and d.id > ?::uuid and ${STALE} order by d.id limit ${BATCH}`,
      [workshop, from, after, ...staleBy(basisOf(policy), now)],
    );
    return { stale: rows, policy };
  });
  if (stale.length === 0) return null;
  const basis = basisOf(policy);
  const fresh = stale.map((r) => dailyRow({ workshop, zone, now, policy }, r.facts, Number(r.seq), basis));
  for (let i = 0; i < fresh.length; i += WRITTEN) await write(db, workshop, fresh.slice(i, i + WRITTEN));
  return stale[stale.length - 1]!.id;
}

/** Rest after a batch, as a share of the time it took: whoever reads and appends meanwhile shares processor and database with it. */
const REST = 0.5;

const FIRST = '00000000-0000-0000-0000-000000000000';

/**
 * Judges every stale pack anew, the most dangerous first, outside of whatever reads and appends.
 * @param now asked for every batch: midnight may pass meanwhile.
 */
export async function refreshAll(task: RefreshTask, now: () => Date = () => new Date()): Promise<void> {
  for (const condition of BY_DANGER) {
    for (let after: string | null = FIRST; after !== null;) {
      const began = performance.now();
      after = await refreshBatch(task, condition, after, now());
      await sleep(REST * (performance.now() - began));
    }
  }
}
