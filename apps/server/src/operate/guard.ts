import { isIP } from 'node:net';
import type { Context, MiddlewareHandler } from 'hono';
import { matchedRoutes } from 'hono/route';
import type { Logger } from 'pino';
import { answer, problem } from '../problem';
import type { Env, Services } from '../routes/env';

const READS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * Only our own page may write: a browser names where a request comes from, and what comes from another site is refused. A program that
 * names nothing carries its session deliberately.
 */
export const sameOrigin: MiddlewareHandler<Env> = async (c, next) => {
  if (READS.has(c.req.method)) return next();
  const site = c.req.header('sec-fetch-site');
  const origin = c.req.header('origin');
  const foreign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && (!URL.canParse(origin) || new URL(origin).host !== c.req.header('host')));
  if (foreign) return answer(c, problem(403, 'origin', 'This comes from another site', 'Open Gavrel at its own address.'));
  return next();
};

/** The name before the port. */
const nameIn = (host: string): string => host.toLowerCase().replace(/:\d+$/, '').replace(/\.$/, '');

/**
 * Answers only to names that are ours: a name of somebody else's that was made to point here (DNS rebinding) reads nothing. An address
 * cannot be pointed elsewhere. Behind a proxy that names no names to us, it is the proxy's to check.
 */
export function knownHost(s: Services): MiddlewareHandler<Env> {
  const ours = new Set(s.hosts.map((h) => h.toLowerCase()));
  return async (c, next) => {
    const name = nameIn(c.req.header('host') ?? '');
    const known =
      isIP(name.replace(/^\[|\]$/g, '')) !== 0 || name === 'localhost' || name.endsWith('.localhost') || ours.has(name);
    if (known || (s.trustProxy && ours.size === 0)) return next();
    return answer(c, problem(421, 'host', 'This server does not answer to that name', 'Open Gavrel at the address it printed.'));
  };
}

/** What is told to one person is kept by nobody on the way, nor by the browser after they left. */
export const notStored: MiddlewareHandler<Env> = async (c, next) => {
  await next();
  c.res.headers.set('cache-control', 'no-store');
};

/** The pattern of the address, not what stands in it: an id or a secret is never told. */
const patternOf = (c: Context<Env>): string =>
  matchedRoutes(c)
    .map((r) => r.path)
    .filter((p) => !p.endsWith('*'))
    .pop() ?? 'other';

/** One line a request with its id, and its time for the metrics. Never a body, a query, a secret address or a cookie. */
export function observed(s: Services, log: Logger): MiddlewareHandler<Env> {
  return async (c, next) => {
    const begun = performance.now();
    await next();
    const route = patternOf(c);
    const ms = performance.now() - begun;
    const labels = { method: c.req.method, route, status: String(c.res.status) };
    s.metrics.requests.observe(labels, ms / 1000);
    const line = { reqId: c.get('requestId'), ...labels, ms: Math.round(ms), person: c.get('person')?.id };
    if (c.res.status >= 500) log.error(line, 'request');
    else log.info(line, 'request');
  };
}
