import type { EntriesResponse } from '@gavrel/contract';
import type { Page } from 'puppeteer-core';
import { PHONE, see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, device, openWorld, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

/** Waits until the whole application lies on the device. */
const kept = (page: Page) =>
  page.waitForFunction(
    async () => {
      const worker = await navigator.serviceWorker.getRegistration();
      return worker?.active?.state === 'activated' && navigator.serviceWorker.controller !== null;
    },
    { timeout: 60_000, polling: 500 },
  );
const entries = (page: Page) =>
  page.evaluate(
    async () => (await (await fetch('/api/entries?after=0&limit=2000')).json()) as EntriesResponse,
  ) as Promise<EntriesResponse>;

test('with the server gone it opens, finds, adds, rules and warns; everything goes out once when the server is back', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await kept(page);
  await world.stopServer();
  await page.reload({ waitUntil: 'domcontentloaded' });
  await see(page, 'start-job');
  // Every screen is there, also those that were never opened.
  for (const [tab, seen] of [
    ['tab-yard', 'open-round'],
    ['tab-dispatch', 'tab-dispatch'],
    ['tab-more', 'card-device'],
  ] as const) {
    await tap(page, tab);
    await see(page, seen);
  }
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-115');
  await tap(page, 'pack-TH-115');
  await see(page, 'card-place');
  await tap(page, 'tab-packs');
  await tap(page, 'add-pack');
  await type(page, 'pack-tag', 'OFF-1');
  await tap(page, 'add-pack-now');
  await untilText(page, 'strip', /unproven/);
  await tap(page, 'found-smell');
  await tap(page, 'finding-hissing');
  await see(page, 'critical');
  expect(await textOf(page, 'critical')).toMatch(/Leave now.*Not sent yet: the lead does not know/s);
  await tap(page, 'critical-read');
  await untilText(page, 'hazard-unsent', /A hazard is not sent/);
  expect(await axe(page)).toEqual([]);
  await page.reload({ waitUntil: 'domcontentloaded' });
  await untilText(page, 'away-bar', /offline/);

  await world.startServer();
  await page.waitForFunction(() => document.querySelector('[data-testid="away-bar"]') === null, { timeout: 60_000 });
  let all = (await entries(page)).entries;
  const mine = () => all.filter((e) => e.kind === 'pack-added' && e.body.tag === 'OFF-1');
  for (let i = 0; i < 20 && mine().length === 0; i++) {
    await new Promise((r) => setTimeout(r, 500));
    all = (await entries(page)).entries;
  }
  expect(mine()).toHaveLength(1);
  expect(all.filter((e) => e.kind === 'finding-recorded' && e.body.code === 'hissing').length).toBeGreaterThan(0);
  await context.close();
});

test('installable: a manifest with its icons, and a worker at the root', async () => {
  const manifest = (await (await fetch(`${world.base}/manifest.json`)).json()) as { icons: { src: string; sizes: string }[] };
  for (const i of manifest.icons) {
    const r = await fetch(world.base + i.src);
    const png = Buffer.from(await r.arrayBuffer());
    expect([r.status, `${png.readUInt32BE(16)}x${png.readUInt32BE(20)}`]).toEqual([200, i.sizes]);
  }
  const worker = await fetch(`${world.base}/sw.js`);
  expect([worker.status, worker.headers.get('cache-control')]).toEqual([200, 'no-cache']);
});

test('the lead invites; a shared bench goes from one person to the other by PIN', async () => {
  const lead = await device(world, WIDE);
  await signIn(lead.page, 'lead-Ines');
  await tap(lead.page, 'tab-more');
  await tap(lead.page, 'open-people');
  await see(lead.page, 'person-Wren');
  expect(await axe(lead.page)).toEqual([]);
  await type(lead.page, 'invite-name', 'Nia Holt');
  await tap(lead.page, 'invite');
  const passphrase = (await untilText(lead.page, 'told', /\w{4} \w{4}/)).trim();

  const bench = await device(world, PHONE);
  await signIn(bench.page, 'technician-Tomas');
  await tap(bench.page, 'tab-more');
  await tap(bench.page, 'switch-person');
  await type(bench.page, 'switch-name', 'nia holt');
  await type(bench.page, 'switch-passphrase', passphrase);
  await tap(bench.page, 'switch-sign-in');
  await untilText(bench.page, 'card-person', /Nia Holt/);
  await tap(bench.page, 'set-pin');
  await type(bench.page, 'present-passphrase', passphrase);
  await type(bench.page, 'fresh-secret', '2580');
  await tap(bench.page, 'keep-secret');
  await bench.page.waitForFunction(() => document.querySelector('[data-testid="keep-secret"]') === null);
  await tap(bench.page, 'switch-person');
  await type(bench.page, 'switch-name', 'Tomas Ripley');
  await type(bench.page, 'switch-passphrase', 'kettle before seven');
  await tap(bench.page, 'switch-sign-in');
  await untilText(bench.page, 'card-person', /Tomas Ripley/);
  await tap(bench.page, 'switch-person');
  await tap(bench.page, 'switch-Nia');
  await type(bench.page, 'switch-pin', '1111');
  await tap(bench.page, 'switch-now');
  await bench.page.waitForFunction(() => /PIN does not fit/.test(document.body.innerText));
  await type(bench.page, 'switch-pin', '2580');
  await tap(bench.page, 'switch-now');
  await untilText(bench.page, 'card-person', /Nia Holt/);

  // Let in no longer: the next thing the device asks says so, and what it holds stays.
  await tap(lead.page, 'person-Nia');
  await tap(lead.page, 'disable-person');
  await untilText(lead.page, 'person-Nia', /not let in/);
  await see(bench.page, 'sign-in');
  await lead.context.close();
  await bench.context.close();
});
