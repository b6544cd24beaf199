import { createHash, randomBytes } from 'node:crypto';
import type { CalendarResponse } from '@gavrel/contract';
import { Hono } from 'hono';
import { rateLimiter } from 'hono-rate-limiter';
import type { Knex } from 'knex';
import { duesText } from '../log/due';
import { answer, notFound, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { addressOf, type Env, type Services } from './env';

const sha = (secret: string) => createHash('sha256').update(secret).digest('hex');
const madeAt = (db: Knex, workshop: string): Promise<CalendarResponse> =>
  inWorkshop(db, workshop, async (trx) => {
    const row = await trx('calendars').where('workshop_id', workshop).first<{ made_at: Date } | undefined>();
    return { madeAt: row ? row.made_at.toISOString() : null };
  });

/** The feed itself: whoever knows the address may read it, until it is revoked. */
export function calendarFeed(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const slow = rateLimiter({
    windowMs: 60_000,
    limit: 60,
    keyGenerator: (c) => addressOf(s, c),
    handler: (c) => answer(c, problem(429, 'slow-down', 'Asked too often', 'Ask once an hour.')),
  });
  app.get('/calendar/:file', slow, async (c) => {
    const secret = /^([\w-]{43})\.ics$/.exec(c.req.param('file'))?.[1];
    const known =
      secret !== undefined &&
      (await inWorkshop(s.db, s.workshop.id, (trx) =>
        trx('calendars')
          .where({ workshop_id: s.workshop.id, token_hash: sha(secret) })
          .first<object | undefined>(),
      ));
    if (!known) throw notFound('calendar');
    const text = await duesText(s, 'calendar', new Date());
    return c.body(text, 200, { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, max-age=900' });
  });
  return app;
}

/** Making and revoking the address: by the lead. A new one ends the one before. */
export function calendarRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const { id } = s.workshop;
  app.use('/calendar', async (c, next) => {
    if (c.get('person').role !== 'lead')
      throw new ProblemError(problem(403, 'role', 'Only a lead may do this', 'Ask the lead for the calendar’s address.'));
    return next();
  });
  app.get('/calendar', async (c) => c.json(await madeAt(s.db, id)));
  app.post('/calendar', async (c) => {
    const secret = randomBytes(32).toString('base64url');
    const made = { token_hash: sha(secret), by_person: c.get('person').id, made_at: new Date() };
    // Two at once: the later address is the one that holds.
    await inWorkshop(s.db, id, (trx) =>
      trx('calendars')
        .insert({ workshop_id: id, ...made })
        .onConflict('workshop_id')
        .merge(Object.keys(made)),
    );
    return c.json<CalendarResponse>({ madeAt: made.made_at.toISOString(), path: `/api/calendar/${secret}.ics` }, 201);
  });
  app.delete('/calendar', async (c) => {
    await inWorkshop(s.db, id, (trx) => trx('calendars').where('workshop_id', id).delete());
    return c.body(null, 204);
  });
  return app;
}
