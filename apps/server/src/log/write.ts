import type { LoggedEntry } from '@gavrel/core';
import type { Knex } from 'knex';
import { ask } from '../store/db';

type Row = Readonly<Record<string, unknown>>;

/** Rows of the tables that are looked things up in. */
export interface Rows {
  readonly packs: readonly Row[];
  readonly notebooks: readonly Row[];
  readonly jobs: readonly Row[];
  readonly places: readonly Row[];
  readonly incidents: readonly Row[];
}

export const NO_ROWS: Rows = { packs: [], notebooks: [], jobs: [], places: [], incidents: [] };

const COLUMNS: Record<keyof Rows, readonly string[]> = {
  packs: ['facts', 'tag', 'code', 'folded', 'condition', 'ruled_on', 'place', 'notebook'],
  notebooks: ['facts'],
  jobs: ['facts'],
  places: ['facts'],
  incidents: ['facts'],
};
export const TABLES = Object.keys(COLUMNS) as (keyof Rows)[];

/** One `with` part a table: its rows over what is there. */
const UPSERTS = TABLES.map((table) => {
  const list = ['workshop_id', 'id', ...COLUMNS[table]].join(', ');
  const set = COLUMNS[table].map((c) => `${c} = excluded.${c}`).join(', ');
  return `into_${table} as (insert into ${table} (${list}) select ${list} from jsonb_populate_recordset(null::${table}, ?::jsonb)
          on conflict (workshop_id, id) do update set ${set})`;
}).join(',\n');

const json = (rows: Rows) => TABLES.map((t) => JSON.stringify(rows[t]));

/** Writes rows alone: for rebuilding and refreshing. */
export async function writeRows(trx: Knex.Transaction, rows: Rows): Promise<void> {
  await ask(trx, 'write-rows', `with ${UPSERTS} select 1`, json(rows));
}

/**
 * Writes numbered entries, the subjects they are found by, the rows that follow from them and the workshop's number, and spreads the
 * news: one question, all or nothing.
 * @param last the highest number given.
 */
export async function writeEntries(
  trx: Knex.Transaction,
  workshop: string,
  fresh: readonly LoggedEntry[],
  last: number,
  rows: Rows,
): Promise<void> {
  const given = fresh.map(({ seq, recordedAt, effectiveAt, waits, ...entry }) => ({
    seq,
    id: entry.id,
    kind: entry.kind,
    by_person: entry.by,
    recorded_at: recordedAt,
    effective_at: effectiveAt,
    waits: waits ?? null,
    entry,
  }));
  await ask(
    trx,
    'write-entries',
    `with given as (select * from jsonb_to_recordset(?::jsonb) as g(seq bigint, id uuid, kind text, by_person uuid,
                      recorded_at timestamptz, effective_at timestamptz, waits text, entry jsonb)),
     e as (insert into entries (workshop_id, seq, id, kind, by_person, recorded_at, effective_at, waits, entry)
           select ?::uuid, seq, id, kind, by_person, recorded_at, effective_at, waits, entry from given),
     s as (insert into entry_subjects (workshop_id, subject, seq, kind)
           select ?::uuid, jsonb_array_elements_text(entry -> 'subjects'), seq, kind from given),
     ${UPSERTS},
     n as (update workshops set last_seq = ?::bigint where id = ?::uuid returning id)
     select pg_notify('gavrel_news', n.id::text || ':' || ?::text) from n`,
    [JSON.stringify(given), workshop, workshop, ...json(rows), last, workshop, last],
  );
}
