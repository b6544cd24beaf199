import type { OfflineSet } from '@gavrel/contract';
import { BY_DANGER, type Subject, DAY_MS } from '@gavrel/core';
import type { Knex } from 'knex';
import { type EntryRow, FOLDED } from './read';

const DAYS = 30;
/** A consignment that is neither arrived nor ended. */
const UNDER_WAY = `facts->'arrived' = 'null' and facts->'ended' = 'null'`;
/** Everything but packs, machines and jobs belongs to every device: policy, places, instruments, sheets, incidents, boxes, carriers, notices. */
const FOR_ALL = ['policy', 'instrument', 'model', 'box', 'carrier', 'notice'];

interface Candidate {
  readonly id: string;
  readonly here: boolean;
  readonly critical: boolean;
  /** In a consignment that is under way, or of an open job. */
  readonly atWork: boolean;
  readonly entries: number;
}

/**
 * Packs on site or touched in 30 days, and those that are worked at: the critical first, then work, then what is here, the most dangerous first,
 * then what was touched last.
 */
async function candidates(trx: Knex.Transaction, workshop: string, since: string, most: number): Promise<Candidate[]> {
  const { rows } = await trx.raw<{ rows: Candidate[] }>(
    `with work as (
       select jsonb_array_elements_text(facts->'packs') as id from jobs where workshop_id = :workshop and facts->>'closedAt' is null
       union
       select jsonb_array_elements_text(facts->'consigned') from consignments where workshop_id = :workshop and ${UNDER_WAY})
     select * from (
       select p.id, facts->>'left' is null as here, coalesce(d.condition = 'critical', false) as critical, w.id is not null as "atWork",
         (facts->>'entries')::int as entries, array_position(cast(:danger as text[]), d.condition) as danger, facts->>'lastAt' as last
       from packs p left join pack_daily d on d.workshop_id = p.workshop_id and d.id = p.id left join work w on w.id = p.id::text
       where p.workshop_id = :workshop and (facts->>'left' is null or facts->>'lastAt' >= :since or w.id is not null)) c
     order by critical and here desc, "atWork" desc, here desc, danger, last desc, id limit :most`,
    { workshop, since, danger: [...BY_DANGER], most },
  );
  return rows;
}

/** As many packs as there is room for, in their order. What is worked at takes half of it at most: a heap of waste leaves room for what is dangerous. */
function fitting(all: readonly Candidate[], room: number): { readonly packs: readonly Subject[]; readonly held: number } {
  const taken = new Set<Candidate>();
  const take = (some: readonly Candidate[], within: number) => {
    let left = within;
    for (const c of some) {
      if (taken.has(c) || c.entries > left) continue;
      left -= c.entries;
      taken.add(c);
    }
    return within - left;
  };
  const critical = take(
    all.filter((c) => c.critical && c.here),
    room,
  );
  const work = take(
    all.filter((c) => c.atWork),
    (room - critical) / 2,
  );
  take(all, room - critical - work);
  const chosen = all.filter((c) => taken.has(c));
  return { packs: chosen.map((c): Subject => `pack:${c.id}`), held: chosen.filter((c) => c.here).length };
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
 * open jobs and consignments that are under way or were touched in 30 days, and of as many packs as fit: those of that work, on site, or touched in 30 days. A machine or job that such a log names is fetched with it.
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
    .whereRaw(`(${UNDER_WAY} or facts->>'lastAt' >= ?)`, [since])
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
  const { packs, held } = fitting(await candidates(trx, workshop, since, most), most - Number(counted.rows[0]!.n));
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
