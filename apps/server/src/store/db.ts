import { setTimeout as sleep } from 'node:timers/promises';
import knex, { type Knex } from 'knex';

/** How to reach the database: the application's role for serving, the owner's for migrations and rebuilding. */
export interface DatabaseUrls {
  readonly app: string;
  readonly owner: string;
}

/** The library reports lost connections on the console as well; the rejected query says it already. */
const nothing = () => undefined;
const QUIET = { warn: nothing, error: nothing, deprecate: nothing, debug: nothing };

export function connect(url: string, max = 8): Knex {
  return knex({ client: 'pg', connection: url, pool: { min: 0, max }, acquireConnectionTimeout: 4000, log: QUIET });
}

/** A value a prepared statement takes; lists go to `any($n)`. */
type Parameter = string | number | null | readonly string[];

/**
 * Asks a fixed question as a prepared statement: the server plans it once a connection.
 * @param name its name; the same name always goes with the same text.
 */
export async function query<Row>(trx: Knex, name: string, sql: string, parameters: readonly Parameter[]): Promise<Row[]> {
  const { rows } = (await trx.raw(sql, parameters as string[]).options({ name })) as { rows: Row[] };
  return rows;
}

const SET_WORKSHOP = "select set_config('gavrel.workshop', ?, true)";

/** Runs work in one transaction that sees only one workshop (row security). */
export function inWorkshop<T>(db: Knex, workshop: string, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> {
  return db.transaction(async (trx) => {
    await query(trx, 'set-workshop', SET_WORKSHOP, [workshop]);
    return work(trx);
  });
}

/**
 * The same for work that asks only fixed questions by their keys: each is planned once a connection. Left to itself the database
 * would plan them anew every time, which takes longer than answering them.
 */
export function inWorkshopPlanned<T>(db: Knex, workshop: string, work: (trx: Knex.Transaction) => Promise<T>): Promise<T> {
  return db.transaction(async (trx) => {
    const planned = `${SET_WORKSHOP}, set_config('plan_cache_mode', 'force_generic_plan', true)`;
    await query(trx, 'set-workshop-planned', planned, [workshop]);
    return work(trx);
  });
}

/** Error codes and texts that mean the database is away, not that the request is wrong. */
const AWAY =
  /ECONNREFUSED|ECONNRESET|ENOENT|EPIPE|57P0[123]|08\d{3}|Connection terminated|connection error|acquiring a connection|server closed/;

export function isAway(e: unknown): boolean {
  const { code, message, name } = e as { code?: string; message?: string; name?: string };
  return AWAY.test(`${code ?? ''} ${name ?? ''} ${message ?? ''}`);
}

/** Has the database's disk no room? Class 53 of SQLSTATE: insufficient resources. */
export function isFull(e: unknown): boolean {
  const { code, message } = e as { code?: string; message?: string };
  return code === '53100' || code === 'ENOSPC' || /No space left on device/.test(message ?? '');
}

/** Waits until the database answers. @throws the last error after the given time. */
export async function waitFor(db: Knex, ms: number): Promise<void> {
  const until = Date.now() + ms;
  for (;;) {
    try {
      await db.raw('select 1');
      return;
    } catch (e) {
      if (Date.now() > until) throw e;
      await sleep(100);
    }
  }
}
