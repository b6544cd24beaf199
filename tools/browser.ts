import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';
import { Trouble } from './common';

const CHROMIUM = '/usr/bin/chromium';
/** The same engine without the parts of a desktop's browser: half the work, but neither trust nor a profile of its user's own. */
const SHELL = '/usr/bin/chromium-headless-shell';

export const PHONE = { width: 390, height: 844, deviceScaleFactor: 2, isMobile: true, hasTouch: true };
export const WIDE = { width: 1280, height: 800, deviceScaleFactor: 1 };

/** May this user mount a disk that only one program sees? Some containers do not let anybody. */
export const canMount = (): boolean => spawnSync('unshare', ['-rm', 'mount', '-t', 'tmpfs', 'none', '/mnt']).status === 0;

/** A program that mounts a small disk in a namespace of its own and becomes the browser. @returns its path. */
function onSmallDisk(folder: string, megabytes: number): string {
  const program = `${folder}.sh`;
  const mount = `mount -t tmpfs -o size=${megabytes}m none "$0" && exec ${CHROMIUM} "$@"`;
  writeFileSync(program, `#!/bin/sh\nexec unshare -rm sh -c '${mount}' '${folder}' "$@"\n`, { mode: 0o700 });
  return program;
}

/**
 * Debian's Chromium, headless, with a user folder of its own that is gone afterwards.
 * @param home where it looks for the authorities its user trusts; this user's where none is named.
 * @param profile a user folder that stays.
 * @param megabytes the profile's folder is a disk of its own of this size, seen by this browser alone.
 */
export async function openBrowser(
  more: readonly string[] = [],
  { home, profile, megabytes }: { readonly home?: string; readonly profile?: string; readonly megabytes?: number } = {},
): Promise<{ browser: Browser; close: () => Promise<void> }> {
  const plain = home === undefined && profile === undefined && megabytes === undefined && existsSync(SHELL);
  const program = plain ? SHELL : CHROMIUM;
  if (!existsSync(program)) throw new Trouble('Chromium is missing: apt-get install chromium');
  const userDataDir = profile ?? mkdtempSync(join(tmpdir(), 'gavrel-browser-'));
  const args = [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--force-color-profile=srgb',
    ...more,
  ];
  const browser = await puppeteer.launch({
    executablePath: megabytes === undefined ? program : onSmallDisk(userDataDir, megabytes),
    headless: plain ? 'shell' : true,
    userDataDir,
    args,
    ...(home && { env: { ...process.env, HOME: home } }),
  });
  return {
    browser,
    close: async () => {
      await browser.close();
      if (!profile) rmSync(userDataDir, { recursive: true, force: true });
      rmSync(`${userDataDir}.sh`, { force: true });
    },
  };
}

const TRIES = 25;

export const byId = (id: string) => `[data-testid="${id}"]`;

/** Where was tapped last, and in which sheet; kept in the page. */
interface Tapped {
  lastTap?: { readonly x: number; readonly y: number; readonly sheet: Element | null };
}

/**
 * Taps the middle of what `find` finds, as a person would: not while a sheet that is closing still lies over it, nor while it moves
 * because something above it grows or goes, and again when the screen was drawn anew between finding and tapping. Three taps mark
 * all of a field. Where the last tap closed a sheet, another upon the same place comes later than the second half of a double tap, which the
 * application takes for nothing.
 */
export async function tapFound(find: () => Promise<ElementHandle<Element>>, times = 1): Promise<ElementHandle<Element>> {
  for (let tries = 1; ; tries++) {
    const handle = await find();
    try {
      const over = await handle.evaluate(async (e) => {
        e.scrollIntoView({ block: 'center' });
        const before = e.getBoundingClientRect();
        await new Promise((done) => setTimeout(done, 80));
        const r = e.getBoundingClientRect();
        if (!e.isConnected || r.x !== before.x || r.y !== before.y) return 'it moves';
        const [x, y] = [r.x + r.width / 2, r.y + r.height / 2];
        const top = document.elementFromPoint(x, y);
        if (top !== null && (e.contains(top) || top.contains(e))) {
          const { lastTap } = window as Tapped;
          if (lastTap?.sheet?.isConnected === false && Math.hypot(lastTap.x - x, lastTap.y - y) < 40)
            await new Promise((done) => setTimeout(done, 500));
          (window as Tapped).lastTap = { x, y, sheet: e.closest('[role="dialog"]') };
          return null;
        }
        const sheet = document.querySelector<HTMLElement>('[role="dialog"], [aria-modal="true"]');
        return (sheet ?? (top as HTMLElement | null))?.innerText.slice(0, 200) ?? 'nothing in sight';
      });
      if (over === null) {
        await handle.click({ count: times });
        return handle;
      }
      if (tries === TRIES) throw new Error(`over what is to be tapped lies: ${over}`);
    } catch (e) {
      if (tries === TRIES || !/not clickable|detached|not an Element/i.test(String(e))) throw e;
    }
    await new Promise((r) => setTimeout(r, 200));
  }
}

export const see = (page: Page, id: string) => page.waitForSelector(byId(id), { visible: true, timeout: 30_000 });

/** Waits for the element with a test id and taps its middle. */
export async function tap(page: Page, id: string): Promise<void> {
  await tapFound(async () => (await see(page, id))!);
}

/** Types into the text field with a test id, in place of what stands there. */
export async function type(page: Page, id: string, text: string): Promise<void> {
  await (await tapFound(async () => (await see(page, id))!, 3)).type(text);
}

/** The text inside the element with a test id. */
export async function textOf(page: Page, id: string): Promise<string> {
  const handle = await see(page, id);
  return handle!.evaluate((e) => (e as HTMLElement).innerText);
}

/** Waits until the element's text fits. */
export async function untilText(page: Page, id: string, pattern: RegExp): Promise<string> {
  await page.waitForFunction(
    (selector, source) => new RegExp(source, 's').test(document.querySelector<HTMLElement>(selector)?.innerText ?? ''),
    { timeout: 30_000 },
    byId(id),
    pattern.source,
  );
  return textOf(page, id);
}

/** Presses the keys of the keypad, one after another, and keeps the number. */
export async function keypad(page: Page, digits: string, keep = true): Promise<void> {
  for (const d of digits) await tap(page, `key-${d === '.' ? ',' : d}`);
  if (keep) await tap(page, 'keep');
}
