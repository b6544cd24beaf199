import type { AddressInfo } from 'node:net';
import { FOLD_VERSION } from '@gavrel/core';
import { serve } from '@hono/node-server';
import pino from 'pino';
import { createApp } from './app';
import { News } from './log/news';
import { rebuild } from './log/rebuild';
import { Writer } from './log/writer';
import type { Services } from './routes/env';
import { connect, type DatabaseUrls, waitFor } from './store/db';
import { migrate } from './store/migrations';
import { theWorkshop } from './store/workshop';

export interface ServeOptions {
  readonly urls: DatabaseUrls;
  /** 0 picks a free one. */
  readonly port: number;
  readonly dist: string | null;
  readonly accounts?: Services['accounts'];
  readonly logLevel?: string;
}

export interface Running {
  readonly port: number;
  readonly services: Services;
  readonly stop: () => Promise<void>;
}

/** Migrates, rebuilds after a change of the folds, and serves on loopback. */
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
  const services: Services = { db, workshop, writer, news, accounts: o.accounts ?? [] };
  const app = createApp(services, log, o.dist);
  return new Promise((resolve, reject) => {
    const server = serve({ fetch: app.fetch, port: o.port, hostname: '127.0.0.1' }, (info: AddressInfo) => {
      resolve({
        port: info.port,
        services,
        stop: async () => {
          await news.stop();
          if ('closeAllConnections' in server) server.closeAllConnections();
          await new Promise<void>((done) => server.close(() => done()));
          await db.destroy();
        },
      });
    });
    server.on('error', reject);
  });
}
