import type { EntriesResponse } from '@gavrel/contract';
import type { Page } from 'puppeteer-core';
import { canMount, openBrowser, PHONE, see, tap, textOf, type, untilText } from '../../tools/browser';
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
    ['tab-more', 'more-you'],
    ['more-device', 'card-device'],
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

/** Fills what the browser grants this site with ballast of its own. @returns why it ended. */
const fill = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((done) => {
      const asked = indexedDB.open('ballast', 1);
      asked.onupgradeneeded = () => asked.result.createObjectStore('stones', { autoIncrement: true });
      asked.onsuccess = () => done(asked.result);
    });
    let why = '';
    for (let size = 4_000_000; size >= 500;) {
      why = await new Promise<string>((done) => {
        const tx = db.transaction('stones', 'readwrite');
        tx.oncomplete = () => done('');
        tx.onabort = () => done(tx.error!.name);
        const stone = new Uint8Array(size);
        for (let at = 0; at < size; at += 65_536) crypto.getRandomValues(stone.subarray(at, at + 65_536));
        tx.objectStore('stones').add(stone);
      });
      if (why !== '') size = Math.floor(size / 4);
    }
    db.close();
    return why;
  });

/** Where no disk can be mounted, its answer is put in the browser's mouth: it holds to no quota set by its own tools. */
const imitate = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const { put } = IDBObjectStore.prototype;
    Object.assign(window, { roomAgain: () => void Object.assign(IDBObjectStore.prototype, { put }) });
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('the disk is full', 'QuotaExceededError');
    };
    return 'QuotaExceededError';
  });

test('a device whose storage is full says so, keeps nothing by halves, and goes on when there is room', async () => {
  const mounts = canMount();
  const { browser, close } = await openBrowser([], mounts ? { megabytes: 160 } : {});
  const page = await browser.newPage();
  const noise: string[] = [];
  page.on('pageerror', (e) => noise.push(String(e)));
  await page.setViewport(PHONE);
  await page.goto(world.base);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-packs');
  await tap(page, 'pack-TH-115');
  await see(page, 'card-look');
  expect(await (mounts ? fill : imitate)(page)).toBe('QuotaExceededError');
  await tap(page, 'nothing-wet');
  await untilText(page, 'storage-error', /Not kept: the storage of this device is full/);
  expect(await axe(page)).toEqual([]);
  expect(await page.$('[data-testid="undo-bar"]')).toBeNull();
  expect(await page.$('[data-testid="nothing-wet"]')).not.toBeNull();
  // Danger goes straight to the server and stands on the screen all the same.
  await tap(page, 'found-smell');
  await tap(page, 'finding-smell');
  await untilText(page, 'storage-error', /The server has it and tells the others/);
  await untilText(page, 'strip', /damaged/);
  const codes = async () => (await entries(page)).entries.flatMap((e) => (e.kind === 'finding-recorded' ? [e.body.code] : []));
  expect((await codes()).pop()).toBe('smell');
  // So does what another device found.
  const other = await device(world, PHONE);
  await signIn(other.page, 'technician-Tomas');
  await tap(other.page, 'tab-packs');
  await tap(other.page, 'pack-TH-116');
  await tap(other.page, 'found-smell');
  await tap(other.page, 'finding-hissing');
  await untilText(page, 'critical', /TH-116/);
  await other.context.close();
  await page.evaluate(
    () =>
      new Promise((done) => {
        (window as unknown as { roomAgain?: () => void }).roomAgain?.();
        indexedDB.deleteDatabase('ballast').onsuccess = done;
      }),
  );
  await tap(page, 'critical-read');
  await tap(page, 'nothing-wet');
  await page.waitForFunction(() => document.querySelector('[data-testid="storage-error"]') === null);
  await see(page, 'undo-bar');
  expect(noise).toEqual([]);
  await close();
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

describe('a device whose storage does not open', () => {
  /** As another program or a broken disk would leave it; then the page is loaded anew. */
  const broken: readonly [string, RegExp, (page: Page) => Promise<unknown>][] = [
    [
      'a version from the future',
      /A newer Gavrel wrote on this device/,
      (page) =>
        page.evaluate(async () => {
          for (const { name } of await indexedDB.databases()) {
            const gone = indexedDB.deleteDatabase(name!);
            await new Promise((r) => (gone.onsuccess = r));
          }
          const made = indexedDB.open('gavrel', 99);
          await new Promise((r) => (made.onsuccess = r));
        }),
    ],
    [
      'a private window that has none',
      /This window keeps nothing/,
      (page) =>
        page.evaluateOnNewDocument(() => Object.defineProperty(window, 'indexedDB', { value: undefined, configurable: true })),
    ],
    [
      'a disk that never answers',
      /does not open: its disk may be full or broken/,
      (page) =>
        page.evaluateOnNewDocument(() => {
          const silent = () => Object.setPrototypeOf(new EventTarget(), IDBOpenDBRequest.prototype) as IDBOpenDBRequest;
          IDBFactory.prototype.open = silent;
        }),
    ],
  ];
  test.each(broken)('%s: says what is wrong and safe, and danger reaches the server all the same', async (_what, why, spoil) => {
    const { page, context } = await device(world, PHONE);
    await see(page, 'demo-technician-Wren');
    await page.goto(`${world.base}/api/health`);
    await spoil(page);
    await page.goto(world.base);
    await untilText(page, 'volatile', why);
    expect(await axe(page)).toEqual([]);
    await tap(page, 'volatile-go');
    await signIn(page, 'technician-Wren');
    await untilText(page, 'volatile-bar', /Nothing is kept on this device/);
    await tap(page, 'tab-packs');
    await type(page, 'search', 'TH-115');
    await tap(page, 'pack-TH-115');
    await tap(page, 'found-smell');
    const before = (await entries(page)).last;
    await tap(page, 'finding-smell');
    await page.waitForFunction(
      async (n) => ((await (await fetch('/api/entries?after=0&limit=1')).json()) as EntriesResponse).last > n,
      { polling: 300 },
      before,
    );
    await context.close();
  });
});
