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
    const owed = {
      packs: packs.map((r) => r.owed),
      jobs: await facts<JobFacts>('jobs'),
      notebooks: await facts<NotebookFacts>('notebooks'),
      places: await facts<PlaceFacts>('places'),
      incidents: await facts<IncidentFacts>('incidents'),
      consignments: await facts<ConsignmentFacts>('consignments'),
    };
    return workshopDues(owed, policy, now, (iso) => localDay(zone, new Date(iso)));
  });
}
