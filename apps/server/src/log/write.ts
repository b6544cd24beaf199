import type { LoggedEntry } from '@gavrel/core';
import type { Knex } from 'knex';
import { type Rows, upserted, UPSERTS } from '../projection/rows';
import { query } from '../store/db';

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
  await query(
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
    [JSON.stringify(given), workshop, workshop, ...upserted(rows), last, workshop, last],
  );
}
