import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect, migrate, type Running, type ServeOptions, start } from '@gavrel/server';
import type { Browser, BrowserContext, Page } from 'puppeteer-core';
import { openBrowser, type PHONE, see, tap, type } from '../../tools/browser';
import { build } from '../../tools/build';
import { ACCOUNTS } from '../../tools/demo/people';
import { seedDemo } from '../../tools/demo/world';
import { freePort, makeDatabase, startCluster, stopCluster } from '../../tools/postgres';

/** Last day of the air edition the rules hold. */
const AIR_UNTIL = '2026-12-31';

export interface World {
  readonly browser: Browser;
  readonly base: string;
  server: Running;
  readonly stopServer: () => Promise<void>;
  readonly startServer: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** The built application served from a throwaway demo world, and a browser. @param flags of the browser. */
export async function openWorld(more: Partial<ServeOptions> = {}, flags: readonly string[] = []): Promise<World> {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-world-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'), { fsync: false });
  const urls = makeDatabase(cluster, 'gavrel_browser');
  const owner = connect(urls.owner, 2);
  await migrate(owner);
  // A dispatch lies after what was last noted: once our copy of the air rules has run out, so does the demo world.
  await seedDemo(owner, urls, new Date(Math.min(Date.now(), Date.parse(`${AIR_UNTIL}T12:00:00Z`))));
  await owner.destroy();
  const dist = await build(() => undefined);
  const port = await freePort();
  const serve = () => start({ urls, port, dist, accounts: ACCOUNTS, logLevel: 'silent', ...more });
  const { browser, close } = await openBrowser(flags);
  const world = {
    browser,
    base: `http://127.0.0.1:${port}`,
    server: await serve(),
    stopServer: () => world.server.stop(),
    startServer: async () => {
      world.server = await serve();
    },
    close: async () => {
      await close();
      await world.server.stop();
      stopCluster(cluster, 'immediate');
      rmSync(folder, { recursive: true, force: true });
    },
  };
  return world;
}

/** Messages of the page that no test expects: anything but the one harmless warning. */
const HARMLESS = /useNativeDriver/;

export interface Device {
  readonly page: Page;
  readonly context: BrowserContext;
  /** Errors and warnings the page wrote. */
  readonly noise: string[];
}

/** A fresh device (storage of its own) at a size, on the sign-in screen. */
export async function device(
  world: World,
  size: typeof PHONE | { width: number; height: number },
  scheme: 'light' | 'dark' = 'light',
): Promise<Device> {
  const context = await world.browser.createBrowserContext();
  const page = await context.newPage();
  const noise: string[] = [];
  page.on('console', (m) => {
    if ((m.type() === 'error' || m.type() === 'warn') && !HARMLESS.test(m.text())) noise.push(m.text());
  });
  page.on('pageerror', (e) => noise.push(String(e)));
  await page.setViewport(size);
  await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: scheme }]);
  await page.goto(world.base);
  return { page, context, noise };
}

/** Signs in with a demo account and puts the take-over of the demo's critical pack away. */
export async function signIn(page: Page, account: string): Promise<void> {
  await tap(page, `demo-${account}`);
  await see(page, 'critical');
  await tap(page, 'critical-read');
  await see(page, 'start-job');
}

/** Asks for today's routes, or, once our copy of the air rules has run out, for those of its last day. */
export async function onADayWeHold(page: Page): Promise<void> {
  const today = new Date().toISOString().slice(0, 10);
  if (today > AIR_UNTIL) await type(page, 'dispatch-on', AIR_UNTIL);
}
const axeSource = readFileSync(createRequire(__filename).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe finds on the page with its rules of WCAG 2.0 to 2.2, A and AA, and best practices, one line each. */
export async function axe(page: Page): Promise<string[]> {
  // A screen that was just chosen may still be on its way; one that never has a heading is told by axe.
  await page.waitForSelector('h1, [role="heading"][aria-level="1"]', { timeout: 10_000 }).catch(() => null);
  // A field's label half-way to its place is half transparent, and axe keeps it there while it works: what stands still is asked.
  await new Promise((r) => setTimeout(r, 500));
  await page.evaluate(axeSource);
  return page.evaluate(async () => {
    const runner = (
      globalThis as unknown as {
        axe: {
          run: (
            d: Document,
            o: object,
          ) => Promise<{ violations: { id: string; nodes: { html: string; failureSummary?: string }[] }[] }>;
        };
      }
    ).axe;
    const { violations } = await runner.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
    });
    return violations.flatMap((v) =>
      v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary?.slice(0, 200) ?? ''}`),
    );
  });
}

/** The type of the file that the page makes when something is done. */
export async function printedBy(page: Page, act: () => Promise<void>): Promise<string> {
  await page.evaluate(() => {
    const make = URL.createObjectURL.bind(URL);
    URL.createObjectURL = (b: Blob) => {
      Object.assign(window, { printed: b.type });
      return make(b);
    };
  });
  await act();
  const made = await page.waitForFunction(() => (window as unknown as { printed?: string }).printed);
  return (await made.jsonValue())!;
}

/** Chooses what stands on one of the keys of a choice, once it is there. */
export async function choose(page: Page, words: string): Promise<void> {
  await page.waitForFunction(
    (w) => {
      const key = [...document.querySelectorAll<HTMLElement>('[role=radio]')].find((e) => e.textContent === w);
      key?.click();
      return key !== undefined;
    },
    {},
    words,
  );
}
