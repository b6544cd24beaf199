import type { TrailItem, TrailWhat } from '@gavrel/contract';
import type { Knex } from 'knex';
import { inWorkshop } from '../store/db';

interface Happened {
  readonly what: TrailWhat;
  /** Who did it; nobody where a stranger tried. */
  readonly by?: string;
  /** Whom it is about, where that is somebody else. */
  readonly about?: string;
  readonly device?: string;
  readonly note?: string;
}

/** Keeps what happened around people and their secrets; never a secret. */
export async function note(trx: Knex.Transaction, workshop: string, h: Happened): Promise<void> {
  await trx('trail').insert({
    workshop_id: workshop,
    what: h.what,
    by_person: h.by ?? null,
    about: h.about ?? null,
    device: h.device ?? null,
    note: h.note ?? null,
  });
}

interface Row {
  readonly id: string;
  readonly at: Date;
  readonly what: TrailWhat;
  readonly by_person: string | null;
  readonly about: string | null;
  readonly device: string | null;
  readonly note: string | null;
}

/** The newest first. @param before only what is older than this number. */
export async function trail(db: Knex, workshop: string, before: number | null, limit: number): Promise<TrailItem[]> {
  return inWorkshop(db, workshop, async (trx) => {
    const rows = await trx('trail')
      .modify((q) => before !== null && q.where('id', '<', before))
      .orderBy('id', 'desc')
      .limit(limit)
      .select<Row[]>('id', 'at', 'what', 'by_person', 'about', 'device', 'note');
    return rows.map((r) => ({
      id: Number(r.id),
      at: r.at.toISOString(),
      what: r.what,
      by: r.by_person,
      about: r.about,
      device: r.device,
      note: r.note,
    }));
  });
}
