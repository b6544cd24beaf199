import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Entry, LoggedEntry } from '@gavrel/core';
import type { Browser, Page } from 'puppeteer-core';
import { openBrowser, PHONE, see, tap, type } from './browser';
import { Trouble } from './common';

/** What a browser's own store holds of what was written in it. */
interface Held {
  readonly entries: readonly LoggedEntry[];
  readonly waiting: number;
}

const held = (page: Page): Promise<Held> =>
  page.evaluate(
    () =>
      new Promise<Held>((done, failed) => {
        const open = indexedDB.open('gavrel');
        open.onerror = () => failed(open.error);
        open.onsuccess = () => {
          const tx = open.result.transaction(['entries', 'outbox', 'meta']);
          const entries = tx.objectStore('entries').getAll() as IDBRequest<LoggedEntry[]>;
          const outbox = tx.objectStore('outbox').count();
          const device = tx.objectStore('meta').get('device') as IDBRequest<string>;
          tx.oncomplete = () => {
            open.result.close();
            done({ entries: entries.result.filter((e) => e.device === device.result), waiting: outbox.result });
          };
        };
      }),
  );

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

export interface BrowserCounts {
  readonly acked: Entry[];
  readonly written: number;
  readonly resent: number;
  /** Times the browser was killed with what it had just been given. */
  readonly kills: number;
}

/** One real browser at the bench: a person adds packs and findings in it while it is killed and loaded anew. */
export class BrowserDevice {
  private browser: Browser | null = null;
  private page: Page | null = null;
  private readonly profile: string;
  private kills = 0;
  private reloads = 0;
  /** Tags whose pack stood on the screen: the device said that it keeps them. */
  private readonly shown: string[] = [];

  constructor(
    private readonly base: string,
    private readonly person: { readonly name: string; readonly passphrase: string },
    folder: string,
    private readonly random: () => number,
  ) {
    this.profile = join(folder, 'browser');
    mkdirSync(this.profile);
  }

  /** Opens the application, signs in where it asks, and tries again while nobody answers and nothing is kept yet. */
  private async open(): Promise<Page> {
    for (let tries = 0; ; tries++) {
      try {
        if (!this.browser?.connected) ({ browser: this.browser } = await openBrowser([], { profile: this.profile }));
        this.page ??= await this.browser.newPage();
        await this.page.setViewport(PHONE);
        await this.page.goto(`${this.base}/packs`, { waitUntil: 'domcontentloaded', timeout: 10_000 });
        await this.enter(this.page);
        return this.page;
      } catch (e) {
        if (tries > 30) throw e;
        await wait(500);
      }
    }
  }

  private async enter(page: Page): Promise<void> {
    const first = await page.waitForSelector('[data-testid="add-pack"], [data-testid="sign-in"]', {
      visible: true,
      timeout: 8000,
    });
    if ((await first!.evaluate((e) => (e as HTMLElement).dataset.testid)) === 'add-pack') return;
    await type(page, 'name', this.person.name);
    await type(page, 'passphrase', this.person.passphrase);
    await tap(page, 'sign-in');
    await page.waitForSelector('[data-testid="add-pack"]', { visible: true, timeout: 8000 });
  }

  /** A critical pack of another device takes the screen over until it was read. */
  private async readCritical(page: Page): Promise<void> {
    const key = await page.$('[data-testid="critical-read"]');
    await key?.evaluate((e) => (e as HTMLElement).click());
  }

  /** A pack and a finding, as fingers do it; what the screen shows counts as kept. */
  private async write(page: Page, tag: string): Promise<void> {
    await this.readCritical(page);
    await tap(page, 'tab-packs');
    await tap(page, 'add-pack');
    await type(page, 'pack-tag', tag);
    await tap(page, 'add-pack-now');
    await see(page, 'strip');
    this.shown.push(tag);
    await this.readCritical(page);
    await tap(page, 'found-mechanical');
    await tap(page, 'finding-dropped');
    await page.waitForSelector('[data-testid="close-sheet"]', { hidden: true });
  }

  /** Opens it while everything is up: only what lies on the device opens when the server is down. */
  async begin(): Promise<void> {
    const page = await this.open();
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null, { timeout: 60_000, polling: 250 });
  }

  /** Works until the time is over, then waits until everything went out. @throws Trouble when something the screen showed is gone. */
  async run(until: number): Promise<BrowserCounts> {
    let page = this.page!;
    // On a slow machine it goes on until it was killed once.
    const longest = until + 30_000;
    for (let n = 0; Date.now() < until || (this.kills === 0 && Date.now() < longest); n++) {
      try {
        await this.write(page, `B-${n}`);
      } catch {
        // Its session may have ended while the server was down: what it holds stays, and it asks to sign in.
        page = await this.open();
        continue;
      }
      const dice = this.random();
      if (this.kills === 0 || dice < 0.5) {
        this.kills += 1;
        this.browser!.process()!.kill('SIGKILL');
        this.browser = this.page = null;
        page = await this.open();
      } else if (dice < 0.7) {
        this.reloads += 1;
        page = await this.open();
      }
    }
    return this.settle(await this.open());
  }

  private async settle(page: Page): Promise<BrowserCounts> {
    const deadline = Date.now() + 60_000;
    let now = await held(page);
    while (now.waiting > 0 && Date.now() < deadline) {
      await wait(500);
      // Signed out while the server was down: what waits goes out when its person is back.
      if (await page.$('[data-testid="sign-in"]')) page = await this.open();
      now = await held(page);
    }
    if (now.waiting > 0) throw new Trouble(`the browser could not send ${now.waiting} entries after everything was up again`);
    const tags = now.entries.flatMap((e) => (e.kind === 'pack-added' ? [e.body.tag] : []));
    const gone = this.shown.filter((t) => tags.filter((x) => x === t).length !== 1);
    if (gone.length > 0) throw new Trouble(`the screen showed these, and the device holds them not once: ${gone.join(', ')}`);
    const acked = now.entries.map(({ seq: _s, recordedAt: _r, effectiveAt: _e, waits: _w, ...entry }) => entry as Entry);
    return { acked, written: acked.length, resent: this.reloads, kills: this.kills };
  }

  async close(): Promise<void> {
    await this.browser?.close().catch(() => undefined);
  }
}
