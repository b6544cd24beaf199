import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { toBuffer } from 'bwip-js/node';
import { openBrowser } from '../../tools/browser';
import { drawLabels, type PrintedLabel } from './labels';

jest.setTimeout(600_000);

interface Told {
  readonly file: string;
  readonly error?: string;
  readonly figures: readonly {
    readonly field: string;
    readonly digits?: string;
    readonly sure: boolean;
    readonly box: readonly number[];
  }[];
  readonly codes: readonly { readonly format: string; readonly text: string }[];
  readonly ms: number;
}

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-labels-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const run = (files: readonly string[]) => spawnSync('./gavrel', ['read-label', ...files], { encoding: 'utf8', maxBuffer: 1e8 });
const read = (files: readonly string[]): Map<string, Told> =>
  new Map(
    run(files)
      .stdout.trim()
      .split('\n')
      .map((l) => JSON.parse(l) as Told)
      .map((t) => [t.file, t]),
  );

/** Figures that Debian's own program (tesseract-ocr) has in its text, as words of their own. */
function peer({ file, figures }: PrintedLabel): number {
  const text = execFileSync('tesseract', [file, '-', '--psm', '3'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
    // Its threads wait for each other on few cores.
    env: { ...process.env, OMP_THREAD_LIMIT: '1' },
  }).replace(/,/g, '.');
  return Object.values(figures).filter((d) => new RegExp(`(?<![\\d.])${d.replace('.', '\\.')}(?![\\d.])`).test(text)).length;
}

test('labels in several fonts, turned, blurred, grainy, glaring, dark and askew: read right, and nothing wrong is sure', async () => {
  const { browser, close } = await openBrowser();
  const labels = await drawLabels(await browser.newPage(), folder, 40);
  await close();
  const told = read(labels.map((l) => l.file));
  let [right, all, sure, theirs] = [0, 0, 0, 0];
  const wrong: string[] = [];
  for (const l of labels) {
    const t = told.get(basename(l.file))!;
    theirs += peer(l);
    for (const [field, digits] of Object.entries(l.figures)) {
      all += 1;
      const found = t.figures.find((f) => f.field === field);
      if (found?.digits === digits) right += 1;
      else wrong.push(`${l.spoiled}: ${field} ${digits}, read ${found?.digits ?? 'nothing'}`);
      if (found?.sure) {
        sure += 1;
        expect([field, found.digits]).toEqual([field, digits]);
        const [x, y, w, h] = found.box as [number, number, number, number];
        expect(x >= 0 && y >= 0 && x + w <= 1200 && y + h <= 800).toBe(true);
      }
    }
  }
  const ms = [...told.values()].map((t) => t.ms).sort((a, b) => a - b);
  process.stdout.write(
    `labels: ${right} of ${all} figures right, ${sure} of them sure; Debian's program on the same pictures ${theirs}; ${ms[ms.length >> 1]} ms in the middle\n${wrong.map((w) => `        ${w}\n`).join('')}`,
  );
  expect(right / all).toBeGreaterThanOrEqual(0.95);
  expect(right).toBeGreaterThanOrEqual(theirs);
  expect(sure / all).toBeGreaterThan(0.2);
});

test('codes drawn by one library are read by another: several kinds in one picture', async () => {
  const kinds = [
    ['qrcode', 'TH-171', 'QRCode'],
    ['datamatrix', 'SN 0042-77', 'DataMatrix'],
    ['code128', 'AK-L96E', 'Code128'],
    ['code39', 'TN-S14C', 'Code39'],
    ['ean13', '4006381333931', 'EAN13'],
  ] as const;
  const files = await Promise.all(
    kinds.map(async ([bcid, text]) => {
      const file = join(folder, `${bcid}.png`);
      writeFileSync(file, await toBuffer({ bcid, text, scale: 4, padding: 20, backgroundcolor: 'FFFFFF' }));
      return file;
    }),
  );
  const told = read(files);
  expect(kinds.map(([bcid]) => told.get(`${bcid}.png`)!.codes)).toEqual(kinds.map(([, text, format]) => [{ format, text }]));
});

test('what is no picture says so in its line, and the others are read', () => {
  const [text, empty] = ['notes.txt', 'empty.png'].map((n) => join(folder, n)) as [string, string];
  writeFileSync(text, 'no picture');
  writeFileSync(empty, '');
  const r = run([text, empty, join(folder, 'gone.png')]);
  expect(r.status).toBe(1);
  const lines = r.stdout
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Told);
  expect(lines.map((l) => l.error !== undefined)).toEqual([true, true, true]);
  expect(r.stderr).toMatch(/3 of 3 pictures could not be read/);
});
