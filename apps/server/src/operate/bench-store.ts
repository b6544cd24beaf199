import type { BenchEnd, BenchOrder, BenchRow } from '@gavrel/core/discharge';
import type { Knex } from 'knex';
import { inWorkshop, query } from '../store/db';

/** Why a test is not begun, in words. */
export class NotBegun extends Error {}

/** What is known of a test besides its rows. */
export interface KeptTest {
  readonly pack: string;
  readonly order: BenchOrder;
  /** Name of who began it. */
  readonly by: string;
  /** ISO 8601 UTC. */
  readonly began: string;
  /** null while it runs. */
  readonly end: BenchEnd | null;
}

/** What a server that runs a test hears of it from the others. */
export interface Heard {
  /** Why to stop; null where nobody asked for it. */
  readonly stop: string | null;
  /** Since a screen last asked any server for it, ms. */
  readonly unwatchedMs: number;
}

const LOST: BenchEnd = {
  whole: false,
  off: false,
  words:
    'The server that ran it ended in the middle of it; what it had told until then is here. The load’s own time-out switches it off: look that it is off.',
};

interface Row {
  readonly pack: string;
  readonly about: BenchOrder;
  readonly by: string | null;
  readonly began: Date;
  readonly ended: BenchEnd | null;
}

/**
 * The last test of each load with its rows. It outlives the server that runs it, and every server of the workshop tells of it. It is no
 * part of the log: what a load said goes there only as a person measures and keeps it.
 */
export class BenchStore {
  /** @param lostMs a test that nobody wrote of for so long has lost its server. */
  constructor(
    private readonly db: Knex,
    private readonly workshop: string,
    private readonly lostMs: number,
  ) {}

  private markLost(trx: Knex.Transaction): Promise<unknown> {
    return query(
      trx,
      'bench-lost',
      `update bench_tests set ended = ?::jsonb
       where workshop_id = ?::uuid and ended is null and told_at < now() - ?::int * interval '1 ms'`,
      [JSON.stringify(LOST), this.workshop, this.lostMs],
    );
  }

  /**
   * Claims load and pack for a test; the load's last one is forgotten.
   * @param by id of who begins it. @param began ISO 8601 UTC.
   * @throws NotBegun where either is in a test, on whichever server.
   */
  begin(
    load: string,
    about: { readonly pack: string; readonly order: BenchOrder; readonly by: string },
    began: string,
  ): Promise<void> {
    const { workshop } = this;
    return inWorkshop(this.db, workshop, async (trx) => {
      // Two who begin at once: one after the other.
      await trx.raw('select pg_advisory_xact_lock(hashtextextended(?, 0))', [`bench tests ${workshop}`]);
      await this.markLost(trx);
      const running = await trx('bench_tests')
        .where({ workshop_id: workshop, ended: null })
        .where((q) => q.where({ load }).orWhere({ pack: about.pack }))
        .select<{ load: string }[]>('load');
      if (running.some((r) => r.load === load)) throw new NotBegun('A test runs on it: stop it, or wait for its end.');
      if (running.length > 0) throw new NotBegun('This pack is in a test on another load.');
      await trx('bench_rows').where({ workshop_id: workshop, load }).delete();
      await trx('bench_tests').where({ workshop_id: workshop, load }).delete();
      const { pack, order, by } = about;
      await trx('bench_tests').insert({ workshop_id: workshop, load, began, pack, about: order, by_person: by });
    });
  }

  /**
   * Writes what a test told since, and that it still runs, or how it ended. One that was taken for lost while its server could not reach
   * the database is back with that.
   * @param first number of the first of these rows.
   * @returns null where another test was begun on the load.
   */
  note(
    load: string,
    began: string,
    told: { readonly first: number; readonly rows: readonly BenchRow[]; readonly end: BenchEnd | null },
  ): Promise<Heard | null> {
    const { workshop } = this;
    return inWorkshop(this.db, workshop, async (trx) => {
      const [heard] = await query<{ stop: string | null; unwatched: string }>(
        trx,
        'bench-note',
        `update bench_tests set told_at = now(), ended = ?::jsonb
         where workshop_id = ?::uuid and load = ?::uuid and began = ?::timestamptz and (ended is null or ended = ?::jsonb)
         returning stop, extract(epoch from now() - watched_at) * 1000 as unwatched`,
        [told.end && JSON.stringify(told.end), workshop, load, began, JSON.stringify(LOST)],
      );
      if (!heard) return null;
      if (told.rows.length > 0)
        await query(
          trx,
          'bench-rows-told',
          // Written once and not heard of it: it comes again, with what came since.
          `insert into bench_rows (workshop_id, load, first, beyond, rows) values (?::uuid, ?::uuid, ?::int, ?::int, ?::jsonb)
           on conflict (workshop_id, load, first) do update set beyond = excluded.beyond, rows = excluded.rows`,
          [workshop, load, told.first, told.first + told.rows.length, JSON.stringify(told.rows)],
        );
      return { stop: heard.stop, unwatchedMs: Number(heard.unwatched) };
    });
  }

  /** The last test of a load; null where there was none. @param watch whoever asks is taken to watch it. */
  last(load: string, watch: boolean): Promise<KeptTest | null> {
    const { workshop } = this;
    return inWorkshop(this.db, workshop, async (trx) => {
      await this.markLost(trx);
      if (watch)
        await query(
          trx,
          'bench-watch',
          'update bench_tests set watched_at = now() where workshop_id = ?::uuid and load = ?::uuid and ended is null',
          [workshop, load],
        );
      const [row] = await query<Row>(
        trx,
        'bench-last',
        `select t.pack, t.about, t.began, t.ended, p.name as by from bench_tests t
         left join people p on p.workshop_id = t.workshop_id and p.id = t.by_person
         where t.workshop_id = ?::uuid and t.load = ?::uuid`,
        [workshop, load],
      );
      if (!row) return null;
      const { pack, about, began, ended, by } = row;
      return { pack, order: about, by: by ?? 'somebody', began: began.toISOString(), end: ended };
    });
  }

  /** Rows of a load's last test. @param from number of the first. @param most how many at most. */
  rows(load: string, from: number, most: number): Promise<BenchRow[]> {
    return inWorkshop(this.db, this.workshop, async (trx) => {
      const parts = await query<{ first: number; rows: BenchRow[] }>(
        trx,
        'bench-rows',
        `select first, rows from bench_rows where workshop_id = ?::uuid and load = ?::uuid and beyond > ?::int order by first limit ?::int`,
        [this.workshop, load, from, most],
      );
      const skip = parts[0] ? Math.max(0, from - parts[0].first) : 0;
      return parts.flatMap((p) => p.rows).slice(skip, skip + most);
    });
  }

  /** Asks the server that runs a load's test to stop it. @returns whether one runs it. */
  askStop(load: string, words: string): Promise<boolean> {
    return inWorkshop(this.db, this.workshop, async (trx) => {
      await this.markLost(trx);
      const asked = await query(
        trx,
        'bench-stop',
        `update bench_tests set stop = coalesce(stop, ?) where workshop_id = ?::uuid and load = ?::uuid and ended is null returning load`,
        [words, this.workshop, load],
      );
      return asked.length > 0;
    });
  }
}
