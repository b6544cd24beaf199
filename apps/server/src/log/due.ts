import {
  type ConsignmentFacts,
  GROUPED_LOOKS,
  type IncidentFacts,
  type JobFacts,
  type NotebookFacts,
  type PlaceFacts,
} from '@gavrel/core';
import type { Knex } from 'knex';
import type { Services } from '../routes/env';
import { inWorkshop } from '../store/db';
import makeDues, { type DueTask } from './due-worker';

/** Jobs that owe something, or whose machine does, with those machines: what is done for good is not read. */
async function owing(trx: Knex.Transaction, workshop: string): Promise<{ jobs: JobFacts[]; notebooks: NotebookFacts[] }> {
  const machines: { id: string; facts: NotebookFacts }[] = await trx('notebooks')
    .where({ workshop_id: workshop, owing: true })
    .select('id', 'facts');
  const jobs: { facts: JobFacts }[] = await trx('jobs')
    .where('workshop_id', workshop)
    .where((q) =>
      q.where('owing', true).orWhereIn(
        'notebook',
        machines.map((m) => m.id),
      ),
    )
    .select('facts');
  // The name of a machine stands in the line of its job, also where the machine itself owes nothing.
  const named = [...new Set(jobs.flatMap((j) => j.facts.notebook ?? []))].filter((id) => !machines.some((m) => m.id === id));
  const others: { facts: NotebookFacts }[] = await trx('notebooks')
    .where('workshop_id', workshop)
    .whereIn('id', named)
    .select('facts');
  return { jobs: jobs.map((j) => j.facts), notebooks: [...machines, ...others].map((m) => m.facts) };
}

/**
 * What packs owe, as a JSON list of `PackOwed` that nobody has read yet: of a hundred thousand packs reading it is most of the work. One pack
 * stands for all that owe the same look and nothing else.
 * @returns how many are in the list.
 */
async function owingPacks(trx: Knex.Transaction, workshop: string): Promise<{ n: number; packs: string }> {
  const { rows } = await trx.raw<{ rows: { n: string; packs: string }[] }>(
    `with walks as materialized (select walk, count(*) as packs, min(id::text)::uuid as id from pack_daily
                    where workshop_id = ?::uuid and walk is not null group by walk having count(*) >= ${GROUPED_LOOKS}),
          owing as (select d.owed from pack_daily d left join walks w on w.walk = d.walk
                    where d.workshop_id = ?::uuid and d.owed is not null and w.walk is null
                    union all
                    select d.owed || jsonb_build_object('alike', w.packs - 1) from walks w
                    join pack_daily d on d.workshop_id = ?::uuid and d.id = w.id)
     select count(*) as n, coalesce(json_agg(owed), '[]')::text as packs from owing`,
    [workshop, workshop, workshop],
  );
  return { n: Number(rows[0]!.n), packs: rows[0]!.packs };
}

/** From so many packs that owe something on, the list is made in a thread: whoever reports danger meanwhile does not wait for it. */
const MANY = 2000;

/** Everything due in the workshop, as every device shows it: as JSON, or as a calendar. */
export async function duesText(
  s: Pick<Services, 'db' | 'workshop' | 'writer' | 'dues'>,
  as: DueTask['as'],
  now: Date,
): Promise<string> {
  const { id: workshop } = s.workshop;
  const { task, many } = await inWorkshop(s.db, workshop, async (trx) => {
    const policy = await s.writer.policy.of(trx);
    const facts = async <F>(table: string): Promise<F[]> =>
      (await trx(table).where('workshop_id', workshop).select('facts')).map((r: { facts: F }) => r.facts);
    const { n, packs } = await owingPacks(trx, workshop);
    const owed = {
      ...(await owing(trx, workshop)),
      places: await facts<PlaceFacts>('places'),
      incidents: await facts<IncidentFacts>('incidents'),
      consignments: await facts<ConsignmentFacts>('consignments'),
    };
    const { name, zone } = s.workshop;
    return { task: { as, packs, owed, policy, now: now.toISOString(), name, zone } satisfies DueTask, many: n > MANY };
  });
  return many ? s.dues.run(task) : makeDues(task);
}
