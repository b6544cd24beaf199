import { X509Certificate } from 'node:crypto';
import { createServer as createSecure } from 'node:https';
import type { AddressInfo } from 'node:net';
import { MAX_OFFLINE } from '@gavrel/contract';
import { FOLD_VERSION } from '@gavrel/core';
import { benchRefusals } from '@gavrel/core/discharge';
import { serve } from '@hono/node-server';
import pino from 'pino';
import { createApp } from './app';
import { classifyPool } from './classify/pool';
import { duePool } from './log/due-pool';
import { News } from './log/news';
import { rulingOf } from './log/ruling';
import { Streams } from './log/streams';
import { Writer } from './log/writer';
import { BenchStore } from './operate/bench-store';
import { BENCH_PACE, type BenchPace, BenchTests } from './operate/bench-tests';
import { Metrics } from './operate/metrics';
import { PER_HOUR, PER_MINUTE } from './operate/quota';
import { runningOf } from './people/sessions';
import { rebuild } from './projection/rebuild';
import { Refresher } from './projection/refresher';
import { PICTURE_QUOTA } from './kept/picture';
import type { Services } from './routes/env';
import { type Trust, trustPage } from './routes/trust';
import { connect, type DatabaseUrls, waitFor } from './store/db';
import { migrate } from './store/migrations';
import { theWorkshop } from './store/workshop';

/** Longest wait for requests under way when the server stops, ms. */
const FINISH_MS = 5000;

/**
 * How long an idle connection is kept, ms: longer than proxies (a minute, commonly) and clients keep theirs, so that nobody asks on one that
 * is just being closed here.
 */
const KEPT = { keepAliveTimeout: 75_000 };

export interface ServeOptions {
  readonly urls: DatabaseUrls;
  /** 0 picks a free one. */
  readonly port: number;
  readonly dist: string | null;
  readonly accounts?: Services['accounts'];
  readonly trustProxy?: boolean;
  /** Names under which the server is reached besides its addresses and those in its certificate: of the proxy before it. */
  readonly hosts?: readonly string[];
  /** Folder of the copies that are made by themselves, to say how old the newest is. */
  readonly backups?: string;
  /** To the workshop's own network: over TLS on one port, the page that says how to trust it on another. Loopback stays as it is. */
  readonly lan?: { readonly key: string; readonly cert: string; readonly port: number; readonly trustPort: number } & Trust;
  readonly logLevel?: string;
  /** Most entries a device is told to hold; a test's log is shorter. */
  readonly deviceLimit?: number;
  /** Entries that are no danger which one person may write in an hour: a measurement writes more. */
  readonly quota?: number;
  /** Bytes of pictures the workshop keeps. */
  readonly pictureQuota?: number;
  /** Requests an address may make in a minute. */
  readonly perMinute?: number;
  /** How discharges on a load are kept; a test's are shorter. */
  readonly benchPace?: BenchPace;
}

export interface Running {
  readonly port: number;
  readonly services: Services;
  readonly stop: () => Promise<void>;
}

/** Names a certificate vouches for: whoever has it may be asked for by them. */
const namesIn = (cert: string): string[] =>
  [...(new X509Certificate(cert).subjectAltName ?? '').matchAll(/DNS:([^,\s]+)/g)].map((m) => m[1]!);

/** Migrates, rebuilds after a change of the folds, and serves on loopback, and over TLS to the workshop’s own network where that is asked for. */
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
  const streams = new Streams((sessions) => runningOf(db, workshop.id, sessions));
  streams.start(news);
  const writer = new Writer(db, { workshop: workshop.id, zone: workshop.zone });
  const refresher = new Refresher(db, writer.policy, { url: o.urls.app, workshop: workshop.id, zone: workshop.zone });
  refresher.start();
  news.subscribe(() => refresher.soon());
  const metrics = new Metrics();
  const pace = o.benchPace ?? BENCH_PACE;
  const benchTests = new BenchTests(
    async (pack) => benchRefusals(await rulingOf(db, workshop, writer.policy, pack)),
    new BenchStore(db, workshop.id, pace.lostMs),
    pace,
  );
  const services: Services = {
    db,
    workshop,
    writer,
    classify: classifyPool(),
    dues: duePool(),
    refresher,
    streams,
    metrics,
    benchTests,
    backups: o.backups ?? null,
    deviceLimit: o.deviceLimit ?? MAX_OFFLINE,
    trustProxy: o.trustProxy ?? false,
    hosts: [...(o.hosts ?? []), ...(o.lan ? namesIn(o.lan.cert) : [])],
    perMinute: o.perMinute ?? PER_MINUTE,
    quota: o.quota ?? PER_HOUR,
    pictureQuota: o.pictureQuota ?? PICTURE_QUOTA,
    accounts: o.accounts ?? [],
  };
  let stopping = false;
  const app = createApp(services, log, o.dist, () => stopping);
  const servers = [await listen(app.fetch, o.port, { hostname: '127.0.0.1', serverOptions: KEPT })];
  if (o.lan) {
    const { key, cert, port, trustPort } = o.lan;
    const secure = { hostname: '0.0.0.0', createServer: createSecure, serverOptions: { ...KEPT, key, cert } };
    servers.push(await listen(app.fetch, port, secure));
    servers.push(await listen(trustPage(o.lan).fetch, trustPort, { hostname: '0.0.0.0' }));
  }
  return {
    port: (servers[0]!.address() as AddressInfo).port,
    services,
    // What was accepted is finished: lines that only wait for news are ended, requests under way get their answer.
    stop: async () => {
      stopping = true;
      const closed = Promise.all(servers.map((x) => new Promise<void>((done) => x.close(() => done()))));
      streams.stop();
      await benchTests.close();
      await news.stop();
      for (const x of servers) if ('closeIdleConnections' in x) x.closeIdleConnections();
      const cut = setTimeout(() => servers.forEach((x) => 'closeAllConnections' in x && x.closeAllConnections()), FINISH_MS);
      await closed;
      clearTimeout(cut);
      await services.classify.close({ force: true });
      await services.dues.close({ force: true });
      await refresher.stop();
      metrics.clear();
      await db.destroy();
    },
  };
}

type Listening = ReturnType<typeof serve>;
type Fetch = Parameters<typeof serve>[0]['fetch'];

function listen(fetch: Fetch, port: number, how: Omit<Parameters<typeof serve>[0], 'fetch' | 'port'>): Promise<Listening> {
  return new Promise((resolve, reject) => {
    const server: Listening = serve({ fetch, port, ...how } as Parameters<typeof serve>[0], () => resolve(server));
    server.on('error', reject);
  });
}
