import {
  type ConsignmentFacts,
  type Due,
  type IncidentFacts,
  type JobFacts,
  localDay,
  type NotebookFacts,
  type PackOwed,
  type PlaceFacts,
  workshopDues,
} from '@gavrel/core';
import type { Knex } from 'knex';
import type { WorkshopRow } from '../store/workshop';
import { inWorkshop } from '../store/db';
import type { PolicyLog } from './policy';

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

/** Everything due in the workshop, as every device shows it. */
export async function dues(
  db: Knex,
  { id: workshop, zone }: Pick<WorkshopRow, 'id' | 'zone'>,
  policyLog: PolicyLog,
  now: Date,
): Promise<Due[]> {
  return inWorkshop(db, workshop, async (trx) => {
    const policy = await policyLog.of(trx);
    const facts = async <F>(table: string): Promise<F[]> =>
      (await trx(table).where('workshop_id', workshop).select('facts')).map((r: { facts: F }) => r.facts);
    const packs: { owed: PackOwed }[] = await trx('pack_daily')
      .where('workshop_id', workshop)
      .whereNotNull('owed')
      .select('owed');
    const { jobs, notebooks } = await owing(trx, workshop);
    const owed = {
      packs: packs.map((r) => r.owed),
      jobs,
      notebooks,
      places: await facts<PlaceFacts>('places'),
      incidents: await facts<IncidentFacts>('incidents'),
      consignments: await facts<ConsignmentFacts>('consignments'),
    };
    return workshopDues(owed, policy, now, (iso) => localDay(zone, new Date(iso)));
  });
}
