import type { PackResponse } from '@gavrel/contract';
import { LIST_QUERY, NOTICED_QUERY, RULING_QUERY } from '@gavrel/contract/schemas';
import { entriesFor, gather, type JobFacts, localDay, type NotebookFacts, type PackFacts, rule } from '@gavrel/core';
import { Hono } from 'hono';
import { duesText } from '../log/due';
import { notFound } from '../problem';
import { sqlPort } from '../projection/sql-port';
import { inWorkshop } from '../store/db';
import { type Env, query, type Services } from './env';
import { noticedPacks } from './noticed-packs';
import { LIKE, type ListQuery, packPage, UUID } from './pack-page';

/** Read models: lists with search, filter and cursor, and single things with their history. */
export function readRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const { id: workshop, zone } = s.workshop;
  const uuid = (id: string, what: string) => {
    if (!UUID.test(id)) throw notFound(what);
    return id;
  };

  app.get('/packs', async (c) => {
    return c.json(await packPage(s, query<ListQuery>(c, LIST_QUERY)));
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

  app.get('/notices/:id/packs', async (c) => {
    const { cursor } = query<{ cursor?: string }>(c, NOTICED_QUERY);
    return c.json(await noticedPacks(s, uuid(c.req.param('id'), 'notice'), cursor));
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

  app.get('/due', async (c) => c.body(await duesText(s, 'json', new Date()), 200, { 'content-type': 'application/json' }));
  return app;
}
