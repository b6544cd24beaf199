import {
  type Entry,
  type LoggedEntry,
  notebooksOf,
  reachesPacks,
  type Subject,
  subjectId,
  subjectType,
  upcast,
} from '@gavrel/core';
import type { Knex } from 'knex';

export interface EntryRow {
  readonly seq: string;
  readonly recorded_at: Date;
  readonly effective_at: Date;
  readonly entry: Entry;
}

export const COLUMNS = ['seq', 'recorded_at', 'effective_at', 'entry'] as const;

/** The entry as it was stored, not raised to a newer version. */
export function stored(row: EntryRow): LoggedEntry {
  return {
    ...row.entry,
    seq: Number(row.seq),
    recordedAt: row.recorded_at.toISOString(),
    effectiveAt: row.effective_at.toISOString(),
  } as LoggedEntry;
}

export const logged = (row: EntryRow): LoggedEntry => upcast(stored(row));

/** Entries of the given subjects, each with its list, in one question. */
export async function entriesOf(
  trx: Knex.Transaction,
  workshop: string,
  subjects: readonly Subject[],
): Promise<Map<Subject, LoggedEntry[]>> {
  const out = new Map<Subject, LoggedEntry[]>(subjects.map((s) => [s, []]));
  if (subjects.length === 0) return out;
  const rows: (EntryRow & { subject: Subject })[] = await trx('entry_subjects as s')
    .join('entries as e', (j) => j.on('e.workshop_id', 's.workshop_id').andOn('e.seq', 's.seq'))
    .where('s.workshop_id', workshop)
    .whereIn('s.subject', [...subjects])
    .orderBy('s.seq')
    .select('s.subject', 'e.seq', 'e.recorded_at', 'e.effective_at', 'e.entry');
  for (const row of rows) out.get(row.subject)!.push(logged(row));
  return out;
}

/** Entries that concern each pack: its own, and the hazards written on its notebooks. */
export async function entriesOfPacks(
  trx: Knex.Transaction,
  workshop: string,
  packs: readonly string[],
): Promise<Map<string, LoggedEntry[]>> {
  const own = await entriesOf(
    trx,
    workshop,
    packs.map((p): Subject => `pack:${p}`),
  );
  const notebooks = new Set([...own.values()].flatMap(notebooksOf));
  const onNotebooks = await entriesOf(
    trx,
    workshop,
    [...notebooks].map((n): Subject => `notebook:${n}`),
  );
  const out = new Map<string, LoggedEntry[]>();
  for (const [subject, list] of own) {
    const reached = notebooksOf(list).flatMap((n) => (onNotebooks.get(`notebook:${n}`) ?? []).filter(reachesPacks));
    out.set(subjectId(subject), [...list, ...reached]);
  }
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

export const ofType = (subjects: Iterable<Subject>, type: string): string[] =>
  [...subjects].filter((s) => subjectType(s) === type).map(subjectId);
