import { localDay, type PackFacts, rule, type Ruling } from '@gavrel/core';
import type { Knex } from 'knex';
import { notFound } from '../problem';
import { inWorkshop } from '../store/db';
import type { WorkshopRow } from '../store/workshop';
import type { PolicyLog } from './policy';

/** A pack as it is ruled on at this moment. @throws ProblemError 404 where there is none. */
export async function rulingOf(db: Knex, { id: workshop, zone }: WorkshopRow, policy: PolicyLog, pack: string): Promise<Ruling> {
  const found = await inWorkshop(db, workshop, async (trx) => {
    const row = await trx('packs').where({ workshop_id: workshop, id: pack }).first<{ facts: PackFacts } | undefined>('facts');
    if (!row) return null;
    const now = new Date();
    return rule(row.facts, await policy.of(trx), now, localDay(zone, now));
  });
  if (!found) throw notFound('pack');
  return found;
}
