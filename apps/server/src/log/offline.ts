import type { OfflineSet } from '@gavrel/contract';
import { BY_DANGER, type Subject, DAY_MS } from '@gavrel/core';
import type { Knex } from 'knex';
import { type EntryRow, FOLDED } from './read';

const DAYS = 30;
/** Everything but packs, machines and jobs belongs to every device: policy, places, instruments, sheets, incidents, boxes, carriers, notices. */
const FOR_ALL = ['policy', 'instrument', 'model', 'box', 'carrier', 'notice'];

interface Candidate {
  readonly id: string;
  readonly here: boolean;
  readonly entries: number;
}

/** Packs on site or touched in 30 days: what is here first, the most dangerous first, then what was touched last. */
async function candidates(trx: Knex.Transaction, workshop: string, since: string, most: number): Promise<Candidate[]> {
  const { rows } = await trx.raw<{ rows: Candidate[] }>(
    `select p.id, facts->>'left' is null as here, (facts->>'entries')::int as entries
     from packs p left join pack_daily d on d.workshop_id = p.workshop_id and d.id = p.id
     where p.workshop_id = ? and (facts->>'left' is null or facts->>'lastAt' >= ?)
     order by here desc, array_position(?::text[], d.condition), facts->>'lastAt' desc, p.id limit ?`,
    [workshop, since, [...BY_DANGER], most],
  );
  return rows;
}

/** Subjects of a type, by the order of the key: nothing else is read. */
async function subjectsFrom(trx: Knex.Transaction, workshop: string, type: string, after = 0): Promise<Subject[]> {
  const { rows } = await trx.raw<{ rows: { subject: Subject }[] }>(
    `select distinct subject from entry_subjects where workshop_id = ? and subject >= ? and subject < ? and seq > ?`,
    [workshop, `${type}:`, `${type};`, after],
  );
  return rows.map((r) => r.subject);
}

/** Last seq before a time; nobody reads further back than the first older entry. */
async function seqBefore(trx: Knex.Transaction, workshop: string, time: string): Promise<number> {
  const row = await trx('entries')
    .where('workshop_id', workshop)
    .where('recorded_at', '<', time)
    .orderBy('seq', 'desc')
    .first<{ seq: string } | undefined>('seq');
  return Number(row?.seq ?? 0);
}

/**
 * What a device is to hold: everything while the log is short; else the logs of places, policy, instruments, sheets, incidents, boxes, carriers,
 * open jobs and consignments that are under way or were touched in 30 days, and of as many packs on site or touched in 30 days as fit. A machine or job that such a log names is fetched with it.
 * @param most entries a device holds.
 */
export async function offlineSet(trx: Knex.Transaction, workshop: string, now: Date, most: number): Promise<OfflineSet> {
  const { last_seq } = await trx('workshops').where('id', workshop).first<{ last_seq: string }>('last_seq');
  const last = Number(last_seq);
  if (last <= most) return { whole: true, last, subjects: [], onSite: 0, held: 0 };
  const since = new Date(now.getTime() - DAYS * DAY_MS).toISOString();
  const ids = async (table: string, type: string): Promise<Subject[]> =>
    (await trx(table).where('workshop_id', workshop).select<{ id: string }[]>('id')).map((r) => `${type}:${r.id}` as Subject);
  const open = await trx('jobs')
    .where('workshop_id', workshop)
    .whereRaw(`facts->>'closedAt' is null`)
    .select<{ id: string }[]>('id');
  const away = await trx('consignments')
    .where('workshop_id', workshop)
    .whereRaw(`(facts->'arrived' = 'null' and facts->'ended' = 'null' or facts->>'lastAt' >= ?)`, [since])
    .select<{ id: string }[]>('id');
  const forAll: Subject[] = [];
  for (const type of FOR_ALL) forAll.push(...(await subjectsFrom(trx, workshop, type)));
  const others: Subject[] = [
    ...forAll,
    ...(await ids('places', 'place')),
    ...(await ids('incidents', 'incident')),
    ...(await subjectsFrom(trx, workshop, 'round', await seqBefore(trx, workshop, since))),
    ...open.map((j): Subject => `job:${j.id}`),
    ...away.map((c): Subject => `consignment:${c.id}`),
  ];
  const counted = await trx.raw<{ rows: { n: string }[] }>(
    `select count(*) as n from entry_subjects s where workshop_id = ? and subject = any(?::text[]) and ${FOLDED}`,
    [workshop, others],
  );
  let room = most - Number(counted.rows[0]!.n);
  const packs: Subject[] = [];
  let held = 0;
  for (const c of await candidates(trx, workshop, since, most)) {
    room -= c.entries;
    if (room < 0) break;
    packs.push(`pack:${c.id}`);
    if (c.here) held += 1;
  }
  const here = await trx('packs').where('workshop_id', workshop).whereRaw(`facts->>'left' is null`).count<{ count: string }[]>();
  return { whole: false, last, subjects: [...others, ...packs], onSite: Number(here[0]!.count), held };
}

/** Every entry of the subjects, once, in order; of a place what it is folded from, not the moves of years. */
export async function logsOf(trx: Knex.Transaction, workshop: string, subjects: readonly Subject[]): Promise<EntryRow[]> {
  const { rows } = await trx.raw<{ rows: EntryRow[] }>(
    `select distinct on (e.seq) e.seq, e.recorded_at, e.effective_at, e.waits, e.entry
     from entry_subjects s join entries e on e.workshop_id = s.workshop_id and e.seq = s.seq
     where s.workshop_id = ? and s.subject = any(?::text[]) and ${FOLDED} order by e.seq`,
    [workshop, [...subjects]],
  );
  return rows;
}
