import { getConnInfo } from '@hono/node-server/conninfo';
import { Hono } from 'hono';
import { newestCopy } from '../operate/copies';
import type { Env, Services } from './env';

const LOOPBACK = /^(::ffff:)?127\.|^::1$/;

/** For whoever runs the server: alive, ready, and what it counts. The figures are told on the machine itself only. */
export function operateRoutes(s: Services, stopping: () => boolean): Hono<Env> {
  const app = new Hono<Env>();
  app.get('/healthz', (c) => c.text('alive'));
  app.get('/readyz', async (c) => {
    if (stopping()) return c.text('stopping', 503);
    return s.db.raw('select 1').then(
      () => c.text('ready'),
      () => c.text('the database does not answer', 503),
    );
  });
  app.get('/metrics', async (c) => {
    const own = LOOPBACK.test(getConnInfo(c).remote.address ?? '') && c.req.header('x-forwarded-for') === undefined;
    if (!own) return c.text('ask on the server itself', 403);
    const { newest } = await newestCopy(s.backups);
    if (newest) s.metrics.backup.set((Date.now() - Date.parse(newest.at)) / 1000);
    return c.text(await s.metrics.text(), 200, { 'content-type': 'text/plain; version=0.0.4' });
  });
  return app;
}
