import { type Entry, type Kind, type LoggedEntry, type Subject, upcast, type Waits } from '@gavrel/core';
import type { Knex } from 'knex';
import { query } from '../store/db';

export interface EntryRow {
  readonly seq: string;
  readonly recorded_at: Date;
  readonly effective_at: Date;
  readonly waits: Waits | null;
  readonly entry: Entry;
}

export const COLUMNS = ['seq', 'recorded_at', 'effective_at', 'waits', 'entry'] as const;

/**
 * The entry as it was stored, not raised to a newer version. It is the row's own entry with what the server knows of it: a copy made by spreading
 * has no fixed shape in Node.js 20, and everything that reads thousands of them takes five times as long.
 */
export function stored(row: EntryRow): LoggedEntry {
  return Object.assign(row.entry, {
    seq: Number(row.seq),
    recordedAt: row.recorded_at.toISOString(),
    effectiveAt: row.effective_at.toISOString(),
    ...(row.waits !== null && { waits: row.waits }),
  }) as LoggedEntry;
}

export const logged = (row: EntryRow): LoggedEntry => upcast(stored(row));

/** What a subject is folded from: a place does not read the moves of a year. The partial index has the same words. */
export const FOLDED = "(s.kind <> 'moved' or s.subject like 'pack:%')";

/** Entries of the given subjects, each with its list, in one question; of some kinds only, where those are named. */
export async function entriesOf(
  trx: Knex.Transaction,
  workshop: string,
  subjects: readonly Subject[],
  kinds: readonly Kind[] | null = null,
): Promise<Map<Subject, LoggedEntry[]>> {
  const out = new Map<Subject, LoggedEntry[]>(subjects.map((s) => [s, []]));
  if (subjects.length === 0) return out;
  const rows = await query<EntryRow & { subject: Subject }>(
    trx,
    'entries-of',
    `select s.subject, e.seq, e.recorded_at, e.effective_at, e.waits, e.entry
     from entry_subjects s join entries e on e.workshop_id = s.workshop_id and e.seq = s.seq
     where s.workshop_id = ?::uuid and s.subject = any(?::text[]) and ${FOLDED}
       and (?::text[] is null or s.kind = any(?::text[])) order by s.seq`,
    [workshop, subjects, kinds, kinds],
  );
  for (const row of rows) out.get(row.subject)!.push(logged(row));
  return out;
}

/** Everything after a seq, in order, for devices that catch up and for exports. */
export async function entriesAfter(trx: Knex.Transaction, workshop: string, after: number, limit: number): Promise<EntryRow[]> {
  return trx('entries')
    .where('workshop_id', workshop)
    .where('seq', '>', after)
    .orderBy('seq')
    .limit(limit)
    .select(...COLUMNS);
}
