import { createHmac } from 'node:crypto';
import type { Page } from 'puppeteer-core';
import { PHONE, see, tap, type, untilText, WIDE } from '../../tools/browser';
import { ACCOUNTS } from '../../tools/demo/people';
import { axe, choose, device, openWorld, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

const passphraseOf = (name: string) => ACCOUNTS.find((a) => a.name.startsWith(name))!.passphrase;

/** Sets the PIN of whoever is signed in. */
async function setPin(page: Page, name: string, pin: string): Promise<void> {
  await tap(page, 'tab-more');
  await tap(page, 'more-you');
  await tap(page, 'set-pin');
  await type(page, 'present-passphrase', passphraseOf(name));
  await type(page, 'fresh-secret', pin);
  await tap(page, 'keep-secret');
  await page.waitForFunction(() => document.querySelector('[data-testid="keep-secret"]') === null);
}

describe('the page before its code', () => {
  /** A device whose page gets no code until it is let go. */
  const open = async () => {
    const context = await world.browser.createBrowserContext();
    const page = await context.newPage();
    await page.setViewport(PHONE);
    let go: () => void = () => undefined;
    const wait = new Promise<void>((done) => (go = done));
    await page.setRequestInterception(true);
    page.on('request', (r) => void (r.url().includes('/_expo/') ? wait.then(() => r.continue()) : r.continue()));
    const loaded = page.goto(world.base).catch(() => undefined);
    await see(page, 'early-name');
    return { page, context, go, loaded };
  };
  test('a sign-in begun in it goes on where it was, and one that was sent signs in when the code is there', async () => {
    const { page, context, go, loaded } = await open();
    expect(await axe(page)).toEqual([]);
    await type(page, 'early-name', 'Tom');
    go();
    await loaded;
    await see(page, 'name');
    // What is typed goes on in the same field, and the form of the page is gone.
    await page.keyboard.type('as Reve');
    expect(await page.$eval('[data-testid="name"]', (e) => (e as HTMLInputElement).value)).toBe('Tomas Reve');
    expect(await page.$('#early')).toBeNull();
    await context.close();
    const again = await open();
    const name = ACCOUNTS.find((a) => a.name.startsWith('Tomas'))!.name;
    await type(again.page, 'early-name', name);
    await type(again.page, 'early-passphrase', passphraseOf('Tomas'));
    await again.page.keyboard.press('Enter');
    await untilText(again.page, 'early-key', /as soon as/);
    again.go();
    await see(again.page, 'critical');
    // Who is in does not see it again.
    await again.page.reload({ waitUntil: 'domcontentloaded' });
    expect(await again.page.evaluate(() => document.documentElement.classList.contains('early'))).toBe(false);
    await again.context.close();
  });
});

test('the lead invites; a shared bench goes from one person to the other by PIN', async () => {
  const lead = await device(world, WIDE);
  await signIn(lead.page, 'lead-Ines');
  await tap(lead.page, 'tab-more');
  await tap(lead.page, 'more-people');
  await see(lead.page, 'person-Wren');
  expect(await axe(lead.page)).toEqual([]);
  await type(lead.page, 'invite-name', 'Nia Holt');
  await tap(lead.page, 'invite');
  const passphrase = (await untilText(lead.page, 'told', /\w{4} \w{4}/)).trim();

  const bench = await device(world, PHONE);
  await signIn(bench.page, 'technician-Tomas');
  await tap(bench.page, 'tab-more');
  await tap(bench.page, 'more-you');
  await tap(bench.page, 'switch-person');
  await type(bench.page, 'switch-name', 'nia holt');
  await type(bench.page, 'switch-passphrase', passphrase);
  await tap(bench.page, 'switch-sign-in');
  // The passphrase the lead knows is good for one thing: choosing another.
  const own = 'nine slow barges';
  await see(bench.page, 'choose');
  expect(await axe(bench.page)).toEqual([]);
  await type(bench.page, 'given-passphrase', passphrase);
  await type(bench.page, 'own-passphrase', 'password1');
  await tap(bench.page, 'keep-own');
  await untilText(bench.page, 'choose', /guessed quickly/);
  await type(bench.page, 'own-passphrase', own);
  await tap(bench.page, 'keep-own');
  await tap(bench.page, 'tab-more');
  await tap(bench.page, 'more-you');
  await untilText(bench.page, 'card-person', /Nia Holt/);
  await tap(bench.page, 'set-pin');
  await type(bench.page, 'present-passphrase', own);
  await type(bench.page, 'fresh-secret', '7302');
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
  await type(bench.page, 'switch-pin', '7302');
  await tap(bench.page, 'switch-now');
  await untilText(bench.page, 'card-person', /Nia Holt/);

  // Let in no longer: the next thing the device asks says so, and what it holds stays.
  await tap(lead.page, 'person-Nia');
  await tap(lead.page, 'disable-person');
  await untilText(lead.page, 'person-Nia', /not let in/);
  await untilText(
    lead.page,
    'card-trail',
    /Ines.* lets in no longer Nia Holt.*Nia Holt took a device over by PIN.*Nia Holt chose a passphrase/,
  );
  await see(bench.page, 'sign-in');
  await lead.context.close();
  await bench.context.close();
});

test('a locked bench shows what is critical and nothing else, keeps what was open, and opens by PIN', async () => {
  const { page, context, noise } = await device(world, WIDE);
  await signIn(page, 'technician-Wren');
  await setPin(page, 'Wren', '6094');
  const tab = await context.newPage();
  await tab.goto(world.base);
  await see(tab, 'start-job');
  await page.bringToFront();
  await tap(page, 'tab-packs');
  await page.keyboard.press('l');
  // The other tab of the device locks and opens with it.
  await see(tab, 'locked');
  await untilText(page, 'locked', /critical: TH-164.*Locked.*Wren Adair was here last/s);
  expect(await axe(page)).toEqual([]);
  // No key reaches what lies behind it, and a reload does not get past it.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('y');
  await page.reload();
  await see(page, 'switch-pin');
  expect(await page.$eval('[data-testid="tab-packs"]', (e) => (e as HTMLElement).offsetParent === null)).toBe(true);
  await type(page, 'switch-pin', '1111');
  await page.keyboard.press('Enter');
  await untilText(page, 'locked', /PIN does not fit/);
  await type(page, 'switch-pin', '6094');
  await page.keyboard.press('Enter');
  await see(page, 'add-pack');
  expect(new URL(page.url()).pathname).toBe('/packs');
  await see(tab, 'start-job');
  await tab.close();

  // While the server is away nobody can be checked: work goes on, and the server's return asks again.
  await page.keyboard.press('l');
  await see(page, 'locked');
  await world.stopServer();
  await type(page, 'switch-pin', '6094');
  await page.keyboard.press('Enter');
  await tap(page, 'open-unchecked');
  await untilText(page, 'away-bar', /nobody checked/);
  await world.startServer();
  await untilText(page, 'locked', /The server answers again/);
  await type(page, 'switch-pin', '6094');
  await page.keyboard.press('Enter');
  await see(page, 'add-pack');
  // What failed while the server was stopped is no error of the page.
  expect(noise.filter((n) => !/Failed to load resource|403|ERR_/.test(n))).toEqual([]);
  await context.close();
});

const BASE32 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
/** The six digits of RFC 6238 for a base32 key now. */
function codeNow(secret: string): string {
  const bits = [...secret].map((c) => BASE32.indexOf(c).toString(2).padStart(5, '0')).join('');
  const key = Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => parseInt(b, 2)));
  const moving = Buffer.alloc(8);
  moving.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000)));
  const mac = createHmac('sha1', key).update(moving).digest();
  return String((mac.readUInt32BE(mac[19]! & 15) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}

test('somebody outside signs a clearing by one-time code on the lead’s own device', async () => {
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'lead-Ines');
  let uri = '';
  page.on('response', (r) => {
    if (r.url().endsWith('/api/people/outside')) void r.json().then((j: { uri: string }) => (uri = j.uri));
  });
  await tap(page, 'tab-more');
  await tap(page, 'more-people');
  await type(page, 'outside-name', 'Orla Venn');
  await type(page, 'outside-until', '2999-12-31');
  await tap(page, 'name-outside');
  await see(page, 'qr');
  await tap(page, 'outside-done');

  await tap(page, 'tab-packs');
  await tap(page, 'add-pack');
  await type(page, 'pack-tag', 'SIGN-1');
  await tap(page, 'add-pack-now');
  await tap(page, 'found-wet');
  await tap(page, 'finding-wet');
  await untilText(page, 'strip', /damaged/);
  await tap(page, 'clear-wet');
  await type(page, 'clear-reason', 'rain water, dried, measured');
  await tap(page, 'keep-clear');
  // It goes out behind its Undo bar; only then can it be signed.
  await page.waitForFunction(() => document.querySelector('[data-testid="undo-bar"]') === null, { timeout: 20_000 });
  await new Promise((r) => setTimeout(r, 1500));
  await tap(page, 'sign-here');
  await tap(page, 'signer-Orla');
  await type(page, 'sign-secret', '000000');
  await tap(page, 'sign-now');
  await page.waitForFunction(() => /It does not fit/.test(document.body.innerText));
  expect(await axe(page)).toEqual([]);
  await type(page, 'sign-secret', codeNow(new URL(uri).searchParams.get('secret')!));
  await tap(page, 'sign-now');
  await untilText(page, 'strip', /unproven/);
  await untilText(page, 'card-history', /Orla Venn/);
  await context.close();
});

test('figures are shown as the lead chooses, on every device, and asked for in the same unit', async () => {
  const lead = await device(world, WIDE);
  await signIn(lead.page, 'lead-Ines');
  const switchTo = async (...words: string[]) => {
    await lead.page.goto(`${world.base}/more/policy`);
    await see(lead.page, 'card-policy');
    for (const w of words) await choose(lead.page, w);
  };
  await switchTo('inch', '11,4 V', 'Oct 26, 2026');
  const bench = await device(world, PHONE);
  await signIn(bench.page, 'technician-Wren');
  await tap(bench.page, 'tab-packs');
  await type(bench.page, 'search', 'TH-138');
  await tap(bench.page, 'pack-TH-138');
  expect(await untilText(bench.page, 'card-swelling', /new 0,\d{4} inch/)).not.toMatch(/\d mm/);
  await tap(bench.page, 'point-centre');
  expect(await untilText(bench.page, 'key-unit', /./)).toBe('inch');
  expect(await untilText(bench.page, 'key-last', /=/)).toMatch(/^= 0,\d{4}$/);
  expect(await axe(bench.page)).toEqual([]);
  await bench.page.keyboard.press('Escape');
  await switchTo('mm', '11.4 V', '26 Oct 2026');
  // News reach the other device by themselves.
  await untilText(bench.page, 'card-swelling', /new \d\.\d\d mm/);
  expect([...lead.noise, ...bench.noise]).toEqual([]);
});
