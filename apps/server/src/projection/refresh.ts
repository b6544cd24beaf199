import { setTimeout as sleep } from 'node:timers/promises';
import { BY_DANGER, type Condition, type PackFacts } from '@gavrel/core';
import type { Knex } from 'knex';
import type { PolicyLog } from '../log/policy';
import { inWorkshop } from '../store/db';
import { basisOf, dailyRow, inputsBy, STALE, staleBy, storedInputs, type StoredInputs, USABLE } from './rows';

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

/** Rests after a piece of work as long as it took: whoever reads and appends meanwhile shares processor and database with it. */
async function restful<T>(work: () => Promise<T>): Promise<T> {
  const began = performance.now();
  const done = await work();
  await sleep(performance.now() - began);
  return done;
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
  /** As stored, where they can be used; else the facts, which take longer to read and to judge. */
  readonly inputs: StoredInputs | null;
  readonly facts: PackFacts | null;
}

/** A pack judged anew. */
interface Fresh {
  readonly daily: ReturnType<typeof dailyRow>;
  /** What it was judged by, where that did not stand there already. */
  readonly inputs: StoredInputs | null;
}

/** Writes over rows that nobody wrote meanwhile; what somebody is just writing is left out, so that nobody waits for another. */
const write = (db: Knex, workshop: string, fresh: readonly Fresh[]): Promise<void> =>
  inWorkshop(db, workshop, async (trx) => {
    // It can be computed again at any time: nobody waits for the disk because of it.
    await trx.raw('set local synchronous_commit = off');
    await trx.raw(
      `with fresh as (select * from jsonb_populate_recordset(null::pack_daily, ?::jsonb)),
       free as (select d.id from pack_daily d join fresh f on f.id = d.id and f.seq = d.seq
                where d.workshop_id = ? for update of d skip locked)
       update pack_daily d set condition = f.condition, judged_at = f.judged_at, good_until = f.good_until, basis = f.basis, owed = f.owed
       from fresh f join free using (id) where d.workshop_id = ? and d.id = f.id`,
      [JSON.stringify(fresh.map((f) => f.daily)), workshop, workshop],
    );
    const inputs = fresh.flatMap((f) => (f.inputs ? [{ id: f.daily.id, inputs: f.inputs }] : []));
    if (inputs.length === 0) return;
    await trx.raw(
      `with fresh as (select * from jsonb_to_recordset(?::jsonb) as f(id uuid, inputs jsonb)),
       free as (select p.id from packs p join fresh f on f.id = p.id
                where p.workshop_id = ? and coalesce((p.inputs->>'seq')::bigint <= (f.inputs->>'seq')::bigint, true)
                for update of p skip locked)
       update packs p set inputs = f.inputs from fresh f join free using (id) where p.workshop_id = ? and p.id = f.id`,
      [JSON.stringify(inputs), workshop, workshop],
    );
  });

/** Up to 500 stale packs of one condition, by the order of their ids, judged anew. */
async function judgeBatch({ db, workshop, zone, policy: log }: RefreshTask, from: Condition, after: string, now: Date) {
  const { stale, policy, by } = await inWorkshop(db, workshop, async (trx) => {
    const policy = await log.of(trx);
    const by = inputsBy(policy);
    const { rows } = await trx.raw<{ rows: StaleRow[] }>(
      `select d.id, d.seq, case when ${USABLE} then p.inputs end as inputs, case when not ${USABLE} then p.facts end as facts
       from pack_daily d join packs p on p.workshop_id = d.workshop_id and p.id = d.id
       where d.workshop_id = ? and d.condition = ? and d.id > ?::uuid and ${STALE} order by d.id limit ${BATCH}`,
      [by, by, workshop, from, after, ...staleBy(basisOf(policy), now)],
    );
    return { stale: rows, policy, by };
  });
  const basis = basisOf(policy);
  return stale.map((r): Fresh => {
    const inputs = r.inputs ?? storedInputs(r.facts!, policy, Number(r.seq), by);
    return { daily: dailyRow({ workshop, zone, now, policy }, inputs, basis), inputs: r.inputs ? null : inputs };
  });
}

const FIRST = '00000000-0000-0000-0000-000000000000';

/**
 * Judges every stale pack anew, the most dangerous first, outside of whatever reads and appends. What an append wrote meanwhile is newer
 * and stays; what one is just writing is left to the next round, so that neither waits for the other.
 * @param now asked for every batch: midnight may pass meanwhile.
 */
export async function refreshAll(task: RefreshTask, now: () => Date = () => new Date()): Promise<void> {
  for (const condition of BY_DANGER) {
    for (let after = FIRST; ;) {
      const fresh = await restful(() => judgeBatch(task, condition, after, now()));
      for (let i = 0; i < fresh.length; i += WRITTEN)
        await restful(() => write(task.db, task.workshop, fresh.slice(i, i + WRITTEN)));
      const last = fresh[fresh.length - 1];
      if (!last) break;
      after = last.daily.id;
    }
  }
}
