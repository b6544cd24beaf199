import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import { FOLD_VERSION } from '@gavrel/core';
import { serve } from '@hono/node-server';
import pino from 'pino';
import { createApp } from './app';
import { News } from './log/news';
import { rebuild } from './log/rebuild';
import { Writer } from './log/writer';
import { Metrics } from './operate/metrics';
import type { Services } from './routes/env';
import { connect, type DatabaseUrls, waitFor } from './store/db';
import { migrate } from './store/migrations';
import { theWorkshop } from './store/workshop';

/** Longest wait for requests under way when the server stops, ms. */
const FINISH_MS = 5000;

export interface ServeOptions {
  readonly urls: DatabaseUrls;
  /** 0 picks a free one. */
  readonly port: number;
  readonly dist: string | null;
  readonly accounts?: Services['accounts'];
  readonly trustProxy?: boolean;
  /** Key and certificate, PEM: served over TLS on every address of the machine; without, on loopback. */
  readonly tls?: { readonly key: string; readonly cert: string };
  readonly logLevel?: string;
}

export interface Running {
  readonly port: number;
  readonly services: Services;
  readonly stop: () => Promise<void>;
}

/** Migrates, rebuilds after a change of the folds, and serves: on loopback, or over TLS to the workshop's own network. */
export async function start(o: ServeOptions): Promise<Running> {
  const log = pino({ level: o.logLevel ?? 'warn' });
  const owner = connect(o.urls.owner, 2);
  try {
    await waitFor(owner, 15_000);
    await migrate(owner);
    const w = await owner('workshops').first<{ id: string; zone: string; fold_version: number } | undefined>();
    if (w && w.fold_version !== FOLD_VERSION) await rebuild(owner, { workshop: w.id, zone: w.zone, now: new Date() });
  } finally {
    await owner.destroy();
  }
  const db = connect(o.urls.app);
  const workshop = await theWorkshop(db);
  const news = new News(o.urls.app, workshop.id);
  await news.start();
  const writer = new Writer(db, { workshop: workshop.id, zone: workshop.zone });
  const metrics = new Metrics();
  const services: Services = {
    db,
    workshop,
    writer,
    news,
    metrics,
    trustProxy: o.trustProxy ?? false,
    secure: o.tls !== undefined || (o.trustProxy ?? false),
    accounts: o.accounts ?? [],
  };
  let stopping = false;
  const app = createApp(services, log, o.dist, () => stopping);
  return new Promise((resolve, reject) => {
    const how = o.tls ? { hostname: '0.0.0.0', createServer: createSecure, serverOptions: o.tls } : { hostname: '127.0.0.1' };
    const server = serve({ fetch: app.fetch, port: o.port, ...how }, (info: AddressInfo) => {
      resolve({
        port: info.port,
        services,
        // What was accepted is finished: lines that only wait for news are ended, requests under way get their answer.
        stop: async () => {
          stopping = true;
          const closed = new Promise<void>((done) => server.close(() => done()));
          await news.stop();
          if ('closeIdleConnections' in server) server.closeIdleConnections();
          const cut = setTimeout(() => 'closeAllConnections' in server && server.closeAllConnections(), FINISH_MS);
          await closed;
          clearTimeout(cut);
          metrics.clear();
          await db.destroy();
        },
      });
    });
    server.on('error', reject);
  });
}
