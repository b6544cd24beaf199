import type { Knex } from 'knex';

export interface WorkshopRow {
  readonly id: string;
  readonly name: string;
  readonly zone: string;
  readonly demo: boolean;
}

/** The workshop of this installation. @throws Error when none was made yet. */
export async function theWorkshop(db: Knex): Promise<WorkshopRow> {
  const row = await db('workshops').select('id', 'name', 'zone', 'demo').orderBy('id').first<WorkshopRow | undefined>();
  if (!row) throw new Error('no workshop yet: run ./gavrel start');
  return row;
}
