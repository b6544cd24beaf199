import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, Page } from 'puppeteer-core';
import { openBrowser, PHONE, see, tap, textOf, type, untilText } from '../../tools/browser';
import { freePort } from '../../tools/postgres';
import { localTls, type Tls } from '../../tools/tls';
import { openWorld, signIn, type World } from './harness';

jest.setTimeout(240_000);
/** The demo's log has more entries than this: its devices hold a part. */
const LIMIT = 300;
const NAME = 'bench.local';
const folder = mkdtempSync(join(tmpdir(), 'gavrel-phone-'));
let world: World;
let tls: Tls;
let base: string;

beforeAll(async () => {
  tls = localTls(folder, [NAME, '127.0.0.2']);
  const port = await freePort();
  const trustPort = await freePort();
  base = `https://${NAME}:${port}`;
  world = await openWorld({ deviceLimit: LIMIT, lan: { ...tls, address: base, port, trustPort } });
}, 400_000);
const phones: (() => Promise<void>)[] = [];
afterAll(async () => {
  for (const close of phones) await close();
  await world.close();
  rmSync(folder, { recursive: true, force: true });
});

/** A browser of another machine: its own home, its own trusted authorities, and the workshop's name resolved to a second address. */
async function phone(name: string, trusts: boolean): Promise<Browser> {
  const home = join(folder, name);
  const db = join(home, '.pki/nssdb');
  mkdirSync(db, { recursive: true });
  execFileSync('certutil', ['-d', `sql:${db}`, '-N', '--empty-password']);
  if (trusts) {
    writeFileSync(join(home, 'authority.crt'), tls.authority);
    execFileSync('certutil', ['-d', `sql:${db}`, '-A', '-t', 'C,,', '-n', 'workshop', '-i', join(home, 'authority.crt')]);
  }
  const { browser, close } = await openBrowser([`--host-resolver-rules=MAP ${NAME} 127.0.0.2`], { home });
  phones.push(close);
  return browser;
}

const open = async (browser: Browser): Promise<Page> => {
  const page = await browser.newPage();
  await page.setViewport(PHONE);
  return page;
};

test('a phone that does not trust the workshop’s authority is stopped by its own browser', async () => {
  const page = await open(await phone('stranger', false));
  await expect(page.goto(base)).rejects.toThrow(/ERR_CERT_AUTHORITY_INVALID/);
});

test('a phone that trusts it works as over loopback, opens without the server, and holds a part of a long log', async () => {
  const page = await open(await phone('trusted', true));
  await page.goto(base);
  await signIn(page, 'technician-Wren');
  // What a phone needs a secure address for.
  expect(
    await page.evaluate(() => [
      isSecureContext,
      'serviceWorker' in navigator,
      typeof navigator.storage.persist,
      typeof navigator.mediaDevices.getUserMedia,
    ]),
  ).toEqual([true, true, 'function', 'function']);

  // One key leads to what lies in the other hand: a tag, typed here, scanned elsewhere.
  await tap(page, 'find');
  await type(page, 'finder', 'th-164');
  await untilText(page, 'finder-line', /TH-164[^]*steel bin/);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname.startsWith('/pack/') && document.body.innerText.includes('TH-164'));

  // The log is longer than this device may hold: what is critical is here, and what is not is said and found at the server.
  await tap(page, 'tab-more');
  await tap(page, 'more-device');
  const held = /(\d+) of (\d+) packs on site/
    .exec(await untilText(page, 'holds', /held here are/))!
    .slice(1)
    .map(Number);
  expect(held[0]).toBeLessThan(held[1]!);
  await tap(page, 'tab-yard');
  await untilText(page, 'short-band', /do not count or place by it/);
  expect(await (await see(page, 'open-assign'))!.evaluate((e) => e.getAttribute('aria-disabled'))).toBe('true');
  await tap(page, 'tab-packs');
  const all = await page.evaluate(async () => {
    const r = await fetch('/api/packs?limit=200');
    return ((await r.json()) as { items: { id: string; tag: string }[] }).items;
  });
  await type(page, 'search', 'TH-');
  const missing = (await untilText(page, 'at-server', /TH-\d+/)).match(/TH-\d+/)![0];
  await type(page, 'search', missing);
  await tap(page, `fetch-${missing}`);
  await untilText(page, 'strip', /\w/);
  const id = all.find((p) => p.tag === missing)!.id;
  const there = await page.evaluate(
    async (i) => ((await (await fetch(`/api/packs/${i}`)).json()) as { ruling: { judgement: { condition: string } } }).ruling,
    id,
  );
  expect(await textOf(page, 'strip')).toContain(there.judgement.condition);

  await page.waitForFunction(() => navigator.serviceWorker.controller !== null, { timeout: 60_000 });
  await world.stopServer();
  await page.reload({ waitUntil: 'domcontentloaded' });
  await untilText(page, 'strip', new RegExp(there.judgement.condition));
  await untilText(page, 'away-bar', /offline, as of \d\d:\d\d/);
  await see(page, 'critical-band');
  await world.startServer();
});
