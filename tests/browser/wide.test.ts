import { see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, device, openWorld, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

test('packs as a table: sorted, filtered, selected with Shift, copied, by keyboard, and sent on to dispatch', async () => {
  const { page, noise, context } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await context.overridePermissions(world.base, ['clipboard-read', 'clipboard-write', 'clipboard-sanitized-write']);
  await tap(page, 'tab-packs');
  await see(page, 'sort-condition');
  const rows = () =>
    page.$$eval('[role="row"][aria-rowindex]', (all) => all.slice(1, 6).map((e) => (e as HTMLElement).innerText));
  const tags = async () => (await rows()).map((r) => /TH-\d+/.exec(r)?.[0]);
  await tap(page, 'sort-condition');
  expect((await rows())[0]).toMatch(/critical/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'grid-filter');
  await type(page, 'column-filter-place', 'quarantine box a');
  const shown = await tags();
  expect(shown.length).toBeGreaterThan(3);
  // By keyboard alone: from the first row two down with Shift, then to the clipboard.
  await page.focus('[role="row"][aria-rowindex="2"]');
  for (let i = 0; i < 2; i++) {
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Shift');
    await page.waitForFunction((n) => document.activeElement?.getAttribute('data-index') === n, {}, String(i + 1));
  }
  await page.waitForFunction(() => document.querySelectorAll('[role="row"][aria-selected="true"]').length === 3);
  await page.keyboard.down('Control');
  await page.keyboard.press('c');
  await page.keyboard.up('Control');
  await page.waitForFunction(() => document.body.innerText.includes('3 rows copied'));
  const copied = (await page.evaluate(() => navigator.clipboard.readText())).split('\n').map((line) => line.split('\t'));
  expect(copied[0]!.slice(0, 3)).toEqual(['Tag', 'Condition', 'Place']);
  expect(copied.slice(1).map((line) => line[0])).toEqual(shown.slice(0, 3));
  // What is filtered away is not sent on with the rest.
  await type(page, 'column-filter-tag', shown[1]!);
  await page.waitForFunction(() => document.querySelectorAll('[role="row"][aria-selected="true"]').length === 1);
  await tap(page, 'grid-dispatch');
  expect(await untilText(page, 'card-chosen', /1 pack/)).toContain(shown[1]);
  // Enter opens a row; its slip has the list beside it.
  await tap(page, 'tab-packs');
  await see(page, 'sort-condition');
  await page.focus('[role="row"][aria-rowindex="2"]');
  await page.keyboard.press('Enter');
  await see(page, 'card-history');
  expect(noise).toEqual([]);
  await context.close();
});

test('yard, rules, more and bench show more at once, and axe finds nothing there', async () => {
  const { page, noise, context } = await device(world, WIDE);
  await signIn(page, 'lead-Ines');
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role="radio"]')].find((e) => e.innerText === 'lanes')!.click(),
  );
  expect(await untilText(page, 'lanes', /N-243/)).toMatch(/Intake.*Open.*Measure.*Judge.*Close.*Hand over/s);
  expect(await axe(page)).toEqual([]);
  // A place opens beside the list and the plan.
  await tap(page, 'tab-yard');
  await tap(page, 'place-Quarantine-box-A');
  await see(page, 'card-content');
  expect(await page.$$eval('[role="img"][aria-label^="Shed, to scale"]', (all) => all.length)).toBe(1);
  await see(page, 'place-Recycling-drum-3');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'tab-more');
  await type(page, 'more-search', 'printed calendar dues');
  await page.waitForFunction(() => document.body.innerText.includes('Nothing here is called that'));
  await type(page, 'more-search', 'theme');
  await tap(page, 'more-screen');
  await page.waitForFunction(() => location.pathname === '/more/screen');
  await type(page, 'more-search', 'paragraphs');
  await tap(page, 'more-rules');
  await tap(page, 'contents-Sea');
  await see(page, 'rule-sea.188');
  expect(await page.$('[data-testid="rule-road.376"]')).toBeNull();
  expect(await textOf(page, 'rule-sea.188')).not.toMatch(/grossKg|netKg/);
  expect(await axe(page)).toEqual([]);
  expect(noise).toEqual([]);
  await context.close();
});

test('dues, people and what lies in a drum are tables as well: sorted by their headings, opened by Enter', async () => {
  const { page, noise, context } = await device(world, WIDE);
  await signIn(page, 'lead-Ines');
  const column = (n: number) =>
    page.$$eval(`[role="row"] [role="gridcell"]:nth-child(${n})`, (all) => all.map((e) => e.textContent ?? ''));
  await tap(page, 'all-dues');
  await see(page, 'sort-title');
  await tap(page, 'sort-title');
  const titles = (await column(2)).filter(Boolean);
  expect(titles.length).toBeGreaterThan(5);
  expect(titles).toEqual([...titles].sort(new Intl.Collator('en', { numeric: true }).compare));
  expect(await axe(page)).toEqual([]);
  await page.focus('[role="row"][aria-rowindex="2"]');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => location.pathname !== '/due');
  await page.goto(`${world.base}/people`);
  await see(page, 'person-Odo');
  await tap(page, 'sort-name');
  expect((await column(2)).filter(Boolean)[0]).toMatch(/^Ines/);
  expect(await axe(page)).toEqual([]);
  await page.focus('[role="row"][aria-rowindex="2"]');
  await page.keyboard.press('Enter');
  await see(page, 'reset-person');
  await tap(page, 'close-sheet');
  await tap(page, 'tab-yard');
  await tap(page, 'place-Recycling-drum-3');
  await see(page, 'drum-grid');
  expect(await axe(page)).toEqual([]);
  expect(noise).toEqual([]);
  await context.close();
});

test('Back closes the top sheet and stays; once none is open it leaves; the focus goes back to where it came from', async () => {
  const { page, context } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await see(page, 'open-scan');
  await tap(page, 'open-scan');
  await see(page, 'scan');
  await page.evaluate(() => history.back());
  await page.waitForFunction(() => !document.querySelector('[data-testid="scan"]'));
  expect(await page.evaluate(() => location.pathname)).toBe('/yard');
  await page.waitForFunction(() => document.activeElement?.getAttribute('data-testid') === 'open-scan');
  await page.evaluate(() => history.back());
  await page.waitForFunction(() => location.pathname === '/');
  await see(page, 'start-job');
  await context.close();
});
