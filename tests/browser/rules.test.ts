import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { changeDays, SHIPPING_RULES, DAY_MS } from '@gavrel/core';
import type { Page } from 'puppeteer-core';
import { PHONE, see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, device, openWorld, printedBy, signIn, type World, onADayWeHold } from './harness';

jest.setTimeout(240_000);
let world: World;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-table-'));
  world = await openWorld();
}, 400_000);
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await world.close();
});

const shut = async (page: Page) => {
  await tap(page, 'close-sheet');
  await page.waitForFunction(() => document.querySelector('[data-testid="close-sheet"]') === null);
};

/** "Thu 1 Jan 2027". */
const inWords = (day: string) =>
  new Date(day)
    .toLocaleDateString('en-GB', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
    .replace(',', '');

const HEAD =
  'tag;chemistry;series;parallel;Nennspannung;ratedCapacity;ratedEnergy;energyMarked;madeOn;typeTested;findings;placement;mode';
const row = (tag: string, capacity: string, findings: string) =>
  `${tag};li-ion;3;1;11,4;${capacity};50;yes;2021;yes;${findings};loose;road`;

test('a table: bad lines named, headings mapped, filtered, saved, taken in as stock', async () => {
  const lines = Array.from({ length: 300 }, (_, i) =>
    row(`Z-${i + 1}`, i === 4 ? '5000' : '4386 mAh', i % 3 === 1 ? 'swollen' : 'none'),
  );
  const file = join(folder, 'table.csv');
  writeFileSync(file, `\uFEFF${[HEAD, ...lines].join('\r\n')}`);
  const { page, context, noise } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-more');
  await tap(page, 'more-table');
  const load = async () => {
    const [chooser] = await Promise.all([page.waitForFileChooser(), tap(page, 'load-table')]);
    await chooser.accept([file]);
  };
  await load();
  expect(await untilText(page, 'card-totals', /300 rows/)).toMatch(/problem 1\b/);
  expect(await textOf(page, 'row-5')).toContain('if it is mAh');
  await tap(page, 'mean-4');
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role="button"]')].find((e) => e.innerText === 'nominal voltage')!.click(),
  );
  await page.waitForFunction(() => document.querySelector('[data-testid="card-headings"]') === null);
  await tap(page, 'total-problem');
  await page.waitForFunction(() => document.querySelectorAll('[data-testid^="row-"]').length === 1);
  await tap(page, 'total-as-damaged');
  await tap(page, 'row-2');
  await page.waitForFunction(() => document.body.innerText.includes('SP 376, P908'));
  await shut(page);
  expect(await axe(page)).toEqual([]);

  await page.evaluate(() => {
    const make = URL.createObjectURL.bind(URL);
    URL.createObjectURL = (b: Blob) => {
      void b.text().then((saved) => Object.assign(window, { saved }));
      return make(b);
    };
  });
  await tap(page, 'save-csv');
  await page.waitForFunction(() => (window as unknown as { saved?: string }).saved !== undefined);
  const saved = await page.evaluate(() => (window as unknown as { saved: string }).saved);
  expect(saved.split('\r\n')).toHaveLength(301);
  expect(saved).toContain('2,Z-2,damaged,allowed,SP376-P908');

  await tap(page, 'open-stock');
  await tap(page, 'take-stock');
  await page.waitForFunction(() => document.body.innerText.includes('299 taken in'));
  await shut(page);
  await load();
  await untilText(page, 'card-totals', /300 rows/);
  await tap(page, 'open-stock');
  await page.waitForFunction(() => document.body.innerText.includes('line 1 Z-1: tag is here already'));
  await shut(page);
  await tap(page, 'tab-packs');
  await type(page, 'search', 'Z-2');
  await tap(page, 'pack-Z-2');
  await untilText(page, 'strip', /damaged/);
  await tap(page, 'tab-packs');
  await type(page, 'search', 'Z-1');
  await tap(page, 'pack-Z-1');
  expect(await untilText(page, 'strip', /unproven/)).not.toMatch(/sound/);
  expect(noise).toEqual([]);
  await context.close();
});

test('every mode side by side, by region and by day, with what to do and what would open it', async () => {
  const { page, context } = await device(world, PHONE, 'dark');
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-142');
  await tap(page, 'pack-TH-142');
  await onADayWeHold(page);
  expect(await untilText(page, 'cell-sea-loose-use', /yes/)).toContain('yes');
  await tap(page, 'cell-air-passenger-loose-use');
  await page.waitForFunction(() => /It would go[^]*on a cargo aircraft/.test(document.body.innerText));
  await shut(page);
  await tap(page, 'cell-road-loose-use');
  await page.waitForFunction(() => /Pack it[^]*On the package[^]*battery mark/.test(document.body.innerText));
  await shut(page);
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText === 'United States')!.click(),
  );
  await tap(page, 'cell-rail-loose-use');
  await page.waitForFunction(() => document.body.innerText.includes('173.185(c)'));
  await shut(page);
  await type(page, 'dispatch-on', '2027-01-01');
  await untilText(page, 'cell-air-cargo-loose-use', /hold/);
  expect(await axe(page)).toEqual([]);
  await context.close();
});

test('rules are found by their words; a lead compares one with the printed edition', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'lead-Ines');
  // What is told depends on the day the test runs: it is asked of the rules themselves.
  const inDays = (n: number) => new Date(Date.now() + n * DAY_MS).toISOString().slice(0, 10);
  if (changeDays(SHIPPING_RULES, inDays(0), inDays(55)).length > 0) await tap(page, 'rules-ahead');
  else {
    await tap(page, 'tab-more');
    await tap(page, 'more-rules');
  }
  await tap(page, 'look-ahead');
  const [next] = changeDays(SHIPPING_RULES, inDays(0), inDays(700));
  expect(await untilText(page, 'card-ahead', /From \w{3} \d|Nothing that/)).toContain(
    next ? `From ${inWords(next)}: ` : 'Nothing that we hold',
  );
  await type(page, 'rule-search', 'three sets');
  await page.waitForFunction(() => document.body.innerText.includes('No rule says that'));
  await type(page, 'rule-search', 'p908');
  await see(page, 'rule-road.376');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'check-road.376');
  await tap(page, 'keep-check');
  await untilText(page, 'rule-road.376', /checked against ADR\/RID 2025/);
  await tap(page, 'cases-road.376');
  await untilText(page, 'rule-road.376', /allowed, SP 376, P908/);
  await context.close();
});

test('several packs at once: the worst decides, what stays is named, and the vehicle has its points', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-dispatch');
  await tap(page, 'choose-packs');
  for (const tag of ['TH-142', 'TH-115', 'TH-164']) {
    await type(page, 'choose-search', tag);
    await tap(page, `choose-${tag}`);
  }
  await tap(page, 'keep-chosen');
  // TH-142 is sound, TH-115 damaged, TH-164 critical.
  expect(await untilText(page, 'cell-road-loose-use', /2 of 3/)).toContain('×');
  expect(await textOf(page, 'card-load')).toContain('a critical pack is aboard');
  await tap(page, 'cell-road-loose-use');
  await page.waitForFunction(() =>
    /no, 1 pack[^]*TH-164[^]*as damaged, 1 pack[^]*TH-115[^]*yes, 1 pack/.test(document.body.innerText),
  );
  expect(await axe(page)).toEqual([]);
  expect(await printedBy(page, () => tap(page, 'print-steps'))).toBe('application/pdf');
  await shut(page);
  expect(await axe(page)).toEqual([]);
  expect(noise).toEqual([]);
  await context.close();
});
