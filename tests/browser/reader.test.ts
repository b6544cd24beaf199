import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'puppeteer-core';
import QRCode from 'qrcode';
import { byId, openBrowser, PHONE, see, tap, textOf, type, untilText } from '../../tools/browser';
import { fullyCharged, packWith, randomOf, simulate } from '@gavrel/core/practice';
import { STAND_INS, standIn } from '../../tools/instruments';
import { axe, device, openWorld, signIn, type World } from './harness';

jest.setTimeout(240_000);
let world: World;
let folder: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-reader-'));
  world = await openWorld();
}, 400_000);
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await world.close();
});

/**
 * A film for the browser's stand-in camera, over and over: each code, or two of them side by side, for a second, then a moment of nothing.
 * Ten pictures a second.
 */
function filmed(file: string, codes: readonly (readonly string[])[]): void {
  const [width, height] = [640, 480];
  const grey = Buffer.alloc((width * height) / 2, 128);
  const frame = (shown: readonly string[]): Buffer => {
    const luma = Buffer.alloc(width * height, 235);
    const room = width / Math.max(1, shown.length);
    shown.forEach((code, i) => {
      const { size, data } = QRCode.create(code).modules;
      const dot = Math.floor(Math.min(360, room - 60) / size);
      const [left, top] = [i * room + (room - dot * size) / 2, (height - dot * size) / 2].map(Math.floor) as [number, number];
      for (let y = 0; y < dot * size; y++)
        for (let x = 0; x < dot * size; x++)
          if (data[Math.floor(y / dot) * size + Math.floor(x / dot)]) luma[(top + y) * width + left + x] = 16;
    });
    return Buffer.concat([Buffer.from('FRAME\n'), luma, grey]);
  };
  const during = (shown: readonly string[], pictures: number) => Array.from({ length: pictures }, () => frame(shown));
  const frames = codes.flatMap((c) => [...during(c, 10), ...during([], 3)]);
  writeFileSync(file, Buffer.concat([Buffer.from(`YUV4MPEG2 W${width} H${height} F10:1 Ip A1:1 C420jpeg\n`), ...frames]));
}

/** A picture of what a page shows. */
async function pictured(name: string, html: string): Promise<string> {
  const page = await world.browser.newPage();
  await page.setViewport({ width: 1000, height: 700 });
  await page.setContent(`<body style="margin:60px;background:#f4f3ee;font:30px 'DejaVu Sans',sans-serif">${html}`);
  const file = join(folder, name);
  writeFileSync(file, await page.screenshot());
  await page.close();
  return file;
}

async function give(page: Page, key: string, file: string): Promise<void> {
  await see(page, key);
  const [chooser] = await Promise.all([page.waitForFileChooser(), tap(page, key)]);
  await chooser.accept([file]);
}

/** Pastes a picture, as from a clipboard. */
async function paste(page: Page, file: string): Promise<void> {
  await page.evaluate((base64) => {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
    const clipboardData = new DataTransfer();
    clipboardData.items.add(new File([bytes], 'label.png', { type: 'image/png' }));
    document.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  }, readFileSync(file).toString('base64'));
  await page.waitForFunction(() => /The reader starts|Reading \d/.test(document.body.innerText), { timeout: 15_000 });
}

/** A new pack of which nothing is known, its slip open. */
async function freshSlip(page: Page, tag: string): Promise<void> {
  await tap(page, 'tab-packs');
  await tap(page, 'add-pack');
  await type(page, 'pack-tag', tag);
  await tap(page, 'add-pack-now');
  await see(page, 'read-label');
}

test('a label from a picture: what adds up is kept with one tap, the rest one by one, and it works without the server', async () => {
  const [label, onItsSide] = (await Promise.all(
    [-4, 90].map((degrees) =>
      pictured(
        `label${degrees}.png`,
        `<div style="transform:rotate(${degrees}deg);margin:80px"><p>Rechargeable Li-ion battery<p>Rated voltage: 15.2 V<p>Rated capacity: 4471 mAh / 67.96 Wh<p>Limited charge voltage: 17.4 V<p>4ICP6/60/91</div>`,
      ),
    ),
  )) as [string, string];
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await freshSlip(page, 'R-1');
  await tap(page, 'read-label');
  await give(page, 'read-picture', label);
  await untilText(page, 'seen-nominalVoltage', /15\.2 V/);
  await untilText(page, 'seen-ratedCapacity', /4471 mAh/);
  // Nothing is kept by itself.
  expect(await textOf(page, 'seen-nominalVoltage')).not.toMatch(/on record/);
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-sure');
  await untilText(page, 'seen-nominalVoltage', /on record/);
  for (const field of ['ratedCapacity', 'ratedEnergy', 'limitedChargeVoltage'])
    if (await page.$(byId(`keep-${field}`))) await tap(page, `keep-${field}`);
  await untilText(page, 'seen-ratedCapacity', /on record/);
  await untilText(page, 'seen-ratedEnergy', /on record/);
  await tap(page, 'keep-picture');
  await page.waitForFunction(() => /The picture is kept\./.test(document.body.innerText));
  await world.stopServer();
  await paste(page, onItsSide);
  await untilText(page, 'seen-ratedEnergy', /67\.96 Wh/);
  // The piece it was read from stands upright all the same.
  const piece = await page.$eval(`${byId('seen-ratedEnergy')} img`, (e) => {
    const { naturalWidth, naturalHeight } = e as HTMLImageElement;
    return naturalWidth / naturalHeight;
  });
  expect(piece).toBeGreaterThan(1.5);
  await give(page, 'read-picture', __filename);
  await page.waitForFunction(() => /not a picture that can be read/.test(document.body.innerText), { timeout: 30_000 });
  await world.startServer();
  await tap(page, 'close-sheet');
  expect(await textOf(page, 'card-label')).toMatch(/15\.2 V[\s\S]*4471 mAh[\s\S]*67\.96 Wh[\s\S]*17\.4 V/);
  expect(await page.$$('[data-testid="card-pictures"] [aria-label="picture of the label"]')).toHaveLength(1);
  expect(noise.filter((n) => !/Failed to load resource|net::ERR/.test(n))).toEqual([]);
  await context.close();
});

test('a plate from a picture at intake: serial and model are offered with their piece, and kept only with the form', async () => {
  const plate = await pictured(
    'plate.png',
    '<p style="font-size:40px">Ternworks GmbH<p>Model: TW-1490<p>S/N: 7731-204518<p>19.5 V 3.34 A',
  );
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'start-job');
  await type(page, 'notebook-tag', 'N-PLATE');
  await tap(page, 'read-plate-picture');
  await give(page, 'read-picture', plate);
  await tap(page, 'take-serial-7731-204518');
  await tap(page, 'take-model-TW-1490');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'read-plate-picture');
  const value = (id: string) => page.$eval(byId(id), (e) => (e as HTMLInputElement).value);
  expect([await value('notebook-tag'), await value('model'), await value('serial')]).toEqual([
    'N-PLATE',
    'TW-1490',
    '7731-204518',
  ]);
  await tap(page, 'start-job-now');
  await untilText(page, 'card-notebook', /TW-1490 · 7731-204518/);
  expect(noise).toEqual([]);
  await context.close();
});

test('the report number of a test summary from a picture; what was ticked outlives Escape and a reload', async () => {
  const summary = await pictured(
    'summary.png',
    '<p style="font-size:34px">Lithium Battery Test Summary<p>Report No. QTL-26-40817<p>UN 38.3 T.1 to T.8 passed',
  );
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-138');
  await tap(page, 'pack-TH-138');
  await tap(page, 'summary');
  await tap(page, 'read-test-summary-picture');
  await give(page, 'read-picture', summary);
  await page.waitForSelector('[data-testid^="take-report-"][data-testid$="QTL-26-40817"]', { timeout: 60_000 });
  const id = await page.$eval(
    '[data-testid^="take-report-"][data-testid$="QTL-26-40817"]',
    (e) => (e as HTMLElement).dataset.testid!,
  );
  await tap(page, id);
  expect(await axe(page)).toEqual([]);
  const value = () => page.$eval(byId('summary-report'), (e) => (e as HTMLInputElement).value);
  expect(await value()).toMatch(/QTL-26-40817$/);
  const before = await value();
  await page.keyboard.press('Escape');
  await page.waitForFunction(() => !document.querySelector('[data-testid="summary-report"]'));
  await page.reload();
  await tap(page, 'summary');
  await see(page, 'summary-report');
  expect(await value()).toBe(before);
  expect(await textOf(page, 'keep-summary')).toMatch(/of 10/);
  expect(noise).toEqual([]);
  await context.close();
});

test('WebAssembly may run where labels are read, and in no page; what the reader needs is not part of the first load', async () => {
  const policyOf = async (path: string) => (await fetch(world.base + path)).headers.get('content-security-policy')!;
  expect(await policyOf('/reader/reader.js')).toMatch(/script-src 'self' 'wasm-unsafe-eval';/);
  expect(await policyOf('/')).not.toMatch(/wasm/);
  const kept = await (await fetch(`${world.base}/sw.js`)).text();
  expect(kept).not.toMatch(/"?url"?:\s*"reader\//);
  const first = [
    'reader.js',
    'tesseract-worker.js',
    'tesseract-core-simd-lstm.js',
    'tesseract-core-simd-lstm.wasm',
    'eng.traineddata.gz',
  ];
  let bytes = 0;
  for (const f of [...first, 'zxing_reader.wasm']) {
    const r = await fetch(`${world.base}/reader/${f}`, { headers: { 'accept-encoding': 'br' }, method: 'HEAD' });
    bytes += Number(r.headers.get('content-length'));
  }
  expect(bytes).toBeGreaterThan(3_000_000);
  expect(bytes).toBeLessThanOrEqual(6_000_000);
});

test('a tray of packs in one picture counts a place: ours are seen, strangers are named', async () => {
  const codes = await Promise.all(['TH-101', 'TH-102', 'FOREIGN-9'].map((t) => QRCode.toDataURL(t, { width: 220, margin: 4 })));
  const tray = await pictured('tray.png', codes.map((c) => `<img src="${c}" style="margin:20px">`).join(''));
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await page.waitForSelector('[data-testid^="place-"]', { visible: true });
  const place = await page.$eval('[data-testid^="place-"]', (e) => (e as HTMLElement).dataset.testid!);
  await tap(page, place);
  await tap(page, 'count-place');
  await give(page, 'codes-picture', tray);
  await untilText(page, 'codes-found', /3 codes in it/);
  await page.waitForFunction(() => /FOREIGN-9, not known here/.test(document.body.innerText), { timeout: 15_000 });
  await context.close();
});

test('the camera takes code after code, each once while it stays: a place is counted, a load is taken in, and nobody is filmed unasked', async () => {
  const film = join(folder, 'film.y4m');
  filmed(film, [['TH-101'], ['TH-102'], ['FOREIGN-9'], ['N-801', 'N-802']]);
  // The engine without a desktop's parts has no camera.
  const flags = ['--use-fake-device-for-media-stream', `--use-file-for-fake-video-capture=${film}`];
  const { browser, close } = await openBrowser(flags, { home: folder });
  const { page, context, noise } = await device({ ...world, browser }, PHONE);
  await signIn(page, 'technician-Wren');
  await tap(page, 'tab-yard');
  await page.waitForSelector('[data-testid^="place-"]', { visible: true });
  await tap(page, await page.$eval('[data-testid^="place-"]', (e) => (e as HTMLElement).dataset.testid!));
  await tap(page, 'count-place');
  await context.overridePermissions(world.base, []);
  await tap(page, 'camera-key');
  await untilText(page, 'camera-trouble', /not allowed for this page/);
  await tap(page, 'camera-key');
  await context.overridePermissions(world.base, ['camera']);
  await tap(page, 'camera-key');
  await see(page, 'camera-last');
  await page.waitForFunction(() => /FOREIGN-9, not known here/.test(document.body.innerText), { timeout: 30_000 });
  expect(await axe(page)).toEqual([]);
  const filming = () =>
    page.evaluate(() =>
      [...document.querySelectorAll('video')].flatMap((v) => (v.srcObject as MediaStream).getTracks()).map((t) => t.readyState),
    );
  expect(await filming()).toEqual(['live']);
  await tap(page, 'close-sheet');
  expect(await page.$('video')).toBeNull();
  await page.goto(`${world.base}/batch`);
  await tap(page, 'camera-key');
  await untilText(page, 'card-load', /3 taken in/);
  // The film goes round: what comes again is told, and not taken in twice.
  await see(page, 'load-twice');
  expect(await textOf(page, 'card-load')).toMatch(/3 taken in/);
  // Of two codes in one picture nobody knows which is the tag.
  await tap(page, 'several-N-802');
  await untilText(page, 'card-load', /4 taken in/);
  const closes = async (key: string) => {
    await page.evaluate(() => {
      const [track] = (document.querySelector('video')!.srcObject as MediaStream).getTracks();
      Object.assign(window, { track });
    });
    await tap(page, key);
    expect(await page.evaluate(() => (window as unknown as { track: MediaStreamTrack }).track.readyState)).toBe('ended');
  };
  await closes('camera-key');
  expect(await textOf(page, 'card-load')).not.toContain('N-801');
  await tap(page, 'camera-key');
  await page.waitForFunction(() => (document.querySelector('video')?.srcObject as MediaStream | null)?.active);
  await closes('tab-bench');
  expect(noise).toEqual([]);
  await close();
});

test('a discharge log: measured, kept once with its file, compared with another, and on the record after a reload', async () => {
  const csv = (name: string, amperes: number, from: string) => {
    const rows = Array.from({ length: 400 }, (_, i) => {
      const at = new Date(Date.parse(from) + i * 10_000).toISOString().slice(0, 19).replace('T', ' ');
      return `${at},${(12.5 - i * 0.006).toFixed(3)},${amperes}`;
    });
    writeFileSync(join(folder, name), ['time,voltage V,current A', ...rows].join('\n'));
    return join(folder, name);
  };
  const [old, fresh] = [csv('old.csv', 2, '2025-03-01T10:00:00Z'), csv('new.csv', 1.8, '2026-03-01T10:00:00Z')];
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'technician-Wren');
  await freshSlip(page, 'R-LOG');
  await give(page, 'open-log', old);
  await untilText(page, 'card-log', /charge\s+2\.\d+ to 2\.\d+ Ah/);
  await tap(page, 'keep-log');
  await untilText(page, 'log-kept', /On its record, with the file/);
  // Taken back, it is not there, and can be kept again.
  await tap(page, 'undo');
  await page.waitForFunction(() => !document.querySelector('[data-testid="log-kept"]'));
  await tap(page, 'keep-log');
  await untilText(page, 'log-kept', /On its record, with the file/);
  await give(page, 'open-log', old);
  await tap(page, 'keep-log');
  await untilText(page, 'log-kept', /on its record already/);
  await give(page, 'compare-log', fresh);
  await untilText(page, 'log-comparison', /charge\s+\d+ to \d+ % less/);
  await tap(page, 'keep-log');
  await untilText(page, 'log-kept', /On its record, with the file/);
  await page.waitForSelector('[aria-label^="charge by its logs: 1 Mar 2025"]');
  expect(await axe(page)).toEqual([]);
  // What can still be undone is not with the server yet.
  await new Promise((r) => setTimeout(r, 9000));
  await page.reload();
  const record = await untilText(page, 'log-record', /Ah.*Ah/s);
  // The newest first.
  expect(record.match(/\d\.\d+ to/g)!.map((x) => Number.parseFloat(x))).toEqual([
    expect.closeTo(1.97, 1),
    expect.closeTo(2.19, 1),
  ]);
  const sizes = await page.evaluate(async () => {
    const { last } = (await (await fetch('/api/entries?after=0&limit=1')).json()) as { last: number };
    const { entries } = (await (await fetch(`/api/entries?after=${last - 20}&limit=100`)).json()) as {
      entries: { kind: string; body: { file: { sha256: string; bytes: number } } }[];
    };
    const files = entries.filter((e) => e.kind === 'log-measured').map((e) => e.body.file);
    return Promise.all(
      files.map(async (f) => [f.bytes, (await (await fetch(`/api/blobs/${f.sha256}`)).arrayBuffer()).byteLength]),
    );
  });
  expect(sizes).toHaveLength(2);
  for (const [said, is] of sizes) expect(is).toBe(said);
  expect(noise).toEqual([]);
  await context.close();
});

test('a meter that talks: the lead connects it, the keypad reads it, a fault is told there, and a person keeps the number', async () => {
  const pack = simulate(randomOf(4));
  const meter = await standIn(
    STAND_INS.find((k) => k.name === 'meter')!,
    pack,
    0,
  );
  const { page, context } = await device(world, PHONE);
  await signIn(page, 'lead-Ines');
  await page.goto(`${world.base}/more/instruments`);
  await see(page, 'card-instruments');
  const name = await page.$eval('[data-testid^="connect-"]', (e) => (e as HTMLElement).dataset.testid!.slice('connect-'.length));
  await tap(page, `connect-${name}`);
  await type(page, 'instrument-host', '127.0.0.1');
  await type(page, 'instrument-port', String(meter.port));
  expect(await axe(page)).toEqual([]);
  await tap(page, 'keep-address');
  await untilText(page, 'card-instruments', /talks/);
  // What can still be undone is not with the server yet.
  await new Promise((r) => setTimeout(r, 9000));
  await tap(page, `instrument-${name}`);
  await tap(page, 'tab-packs');
  await page.waitForSelector('[data-testid="pack-TH-101"]', { visible: true });
  await tap(page, 'pack-TH-101');
  await tap(page, 'measure-volts');
  meter.set('overload');
  await tap(page, 'read-instrument');
  await untilText(page, 'read-trouble', /overload/);
  meter.set('none');
  await tap(page, 'read-instrument');
  const volts = pack.cells.reduce((a, b) => a + b, 0);
  await untilText(page, 'typed', new RegExp(`^${volts.toFixed(1).replace('.', '\\.').slice(0, -1)}`));
  expect(await axe(page)).toEqual([]);
  await meter.close();
  await context.close();
});

test('a load and a gauge reader: a discharge begun, seen and stopped, its log measured; what the gauge says is kept by a person', async () => {
  const pack = fullyCharged({ ...packWith([], randomOf(2)), ratedMah: 4400 });
  const [load, reader] = await Promise.all(
    ['load', 'gauge reader'].map((name) =>
      standIn(
        STAND_INS.find((k) => k.name === name)!,
        pack,
        0,
      ),
    ),
  );
  const { page, context, noise } = await device(world, PHONE);
  await signIn(page, 'lead-Ines');
  await page.goto(`${world.base}/more/instruments`);
  for (const [name, at] of [
    ['Load 1', load!],
    ['Gauge reader 1', reader!],
  ] as const) {
    await tap(page, `connect-${name}`);
    await type(page, 'instrument-port', String(at.port));
    await tap(page, 'keep-address');
  }
  // What can still be undone is not with the server yet.
  await new Promise((r) => setTimeout(r, 9000));
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-130');
  await tap(page, 'pack-TH-130');
  await tap(page, 'bench-test');
  await untilText(page, 'bench-begin', /Draw 0,?.?8\d A from TH-130/);
  await type(page, 'bench-amperes', '40');
  expect(await page.$eval(byId('bench-begin'), (e) => e.getAttribute('aria-disabled'))).toBe('true');
  await type(page, 'bench-amperes', '0,9');
  expect(await axe(page)).toEqual([]);
  await tap(page, 'bench-begin');
  await untilText(page, 'bench-live', /12\.\d\d V\s*0\.90 A/);
  expect(await axe(page)).toEqual([]);
  // Closed and opened again it is the same test; a reload takes nothing from it.
  await page.reload();
  await see(page, 'bench-test');
  await untilText(page, 'bench-test', /Watch the test/);
  await tap(page, 'bench-test');
  await untilText(page, 'bench-live', /0\.90 A/);
  await tap(page, 'bench-stop');
  await untilText(page, 'bench-end', /^Stopped by Ines/);
  await untilText(page, 'bench-live', /off/);
  // It is on record that its charge went down, and that somebody looks.
  await tap(page, 'bench-measure');
  await untilText(page, 'running', /Being brought down to 0 % on a load/);
  await untilText(page, 'card-log', /resistance\s+0\.\d+ to 0\.\d+ Ω/);
  await see(page, 'keep-log');
  await tap(page, 'measure-gauge');
  await tap(page, 'read-gauge');
  await see(page, 'keep-reported');
  expect(await axe(page)).toEqual([]);
  // It agrees with the label, and the charge read before the test says nothing against it any more.
  await tap(page, 'keep-reported');
  await untilText(page, 'card-history', /gauge: .*design 4400 mAh/);
  reader!.set('garbage');
  await tap(page, 'measure-gauge');
  await tap(page, 'read-gauge');
  await page.waitForFunction(() => /check byte wrong, left out: 0x03/.test(document.body.innerText));
  expect(await page.$(byId('keep-reported'))).toBeNull();
  expect(noise).toEqual([]);
  await Promise.all([load!.close(), reader!.close()]);
  await context.close();
});

test('a calliper on a cable of this device: chosen once, read after a reload, and a pulled cable is told', async () => {
  const { page, context } = await device(world, PHONE);
  // The browser here has no port: one that sends a line every 40 ms, and can be pulled.
  await page.evaluateOnNewDocument(() => {
    const state = { line: '5.12 mm', pulled: false, opened: [] as number[] };
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: null,
      getInfo: () => ({ usbVendorId: 7, usbProductId: 9 }),
      open: ({ baudRate }: { baudRate: number }) => {
        if (state.pulled) return Promise.reject(new Error('gone'));
        state.opened.push(baudRate);
        let timer: ReturnType<typeof setInterval>;
        port.readable = new ReadableStream({
          start: (c) => void (timer = setInterval(() => c.enqueue(new TextEncoder().encode(`${state.line}\r\n`)), 40)),
          cancel: () => clearInterval(timer),
        });
        return Promise.resolve();
      },
      close: () => Promise.resolve(),
    };
    const serial = { requestPort: () => Promise.resolve(port), getPorts: () => Promise.resolve([port]) };
    Object.defineProperty(navigator, 'serial', { value: serial });
    Object.assign(window, { bench: state });
  });
  await page.goto(world.base);
  await signIn(page, 'technician-Wren');
  const go = async () => {
    await page.goto(`${world.base}/more/instruments`);
    await see(page, 'card-instruments');
  };
  await go();
  const cables = await page.$$eval('[data-testid^="cable-"]', (all) => all.map((e) => (e as HTMLElement).dataset.testid!));
  const name = cables.map((c) => c.slice('cable-'.length)).find((n) => /calliper/i.test(n))!;
  await tap(page, `cable-${name}`);
  expect(await axe(page)).toEqual([]);
  await page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[role=radio]')].find((e) => e.textContent === '4800')!.click(),
  );
  await tap(page, 'choose-cable');
  await untilText(page, 'card-instruments', /on a cable here/);
  await tap(page, `instrument-${name}`);
  // A hand is slower than a reload: what was tapped is on the disk by then.
  await page.waitForFunction(
    () =>
      new Promise<boolean>((done) => {
        const open = indexedDB.open('gavrel');
        open.onsuccess = () => {
          const asked = open.result.transaction('meta').objectStore('meta').get('screen');
          asked.onsuccess = () => {
            open.result.close();
            done(Boolean((asked.result as { shift?: unknown } | undefined)?.shift));
          };
        };
      }),
  );
  await page.reload();
  await untilText(page, 'card-instruments', /on a cable here/);
  await tap(page, 'tab-packs');
  await type(page, 'search', 'TH-138');
  await tap(page, 'pack-TH-138');
  await tap(page, 'point-centre');
  await tap(page, 'read-instrument');
  await untilText(page, 'typed', /^5\.12/);
  const say = (to: object) => page.evaluate((t) => Object.assign((window as unknown as { bench: object }).bench, t), to);
  await say({ line: '0.201 V' });
  await tap(page, 'read-instrument');
  await untilText(page, 'read-trouble', /measures in V, not in mm or inch/);
  await say({ pulled: true });
  await tap(page, 'read-instrument');
  await untilText(page, 'read-trouble', /cannot be opened/);
  expect(await page.evaluate(() => (window as unknown as { bench: { opened: number[] } }).bench.opened)).toEqual([4800, 4800]);
  expect(await axe(page)).toEqual([]);
  await context.close();
});
