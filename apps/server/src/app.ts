import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { About, Person, SessionResponse } from '@gavrel/contract';
import { openApi } from '@gavrel/contract/openapi';
import { SIGN_IN_SCHEMA } from '@gavrel/contract/schemas';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { bodyLimit } from 'hono/body-limit';
import { etag } from 'hono/etag';
import { rateLimiter } from 'hono-rate-limiter';
import type { Logger } from 'pino';
import { people, signIn, signOut, whoIs } from './people/people';
import { answer, problem, ProblemError } from './problem';
import { body, type Env, type Services } from './routes/env';
import { calendarFeed, calendarRoutes } from './routes/calendar';
import { classifyRoutes } from './routes/classify';
import { keptRoutes } from './routes/kept';
import { logRoutes } from './routes/log';
import { readRoutes } from './routes/read';
import { contentPolicy } from './security';
import { isAway } from './store/db';

const COOKIE = 'gavrel';
export const VERSION = '0.1.0';

/** Cross-site requests never carry the session, and JSON is asked for: a form on another site cannot post. */
const COOKIE_OPTIONS = { httpOnly: true, sameSite: 'Strict', path: '/', maxAge: 14 * 86_400 } as const;

function apiRoutes(s: Services, log: Logger): Hono<Env> {
  const api = new Hono<Env>();
  const sessionOf = async (person: Person): Promise<SessionResponse> => ({
    person,
    workshop: s.workshop,
    people: await people(s.db, s.workshop.id),
  });
  const who = async (token: string | undefined) => {
    const found = token ? await whoIs(s.db, token) : null;
    return found?.workshop === s.workshop.id ? found.person : null;
  };

  api.get('/about', async (c) => {
    const person = await who(getCookie(c, COOKIE));
    const accounts = s.workshop.demo ? s.accounts : [];
    return c.json<About>({ workshop: s.workshop, demo: s.workshop.demo, accounts, session: person && (await sessionOf(person)) });
  });
  api.get('/health', async (c) => {
    await s.db.raw('select 1');
    return c.json({ database: 'reachable' });
  });
  api.get('/openapi.json', (c) => c.json(openApi(VERSION)));

  const guessing = rateLimiter({
    windowMs: 60_000,
    limit: 30,
    keyGenerator: (c) => c.req.header('x-forwarded-for') ?? 'here',
    handler: (c) => answer(c, problem(429, 'slow-down', 'Too many sign-ins in a minute', 'Wait a minute, then try again.')),
  });
  api.post('/session', guessing, bodyLimit({ maxSize: 10_000 }), async (c) => {
    const ask = await body<{ name: string; passphrase: string; device: string }>(c, SIGN_IN_SCHEMA);
    const found = await signIn(s.db, s.workshop.id, ask.name, ask.passphrase, ask.device);
    if (!found)
      return answer(c, problem(401, 'sign-in', 'Name or passphrase do not fit', 'Try again, or ask the lead to reset it.'));
    setCookie(c, COOKIE, found.token, COOKIE_OPTIONS);
    return c.json(await sessionOf(found.person));
  });

  api.route('/', calendarFeed(s));

  api.use(async (c, next) => {
    const token = getCookie(c, COOKIE);
    const person = await who(token);
    if (!person)
      return answer(c, problem(401, 'sign-in', 'Nobody is signed in', 'Sign in; what was not sent stays on the device.'));
    c.set('person', person);
    c.set('token', token!);
    return next();
  });
  api.get('/session', async (c) => c.json(await sessionOf(c.get('person'))));
  api.delete('/session', async (c) => {
    await signOut(s.db, s.workshop.id, c.get('token'));
    deleteCookie(c, COOKIE, { path: '/' });
    return c.body(null, 204);
  });
  api.route('/', logRoutes(s));
  api.route('/', readRoutes(s));
  api.route('/', keptRoutes(s));
  api.route('/', classifyRoutes(s));
  api.route('/', calendarRoutes(s));
  api.all('*', (c) => answer(c, problem(404, 'not-found', 'No such address', 'See /api/openapi.json for what there is.')));

  api.onError((e, c) => {
    if (e instanceof ProblemError) return answer(c, e.problem);
    if (isAway(e)) {
      log.warn({ err: e }, 'database away');
      return answer(
        c,
        problem(
          503,
          'database',
          'The database does not answer',
          'Nothing was stored. The device keeps its entries and sends them again by itself.',
        ),
      );
    }
    log.error({ err: e }, 'unexpected');
    return answer(
      c,
      problem(
        500,
        'unexpected',
        'Something went wrong here',
        'Nothing was stored. Try again; if it stays, look in the server’s log.',
      ),
    );
  });
  return api;
}

/**
 * The whole server: the interface under /api, everything else is the exported application.
 * @param dist folder of the exported application; null serves the interface only.
 */
export function createApp(s: Services, log: Logger, dist: string | null): Hono<Env> {
  const app = new Hono<Env>();
  const html = dist ? readFileSync(join(dist, 'index.html'), 'utf8') : '';
  const policy = contentPolicy(html);
  app.use(async (c, next) => {
    await next();
    c.header('content-security-policy', policy);
    c.header('x-content-type-options', 'nosniff');
    c.header('referrer-policy', 'no-referrer');
  });
  app.route('/api', apiRoutes(s, log));
  if (dist) {
    const root = dist;
    app.use('*', etag());
    const immutable = (path: string) => /\/(_expo|assets)\//.test(path);
    app.use(
      '*',
      serveStatic({
        root,
        precompressed: true,
        onFound: (path, c) => c.header('cache-control', immutable(path) ? 'public, max-age=31536000, immutable' : 'no-cache'),
      }),
    );
    app.get('*', (c) =>
      c.req.header('accept')?.includes('text/html') ? c.html(html, 200, { 'cache-control': 'no-cache' }) : c.notFound(),
    );
  }
  return app;
}
