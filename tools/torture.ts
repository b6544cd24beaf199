import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AppendResponse } from '@gavrel/contract';
import { type Bodies, canonical, type Entry, isHazard, type Kind, type Subject, taggedId } from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, inWorkshop, migrate, rebuild } from '@gavrel/server';
import { v4, v7 } from 'uuid';
import { build } from './build';
import { numberOption, seeded, Trouble } from './common';
import { type Cluster, freePort, killCluster, makeDatabase, startCluster, stopCluster } from './postgres';
import { ServerProcess } from './server-process';
import { BrowserDevice } from './torture-browser';

const WORKSHOP = '44444444-4444-4444-8444-444444444444';
const PASS = 'torture is only a test';
const DEVICES = 4;
/** Packs the devices write about, where nobody says otherwise: few, so that they meet. */
const PACKS = 12;

export interface TortureCounts {
  readonly seed: number;
  readonly written: number;
  readonly acknowledged: number;
  readonly resent: number;
  readonly serverKills: number;
  readonly databaseKills: number;
  readonly browserKills: number;
  readonly stored: number;
  /** Acknowledged and not stored, stored twice, stored but different. */
  readonly lost: number;
  readonly doubled: number;
  readonly changed: number;
  readonly drift: number;
}

/** Mean time between two kills where nobody says otherwise, ms. */
const EVERY_MS = 750;

type Random = () => number;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)]!;

const HOUR = 3_600_000;

/** The same in another order: what mends may come before what it mends. */
const mixed = <T>(random: Random, list: readonly T[]): T[] =>
  list
    .map((x) => ({ x, key: random() }))
    .sort((a, b) => a.key - b.key)
    .map(({ x }) => x);

interface Bench {
  readonly name: string;
  readonly person: { readonly id: string; readonly name: string };
  /** Packs it writes about. */
  readonly packs: number;
  /** Milliseconds its clock is wrong. */
  readonly skew: number;
}

/** A random but well-formed entry of one device. */
function randomEntry(random: Random, { person, name, skew, packs }: Bench, own: readonly Entry[]): Entry {
  const tag = `T-${Math.floor(random() * packs)}`;
  const pack: Subject = `pack:${taggedId(WORKSHOP, 'pack', tag)}`;
  const make = <K extends Kind>(kind: K, body: Bodies[K], more: Partial<Entry> = {}): Entry =>
    ({
      id: v7(),
      v: 1,
      workshop: WORKSHOP,
      subjects: [pack],
      kind,
      at: new Date(Date.now() + skew + Math.round((random() - 0.5) * 60_000)).toISOString(),
      tz: 'UTC',
      by: person.id,
      device: name,
      hazard: isHazard(kind),
      body,
      ...more,
    }) as unknown as Entry;
  const mended = own.filter((e) => e.kind === 'reading-taken');
  switch (Math.floor(random() * 8)) {
    case 0:
      return make('pack-added', { tag, use: 'removed' });
    case 1:
      return make('label-read', { ratedEnergy: { digits: String(40 + Math.floor(random() * 80)), unit: 'Wh' } });
    case 2:
      return make('finding-recorded', { code: pick(random, ['dropped', 'swollen', 'wet', 'worn-out', 'hissing']) });
    case 3:
      return make('looked', { groups: ['smell', 'heat'] });
    case 4: {
      const target = mended.length > 0 ? pick(random, mended) : null;
      if (target) return make('retracted', { reason: 'wrong pack' }, { replaces: target.id, subjects: target.subjects });
      return make('intended', { purpose: 'recycling' });
    }
    default:
      return make('reading-taken', {
        quantity: 'pack-voltage',
        figure: { digits: (9 + random() * 4).toFixed(2), unit: 'V' },
        restMinutes: 200,
      });
  }
}

/** One device: writes entries to its outbox, sends batches, sends them again until they are acknowledged. */
async function device(
  { name, person, packs }: Omit<Bench, 'skew'>,
  base: string,
  random: Random,
  until: number,
): Promise<{ acked: Entry[]; written: number; resent: number }> {
  const outbox: Entry[] = [];
  const acked: Entry[] = [];
  // Some benches' clocks are hours wrong; none of them says so.
  const skew = pick(random, [0, 0, -2 * HOUR, 3 * HOUR, 26 * HOUR]);
  let cookie = '';
  let written = 0;
  let resent = 0;
  const post = (path: string, body: unknown) =>
    fetch(base + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(4000),
    });
  const deadline = until + 30_000;
  while (Date.now() < until || (outbox.length > 0 && Date.now() < deadline)) {
    if (Date.now() < until && outbox.length < 60) {
      for (let i = 0; i < 1 + random() * 4; i++) {
        outbox.push(randomEntry(random, { name, person, packs, skew }, acked));
        written += 1;
      }
    }
    try {
      if (cookie === '') {
        const r = await post('/session', { name: person.name, passphrase: PASS, device: name });
        if (!r.ok) throw new Error(String(r.status));
        cookie = r.headers.get('set-cookie')?.split(';')[0] ?? '';
      }
      // Sometimes what was acknowledged is sent once more, as after a lost answer.
      const again = random() < 0.2 && acked.length > 0 ? [pick(random, acked)] : [];
      const batch = mixed(random, [...outbox.slice(0, 20), ...again]);
      const body = { deviceTime: new Date(Date.now() + skew).toISOString(), entries: batch };
      // Sometimes the same batch goes out twice at once, as from two tabs.
      if (random() < 0.1) void post('/entries', body).catch(() => undefined);
      const r = await post('/entries', body);
      if (!r.ok) throw new Error(String(r.status));
      const { results } = (await r.json()) as AppendResponse;
      results.forEach((result, i) => {
        if (result.status === 'refused') throw new Trouble(`a good entry was refused: ${JSON.stringify(result.problem)}`);
        const e = batch[i]!;
        const at = outbox.indexOf(e);
        if (at >= 0) {
          outbox.splice(at, 1);
          acked.push(e);
        }
      });
    } catch (e) {
      if (e instanceof Trouble) throw e;
      resent += 1;
      // Who asks to be let in again and again is kept out for a minute, as anybody who guesses.
      await new Promise((r) => setTimeout(r, cookie === '' ? 2500 : 40 + random() * 120));
    }
  }
  if (outbox.length > 0) throw new Trouble(`${name} could not send ${outbox.length} entries after everything was up again`);
  return { acked, written, resent };
}

/**
 * Several devices append while the server and PostgreSQL are killed at random, then everything is compared: each acknowledged entry
 * is stored once and unchanged, and the tables equal a replay.
 * @param every mean time between two kills, ms; @param packs how many the devices write about. @param dist the built application: one of the devices is a real browser, and is killed too; null leaves it out.
 */
export async function torture(
  seed: number,
  seconds: number,
  dist: string | null,
  { every = EVERY_MS, packs = PACKS } = {},
): Promise<TortureCounts> {
  const random = seeded(seed);
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-torture-'));
  chmodSync(folder, 0o755);
  const where = join(folder, 'postgres');
  let cluster: Cluster = await startCluster(where);
  const urls = makeDatabase(cluster, 'gavrel_torture');
  const server = new ServerProcess(urls, await freePort(), dist);
  let serverKills = 0;
  let databaseKills = 0;
  try {
    const person = { id: v4(), name: 'Torture', role: 'technician' as const, competent: false };
    const who = { name: person.name, passphrase: PASS };
    const owner = connect(urls.owner, 2);
    await migrate(owner);
    await owner('workshops').insert({ id: WORKSHOP, name: 'Torture', zone: 'UTC' });
    await inWorkshop(owner, WORKSHOP, (trx) => addPerson(trx, WORKSHOP, { ...person, passphrase: PASS }));
    await owner.destroy();
    await server.start();

    const browser = dist ? new BrowserDevice(`http://127.0.0.1:${server.port}`, who, folder, seeded(seed + 3)) : null;
    await browser?.begin();
    const until = Date.now() + seconds * 1000;
    const base = `http://127.0.0.1:${server.port}/api`;
    const devices = Array.from({ length: DEVICES }, (_, i) =>
      device({ name: `device-${i}`, person, packs }, base, seeded(seed + 17 * (i + 1)), until),
    );
    const all = Promise.all([...devices, ...(browser ? [browser.run(until).finally(() => browser.close())] : [])]);
    let failed: unknown;
    all.catch((e: unknown) => (failed = e));
    while (Date.now() < until && failed === undefined) {
      await new Promise((r) => setTimeout(r, every * (0.4 + 1.2 * random())));
      if (random() < 0.5) {
        server.kill();
        serverKills += 1;
      } else {
        killCluster(cluster);
        databaseKills += 1;
        await new Promise((r) => setTimeout(r, 200));
        cluster = await startCluster(where);
      }
      if (!server.alive || random() < 0.5) {
        server.kill();
        await server.start();
      }
    }
    // The port may be the dead one's for a moment longer.
    while (!server.alive && failed === undefined) await server.start();
    const done = await all;
    server.kill();
    const browserKills = done.reduce((n, d) => n + ('kills' in d ? d.kills : 0), 0);
    return { seed, serverKills, databaseKills, browserKills, ...(await verdict(urls, done)) };
  } finally {
    server.kill();
    stopCluster(cluster, 'immediate');
    rmSync(folder, { recursive: true, force: true });
  }
}

async function verdict(urls: DatabaseUrls, done: readonly { acked: Entry[]; written: number; resent: number }[]) {
  const db = connect(urls.owner, 2);
  try {
    const rows: { id: string; seq: string; entry: Entry }[] = await inWorkshop(db, WORKSHOP, (trx) =>
      trx('entries').orderBy('seq').select('id', 'seq', 'entry'),
    );
    const stored = new Map(rows.map((r) => [r.id, r.entry]));
    const acked = done.flatMap((d) => d.acked);
    const gapless = rows.every((r, i) => Number(r.seq) === i + 1);
    const { drift } = await rebuild(db, { workshop: WORKSHOP, zone: 'UTC', now: new Date() });
    return {
      written: done.reduce((n, d) => n + d.written, 0),
      acknowledged: acked.length,
      resent: done.reduce((n, d) => n + d.resent, 0),
      stored: rows.length,
      lost: acked.filter((e) => !stored.has(e.id)).length,
      doubled: rows.length - stored.size + (gapless ? 0 : 1),
      changed: acked.filter((e) => stored.has(e.id) && canonical(stored.get(e.id)) !== canonical(e)).length,
      drift: drift.length,
    };
  } finally {
    await db.destroy();
  }
}

export async function main(args: readonly string[], say: (line: string) => void): Promise<void> {
  const seed = numberOption(args, 'seed', Date.now() % 1_000_000);
  const seconds = Math.min(600, numberOption(args, 'seconds', 30));
  say(`seed ${seed}, ${seconds} s, ${DEVICES} devices and a browser`);
  const c = await torture(seed, seconds, await build(say), {
    every: numberOption(args, 'every', EVERY_MS),
    packs: numberOption(args, 'packs', PACKS),
  });
  say(
    `${c.written} written, ${c.acknowledged} acknowledged, ${c.stored} stored; server killed ${c.serverKills} times, PostgreSQL ${c.databaseKills} times, the browser ${c.browserKills} times, ${c.resent} sendings failed`,
  );
  say(`lost ${c.lost}, doubled ${c.doubled}, changed ${c.changed}, tables that differ from a replay ${c.drift}`);
  if (c.lost + c.doubled + c.changed + c.drift > 0 || c.stored !== c.acknowledged)
    throw new Trouble('the log did not hold: run it again with the same seed');
}
