import type { ConsignmentFacts, IncidentFacts, JobFacts, NotebookFacts, PlaceFacts } from '@gavrel/core';
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
    // As text, unread: of a hundred thousand packs reading it is most of the work.
    const { rows } = await trx.raw<{ rows: { n: string; packs: string }[] }>(
      `select count(*) as n, coalesce(json_agg(owed), '[]')::text as packs from pack_daily where workshop_id = ? and owed is not null`,
      [workshop],
    );
    const { n, packs } = rows[0]!;
    const owed = {
      ...(await owing(trx, workshop)),
      places: await facts<PlaceFacts>('places'),
      incidents: await facts<IncidentFacts>('incidents'),
      consignments: await facts<ConsignmentFacts>('consignments'),
    };
    const { name, zone } = s.workshop;
    return { task: { as, packs, owed, policy, now: now.toISOString(), name, zone } satisfies DueTask, many: Number(n) > MANY };
  });
  return many ? s.dues.run(task) : makeDues(task);
}
