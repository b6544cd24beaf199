import type { PackPage, PackResponse, PackRow } from '@gavrel/contract';
import { LIST_QUERY, RULING_QUERY } from '@gavrel/contract/schemas';
import {
  type Condition,
  condition,
  entriesFor,
  findPack,
  foldedCode,
  gather,
  type JobFacts,
  localDay,
  type NotebookFacts,
  type PackFacts,
  rule,
} from '@gavrel/core';
import { Hono } from 'hono';
import { dues } from '../log/due';
import { notFound } from '../problem';
import { basisOf, type DailyMarks, isStale } from '../projection/rows';
import { sqlPort } from '../projection/sql-port';
import { inWorkshop } from '../store/db';
import { type Env, query, type Services } from './env';

interface ListQuery {
  readonly search: string;
  readonly condition?: Condition;
  readonly place?: string;
  readonly cursor?: string;
  readonly limit: number;
}

interface ListRow extends DailyMarks {
  readonly id: string;
  readonly tag: string;
  readonly code: string;
  readonly keys: readonly string[];
  readonly use: PackFacts['use'];
  readonly place: string | null;
  /** Null where nobody judged it yet. */
  readonly condition: Condition | null;
}

const LIKE = (s: string) => `%${s.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Read models: lists with search, filter and cursor, and single things with their history. */
export function readRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const { id: workshop, zone } = s.workshop;
  const uuid = (id: string, what: string) => {
    if (!UUID.test(id)) throw notFound(what);
    return id;
  };

  app.get('/packs', async (c) => {
    const q = query<ListQuery>(c, LIST_QUERY);
    const now = new Date();
    const { rows, stale, policy, facts } = await inWorkshop(s.db, workshop, async (trx) => {
      const policy = await s.writer.policy.of(trx);
      const stale = await s.refresher.left(trx);
      const of = { 'p.workshop_id': workshop };
      const joined = () =>
        trx('packs as p').leftJoin('pack_daily as d', (on) => on.on('d.workshop_id', 'p.workshop_id').on('d.id', 'p.id'));
      const order = [{ column: 'p.tag' }, { column: 'p.id' }];
      const page = (q.condition ? joined().where('d.condition', q.condition) : trx('packs as p'))
        .where(of)
        .orderBy(order)
        .limit(q.limit + 1)
        .select('p.id');
      if (q.place) void page.where('p.place', q.place);
      if (q.search.trim() !== '') void page.where('p.folded', 'like', LIKE(foldedCode(q.search)));
      if (q.cursor) void page.whereRaw('(p.tag, p.id) > (?, ?::uuid)', cursorOf(q.cursor));
      const rows: ListRow[] = await joined()
        .where(of)
        .whereIn('p.id', page)
        .orderBy(order)
        .select('p.id', 'p.tag', 'p.code', 'p.keys', 'p.use', 'p.place', 'd.condition', 'd.basis', 'd.judged_at', 'd.good_until');
      // What is stale is judged now: a page never waits for the rest.
      const basis = basisOf(policy);
      const old = rows.filter((r) => isStale(r, basis, now)).map((r) => r.id);
      const facts: { facts: PackFacts }[] =
        old.length > 0 ? await trx('packs').where('workshop_id', workshop).whereIn('id', old).select('facts') : [];
      return { rows, stale, policy, facts };
    });
    const judged = new Map<string, Condition>();
    for (const r of facts) {
      judged.set(r.facts.id, condition(r.facts, policy, now).condition);
      // One after another: what somebody reports goes in between.
      await new Promise((next) => setImmediate(next));
    }
    const more = rows.length > q.limit;
    const items = rows.slice(0, q.limit).map(({ id, tag, code, keys, use, place, ...r }): PackRow => ({
      id,
      tag,
      use,
      typeCode: code,
      condition: judged.get(id) ?? r.condition!,
      place,
      forgave: findPack({ tag, code, keys }, q.search) ?? [],
    }));
    const last = items[items.length - 1];
    const next = more && last ? Buffer.from(`${last.tag}\n${last.id}`).toString('base64url') : null;
    return c.json({ items, next, stale } satisfies PackPage);
  });

  app.get('/packs/:id', async (c) => {
    const id = uuid(c.req.param('id'), 'pack');
    const { on } = query<{ on?: string }>(c, RULING_QUERY);
    const now = new Date();
    const found = await inWorkshop(s.db, workshop, async (trx) => {
      const row = await trx('packs').where({ workshop_id: workshop, id }).first<{ facts: PackFacts } | undefined>('facts');
      if (!row) return null;
      const log = sqlPort(trx, workshop);
      const history = [...entriesFor(`pack:${id}`, await gather(log, [`pack:${id}`]))];
      const ruling = rule(row.facts, await s.writer.policy.of(trx), now, on ?? localDay(zone, now));
      return { facts: row.facts, ruling, history } satisfies PackResponse;
    });
    if (!found) throw notFound('pack');
    return c.json(found);
  });

  const simple = <F extends NotebookFacts | JobFacts>(table: 'notebooks' | 'jobs', words: (f: F) => string) => {
    app.get(`/${table}`, async (c) => {
      const q = query<ListQuery>(c, LIST_QUERY);
      const rows = await inWorkshop(s.db, workshop, async (trx) => {
        const list = trx(table)
          .where('workshop_id', workshop)
          .orderBy('id')
          .limit(q.limit + 1);
        if (q.search.trim() !== '') void list.whereRaw('lower(facts::text) like lower(?)', [LIKE(q.search.trim())]);
        if (q.cursor) void list.whereRaw('id::text > ?', [q.cursor]);
        return (await list.select('id', 'facts')) as { id: string; facts: F }[];
      });
      const items = rows.slice(0, q.limit).map((r) => ({ ...r.facts, words: words(r.facts) }));
      return c.json({ items, next: rows.length > q.limit ? rows[q.limit - 1]!.id : null });
    });
    app.get(`/${table}/:id`, async (c) => {
      const id = uuid(c.req.param('id'), table.slice(0, -1));
      const row = await inWorkshop(s.db, workshop, (trx) =>
        trx(table).where({ workshop_id: workshop, id }).first<{ facts: F } | undefined>('facts'),
      );
      if (!row) throw notFound(table.slice(0, -1));
      return c.json(row.facts);
    });
  };
  simple<NotebookFacts>('notebooks', (n) => [n.tag, n.maker, n.model].filter(Boolean).join(' '));
  simple<JobFacts>('jobs', (j) => j.complaint);

  app.get('/places', async (c) =>
    c.json(
      await inWorkshop(s.db, workshop, async (trx) =>
        (await trx('places').where('workshop_id', workshop).select('facts')).map((r: { facts: unknown }) => r.facts),
      ),
    ),
  );

  app.get('/due', async (c) => c.json(await dues(s.db, s.workshop, s.writer.policy, new Date())));
  return app;
}

function cursorOf(cursor: string): [string, string] {
  const [tag = '', id = ''] = Buffer.from(cursor, 'base64url').toString().replaceAll('\0', '').split('\n');
  // A cursor nobody gave out begins at the beginning of its tag.
  return [tag, UUID.test(id) ? id : '00000000-0000-0000-0000-000000000000'];
}
