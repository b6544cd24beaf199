import type { Page } from 'puppeteer-core';
import { PHONE, see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, device, openWorld, printedBy, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

const shut = async (page: Page) => {
  await tap(page, 'close-sheet');
  await page.waitForFunction(() => document.querySelector('[data-testid="close-sheet"]') === null);
};
/** As a keyboard scanner types: the code, then Enter. */
const scan = async (page: Page, field: string, code: string) => {
  await see(page, field);
  await page.focus(`[data-testid="${field}"]`);
  await page.keyboard.type(code);
  await page.keyboard.press('Enter');
};
const openPlace = async (page: Page, name: string) => {
  await tap(page, 'tab-yard');
  await tap(page, `place-${name}`);
  await see(page, 'card-limits');
};

const gone = (page: Page, id: string) =>
  page.waitForFunction((selector) => document.querySelector(selector) === null, { timeout: 20_000 }, `[data-testid="${id}"]`);

test('moves by scan: pack, place, done; a foreign code and a place that may not hold it are said, a reason flags it', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await see(page, 'open-scan');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'open-scan');
  await scan(page, 'scan', '0049 not ours');
  await untilText(page, 'scan-trouble', /no pack and no place here has this code/);
  await scan(page, 'scan', 'Bench 2');
  await untilText(page, 'scan-trouble', /scan the pack first/);
  await scan(page, 'scan', 'th-142');
  await scan(page, 'scan', 'Bench 2');
  await page.waitForFunction(() => document.body.innerText.includes('TH-142 → Bench 2'));
  await scan(page, 'scan', 'TH-101');
  await scan(page, 'scan', 'Spares cabinet');
  await untilText(page, 'scan-refused', /TH-101 may not lie in Spares cabinet/);
  await type(page, 'despite', 'the drum is away until noon');
  await tap(page, 'put-despite');
  await page.waitForFunction(() => document.body.innerText.includes('TH-101 → Spares cabinet, flagged'));
  await shut(page);
  await openPlace(page, 'Spares-cabinet');
  expect(await textOf(page, 'lies-TH-101')).toMatch(/may not lie here.*the drum is away/s);
  // The slip says the same and offers the place that fits.
  await tap(page, 'lies-TH-101');
  expect(await untilText(page, 'card-place', /may not stay here/)).toContain('the drum is away until noon');
  await tap(page, 'put-best');
  await untilText(page, 'card-place', /Recycling drum 3/);
  expect(noise).toEqual([]);
  await context.close();
});

test('a round by scanner: a container opens for its look, a drum for its count, and a pack in the wrong place is told', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await tap(page, 'open-round');
  await tap(page, 'round-scan');
  const scan = async (code: string) => {
    await type(page, 'round-code', code);
    await page.keyboard.press('Enter');
  };
  await scan('TH-129');
  const told = await untilText(page, 'round-said', /^TH-129, \w+: /);
  await scan('nothing of ours');
  await untilText(page, 'round-said', /no place and no pack/);
  expect(await axe(page)).toEqual([]);
  await scan('Quarantine box B');
  await see(page, 'look-inside');
  await page.keyboard.press('Escape');
  await scan('TH-129');
  await untilText(page, 'round-said', told.endsWith('Quarantine box B') ? /^TH-129, \w+: / : /belongs in .*, not here/);
  await scan('Recycling drum 3');
  await see(page, 'keep-count');
  expect(noise).toEqual([]);
  await context.close();
});

test('a round: the check, one tap for all quiet, and a warm container alarms every pack in it', async () => {
  const { page, context } = await device(world, PHONE, 'dark');
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await tap(page, 'open-round');
  await untilText(page, 'sweep-opening', /not in order: a suspect pack lies on a bench/);
  expect(await textOf(page, 'round-Quarantine-box-B')).toContain('late');
  await tap(page, 'quiet-Quarantine-box-B');
  await page.waitForFunction(
    () => !/late/.test(document.querySelector<HTMLElement>('[data-testid="round-Quarantine-box-B"]')!.innerText),
  );
  expect(await axe(page)).toEqual([]);
  await openPlace(page, 'Quarantine-box-B');
  await tap(page, 'look-closer');
  await type(page, 'look-inside', '31,5');
  await page.waitForFunction(() => document.body.innerText.includes('Both temperatures are needed'));
  await type(page, 'look-room', '15');
  await page.waitForFunction(() => document.body.innerText.includes('alarm: examine from outside'));
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-look');
  expect(await untilText(page, 'card-alarm', /16\.5 K over/)).toContain('examine from outside');
  expect(await page.$('[data-testid="answer-alarm"]')).toBeNull();
  await tap(page, 'lies-TH-116');
  await page.waitForFunction(() => document.body.innerText.includes('alarm at its container'));

  // Another device shows it everywhere, until somebody trained has answered.
  const other = await device(world, WIDE);
  await signIn(other.page, 'technician-Tomas');
  const band = () => untilText(other.page, 'alarm-band', /Quarantine box B.*16\.5 K over/);
  await band();
  for (const tab of ['tab-packs', 'tab-yard']) {
    await tap(other.page, tab);
    await band();
  }
  await untilText(other.page, 'place-Quarantine-box-B', /ALARM/);
  await tap(other.page, 'open-round');
  await untilText(other.page, 'round-Quarantine-box-B', /ALARM/);
  await band();
  await tap(other.page, 'tab-packs');
  await type(other.page, 'search', 'TH-116');
  await tap(other.page, 'pack-TH-116');
  await see(other.page, 'strip');
  await band();
  await tap(other.page, 'alarm-band');
  await tap(other.page, 'answer-alarm');
  await type(other.page, 'answer-found', 'the sun was on the box, cold inside');
  await tap(other.page, 'keep-answer');
  await gone(other.page, 'alarm-band');
  await gone(page, 'alarm-band');
  // What was found on its packs stays.
  await untilText(page, 'strip', /alarm at its container/);
  await other.context.close();
  await context.close();
});

test('a limit below what lies there is shown as over; many packs are put at once; the place is counted by scan', async () => {
  const { page, context, noise } = await device(world, WIDE);
  await signIn(page, 'lead-Ines');
  await openPlace(page, 'Quarantine-box-A');
  await tap(page, 'describe');
  await type(page, 'say-packs', '3');
  await tap(page, 'keep-place');
  await untilText(page, 'place-trouble', /Over its limit: \d+ of 3 packs/);
  await tap(page, 'count-place');
  await scan(page, 'count-scan', 'TH-115');
  await scan(page, 'count-scan', 'TH-142');
  await scan(page, 'count-scan', 'a wallet');
  await tap(page, 'keep-count');
  await untilText(page, 'counted', /1 of \d+ .*2 strangers/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'open-assign');
  await tap(page, 'choose-unproven');
  await tap(page, 'choose-all');
  await tap(page, 'keep-chosen');
  const plan = await untilText(page, 'plan', /\d+ stay, [1-9]\d* move/);
  expect(plan).toContain('No other plan does better');
  await tap(page, 'keep-moves');
  await page.waitForFunction(() => document.querySelector('[data-testid="plan"]') === null);
  await tap(page, 'open-assign');
  for (const key of ['choose-unproven', 'choose-all', 'keep-chosen']) await tap(page, key);
  await untilText(page, 'plan', / 0 move/);
  expect(noise).toEqual([]);
  await context.close();
});

test('a drum leaves: its clock, its manifest, its balance; what left lies nowhere', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'shipper-Odo');
  await openPlace(page, 'Recycling-drum-3');
  expect(await untilText(page, 'card-drum', /It leaves by/)).toMatch(/ask for a collection/);
  expect(await axe(page)).toEqual([]);
  expect(await printedBy(page, () => tap(page, 'print-manifest'))).toBe('application/pdf');
  expect(await printedBy(page, () => tap(page, 'print-request'))).toBe('application/pdf');
  // One that is found damaged in it does not leave with it, and what was typed of the collection waits until it is out.
  await tap(page, 'lies-TH-103');
  await tap(page, 'found-shape');
  await tap(page, 'finding-swollen');
  await openPlace(page, 'Recycling-drum-3');
  await tap(page, 'collect');
  await type(page, 'collect-to', 'Skerry Metals');
  await type(page, 'collect-kg', '4,2');
  await untilText(page, 'drum-held', /Not with this drum: TH-103 damaged/);
  expect(await page.$eval('[data-testid="collect-now"]', (x) => x.getAttribute('aria-disabled'))).toBe('true');
  await shut(page);
  await tap(page, 'lies-TH-103');
  await tap(page, 'put-best');
  await untilText(page, 'card-place', /Quarantine/);
  await openPlace(page, 'Recycling-drum-3');
  await tap(page, 'collect');
  expect(await page.$eval('[data-testid="collect-kg"]', (x) => (x as HTMLInputElement).value)).toBe('4,2');
  await tap(page, 'collect-now');
  await untilText(page, 'card-content', /Nothing lies here/);
  expect(await untilText(page, 'card-drum', /Skerry Metals/)).toContain('no certificate yet');
  await tap(page, 'answer-collection');
  await type(page, 'answer-kg', '4,1');
  await type(page, 'answer-certificate', 'S-114');
  await tap(page, 'keep-answer');
  await untilText(page, 'card-drum', /recycler −0\.10 kg.*certificate S-114/);
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-102');
  await page.waitForFunction(() => document.body.innerText.includes('left for recycling'));
  expect(noise).toEqual([]);
  await context.close();
});

test('smoke in a container: every device is told, its packs are frozen until two people say it is over', async () => {
  const one = await device(world, PHONE);
  await signIn(one.page, 'technician-Tomas');
  const two = await device(world, WIDE);
  await signIn(two.page, 'lead-Ines');
  await openPlace(one.page, 'Quarantine-box-B');
  await tap(one.page, 'open-incident');
  expect(await axe(one.page)).toEqual([]);
  const smoke = await one.page.waitForSelector('::-p-xpath(//*[@role="radio"][normalize-space()="smoke"])');
  await smoke!.click();
  await tap(one.page, 'keep-incident');
  await see(one.page, 'critical');
  // The other device shows it without being asked.
  await untilText(two.page, 'critical', /Leave now.*\d+ packs, Quarantine box B/);
  await tap(one.page, 'critical-read');
  await tap(two.page, 'critical-read');
  // Read is not over: it stands on every screen of both.
  await untilText(two.page, 'alarm-band', /[Ss]moke/);
  await tap(one.page, 'step-everyone-out');
  await tap(one.page, 'incident-quiet');
  expect(await untilText(one.page, 'card-course', /looked again, nothing seen/)).toMatch(/smoke, Tomas.*everyone out, Tomas/s);
  expect(await axe(one.page)).toEqual([]);
  expect(await printedBy(one.page, () => tap(one.page, 'print-incident'))).toBe('application/pdf');
  expect(await one.page.$('[data-testid="declare-over"]')).toBeNull();

  await tap(two.page, 'tab-yard');
  // Heading the list, and at its place in it.
  await untilText(two.page, 'place-Quarantine-box-B', /not over: smoke/);
  await tap(two.page, 'open-incidents');
  const happened = await two.page.waitForSelector('::-p-xpath(//*[@role="radio"][normalize-space()="it happened"])');
  await happened!.click();
  await type(two.page, 'over-reason', 'cold and quiet for three days');
  await tap(two.page, 'declare-over');
  await untilText(two.page, 'card-over', /waits for a second person/);
  await untilText(one.page, 'card-over', /cold and quiet/);
  await tap(one.page, 'sign-over');
  await untilText(one.page, 'incident-state', /Over since/);
  await untilText(two.page, 'incident-state', /Over since/);
  expect([...one.noise, ...two.noise]).toEqual([]);
  await one.context.close();
  await two.context.close();
});
