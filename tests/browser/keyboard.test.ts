import type { Page } from 'puppeteer-core';
import { see, untilText, WIDE } from '../../tools/browser';
import { device, openWorld, signIn, type World } from './harness';

jest.setTimeout(300_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

/** What a screen reader would say of what has the focus: its name, its role and its state. */
interface Heard {
  readonly id: string;
  readonly name: string;
  readonly role: string;
}

const focused = (page: Page): Promise<Heard> =>
  page.evaluate(() => {
    const e = document.activeElement as HTMLElement;
    const group = e.parentElement?.closest('[role="radiogroup"]')?.getAttribute('aria-label');
    const own = e.getAttribute('aria-label') ?? e.innerText ?? '';
    // A key of a choice is heard with its question.
    const name = group ? `${group}: ${own}` : own;
    return {
      id: e.closest<HTMLElement>('[data-testid]')?.dataset.testid ?? '',
      name: name.replace(/\s+/g, ' ').trim(),
      role: e.getAttribute('role') ?? e.tagName.toLowerCase(),
    };
  });

/** Somebody with a keyboard alone, who hears what has the focus. */
class Ears {
  readonly heard: Heard[] = [];
  constructor(readonly page: Page) {}

  /** Tab by Tab to something; @throws where that many do not lead there. */
  async to(id: string | RegExp, most = 220): Promise<void> {
    for (let i = 0; i < most; i++) {
      const h = await focused(this.page);
      if (i > 0) this.heard.push(h);
      if (i > 0 && (typeof id === 'string' ? h.id === id : id.test(h.name))) return;
      await this.page.keyboard.press('Tab');
    }
    throw new Error(
      `${String(id)} is not reached by Tab; last heard: ${this.heard
        .slice(-5)
        .map((h) => h.name)
        .join(' | ')}`,
    );
  }
  async press(id: string | RegExp): Promise<void> {
    await this.to(id);
    await this.page.keyboard.press('Enter');
  }
  async type(id: string, text: string): Promise<void> {
    await this.to(id);
    await this.page.keyboard.type(text);
  }
}

test('a job from the door to its ruling by keyboard alone, and every name on the way says what it is', async () => {
  const { page, noise, context } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  const ears = new Ears(page);
  await ears.press('start-job');
  await see(page, 'notebook-tag');
  // The sheet has the focus in its first field, and keeps it.
  expect((await focused(page)).id).toBe('notebook-tag');
  await page.keyboard.type('n-801');
  await ears.type('maker', 'Mereline');
  await ears.type('model', 'Gannet 14');
  await ears.type('complaint', 'shuts down at 40 %');
  await ears.press('start-job-now');
  await untilText(page, 'opening', /do not open.*not looked at/s);
  await ears.press('triage-clear');
  await ears.press('signs-clear');
  await ears.press(/^Agrees to opening: yes$/);
  await untilText(page, 'opening', /bring down first/);
  await ears.press('add-its-pack');
  await see(page, 'pack-tag');
  await page.keyboard.type('p-801');
  await page.keyboard.press('Enter');
  await see(page, 'at-label');
  await ears.press('label-nominalVoltage');
  await see(page, 'typed');
  for (const digits of ['11,4', '4386', '50', '13,05']) {
    await page.keyboard.type(digits);
    // The comma of a keyboard is the workshop's decimal mark.
    await untilText(page, 'typed', new RegExp(digits.replace(',', '\\.')));
    await page.keyboard.press('Enter');
    await page.waitForFunction(() => !/\d/.test(document.querySelector<HTMLElement>('[data-testid="typed"]')?.innerText ?? ''));
  }
  await page.waitForFunction(() => document.querySelector('[data-testid="typed"]') === null);
  // The focus went back to the key that led there.
  await page.waitForFunction(() => document.activeElement?.getAttribute('data-testid') === 'label-nominalVoltage');
  await ears.press('onward');
  await ears.press('nothing-all');
  await ears.press('measure-volts');
  await see(page, 'typed');
  await page.keyboard.type('11,31');
  // Enter keeps the number from a digit's key as well.
  await ears.to('key-7');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector('[data-testid="typed"]') === null);
  await untilText(page, 'card-measure', /11\.31 V/);
  await untilText(page, 'strip', /unproven|sound|spent/);

  // Names as they were heard, in order: none is empty, none is a name of a program, and each says its role.
  const names = ears.heard.filter((h) => h.role !== 'body' && h.role !== 'div');
  expect(names.length).toBeGreaterThan(60);
  expect(names.filter((h) => h.name === '')).toEqual([]);
  expect(names.filter((h) => /[a-z]{2}[A-Z][a-z]|undefined|\[object|\bnull\b/.test(h.name))).toEqual([]);
  const order = ['Start a job', 'Start', 'add-its-pack', 'label-nominalVoltage', 'nothing-all', 'measure-volts'].map((x) =>
    ears.heard.findIndex((h) => h.name === x || h.id === x),
  );
  expect(order).toEqual([...order].sort((a, b) => a - b));
  expect(order).not.toContain(-1);
  // The record says the tag in one way.
  await page.keyboard.down('Control');
  await page.keyboard.press('k');
  await page.keyboard.up('Control');
  await see(page, 'finder');
  await page.keyboard.type('801');
  await page.waitForFunction(() => /P-801/.test(document.body.innerText));
  expect(noise).toEqual([]);
  await context.close();
});
