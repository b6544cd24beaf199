import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { openBrowser, PHONE, see, tap, type, WIDE } from './browser';
import { ROOT, Trouble } from './common';
import { readState, serverAlive } from './state';

interface Shot {
  readonly file: string;
  readonly size: typeof PHONE | typeof WIDE;
  readonly scheme: 'light' | 'dark';
  /** Who is signed in; a technician where nobody is named. */
  readonly who?: string;
  readonly go: (page: Page) => Promise<void>;
}

const settle = () => new Promise((r) => setTimeout(r, 500));

async function openPack(page: Page, tag: string): Promise<void> {
  await tap(page, 'tab-packs');
  await type(page, 'search', tag);
  await tap(page, `pack-${tag}`);
  await see(page, 'card-history');
}

const scrollTo = (page: Page, id: string) => page.$eval(`[data-testid="${id}"]`, (e) => e.scrollIntoView({ block: 'start' }));

const TABLE = [
  'tag;chemistry;series;parallel;nominalVoltage;ratedCapacity;energyMarked;madeOn;typeTested;findings;placement;mode',
  'TH-301;li-ion;3;1;11,4;4386 mAh;yes;2021;yes;none;loose;road',
  'TH-302;li-ion;3;1;11,4;4386 mAh;yes;2021;yes;swollen;loose;road',
  'TH-303;li-ion;4;3;14,4;9030 mAh;yes;2017;yes;none;loose;road',
  'TH-304;li-ion;2;1;7,7;5450;yes;2020;yes;none;loose;road',
  'TH-305;li-ion;2;1;7,7;5450 mAh;yes;2020;;none;loose;road',
].join('\n');

const SHOTS: readonly Shot[] = [
  { file: 'bench-phone', size: PHONE, scheme: 'light', go: async () => undefined },
  { file: 'slip-phone', size: PHONE, scheme: 'light', go: (p) => openPack(p, 'TH-138') },
  {
    file: 'keypad-phone',
    size: PHONE,
    scheme: 'light',
    go: async (p) => {
      await openPack(p, 'TH-138');
      await tap(p, 'point-centre');
      for (const k of ['5', ',', '4', '1']) await tap(p, `key-${k}`);
    },
  },
  {
    file: 'practice-phone',
    size: PHONE,
    scheme: 'light',
    go: async (p) => {
      await tap(p, 'practice-offer');
      await tap(p, 'do-look');
      await tap(p, 'do-label');
      await tap(p, 'do-thickness');
      await scrollTo(p, 'actions');
    },
  },
  {
    file: 'practice-wide',
    size: WIDE,
    scheme: 'light',
    go: async (p) => {
      await p.goto(new URL('/practice/open-2', p.url()).href);
      for (const a of ['owner', 'hands', 'eyes']) await tap(p, `do-${a}`);
      await see(p, 'done-eyes');
      await scrollTo(p, 'machine-drawing');
    },
  },
  {
    file: 'travel-phone',
    size: PHONE,
    scheme: 'light',
    go: async (p) => {
      await openPack(p, 'TH-142');
      await scrollTo(p, 'card-routes');
    },
  },
  { file: 'job-phone', size: PHONE, scheme: 'light', go: (p) => tap(p, 'job-N-241') },
  {
    file: 'open-phone',
    size: PHONE,
    scheme: 'light',
    go: async (p) => {
      await tap(p, 'job-N-243');
      await tap(p, 'station-open');
      await tap(p, 'take-screws-0');
    },
  },
  {
    file: 'isolate-phone-dark',
    size: PHONE,
    scheme: 'dark',
    go: async (p) => {
      await tap(p, 'job-N-242');
      await tap(p, 'station-isolate');
      await scrollTo(p, 'card-connector');
    },
  },
  {
    file: 'match-wide',
    size: WIDE,
    scheme: 'light',
    go: async (p) => {
      await tap(p, 'job-N-243');
      await tap(p, 'station-remove');
      await tap(p, 'take-removal');
      await tap(p, 'station-match');
      await tap(p, 'take-form');
      await tap(p, 'candidate-TH-138');
    },
  },
  {
    file: 'rules-phone',
    size: PHONE,
    scheme: 'light',
    go: async (p) => {
      await tap(p, 'tab-more');
      await tap(p, 'more-rules');
      await tap(p, 'look-ahead');
    },
  },
  {
    file: 'table-wide',
    size: WIDE,
    scheme: 'light',
    go: async (p) => {
      await tap(p, 'tab-more');
      await tap(p, 'more-table');
      await type(p, 'paste-table', TABLE);
      await tap(p, 'rule-table');
      await see(p, 'row-1');
    },
  },
  {
    file: 'yard-phone',
    size: PHONE,
    scheme: 'light',
    go: (p) =>
      tap(p, 'tab-yard')
        .then(() => see(p, 'card-distances'))
        .then(() => undefined),
  },
  {
    file: 'watch-phone-dark',
    size: PHONE,
    scheme: 'dark',
    go: async (p) => {
      await tap(p, 'tab-yard');
      await tap(p, 'place-Quarantine-box-A');
      await see(p, 'card-watch');
    },
  },
  {
    file: 'dispatch-phone',
    size: PHONE,
    scheme: 'light',
    who: 'shipper-Odo',
    go: async (p) => {
      await tap(p, 'tab-dispatch');
      await see(p, 'card-could-go');
    },
  },
  {
    file: 'consignment-wide',
    size: WIDE,
    scheme: 'light',
    who: 'shipper-Odo',
    go: async (p) => {
      await tap(p, 'tab-dispatch');
      await tap(p, 'could-go-recycler');
      await tap(p, 'compare-ways');
      // The best stands first once all are there.
      await see(p, 'way-road-Marram Freight');
      await p.waitForFunction(() => !document.querySelector('[data-testid="stop-planning"]'), { timeout: 60_000 });
      await tap(p, 'way-road-Marram Freight');
      await tap(p, 'keep-plan');
      await see(p, 'card-packages');
    },
  },
  { file: 'more-phone-dark', size: PHONE, scheme: 'dark', go: (p) => tap(p, 'tab-more') },
  { file: 'slip-wide', size: WIDE, scheme: 'light', go: (p) => openPack(p, 'TH-129') },
];

/** Takes the pictures of docs/screenshots from the running demo world, the critical take-over first. */
export async function main(say: (line: string) => void): Promise<void> {
  const { pid, port, mode } = readState();
  if (mode !== 'demo' || !serverAlive(pid)) throw new Trouble('start the demo world first: ./gavrel start --demo');
  const folder = join(ROOT, 'docs/screenshots');
  mkdirSync(folder, { recursive: true });
  const { browser, close } = await openBrowser();
  try {
    for (const [i, shot] of SHOTS.entries()) {
      const context = await browser.createBrowserContext();
      const page = await context.newPage();
      await page.setViewport({ ...shot.size, deviceScaleFactor: 1 });
      await page.emulateMediaFeatures([{ name: 'prefers-color-scheme', value: shot.scheme }]);
      await page.goto(`http://127.0.0.1:${port}`);
      await tap(page, `demo-${shot.who ?? 'technician-Wren'}`);
      await see(page, 'critical');
      await settle();
      if (i === 0) await page.screenshot({ path: join(folder, 'critical-phone.png') });
      await tap(page, 'critical-read');
      await see(page, 'start-job');
      await shot.go(page);
      await settle();
      await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
      await page.screenshot({ path: join(folder, `${shot.file}.png`) as `${string}.png` });
      await context.close();
    }
  } finally {
    await close();
  }
  say(`${SHOTS.length + 1} pictures in docs/screenshots`);
}
