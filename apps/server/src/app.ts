import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { About, Person, SessionResponse } from '@gavrel/contract';
import { openApi } from '@gavrel/contract/openapi';
import { SIGN_IN_SCHEMA, SWITCH_SCHEMA } from '@gavrel/contract/schemas';
import { serveStatic } from '@hono/node-server/serve-static';
import { type Context, Hono } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { etag } from 'hono/etag';
import { requestId } from 'hono/request-id';
import { secureHeaders } from 'hono/secure-headers';
import { rateLimiter } from 'hono-rate-limiter';
import type { Logger } from 'pino';
import { caught, failed } from './operate/failed';
import { knownHost, notStored, observed, sameOrigin } from './operate/guard';
import { people } from './people/people';
import { type Entered, signIn, signOut, switchTo, whoIs } from './people/sessions';
import { answer, problem } from './problem';
import { addressOf, askingOf, body, COOKIE, DEVICE_COOKIE, type Env, isSecure, placeOf, type Services } from './routes/env';
import { calendarFeed, calendarRoutes } from './routes/calendar';
import { classifyRoutes } from './routes/classify';
import { instrumentRoutes } from './routes/instruments';
import { keptRoutes } from './routes/kept';
import { atMost } from './routes/limit';
import { logRoutes } from './routes/log';
import { operateRoutes } from './routes/operate';
import { peopleRoutes } from './routes/people';
import { readRoutes } from './routes/read';
import { contentPolicy, readerPolicy } from './security';

/** Routes that take more than others, and bound it themselves. */
const LARGE = /\/(entries(\/of|\/sign)?|classify|plan|blobs\/[^/]+)$/;
export const VERSION = '0.1.0';

/** Cross-site requests never carry the session, and JSON is asked for: a form on another site cannot post. */
const cookieOptions = (secure: boolean) =>
  ({ httpOnly: true, sameSite: 'Strict', path: '/', maxAge: 14 * 86_400, secure }) as const;
/** The longest a browser keeps one. */
const DEVICE_AGE = 400 * 86_400;

/** Whoever was given a passphrase chooses their own, or leaves. */
const mayChoose = (method: string, path: string): boolean =>
  (path.endsWith('/session') && method !== 'POST') || (path.endsWith('/session/passphrase') && method === 'PUT');

let described: string | undefined;
/** The interface in words: made once, for anybody may ask, and making it holds up everybody else for a tenth of a second. */
const description = () => (described ??= JSON.stringify(openApi(VERSION)));

function apiRoutes(s: Services, log: Logger): Hono<Env> {
  const api = new Hono<Env>();
  const sessionOf = async (person: Person, given: boolean): Promise<SessionResponse> => ({
    person,
    workshop: s.workshop,
    people: await people(s.db, s.workshop.id, placeOf(s).today),
    ...(given && { mustChoose: true }),
  });
  const entered = async (c: Context<Env>, e: Entered) => {
    setCookie(c, COOKIE, e.token, cookieOptions(isSecure(s, c)));
    setCookie(c, DEVICE_COOKIE, e.device, { ...cookieOptions(isSecure(s, c)), path: '/api', maxAge: DEVICE_AGE });
    return c.json(await sessionOf(e.person, e.given));
  };
  const who = async (token: string | undefined) => {
    const found = token ? await whoIs(s.db, token, placeOf(s).today) : null;
    return found?.workshop === s.workshop.id ? found : null;
  };
  const slow = (limit: number, title: string) =>
    rateLimiter<Env>({
      windowMs: 60_000,
      limit,
      keyGenerator: (c) => addressOf(s, c),
      handler: (c) => answer(c, problem(429, 'slow-down', title, 'Wait a minute, then try again; nothing is lost.')),
    });
  const fail = failed(log);
  api.use(observed(s, log), caught(fail), notStored, sameOrigin, slow(s.perMinute, 'Too many requests in a minute'));

  // Routes that take more say so themselves: entries, tables, pictures.
  const small = atMost(
    100_000,
    problem(413, 'too-large', 'The request is larger than 100 kB', 'Send less at once; nothing was stored.'),
  );
  api.use((c, next) => (LARGE.test(c.req.path) ? next() : small(c, next)));

  api.get('/about', async (c) => {
    const found = await who(getCookie(c, COOKIE));
    const accounts = s.workshop.demo ? s.accounts : [];
    const session = found && (await sessionOf(found.person, found.given));
    return c.json<About>({ workshop: s.workshop, demo: s.workshop.demo, accounts, session });
  });
  api.get('/health', async (c) => {
    await s.db.raw('select 1');
    return c.json({ database: 'reachable' });
  });
  api.get('/openapi.json', (c) => c.body(description(), 200, { 'content-type': 'application/json' }));

  const guessing = slow(30, 'Too many sign-ins in a minute');
  api.post('/session', guessing, async (c) => {
    const ask = await body<{ name: string; passphrase: string; device: string }>(c, SIGN_IN_SCHEMA);
    const found = await signIn(askingOf(s, c), ask.name, ask.passphrase, ask.device);
    if (!found)
      return answer(c, problem(401, 'sign-in', 'Name or passphrase do not fit', 'Try again, or ask the lead to reset it.'));
    return entered(c, found);
  });

  api.route('/', calendarFeed(s));

  api.use(async (c, next) => {
    const token = getCookie(c, COOKIE);
    const found = await who(token);
    if (!found)
      return answer(c, problem(401, 'sign-in', 'Nobody is signed in', 'Sign in; what was not sent stays on the device.'));
    c.set('person', found.person);
    c.set('known', found);
    c.set('token', token!);
    if (found.given && !mayChoose(c.req.method, c.req.path))
      return answer(
        c,
        problem(403, 'choose', 'Choose a passphrase of your own first', 'Whoever gave you this one knows it. Nothing is lost.'),
      );
    return next();
  });
  api.get('/session', async (c) => c.json(await sessionOf(c.get('person'), c.get('known').given)));
  api.delete('/session', async (c) => {
    await signOut(s.db, s.workshop.id, c.get('token'));
    s.streams.check();
    deleteCookie(c, COOKIE, { path: '/' });
    return c.body(null, 204);
  });
  api.post('/session/switch', guessing, async (c) => {
    const ask = await body<{ person: string; pin: string }>(c, SWITCH_SCHEMA);
    const found = await switchTo(askingOf(s, c), ask.person, ask.pin, c.get('known'));
    if (!found) return answer(c, problem(403, 'pin', 'The PIN does not fit', 'Try again, or sign in with name and passphrase.'));
    return entered(c, found);
  });
  api.route('/', peopleRoutes(s, guessing));
  api.route('/', logRoutes(s, guessing));
  api.route('/', readRoutes(s));
  api.route('/', keptRoutes(s));
  api.route('/', classifyRoutes(s));
  api.route('/', instrumentRoutes(s));
  api.route('/', calendarRoutes(s));
  api.all('*', (c) => answer(c, problem(404, 'not-found', 'No such address', 'See /api/openapi.json for what there is.')));

  api.onError(fail);
  return api;
}

/**
 * The whole server: the interface under /api, everything else is the exported application.
 * @param dist folder of the exported application; null serves the interface only.
 */
export function createApp(s: Services, log: Logger, dist: string | null, stopping: () => boolean): Hono<Env> {
  const app = new Hono<Env>();
  app.use(requestId(), knownHost(s));
  const html = dist ? readFileSync(join(dist, 'index.html'), 'utf8') : '';
  const policy = contentPolicy(html);
  app.use(async (c, next) => {
    await next();
    // A worker has the policy its own file came with.
    c.header('content-security-policy', c.req.path.startsWith('/reader/') ? readerPolicy(policy) : policy);
  });
  app.use(
    secureHeaders({
      xFrameOptions: 'DENY',
      referrerPolicy: 'no-referrer',
      strictTransportSecurity: s.trustProxy ? 'max-age=31536000' : false,
      permissionsPolicy: { camera: ['self'], microphone: [], geolocation: [], payment: [], usb: [], serial: ['self'] },
    }),
  );
  app.route('/', operateRoutes(s, stopping));
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
