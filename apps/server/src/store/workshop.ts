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

const FORMATS = new Map<string, Intl.DateTimeFormat>();

/** The local day of a moment in the workshop's zone, YYYY-MM-DD; a legal day is never a Date. */
export function localDay(zone: string, at: Date): string {
  let format = FORMATS.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
    FORMATS.set(zone, format);
  }
  return format.format(at);
}
