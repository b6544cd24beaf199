import { taggedId } from '@gavrel/core';
import type { Page } from 'puppeteer-core';
import { v7 } from 'uuid';
import { PHONE, see, tap, textOf, type, untilText } from '../../tools/browser';
import { DEMO_WORKSHOP } from '../../tools/demo/people';
import { axe, choose, device, openWorld, printedBy, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

const WIDE = { width: 1280, height: 800 };

async function scan(page: Page, tag: string): Promise<void> {
  await type(page, 'pack-scan', tag);
  await page.keyboard.press('Enter');
}

/** The server hears from another device that one pack of a consignment stays. */
async function withdrawnElsewhere(page: Page, consignment: string): Promise<void> {
  const pack = taggedId(DEMO_WORKSHOP.id, 'pack', 'TH-123');
  const entry = {
    ...{ id: v7(), v: 1, workshop: DEMO_WORKSHOP.id, kind: 'withdrawn', at: new Date().toISOString(), tz: 'UTC' },
    ...{ subjects: [`consignment:${consignment}`, `pack:${pack}`], device: 'elsewhere', hazard: false, body: {} },
  };
  const status = await page.evaluate(async (e) => {
    const { person } = (await (await fetch('/api/session')).json()) as { person: { id: string } };
    const body = JSON.stringify({ deviceTime: e.at, entries: [{ ...e, by: person.id }] });
    const r = await fetch('/api/entries', { method: 'POST', headers: { 'content-type': 'application/json' }, body });
    return `${r.status} ${await r.text()}`;
  }, entry);
  expect(status).toMatch(/^200 .*accepted/);
}

const until = (page: Page, words: RegExp) =>
  page.waitForFunction((w: string) => new RegExp(w).test(document.body.innerText), {}, words.source);

test('packed by scan without the server, weighed, handed over, refused: back and unproven', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'shipper-Odo');
  await tap(page, 'tab-dispatch');
  await untilText(page, 'card-under-way', /Recycling, this week/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'consignment-Recycling, this week');
  await untilText(page, 'card-packages', /3 of 5 packed/);
  expect(await axe(page)).toEqual([]);
  await world.stopServer();
  await tap(page, 'package-1');
  // A careless hand: nobody's code, one that lies in it, one of no consignment.
  await scan(page, 'TH-9999');
  await until(page, /TH-9999: no pack here has this code/);
  await scan(page, 'th-101');
  await until(page, /TH-101 lies in here already/);
  await scan(page, 'TH-131');
  await until(page, /TH-131 is in no consignment/);
  await scan(page, 'TH-104');
  await until(page, /TH-104 is in\./);
  expect(await axe(page)).toEqual([]);
  await type(page, 'gross-kg', '0,3');
  await tap(page, 'close-package');
  await until(page, /Not in it yet: TH-105.*0\.30 kg is less than box and packs weigh/);
  await scan(page, 'TH-105');
  await until(page, /Packed 5 of 5/);
  await type(page, 'gross-kg', '2,4');
  await type(page, 'seal', '0042');
  await tap(page, 'close-package');
  await see(page, 'reopen-package');
  await tap(page, 'close-sheet');
  await world.startServer();
  await untilText(page, 'stage', /^packed/);
  expect(await printedBy(page, () => tap(page, 'marks-roll'))).toBe('application/pdf');
  expect(await printedBy(page, () => tap(page, 'print-document'))).toBe('application/pdf');
  await tap(page, 'describe-waste');
  await type(page, 'waste-permit', 'P 12');
  await choose(page, 'it stays in the country');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-waste');
  await untilText(page, 'card-waste', /Permit of who takes it: P 12[^]*cross a border\? no/);
  expect(await printedBy(page, () => tap(page, 'print-waste'))).toBe('application/pdf');
  await tap(page, 'hand-over-consignment');
  await type(page, 'waybill', 'MF-77');
  await tap(page, 'leave-now');
  await untilText(page, 'card-leave', /Marram Freight.*MF-77[^]*5 packs in 1 package, by road/);
  // What left stands as it left.
  await untilText(page, 'card-packages', /UN 3480, SP377-P909/);
  await tap(page, 'outcome');
  await choose(page, 'refused');
  await type(page, 'outcome-why', 'the driver has no papers');
  await tap(page, 'keep-outcome');
  await untilText(page, 'stage', /^refused/);
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-101');
  await untilText(page, 'pack-TH-101', /unproven/);
  expect(noise.filter((n) => !/ERR_CONNECTION|Failed to load resource|EventSource/.test(n))).toEqual([]);
  await context.close();
});

test('ways side by side; the plan is kept, changed by hand with its law in sight; damaged packs are counted by two', async () => {
  const shipper = await device(world, WIDE);
  const { page } = shipper;
  await signIn(page, 'shipper-Odo');
  await tap(page, 'tab-dispatch');
  await tap(page, 'could-go-recycler');
  await see(page, 'compare-ways');
  const address = page.url();
  await tap(page, 'compare-ways');
  await see(page, 'way-road-Marram Freight');
  await see(page, 'way-air-passenger');
  await page.waitForFunction(() => !document.querySelector('[data-testid="stop-planning"]'), { timeout: 60_000 });
  // No damaged pack flies, whatever the carrier takes; no post takes one.
  expect(await textOf(page, 'way-air-passenger')).toMatch(/no/);
  expect(await textOf(page, 'way-road-Eider Post')).toMatch(/no[^]*takes no/);
  await tap(page, 'way-road-Marram Freight');
  await until(page, /fewer than \d is impossible/);
  await until(page, /mark DAMAGED\/DEFECTIVE LITHIUM-ION BATTERIES/);
  expect(await axe(page)).toEqual([]);
  // Another device takes a pack off meanwhile: the sheet stays to be read, and cannot be kept any more.
  await withdrawnElsewhere(page, address.split('/').pop()!);
  await see(page, 'way-stale');
  expect(await page.$('[data-testid="keep-plan"]')).toBeNull();
  expect(await axe(page)).toEqual([]);
  await tap(page, 'compare-again');
  await page.waitForFunction(() => !document.querySelector('[data-testid="stop-planning"]'), { timeout: 60_000 });
  await tap(page, 'way-road-Marram Freight');
  await tap(page, 'keep-plan');
  await untilText(page, 'stage', /^planned/);
  expect(await axe(page)).toEqual([]);
  // By pointer: what a drop would do stands in the package before the pack is let go, and one press takes it back.
  const lines = () => page.$$eval('[data-testid^="chip-"]', (all) => all.map((e) => e.textContent));
  const before = await lines();
  const middle = (id: string) =>
    page.$eval(`[data-testid^="${id}"]`, (e) => {
      e.scrollIntoView({ block: 'center' });
      const r = e.getBoundingClientRect();
      return [r.x + r.width / 2, r.y + r.height / 2] as const;
    });
  await page.mouse.move(...(await middle('chip-')));
  await page.mouse.down();
  await page.mouse.move(...(await middle('package-2')), { steps: 8 });
  expect(await textOf(page, 'drop-2')).toMatch(/UN 3480, SP376-P908, \d/);
  await page.mouse.up();
  await page.waitForFunction(
    (was: string) => JSON.stringify([...document.querySelectorAll('[data-testid^="chip-"]')].map((e) => e.textContent)) !== was,
    {},
    JSON.stringify(before),
  );
  await tap(page, 'undo');
  await page.waitForFunction(
    (was: string) => JSON.stringify([...document.querySelectorAll('[data-testid^="chip-"]')].map((e) => e.textContent)) === was,
    {},
    JSON.stringify(before),
  );
  await tap(page, 'package-1');
  const contents = await textOf(page, 'package-contents');
  const tags = contents.match(/TH-\d+/g)!;
  // Two taps: move, and where to; what the other package would be stands on the key.
  await tap(page, `move-${tags[0]}`);
  expect(await textOf(page, 'move-to-2')).toMatch(/UN 3480, SP376-P908, \d/);
  await tap(page, 'move-to-2');
  await page.waitForFunction(
    (tag: string) => !document.querySelector('[data-testid="package-contents"]')!.textContent!.includes(tag),
    {},
    tags[0]!,
  );
  for (const tag of tags.slice(1)) {
    await scan(page, tag);
    await until(page, new RegExp(`${tag} is in`));
  }
  await tap(page, 'close-package');
  await until(page, /You closed it: somebody else counts/);
  await tap(page, 'close-sheet');
  // Ways made for packs that are packed by now: kept, they would pack them twice.
  await see(page, 'ways-stale');
  expect(await page.$('[data-testid^="way-"]')).toBeNull();
  await untilText(page, 'card-leave', /a second person counts|not closed/);

  const other = await device(world, PHONE);
  await signIn(other.page, 'technician-Tomas');
  await other.page.goto(address);
  await tap(other.page, 'package-1');
  await type(other.page, 'second-count', '99');
  await tap(other.page, 'keep-count');
  await until(other.page, /Counted 99: open it and look/);
  await type(other.page, 'second-count', String(tags.length - 1));
  await tap(other.page, 'keep-count');
  await until(other.page, /Counted by two/);
  expect(await axe(other.page)).toEqual([]);
  await other.context.close();
  await shipper.context.close();
});

test('back to the seller: the order of acts, the kit that is owed stands under what is due, the evidence is a paper', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'shipper-Odo');
  await tap(page, 'tab-dispatch');
  await tap(page, 'could-go-seller');
  await untilText(page, 'card-return', /Stop using and charging it/);
  await untilText(page, 'card-packs', /never with an air label|Never with an air label/i);
  await tap(page, 'kit-asked');
  await untilText(page, 'card-return', /recall kit: due in 14 days/);
  expect(await printedBy(page, () => tap(page, 'print-evidence'))).toBe('application/pdf');
  expect(await axe(page)).toEqual([]);
  expect(noise).toEqual([]);
  await context.close();
});

test('boxes and carriers: nonsense is named and nothing of it is kept; who may not change them sees them', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'shipper-Odo');
  await page.goto(`${world.base}/means`);
  await tap(page, 'add-box');
  await type(page, 'box-name', 'Crate');
  for (const [f, v] of [
    ['length', '600'],
    ['width', '400'],
    ['height', '0'],
    ['tareKg', '3'],
    ['maxGrossKg', '2,5'],
    ['stock', '4'],
    ['price', '12,50'],
  ] as const)
    await type(page, `box-${f}`, v);
  await until(page, /Its inner sides are more than 0 mm/);
  await type(page, 'box-height', '300');
  await until(page, /It may weigh no more than it does empty/);
  await type(page, 'box-maxGrossKg', '30');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-box');
  await untilText(page, 'card-boxes', /Crate[^]*4 left[^]*600 × 400 × 300 mm, up to 30 kg/);
  expect(await axe(page)).toEqual([]);
  await context.close();
  const reader = await device(world, PHONE);
  await signIn(reader.page, 'technician-Wren');
  await reader.page.goto(`${world.base}/means`);
  await untilText(reader.page, 'card-carriers', /Marram Freight/);
  expect(await reader.page.$('[data-testid="add-carrier"]')).toBeNull();
  await reader.context.close();
});

test('a maker’s notice: faulty lines are named, the packs it concerns stand in groups, the recall goes on their record', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'lead-Ines');
  await page.goto(`${world.base}/notices`);
  await tap(page, 'file-notice');
  await type(page, 'notice-title', 'Knot 13: leaks');
  await type(page, 'notice-says', 'Stop using it.');
  await page.focus('[data-testid="notice-list"]');
  for (const line of ['type code,made from,made to', 'SK-KN13-54,2024,2024-02', ',2024,2024', 'SK-KN13-54,2025,2024']) {
    await page.keyboard.type(line);
    await page.keyboard.press('Enter');
  }
  await untilText(page, 'notice-read', /1 read, 2 not/);
  await until(page, /line 3: no type code/);
  await until(page, /line 4: made from 2025 lies after made to 2024/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-notice');
  await tap(page, 'notice-Knot 13: leaks');
  await see(page, 'record-recall');
  expect(await axe(page)).toEqual([]);
  const tag = /TH-\d+/.exec(await textOf(page, 'affected-here'))![0];
  await tap(page, 'record-recall');
  await untilText(page, 'affected-here', /recall recorded/);
  await tap(page, 'close-sheet');
  await tap(page, 'tab-packs');
  await type(page, 'search', tag);
  await untilText(page, `pack-${tag}`, /damaged/);
  expect(noise).toEqual([]);
  await context.close();
});

test('by keyboard: from the board into a package and a pack scanned, without a pointer', async () => {
  const { page, context } = await device(world, WIDE);
  await signIn(page, 'shipper-Odo');
  await page.keyboard.down('Alt');
  await page.keyboard.press('d');
  await page.keyboard.up('Alt');
  await see(page, 'could-go-customer');
  const reach = async (id: string) => {
    for (let i = 0; i < 80; i++) {
      if (await page.evaluate((t) => document.activeElement?.getAttribute('data-testid') === t, id)) return;
      await page.keyboard.press('Tab');
    }
    throw new Error(`${id} is not reached by Tab`);
  };
  await reach('could-go-customer');
  await page.keyboard.press('Enter');
  await see(page, 'compare-ways');
  await reach('compare-ways');
  await page.keyboard.press('Enter');
  await see(page, 'way-road-Marram Freight');
  await reach('way-road-Marram Freight');
  await page.keyboard.press('Enter');
  await reach('keep-plan');
  await page.keyboard.press('Enter');
  await untilText(page, 'stage', /^planned/);
  await reach('package-1');
  await page.keyboard.press('Enter');
  const tag = (await textOf(page, 'package-contents')).match(/TH-\d+/)![0];
  // The field of the scanner has the keys already.
  await page.keyboard.type(tag);
  await page.keyboard.press('Enter');
  await until(page, new RegExp(`${tag} is in`));
  await page.keyboard.press('Escape');
  await untilText(page, 'card-packages', /1 of \d+ packed/);
  await context.close();
});
