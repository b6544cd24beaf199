import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Person } from '@gavrel/contract';
import { type Entry, type Subject, taggedId } from '@gavrel/core';
import { connect, type DatabaseUrls, inWorkshop, migrate, start, theWorkshop } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import type { Knex } from 'knex';
import type { Page } from 'puppeteer-core';
import { v5 } from 'uuid';
import { openBrowser, PHONE, tap, untilText } from './browser';
import { build } from './build';
import { seeded } from './common';
import { GANNET } from './demo/bases';
import { Scribe } from './demo/scribe';
import { ACCOUNTS, DEMO_WORKSHOP } from './demo/people';
import { seedDemo } from './demo/world';
import { freePort, makeDatabase, startCluster, stopCluster } from './postgres';

/** A slow phone on a slow network: the browser's own throttling. */
export const SLOW = { cpu: 4, network: { offline: false, latency: 150, download: 1.6e6 / 8, upload: 0.75e6 / 8 } };
const JOBS = 500;
/** Seven entries each: with the demo world about as many entries as a device holds. */
export const JOBS_OF_A_FULL_DEVICE = 2_700;

/** Jobs of one model, each with its pack, as a technician would have left them. */
function manyJobs(by: string, jobs: number): Entry[] {
  const scribe = new Scribe(DEMO_WORKSHOP.id, seeded(9));
  for (let i = 0; i < jobs; i++) {
    const tag = `B-${1000 + i}`;
    const job: Subject = `job:${v5(tag, DEMO_WORKSHOP.id)}`;
    const nb: Subject = `notebook:${taggedId(DEMO_WORKSHOP.id, 'notebook', tag)}`;
    const pack: Subject = `pack:${taggedId(DEMO_WORKSHOP.id, 'pack', tag)}`;
    scribe.from(new Date(Date.now() - (i + 1) * 3_600_000));
    scribe.write(by, 'notebook-identified', [nb], { tag, plate: 'read', maker: 'Mereline', model: 'Gannet 14' });
    scribe.write(by, 'job-opened', [job, nb], {});
    scribe.write(by, 'pack-added', [pack, nb, job], { tag, use: 'removed' });
    scribe.write(by, 'looked', [pack], { groups: ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] });
    scribe.write(by, 'fasteners-mapped', [job, nb], GANNET.fasteners);
    scribe.write(by, 'cover-opened', [job, nb], GANNET.cover);
    scribe.write(by, 'job-closed', [job, nb], {});
  }
  return scribe.entries;
}

/** Milliseconds from a tap on each station of the rail to the frame that shows it, sorted. */
async function stationTimes(page: Page): Promise<number[]> {
  const times = await page.evaluate(async () => {
    const out: number[] = [];
    for (let round = 0; round < 3; round++)
      for (const name of ['intake', 'open', 'isolate', 'label', 'measure', 'remove', 'judge', 'match', 'fit', 'prove']) {
        const from = performance.now();
        document.querySelector<HTMLElement>(`[data-testid="station-${name}"]`)!.click();
        while (!document.querySelector(`[data-testid="at-${name}"]`))
          await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
        await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
        // The first round loads and warms; it is not counted.
        if (round > 0) out.push(performance.now() - from);
      }
    return out;
  });
  return times.sort((a, b) => a - b);
}

/** A technician's phone at a server of this world, signed in, for as long as the work takes. */
export async function onPhone<T>(urls: DatabaseUrls, dist: string, work: (page: Page, base: string) => Promise<T>): Promise<T> {
  const port = await freePort();
  const server = await start({ urls, port, dist, accounts: ACCOUNTS, logLevel: 'silent' });
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    const base = `http://127.0.0.1:${port}`;
    await page.setViewport(PHONE);
    await page.goto(base);
    await tap(page, 'demo-technician-Wren');
    await tap(page, 'critical-read');
    return await work(page, base);
  } finally {
    await close();
    await server.stop();
  }
}

const measured = (urls: DatabaseUrls, dist: string, jobs: number): Promise<number[]> =>
  onPhone(urls, dist, async (page) => {
    await tap(page, 'job-N-243');
    // Everything stored is on the device before the clock runs.
    await untilText(page, 'card-sheet', new RegExp(`^Model sheet\\s+${jobs} jobs`));
    return stationTimes(page);
  });

/** The demo world goes on for that many jobs. */
export async function addJobs(owner: Knex, urls: DatabaseUrls, jobs: number): Promise<void> {
  const person = await inWorkshop(owner, DEMO_WORKSHOP.id, (trx) => trx<Person>('people').where('name', 'Wren Adair').first());
  const db = connect(urls.app, 2);
  const { id, zone } = await theWorkshop(db);
  const writer = new Writer(db, { workshop: id, zone });
  const entries = manyJobs(person!.id, jobs);
  for (let i = 0; i < entries.length; i += 400)
    await writer.append({ person: person!, clockOffset: 0, entries: entries.slice(i, i + 400) });
  await db.destroy();
}

const middle = (list: readonly number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** What reading every entry of the device costs, ms, and how many there are. */
const readAll = (page: Page) =>
  page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((done, failed) => {
      const open = indexedDB.open('gavrel');
      open.onsuccess = () => done(open.result);
      open.onerror = () => failed(open.error);
    });
    const from = performance.now();
    const all = await new Promise<unknown[]>((done) => {
      const asked = db.transaction('entries').objectStore('entries').getAll();
      asked.onsuccess = () => done(asked.result);
    });
    const ms = performance.now() - from;
    db.close();
    return { ms, entries: all.length };
  });

/** Waits until that many entries are on the device. */
export async function untilOnDevice(page: Page, entries: number): Promise<void> {
  for (let here = 0; here < entries; here = (await readAll(page)).entries) await new Promise((r) => setTimeout(r, 500));
}

/** Milliseconds from a reload to the Bench, and what reading the entries alone costs, with everything of the server on the device. */
const reopened = (urls: DatabaseUrls, dist: string, entries: number): Promise<{ open: number; read: number; entries: number }> =>
  onPhone(urls, dist, async (page) => {
    await untilOnDevice(page, entries);
    const open: number[] = [];
    const read: number[] = [];
    // By the page's own clock: the one that watches it is busy with other things too.
    await page.evaluateOnNewDocument(`new MutationObserver((_, watch) => {
      if (!document.querySelector('[data-testid="job-N-243"]')) return;
      watch.disconnect();
      requestAnimationFrame(() => (window.benchAt = performance.now()));
    }).observe(document, { childList: true, subtree: true })`);
    for (let i = 0; i < 7; i++) {
      await page.reload({ waitUntil: 'domcontentloaded' });
      await page.waitForFunction('window.benchAt > 0', { timeout: 60_000 });
      open.push((await page.evaluate('window.benchAt')) as number);
      read.push((await readAll(page)).ms);
    }
    return { open: middle(open), read: middle(read), entries: (await readAll(page)).entries };
  });

/** A demo world of its own, for as long as the work takes. */
export async function inDemo(name: string, work: (urls: DatabaseUrls, owner: Knex) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), `gavrel-${name}-`));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'), { fsync: false });
  try {
    const urls = makeDatabase(cluster, `gavrel_${name}`);
    const owner = connect(urls.owner, 2);
    try {
      await migrate(owner);
      await seedDemo(owner, urls, new Date());
      await work(urls, owner);
    } finally {
      await owner.destroy();
    }
  } finally {
    stopCluster(cluster, 'immediate');
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What opening costs with a full device against reading its entries. */
export const opening = (say: (line: string) => void): Promise<void> =>
  inDemo('opening', async (urls, owner) => {
    const dist = await build(say);
    const few = await reopened(urls, dist, 500);
    await addJobs(owner, urls, JOBS_OF_A_FULL_DEVICE);
    const full = await reopened(urls, dist, few.entries + 7 * JOBS_OF_A_FULL_DEVICE);
    const more = full.open - few.open;
    say(
      `opening: ${full.entries} entries on the device: ${full.open.toFixed(0)} ms to the Bench, ${more.toFixed(0)} more than with ${few.entries}; reading them alone ${full.read.toFixed(0)} ms, ratio ${(more / (full.read - few.read)).toFixed(2)}`,
    );
  });

/** How fast a station shows with five hundred jobs stored, against the demo world alone. */
export const screens = (say: (line: string) => void): Promise<void> =>
  inDemo('screens', async (urls, owner) => {
    const dist = await build(say);
    const few = await measured(urls, dist, 4);
    await addJobs(owner, urls, JOBS);
    const many = await measured(urls, dist, 4 + JOBS);
    const at = (list: readonly number[], p: number) => list[Math.min(list.length - 1, Math.floor(list.length * p))]!;
    const [a, b] = [at(many, 0.5), at(few, 0.5)];
    say(
      `screens: a station shows ${a.toFixed(0)} ms after its tap (p95 ${at(many, 0.95).toFixed(0)}) with ${JOBS} more jobs of its model stored; without them ${b.toFixed(0)} ms, ratio ${(a / b).toFixed(2)}`,
    );
  });

/** Milliseconds from a tap on each action to the frame that shows what it found, and what two frames take without one. */
const actionTimes = (page: Page, actions: readonly string[]) =>
  page.evaluate(async (all) => {
    const out: number[] = [];
    const idle: number[] = [];
    for (const a of all) {
      const still = performance.now();
      await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
      idle.push(performance.now() - still);
      const from = performance.now();
      document.querySelector<HTMLElement>(`[data-testid="do-${a}"]`)!.click();
      while (!document.querySelector(`[data-testid="done-${a}"]`))
        await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
      await new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r)));
      out.push(performance.now() - from);
    }
    return { out, idle };
  }, actions);

/** How fast the world of practice answers an act on a slow phone. */
export const practising = (say: (line: string) => void): Promise<void> =>
  inDemo('practising', async (urls) =>
    onPhone(urls, await build(say), async (page, base) => {
      const all = { out: [] as number[], idle: [] as number[] };
      for (const [id, actions] of [
        ['sums-3', ['look', 'label', 'weigh', 'temperature', 'thickness', 'gauge', 'cells']],
        ['open-3', ['owner', 'hands', 'eyes', 'shown', 'unplug']],
        ['send-1', ['look', 'label', 'summary', 'gauge', 'weigh']],
      ] as const) {
        await page.goto(`${base}/practice/${id}`);
        await page.waitForSelector(`[data-testid="do-${actions[0]}"]`, { visible: true });
        await page.emulateCPUThrottling(SLOW.cpu);
        const { out, idle } = await actionTimes(page, actions);
        await page.emulateCPUThrottling(null);
        all.out.push(...out);
        all.idle.push(...idle);
      }
      const most = Math.max(...all.out);
      say(
        `practice: an act shows ${middle(all.out).toFixed(0)} ms after its tap (at most ${most.toFixed(0)}) at a quarter of the speed; two frames without one take ${middle(all.idle).toFixed(0)}, ratio ${(middle(all.out) / middle(all.idle)).toFixed(2)}`,
      );
    }),
  );

/** From nothing to the first usable screen, on a slow phone: the first visit, the next one, and one without a server. */
export const firstLoad = (say: (line: string) => void): Promise<void> =>
  inDemo('first', async (urls) => {
    const { browser, close } = await openBrowser();
    try {
      const port = await freePort();
      const server = await start({ urls, port, dist: await build(say), accounts: ACCOUNTS, logLevel: 'silent' });
      const page = await browser.newPage();
      await page.setViewport(PHONE);
      await page.emulateCPUThrottling(SLOW.cpu);
      const network = { ...SLOW.network };
      const wire = await page.createCDPSession();
      await wire.send('Network.enable');
      await wire.send('Network.emulateNetworkConditions', {
        offline: network.offline,
        latency: network.latency,
        downloadThroughput: network.download,
        uploadThroughput: network.upload,
      });
      let bytes = 0;
      wire.on('Network.loadingFinished', (e) => void (bytes += e.encodedDataLength));
      const timed = async (go: () => Promise<unknown>, id: string) => {
        const t = performance.now();
        await go();
        await page.waitForSelector(`[data-testid="${id}"]`, { visible: true, timeout: 60_000 });
        return performance.now() - t;
      };
      const open = () => page.goto(`http://127.0.0.1:${port}`, { waitUntil: 'domcontentloaded', timeout: 60_000 });
      const begun = performance.now();
      const [form, first] = await Promise.all([
        page
          .waitForSelector('[data-testid="early-name"]', { visible: true, timeout: 60_000 })
          .then(() => performance.now() - begun),
        timed(open, 'sign-in'),
      ]);
      const loaded = bytes;
      await tap(page, 'demo-technician-Wren');
      await tap(page, 'critical-read');
      await page.waitForFunction(() => navigator.serviceWorker.controller !== null, { timeout: 120_000, polling: 500 });
      const again = await timed(() => page.reload({ waitUntil: 'domcontentloaded' }), 'start-job');
      await server.stop();
      const alone = await timed(() => page.reload({ waitUntil: 'domcontentloaded' }), 'start-job');
      const seconds = (ms: number) => (ms / 1000).toFixed(1);
      say(
        `first:   ${(loaded / 1000).toFixed(0)} kB over 1.6 Mbit/s at a quarter of the speed: ${seconds(form)} s to a sign-in one can type into, ${seconds(first)} s to the first screen; again ${seconds(again)} s, ratio ${(again / first).toFixed(2)}; without the server ${seconds(alone)} s`,
      );
    } finally {
      await close();
    }
  });
