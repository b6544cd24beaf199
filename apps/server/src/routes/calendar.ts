import { createHash, randomBytes } from 'node:crypto';
import type { CalendarResponse } from '@gavrel/contract';
import { type Due, isDay, localDay } from '@gavrel/core';
import { Hono } from 'hono';
import { rateLimiter } from 'hono-rate-limiter';
import ical, { ICalAlarmType, ICalCalendarMethod } from 'ical-generator';
import type { Knex } from 'knex';
import { dues } from '../log/due';
import { answer, notFound, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import type { WorkshopRow } from '../store/workshop';
import { addressOf, type Env, type Services } from './env';

const sha = (secret: string) => createHash('sha256').update(secret).digest('hex');
const LOOK_MINUTES = 15;
/** Control characters, which RFC 5545 keeps out of a text. */
const UNWRITABLE = /[\u0000-\u0009\u000b-\u001f\u007f]/g;

/** One event a due thing. What is late stands today, where a phone still shows it. */
export function calendarOf(workshop: Pick<WorkshopRow, 'name' | 'zone'>, list: readonly Due[], now: Date): string {
  const today = localDay(workshop.zone, now);
  const calendar = ical({ name: `${workshop.name}: due`, method: ICalCalendarMethod.PUBLISH, ttl: 3600 });
  for (const d of list) {
    // A day that is none would end the whole feed: it is told as of today.
    const on = isDay(d.on) ? d.on : today;
    const late = d.at === undefined ? on < today : d.at < now.toISOString();
    const moment = d.at !== undefined && !Number.isNaN(Date.parse(d.at)) && !late ? new Date(d.at) : null;
    // An all-day event has a day and no moment: the library writes the day that the UTC date names.
    const day = new Date(`${late ? today : on}T00:00:00.000Z`);
    const event = calendar.createEvent({
      id: `${d.id}@gavrel`,
      stamp: now,
      summary: `${late ? 'late: ' : ''}${`${d.title}: ${d.note}`.replace(UNWRITABLE, ' ')}`,
      description: 'Smoke or hiss: leave, alarm, call. Never unpack a damaged pack to look at it.',
      start: moment ?? day,
      ...(moment ? { end: new Date(moment.getTime() + LOOK_MINUTES * 60_000) } : { allDay: true, timezone: 'UTC' }),
    });
    if (moment) event.createAlarm({ type: ICalAlarmType.display, trigger: 0 });
  }
  return calendar.toString();
}

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
    const now = new Date();
    const text = calendarOf(s.workshop, await dues(s.db, s.workshop, s.writer.policy, now), now);
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
