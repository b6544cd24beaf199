import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import { byId, PHONE, see, tap, textOf, type, untilText, WIDE } from '../../tools/browser';
import { axe, choose, device, openWorld, printedBy, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
beforeAll(async () => {
  world = await openWorld();
}, 400_000);
afterAll(() => world.close());

/** The last number of the real log, and what waits on this device. */
const real = (page: Page) =>
  page.evaluate(async () => {
    const { last } = (await (await fetch('/api/entries?after=0&limit=1')).json()) as { last: number };
    const db = await new Promise<IDBDatabase>((done, failed) => {
      const open = indexedDB.open('gavrel');
      open.onsuccess = () => done(open.result);
      open.onerror = () => failed(open.error);
    });
    const count = (store: string) =>
      new Promise<number>((done) => {
        const asked = db.transaction(store).objectStore(store).count();
        asked.onsuccess = () => done(asked.result);
      });
    return { last, outbox: await count('outbox'), entries: await count('entries') };
  });

test('a first day: offered on the Bench, played by thumb through a reload, looked back at, and nothing of it in the log', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  const before = await real(page);
  await tap(page, 'practice-offer');
  await untilText(page, 'practice-band', /no real pack/);
  await tap(page, 'do-look');
  await tap(page, 'do-thickness');
  expect(await untilText(page, 'actions', /thickness centre: \d/)).toContain('looked, nothing found');
  expect(await axe(page)).toEqual([]);
  await page.reload();
  expect(await untilText(page, 'actions', /thickness centre: \d/)).toContain('looked, nothing found');
  await choose(page, 'damaged');
  await choose(page, '90 %');
  await tap(page, 'practice-bet');
  expect(await untilText(page, 'debrief', /In truth it is swollen\./)).toMatch(/All right.*so it came/s);
  expect(await textOf(page, 'strip')).toMatch(/^damaged/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'practice-go-on');
  await see(page, 'do-look');
  await page.goto(`${world.base}/practice`);
  expect(await untilText(page, 'scenario-thick-2', /Nothing to be felt/)).toContain('all right');
  expect(await textOf(page, 'calibration')).toContain('When you said 90 %, 1 of 1 came so.');
  expect(await axe(page)).toEqual([]);
  expect(await printedBy(page, () => tap(page, 'practice-paper'))).toBe('application/pdf');
  expect(await real(page)).toEqual(before);
  await page.goto(world.base);
  await see(page, 'start-job');
  expect(await page.$(byId('practice-offer'))).toBeNull();
  expect(noise).toEqual([]);
  await context.close();
});

test('by hand: what the instruments show is written down at the real stations, through a reload, and nothing of it in the log', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Tomas');
  const before = await real(page);
  await page.goto(`${world.base}/practice/thick-1`);
  await see(page, 'do-look');
  await choose(page, 'I do, at the stations');
  await tap(page, 'do-look');
  await tap(page, 'do-thickness');
  const shown = await untilText(page, 'actions', /calliper shows/);
  const [, isNew, centre] = /data sheet says ([\d.]+) mm.*calliper shows ([\d.]+) mm/s.exec(shown)!;
  expect(await axe(page)).toEqual([]);
  const enter = async (digits: string) => {
    for (const k of digits.replace('.', ',')) await tap(page, `key-${k}`);
    // Whoever bets judges by themselves.
    expect(await page.$(byId('strip-preview'))).toBeNull();
    await tap(page, 'keep');
  };
  await choose(page, 'What you write, and the bet');
  await tap(page, 'found-shape');
  await tap(page, 'finding-swollen');
  for (const g of ['smell', 'heat', 'wet', 'mechanical', 'electrical']) await tap(page, `nothing-${g}`);
  await tap(page, 'new-thickness');
  await choose(page, 'data sheet');
  await enter(isNew!);
  await untilText(page, 'typed', /^\s*$/);
  await enter(centre!);
  await untilText(page, 'point-centre', new RegExp(centre!));
  // A hand is slower than a reload: what was kept is on the disk by then.
  await page.waitForFunction(
    (digits) =>
      new Promise<boolean>((done) => {
        const open = indexedDB.open('gavrel');
        open.onsuccess = () => {
          const asked = open.result.transaction('meta').objectStore('meta').get('drafts');
          asked.onsuccess = () => {
            open.result.close();
            done(JSON.stringify(asked.result).includes(`"digits":"${digits}"`));
          };
        };
      }),
    { polling: 100 },
    centre!,
  );
  await page.reload();
  await see(page, 'do-label');
  await choose(page, 'What you write, and the bet');
  await untilText(page, 'card-swelling', new RegExp(`new ${isNew} mm`));
  await choose(page, 'damaged');
  await choose(page, '90 %');
  await tap(page, 'practice-bet');
  expect(await untilText(page, 'debrief', /In truth it is swollen\./)).toMatch(/All right.*so it came/s);
  expect(await textOf(page, 'practice-written')).toContain(`thickness centre: ${centre} mm`);
  expect(await axe(page)).toEqual([]);
  // Again, and written down before anybody looked.
  await tap(page, 'practice-again');
  await see(page, 'do-look');
  await choose(page, 'What you write, and the bet');
  await tap(page, 'nothing-shape');
  await choose(page, 'unproven');
  await choose(page, '50 %');
  await tap(page, 'practice-bet');
  expect(await untilText(page, 'debrief', /Looking back/)).toContain('was written before anybody looked');
  expect(await real(page)).toEqual(before);
  expect(noise).toEqual([]);
  await context.close();
});

test('a machine by hand: the questions of the intake are answered as on a real one, and rule on it', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Tomas');
  const before = await real(page);
  await page.goto(`${world.base}/practice/open-3`);
  await see(page, 'do-owner');
  await choose(page, 'I do, at the stations');
  for (const a of ['owner', 'hands', 'eyes', 'shown']) await tap(page, `do-${a}`);
  const answer = (question: string, word: string) =>
    page.evaluate(
      (q, w) =>
        [...document.querySelectorAll<HTMLElement>(`[role=radiogroup][aria-label="${q}"] [role=radio]`)]
          .find((e) => e.textContent === w)!
          .click(),
      question,
      word,
    );
  await choose(page, 'What you write, and the bet');
  await tap(page, 'triage-clear');
  await tap(page, 'signs-clear');
  await answer('Liquid on it', 'no');
  await answer('Dropped', 'no');
  await answer('Agrees to opening', 'yes');
  await type(page, 'charge-other', '18');
  await page.keyboard.press('Enter');
  await untilText(page, 'card-charge', /18 %/);
  expect(await axe(page)).toEqual([]);
  await choose(page, 'open now');
  await choose(page, '90 %');
  await tap(page, 'practice-bet');
  expect(await untilText(page, 'practice-ruling', /./)).toBe('open now');
  expect(await page.$(byId('card-triage'))).toBeNull();
  await tap(page, 'do-dead');
  expect(await untilText(page, 'debrief', /In truth/)).not.toMatch(/Written:|Not written:/);
  expect(await real(page)).toEqual(before);
  expect(noise).toEqual([]);
  await context.close();
});

test('a machine: looked at, ruled on, opened and isolated by thumb through a reload; called dead while it is live, it is not', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Tomas');
  const before = await real(page);
  const bet = async (word: string) => {
    await choose(page, word);
    await choose(page, '90 %');
    await tap(page, 'practice-bet');
  };
  const all = async (acts: readonly string[]) => {
    for (const a of acts) await tap(page, `do-${a}`);
  };
  await page.goto(`${world.base}/practice/open-3`);
  await see(page, 'do-owner');
  await all(['owner', 'hands', 'eyes', 'shown']);
  expect(await textOf(page, 'actions')).toMatch(/agrees to opening.*base steady.*18 %/s);
  expect(await page.$eval(byId('machine-drawing'), (e) => e.getAttribute('aria-label'))).toBe(
    'from the side: lid flush, base steady, keyboard even, trackpad clicks, seam closed',
  );
  expect(await axe(page)).toEqual([]);
  await bet('open now');
  expect(await untilText(page, 'practice-ruling', /./)).toBe('open now');
  await all(['off', 'feet', 'map', 'plastic', 'shoulders', 'drain']);
  expect(await axe(page)).toEqual([]);
  await page.reload();
  await untilText(page, 'actions', /under the rear feet/);
  expect(await untilText(page, 'harm-plastic', /./)).toContain('opened with the charger in');
  await tap(page, 'do-dead');
  expect(await untilText(page, 'debrief', /In truth/)).toMatch(/called isolated, and still live: the charger, the outer pack/);
  expect(await textOf(page, 'way')).toMatch(/unplug the charger.*slide the outer pack off/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'practice-again');
  await all(['owner', 'hands', 'eyes', 'shown', 'unplug']);
  await bet('open now');
  await all(['off', 'outer', 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead']);
  await untilText(page, 'debrief', /All right.*so it came/s);
  await tap(page, 'practice-all');
  await untilText(page, 'scenario-open-3', /all right/);
  expect(await real(page)).toEqual(before);
  expect(noise).toEqual([]);
  await context.close();
});

test('a parcel: what is not known holds it, what does not belong on it is told, and done in order it is all right', async () => {
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'shipper-Odo');
  const play = async (before: readonly string[], word: string, after: readonly string[]) => {
    await see(page, `do-${before[0]!}`);
    for (const a of before) await tap(page, `do-${a}`);
    await choose(page, word);
    await choose(page, '70 %');
    await tap(page, 'practice-bet');
    await untilText(page, 'practice-ruling', /./);
    for (const a of after) await tap(page, `do-${a}`);
    return untilText(page, 'debrief', /In truth/);
  };
  await page.goto(`${world.base}/practice/send-2`);
  expect(await play(['look'], 'yes', [])).toMatch(/Looking back.*you said “yes”.*it is “hold”/is);
  await tap(page, 'practice-again');
  const looks = ['look', 'label', 'summary', 'gauge', 'weigh', 'down'];
  expect(await play(looks, 'yes', ['tape', 'plain', 'battery-mark', 'class9', 'damaged-mark', 'paper', 'hand'])).toMatch(
    /The cargo-aircraft label is missing.*The mark DAMAGED\/DEFECTIVE does not belong on it/s,
  );
  expect(await axe(page)).toEqual([]);
  await tap(page, 'practice-again');
  expect(await play(looks, 'yes', ['tape', 'plain', 'battery-mark', 'class9', 'cargo-only', 'paper', 'hand'])).toMatch(
    /All right.*so it came/s,
  );
  await tap(page, 'practice-all');
  await untilText(page, 'scenario-send-2', /all right/);
  expect(noise).toEqual([]);
  await context.close();
});

test('a scenario of somebody else: nonsense is named, a sound file is taken and outlives a reload, and it is played like ours', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-scenario-'));
  const file = (name: string, story: object) => {
    writeFileSync(join(folder, name), JSON.stringify(story));
    return join(folder, name);
  };
  const story = {
    id: 'drawer',
    grade: 'judging',
    title: 'From the drawer',
    story: 'Nobody knows.',
    seed: 7,
    faults: ['puncture'],
  };
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Tomas');
  await page.goto(`${world.base}/practice`);
  const give = async (path: string) => {
    const [chooser] = await Promise.all([page.waitForFileChooser(), tap(page, 'own-open')]);
    await chooser.accept([path]);
  };
  await see(page, 'own-open');
  await give(file('bad.json', { ...story, faults: ['cursed'] }));
  await untilText(page, 'practice-own', /Nothing was taken.*faults\[0\] must be one of/s);
  await give(file('good.json', story));
  await untilText(page, 'practice-own', /1 taken: From the drawer/);
  expect(await axe(page)).toEqual([]);
  await page.reload();
  await tap(page, 'scenario-own-drawer');
  await page.reload();
  await tap(page, 'do-look');
  await untilText(page, 'actions', /punctured/);
  await choose(page, 'damaged');
  await choose(page, '90 %');
  await tap(page, 'practice-bet');
  await untilText(page, 'debrief', /In truth it is punctured/);
  expect(noise).toEqual([]);
  rmSync(folder, { recursive: true, force: true });
  await context.close();
});

test('by keyboard: what is unsafe ends it and stands first; a real critical pack takes the screen in practice too', async () => {
  const { page, context } = await device(world, WIDE);
  await signIn(page, 'lead-Ines');
  await page.goto(`${world.base}/practice/thick-4`);
  await see(page, 'do-lever');
  await page.focus(byId('do-label'));
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.activeElement?.getAttribute('data-testid') === 'done-label');
  await page.focus(byId('do-lever'));
  await page.keyboard.press('Enter');
  expect(await untilText(page, 'debrief', /In truth/)).toMatch(/^Looking back\s+Unsafe: Lever it out/);
  expect(await page.$(byId('do-look'))).toBeNull();
  // Once is once, however often it is opened.
  await tap(page, 'practice-all');
  // Who practised before is known to the lead, by name.
  await untilText(page, 'who-practised', /Wren Adair\s+1 session · 0 with an unsafe act · 0 of 9 grades passed/);
  await untilText(page, 'scenario-thick-4', /unsafe: 1/);
  await tap(page, 'scenario-thick-4');
  await see(page, 'debrief');
  await tap(page, 'practice-all');
  expect(await untilText(page, 'scenario-thick-4', /unsafe/)).toContain('unsafe: 1');
  await page.goto(`${world.base}/practice/nobody-wrote-this`);
  await page.waitForFunction(() => document.body.innerText.includes('No scenario is called that.'));
  await page.goto(`${world.base}/practice/bad-1`);
  await see(page, 'do-look');
  const tech = await device(world, PHONE);
  await signIn(tech.page, 'technician-Wren');
  await tap(tech.page, 'tab-packs');
  await type(tech.page, 'search', 'TH-142');
  await tap(tech.page, 'pack-TH-142');
  await tap(tech.page, 'found-smell');
  await tap(tech.page, 'finding-hissing');
  expect(await untilText(page, 'critical', /Leave now/)).toContain('TH-142');
  await tech.context.close();
  await context.close();
});
