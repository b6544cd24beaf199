import type { EntriesResponse } from '@gavrel/contract';
import type { Page } from 'puppeteer-core';
import { keypad, PHONE, see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, device, openWorld, signIn, type World, onADayWeHold } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

/** Parts under More that every role sees. */
const MORE = ['you', 'screen', 'device', 'slips', 'site', 'instruments', 'policy', 'about'];

const everything = (page: Page) =>
  page.evaluate(
    async () => (await (await fetch('/api/entries?after=0&limit=2000')).json()) as EntriesResponse,
  ) as Promise<EntriesResponse>;

/** Starts a job on a machine whose plate cannot be read, and adds its pack. */
async function startJob(page: Page, n: string): Promise<void> {
  await tap(page, 'start-job');
  await type(page, 'notebook-tag', `N-${n}`);
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText === 'plate unreadable')!.click(),
  );
  await type(page, 'complaint', 'trackpad stiff');
  await tap(page, 'start-job-now');
  await tap(page, 'add-its-pack');
  await type(page, 'pack-tag', `P-${n}`);
  await tap(page, 'add-pack-now');
  // One stays in the job; its slip is one tap away.
  await see(page, 'at-label');
  await tap(page, `in-sight-P-${n}`);
  await untilText(page, 'strip', /unproven/);
}

/** Types the label: each figure leads to the next that is missing. */
async function readLabel(page: Page): Promise<void> {
  await tap(page, 'label-nominalVoltage');
  for (const digits of ['11,4', '5000', '57', '13,05']) await keypad(page, digits);
  await tap(page, 'label-words');
  await type(page, 'type-code', 'QX0B5-57');
  await page.evaluate(() => {
    const press = (label: string, word: string) =>
      [...document.querySelectorAll<HTMLElement>(`[aria-label="${label}"] [role="radio"]`)]
        .find((e) => e.innerText === word)!
        .click();
    press('Chemistry', 'li-ion');
    press('Watt-hours printed on the case', 'yes');
  });
  await type(page, 'made-on', '2021-05');
  await tap(page, 'keep-words');
  await untilText(page, 'card-label', /consistent/);
}

async function examine(page: Page): Promise<void> {
  await tap(page, 'nothing-all');
  await tap(page, 'measure-volts');
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText === '2 h')!.click(),
  );
  await keypad(page, '11,31');
  await tap(page, 'measure-gauge');
  await type(page, 'gauge-left', '920');
  await type(page, 'gauge-full', '4600');
  await type(page, 'gauge-design', '5000');
  await type(page, 'gauge-cells', '3,771 3,770 3,772');
  await tap(page, 'keep-gauge');
}

describe.each([
  ['phone', PHONE, '501'],
  ['wide', WIDE, '502'],
] as const)('the whole job on a %s', (name, size, n) => {
  test('from an unreadable plate to a ruling, undone, kept, reloaded and found again', async () => {
    const { page, noise, context } = await device(world, size);
    await tap(page, 'demo-technician-Wren');
    expect(await textOf(page, 'critical')).toMatch(/Keep away.*Emergency: 112.*Assembly point.*Call first/s);
    expect(await axe(page)).toEqual([]);
    await tap(page, 'critical-read');

    await startJob(page, n);
    await readLabel(page);
    await examine(page);
    expect(await untilText(page, 'strip', /sound/)).toMatch(/shelf/);
    expect(await untilText(page, 'card-routes', /hold/)).toContain('stream: reuse');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText === 'UN 38.3 summary seen')!.click(),
    );
    await onADayWeHold(page);
    await page.waitForFunction(() =>
      document.querySelector<HTMLElement>('[data-testid="cell-road-loose-use"]')?.innerText.includes('yes'),
    );
    expect(await textOf(page, 'cell-air-cargo-loose-use')).toContain('yes');
    expect(await textOf(page, 'cell-air-passenger-loose-use')).toContain('no');
    expect(await textOf(page, 'cell-air-cargo-loose-recycling')).toContain('approval');
    await tap(page, 'cell-road-loose-use');
    await page.waitForFunction(
      () => document.body.innerText.includes('SP 188') && document.body.innerText.includes('from memory'),
    );
    await page.keyboard.press('Escape');

    // While it is typed the ruling is preview; nothing acts on half a number.
    await tap(page, 'new-thickness');
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText.startsWith('a new part'))!.click(),
    );
    await keypad(page, '5,00');
    await keypad(page, '5,6', false);
    expect(await untilText(page, 'strip-preview', /damaged/)).toMatch(/if 5\.6 mm: damaged/);
    expect(await page.$eval('[data-testid="strip"]', (e) => e.getAttribute('aria-label'))).toBe('sound');
    expect(await axe(page)).toEqual([]);
    await tap(page, 'keep');
    expect(await untilText(page, 'strip', /damaged/)).toMatch(/quarantine.*swollen/s);
    await tap(page, 'undo');
    await untilText(page, 'strip', /sound/);
    await tap(page, 'point-centre');
    await keypad(page, '5,6');
    await tap(page, 'close-sheet');
    await untilText(page, 'strip', /damaged/);

    // A reload before it was sent loses nothing, and after it the server has it once.
    await page.reload();
    await untilText(page, 'strip', /damaged/);
    expect(await textOf(page, 'card-label')).toMatch(/11\.4 V.*5000 mAh.*57 Wh.*13\.05 V/s);
    const mine = async () =>
      (await everything(page)).entries.filter(
        (e) => e.kind === 'reading-taken' && e.body.figure.digits === '5.6' && e.device === n,
      );
    expect(await mine()).toEqual([]);
    const swollen = async () =>
      (await everything(page)).entries.filter((e) => e.kind === 'reading-taken' && e.body.figure.digits === '5.6').length;
    const want = name === 'phone' ? 1 : 2;
    for (let i = 0; i < 40 && (await swollen()) !== want; i++) await new Promise((r) => setTimeout(r, 300));
    expect(await swollen()).toBe(want);

    // Found again by a misread code, on this device and through the list.
    await tap(page, 'tab-packs');
    await type(page, 'search', 'QXOBS');
    await page.waitForFunction(() => document.body.innerText.includes('O taken for 0'));
    await tap(page, `pack-P-${n}`);
    await untilText(page, 'strip', /damaged/);
    expect(noise).toEqual([]);
    await context.close();
  });

  // Colours differ by scheme and places by width: each of both once.
  test('axe finds nothing on any screen', async () => {
    const scheme = name === 'phone' ? 'light' : 'dark';
    const { page, context } = await device(world, size, scheme);
    await see(page, 'sign-in');
    const found: string[] = [];
    const look = async (screen: string) => found.push(...(await axe(page)).map((v) => `${screen} ${scheme}: ${v}`));
    await look('sign in');
    await signIn(page, 'technician-Wren');
    await look('bench');
    await tap(page, 'start-job');
    await see(page, 'start-job-now');
    await look('start a job');
    await tap(page, 'close-sheet');
    await tap(page, 'job-N-241');
    await see(page, 'card-notebook');
    await look('job');
    await tap(page, 'tab-packs');
    await see(page, 'search');
    await look('packs');
    for (const tag of ['TH-138', 'TH-129', 'TH-164']) {
      await type(page, 'search', tag);
      await tap(page, `pack-${tag}`);
      await see(page, 'card-history');
      await look(`slip ${tag}`);
      if (name === 'phone') {
        await tap(page, 'why');
        await see(page, 'reasons');
        await look('reasons');
        await tap(page, 'close-sheet');
      }
      await tap(page, 'tab-packs');
    }
    await tap(page, 'tab-more');
    await see(page, 'more-device');
    await look('more');
    for (const part of MORE) {
      await tap(page, 'tab-more');
      await tap(page, `more-${part}`);
      await look(`more, ${part}`);
    }
    expect(found).toEqual([]);
    await context.close();
  });
});

test('bad input on the keypad: not one number is named, 60 V on three cells is asked about once', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-138');
  await tap(page, 'pack-TH-138');
  await tap(page, 'measure-volts');
  await keypad(page, '11,,4', false);
  await page.waitForFunction(() => document.body.innerText.includes('is not one number'));
  for (let i = 0; i < 5; i++) await tap(page, 'key-⌫');
  await keypad(page, '60');
  await page.waitForFunction(() => document.body.innerText.includes('60 V on 3 cells in series?'));
  await page.waitForFunction(
    () => document.querySelector<HTMLElement>('[data-testid="keep"]')?.innerText === 'Keep it all the same',
  );
  await tap(page, 'close-sheet');
  await context.close();
});

test('the server away: kept on the device, told honestly, through a reload, and sent by itself', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  const dropped = async () =>
    (await everything(page)).entries.filter((e) => e.kind === 'finding-recorded' && e.body.code === 'dropped').length;
  const before = await dropped();
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-140');
  await tap(page, 'pack-TH-140');
  await untilText(page, 'strip', /sound/);
  await page.setRequestInterception(true);
  let away = true;
  page.on('request', (r) => void (away && r.url().includes('/api/') ? r.abort() : r.continue()));
  await tap(page, 'found-mechanical');
  await tap(page, 'finding-dropped');
  await untilText(page, 'strip', /damaged/);
  await untilText(page, 'away-bar', /offline, as of \d\d:\d\d: kept on this device.*1 waiting/s);
  await page.reload();
  await untilText(page, 'strip', /damaged/);
  expect(await untilText(page, 'hazard-unsent', /lead does not know/)).toContain('Tell them yourself');
  away = false;
  await page.waitForFunction(() => document.querySelector('[data-testid="away-bar"]') === null, { timeout: 40_000 });
  expect(await dropped()).toBe(before + 1);
  await context.close();
});

test('critical reaches the other devices at once, and takes their screens over', async () => {
  const lead = await device(world, WIDE);
  await signIn(lead.page, 'lead-Ines');
  const tech = await device(world, PHONE);
  await signIn(tech.page, 'technician-Wren');
  await tap(tech.page, 'tab-packs');
  await type(tech.page, 'search', 'TH-142');
  await tap(tech.page, 'pack-TH-142');
  await tap(tech.page, 'found-smell');
  await tap(tech.page, 'finding-hissing');
  expect(await textOf(tech.page, 'critical')).toMatch(/Leave now.*Leave the room.*Raise the alarm.*Call the fire service/s);
  expect(await untilText(lead.page, 'critical', /Leave now/)).toContain('TH-142');
  await tech.context.close();
  await lead.context.close();
});

test('a clearing waits for a second, competent person on their own sign-in', async () => {
  const first = await device(world, PHONE);
  await tap(first.page, 'demo-technician-Tomas');
  await tap(first.page, 'critical-read');
  await tap(first.page, 'tab-packs');
  await type(first.page, 'search', 'TH-129');
  await tap(first.page, 'pack-TH-129');
  await untilText(first.page, 'strip', /damaged/);
  await tap(first.page, 'confirm-finding-cleared');
  await first.page.waitForFunction(
    () =>
      document.querySelector('[data-testid="confirm-finding-cleared"]') === null &&
      !document.querySelector<HTMLElement>('[data-testid="strip"]')!.innerText.includes('was dropped'),
    { timeout: 30_000 },
  );
  expect(await untilText(first.page, 'strip', /sound|unproven/)).not.toMatch(/^damaged/);
  await first.context.close();
});

test('keys: everything on a wide screen without a pointer', async () => {
  const { page, context } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('p');
  await see(page, 'search');
  await page.keyboard.type('?');
  await page.waitForFunction(() => document.body.innerText.includes('keep the number'));
  // Behind a sheet no letter moves anything; Escape closes it.
  await page.keyboard.press('y');
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => !document.body.innerText.includes('keep the number'));
  await see(page, 'search');
  // The finder: three strokes and Enter lead to a place, and Back leads out again.
  await page.keyboard.down('Control');
  await page.keyboard.press('k');
  await page.keyboard.up('Control');
  await see(page, 'finder');
  await page.keyboard.type('round');
  await see(page, 'finder-line');
  expect(await axe(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname === '/round');
  await page.goBack();
  await page.waitForFunction(() => location.pathname === '/packs');
  await type(page, 'search', 'TH-144');
  await tap(page, 'pack-TH-144');
  await tap(page, 'measure-mass');
  await page.keyboard.type('171');
  expect(await untilText(page, 'typed', /171/)).toBe('171');
  await page.keyboard.press('Enter');
  await untilText(page, 'undo-bar', /Mass 171 g/);
  await context.close();
});

test('what was begun is there again after Escape, after Back, and after a reload', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await tap(page, 'tab-bench');
  const gone = (id: string) => page.waitForFunction((x) => !document.querySelector(`[data-testid="${x}"]`), {}, id);
  const told = () => page.$eval('[data-testid="complaint"]', (e) => (e as HTMLInputElement).value);
  await tap(page, 'start-job');
  await type(page, 'notebook-tag', 'NB-900');
  await type(page, 'complaint', 'dies at once, says the owner');
  await page.keyboard.press('Escape');
  await gone('start-job-now');
  await tap(page, 'start-job');
  expect(await told()).toBe('dies at once, says the owner');
  await page.evaluate(() => history.back());
  await gone('start-job-now');
  await tap(page, 'tab-bench');
  await tap(page, 'start-job');
  expect(await told()).toBe('dies at once, says the owner');
  // Written down at a pause of typing.
  await new Promise((r) => setTimeout(r, 600));
  await page.reload();
  await tap(page, 'start-job');
  expect(await told()).toBe('dies at once, says the owner');
  // Too long is said while one types, and nothing of it is lost.
  await type(page, 'notebook-tag', 'x'.repeat(60));
  await page.waitForFunction(() => document.body.innerText.includes('too many: at most 40 characters'));
  await context.close();
});
