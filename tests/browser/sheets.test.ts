import type { Page } from 'puppeteer-core';
import { PHONE, see, tap, type } from '../../tools/browser';
import { axe, device, openWorld, signIn, type World } from './harness';

jest.setTimeout(600_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

/** The screen of a pack, by its tag. */
const pack = (tag: string) => async (page: Page) => {
  await tap(page, 'tab-packs');
  await type(page, 'search', tag);
  await tap(page, `pack-${tag}`);
  await see(page, 'card-history');
};
const at = (path: string, sign: string) => async (page: Page) => {
  await page.goto(world.base + path);
  await see(page, sign);
};

const tapped = (path: string, row: string, sign: string) => async (page: Page) => {
  await page.goto(world.base + path);
  await tap(page, row);
  await see(page, sign);
};

const WREN = 'technician-Wren';
const INES = 'lead-Ines';

/** Keys that open a sheet, screen by screen, as seen by somebody. */
const SCREENS: readonly (readonly [string, typeof WREN | typeof INES, (page: Page) => Promise<void>, readonly string[]])[] = [
  ['Bench', WREN, at('/', 'start-job'), ['start-job']],
  ['Packs', WREN, at('/packs', 'search'), ['add-pack']],
  ['Yard', INES, at('/yard', 'open-scan'), ['open-scan', 'open-assign', 'open-shelf', 'open-burn', 'add-place']],
  ['a place', INES, tapped('/yard', 'place-Quarantine-box-A', 'count-place'), ['describe', 'count-place', 'open-incident']],
  ['People', INES, at('/people', 'person-Wren'), ['person-Wren']],
  ['Means', INES, at('/means', 'add-box'), ['add-box', 'add-carrier']],
  ['Notices', INES, at('/notices', 'file-notice'), ['file-notice']],
  ['Rules', INES, at('/rules', 'check-air.edition'), ['check-air.edition']],
  ['Dispatch', INES, at('/dispatch', 'choose-packs'), ['choose-packs']],
  [
    'a consignment',
    INES,
    tapped('/dispatch', 'consignment-Recycling, this week', 'consign-packs'),
    ['describe-consignment', 'consign-packs', 'package-1'],
  ],
  ['a job', WREN, tapped('/', 'job-N-240', 'card-notebook'), ['note-owner', 'read-plate', 'add-its-pack']],
  ['More, instruments', INES, at('/more/instruments', 'add-instrument'), ['add-instrument']],
  [
    'a sound pack',
    WREN,
    pack('TH-138'),
    [
      ...['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical', 'other'].map((g) => `found-${g}`),
      ...['label-nominalVoltage', 'label-limitedChargeVoltage', 'label-words', 'read-label'],
      ...['measure-volts', 'measure-cell', 'measure-surface', 'measure-room', 'measure-mass', 'point-centre'],
      ...['cell-road-loose-use', 'cell-rail-in-equipment-use', 'summary', 'move'],
    ],
  ],
  [
    'a damaged pack',
    WREN,
    pack('TH-129'),
    ['why', 'sign-here', 'clear-dropped', 'measure-gauge', 'new-thickness', 'cell-sea-loose-use', 'wrong-pack-finding-recorded'],
  ],
];

/** What has the focus, by the test id around it. */
const focused = (page: Page) =>
  page.evaluate(() => ({
    id: document.activeElement?.closest<HTMLElement>('[data-testid]')?.dataset.testid,
    inSheet: document.activeElement?.closest('[role="dialog"]') !== null,
  }));
/** What is looked for, worked out or sent at once, and one short figure that stands there already: nothing to keep. */
const PASSING = /search|scan|^find|-tag$|^burn-|^edition$|^training-until$/;
/** Fields of the open sheet that take words, by test id. */
const fields = (page: Page) =>
  page.$$eval('[role="dialog"] :is(input:not([type="password"]), textarea)', (all) =>
    all.map((x) => (x as HTMLElement).dataset.testid ?? x.getAttribute('aria-label') ?? 'a field without a name'),
  );
const valueOf = (page: Page, id: string) =>
  page.$eval(`[role="dialog"] [data-testid="${id}"]`, (x) => (x as HTMLInputElement).value);

const sheets = (page: Page) => page.$$eval('[role="dialog"]', (all) => all.length);

test.each(SCREENS)(
  '%s: every sheet passes axe, holds the focus, closes by Escape and gives the focus back',
  async (_name, who, go, keys) => {
    const { page, context, noise } = await device(world, PHONE, 'dark');
    await signIn(page, who);
    await go(page);
    const found: string[] = [];
    for (const key of keys) {
      await see(page, key);
      await page.focus(`[data-testid="${key}"]`);
      await page.keyboard.press('Enter');
      await page.waitForFunction(() => document.querySelector('[role="dialog"]') !== null);
      found.push(...(await axe(page)).map((v) => `${key}: ${v}`));
      if (!(await focused(page)).inSheet) found.push(`${key}: the focus is not in its sheet`);
      const typed = (await fields(page)).filter((f) => !PASSING.test(f));
      for (const f of typed) {
        await page.focus(`[role="dialog"] [data-testid="${f}"]`);
        await page.keyboard.type('7');
      }
      const left = await Promise.all(typed.map((f) => valueOf(page, f)));
      await page.keyboard.press('Escape');
      await page.waitForFunction(() => document.querySelector('[role="dialog"]') === null);
      const backAt = (id: string) =>
        page.waitForFunction((k) => document.activeElement?.closest<HTMLElement>('[data-testid]')?.dataset.testid === k, {}, id);
      if (typed.length > 0) {
        await backAt(key);
        await page.keyboard.press('Enter');
        await page.waitForFunction(() => document.querySelector('[role="dialog"]') !== null);
        const back = await Promise.all(typed.map((f) => valueOf(page, f)));
        typed.forEach((f, i) => back[i] === left[i] || found.push(`${key}: ${f} lost what was typed`));
        await page.keyboard.press('Escape');
        await page.waitForFunction(() => document.querySelector('[role="dialog"]') === null);
      }
      await backAt(key);
    }
    expect(found).toEqual([]);
    expect(await sheets(page)).toBe(0);
    expect(noise).toEqual([]);
    await context.close();
  },
);

/** Two taps upon the same place. */
async function twice(page: Page, id: string): Promise<void> {
  const { x, y } = await (await see(page, id))!.clickablePoint();
  await Promise.all([page.mouse.click(x, y), page.mouse.click(x, y)]);
}

/** Two taps upon the same place, the second as soon as the sheet of the first is gone: made in the page, however busy the machine is. */
async function twiceOverSheet(page: Page, id: string): Promise<void> {
  const { x, y } = await (await see(page, id))!.clickablePoint();
  const second = page.evaluate(
    (clientX, clientY) =>
      new Promise<void>((done) => {
        const seen = new MutationObserver(() => {
          if (document.querySelector('[role="dialog"]') !== null) return;
          seen.disconnect();
          const at = { clientX, clientY, bubbles: true, cancelable: true };
          const on = document.elementFromPoint(clientX, clientY)!;
          for (const name of ['pointerdown', 'pointerup']) on.dispatchEvent(new PointerEvent(name, at));
          on.dispatchEvent(new MouseEvent('click', at));
          done();
        });
        seen.observe(document.body, { childList: true, subtree: true });
      }),
    x,
    y,
  );
  await page.mouse.click(x, y);
  await second;
}

test('a key that is tapped twice in a row does it once', async () => {
  const { page, context } = await device(world, PHONE, 'light');
  await signIn(page, INES);
  await at('/dispatch', 'new-consignment')(page);
  const begun = () => page.$$eval('[data-testid^="consignment-Consignment "]', (all) => all.length);
  const before = await begun();
  await twice(page, 'new-consignment');
  await see(page, 'describe-consignment');
  // Where the sheet was lies a tab: the tap that closed it opens nothing.
  const here = page.url();
  await tap(page, 'describe-consignment');
  await twiceOverSheet(page, 'keep-consignment');
  await see(page, 'undo-bar');
  expect(page.url()).toBe(here);
  await at('/dispatch', 'new-consignment')(page);
  await page.waitForFunction(
    (n) => document.querySelectorAll('[data-testid^="consignment-Consignment "]').length > n,
    {},
    before,
  );
  expect(await begun()).toBe(before + 1);
  await context.close();
});
