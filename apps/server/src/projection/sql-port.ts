import type { LogPort } from '@gavrel/core';
import type { Knex } from 'knex';
import { entriesOf } from '../log/read';
import { query } from '../store/db';

/** The workshop's log as the engine reads it, inside one transaction. */
export const sqlPort = (trx: Knex.Transaction, workshop: string): LogPort => ({
  entriesOf: (subjects, kinds) => entriesOf(trx, workshop, subjects, kinds ?? null),
  packsLinked: async (links) => {
    const of = (any: boolean) => links.filter((l) => (l.kinds === null) === any).map((l) => l.subject);
    // Every link that names kinds names the same: moves to a place.
    const kinds = links.find((l) => l.kinds !== null)?.kinds ?? [];
    const rows = await query<{ subject: `pack:${string}` }>(
      trx,
      'linked-packs',
      `select distinct p.subject from entry_subjects n
       join entry_subjects p on p.workshop_id = n.workshop_id and p.seq = n.seq and p.subject like 'pack:%'
       where n.workshop_id = ?::uuid and (n.subject = any(?::text[]) or (n.subject = any(?::text[]) and n.kind = any(?::text[])))`,
      [workshop, of(true), of(false), kinds],
    );
    return rows.map((r) => r.subject);
  },
});
