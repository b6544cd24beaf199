import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Mode, MODES, PLACEMENTS, PROVISIONS } from '@gavrel/core';
import { carryOf, type Mark, marksOf } from '@gavrel/core/dispatch';
import { marksPdf, type MarksPaper } from '../../apps/bench/src/paper/marks';
import { FACES } from './faces';

/** Sizes of marks and labels: ADR/RID 5.2.1.9 and 5.2.2.2.2, ICAO TI 5;2 and 5;3, 49 CFR 173.185 and 172.448; from memory. */

// Pictures of 600 dpi take their time.

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-marks-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const DPI = 600;
const px = (mm: number) => (mm * DPI) / 25.4;

interface Raster {
  readonly width: number;
  readonly height: number;
  /** Red, green and blue of a spot, from the upper left corner, mm. */
  at(xMm: number, yMm: number): readonly [number, number, number];
}

/** Pages as poppler draws them at 600 dpi (PPM, Netpbm P6). */
async function drawn(marks: readonly Mark[], sheet: MarksPaper['sheet']) {
  const paper: MarksPaper = { sheet, packages: [{ title: 'package 1 of 1', marks, from: ['Tern Harbour Repair'], to: [] }] };
  const file = join(folder, 'marks.pdf');
  writeFileSync(file, await marksPdf(paper, FACES));
  const info = execFileSync('pdfinfo', [file], { encoding: 'utf8' });
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  const count = Number(/Pages:\s+(\d+)/.exec(info)![1]);
  const pages = Array.from({ length: count }, (_, i): Raster => {
    const name = join(folder, 'page');
    execFileSync('pdftoppm', ['-r', String(DPI), '-f', String(i + 1), '-l', String(i + 1), '-singlefile', file, name]);
    const ppm = readFileSync(`${name}.ppm`);
    const head = /^P6\s+(\d+)\s+(\d+)\s+255\s/.exec(ppm.toString('latin1', 0, 40))!;
    const [width, height] = [Number(head[1]), Number(head[2])];
    return {
      width,
      height,
      at: (x, y) => {
        const from = head[0].length + (Math.floor(px(y)) * width + Math.floor(px(x))) * 3;
        return [ppm[from]!, ppm[from + 1]!, ppm[from + 2]!];
      },
    };
  });
  const [, w, h] = /Page size:\s+([\d.]+) x ([\d.]+) pts/.exec(info)!;
  return { pages, text, mm: [(Number(w) * 25.4) / 72, (Number(h) * 25.4) / 72] as const };
}

type Colour = 'white' | 'black' | 'red' | 'orange' | 'other';
function colour([r, g, b]: readonly [number, number, number]): Colour {
  if (r > 240 && g > 240 && b > 240) return 'white';
  if (r < 60 && g < 60 && b < 60) return 'black';
  if (r > 180 && g < 90 && b < 90) return 'red';
  return r > 220 && g > 110 && g < 180 && b < 90 ? 'orange' : 'other';
}

/** The box round every spot of a colour, mm: left, top, right, bottom; looked at every tenth of a millimetre. */
function extent(page: Raster, of: readonly Colour[], { from = 0, to = Infinity } = {}) {
  const [w, h] = [(page.width * 25.4) / DPI, (page.height * 25.4) / DPI];
  let [left, top, right, bottom] = [Infinity, Infinity, 0, 0];
  for (let y = from + 0.05; y < Math.min(h, to); y += 0.1)
    for (let x = 0.05; x < w; x += 0.1)
      if (of.includes(colour(page.at(x, y)))) {
        [left, right] = [Math.min(left, x), Math.max(right, x)];
        [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
      }
  return { left, top, right, bottom, width: right - left, height: bottom - top };
}

describe.each(['A4', 'roll'] as const)('on %s', (sheet) => {
  test('the battery mark is 100 x 100 mm, hatched 5 mm wide all round, with its number in letters of 12 mm or more', async () => {
    const { pages, text, mm } = await drawn([{ kind: 'battery', un: 'UN 3480' }], sheet);
    expect(mm.map(Math.round)).toEqual(sheet === 'A4' ? [210, 297] : [100, 150]);
    expect(text).toContain('UN 3480');
    const page = pages[pages.length - 1]!;
    const red = extent(page, ['red']);
    expect(red.width).toBeGreaterThan(99.5);
    expect(red.width).toBeLessThanOrEqual(100.2);
    expect(red.height).toBeGreaterThan(99.5);
    expect(red.height).toBeLessThanOrEqual(100.2);
    // Somewhere along each side red is seen 4.9 mm inside the edge, and nowhere 5.2 mm inside.
    const along = (inside: number) => {
      const seen = (x: number, y: number) => colour(page.at(x, y)) === 'red';
      const steps = Array.from({ length: 700 }, (_, i) => 15 + i / 10);
      return [
        steps.some((s) => seen(red.left + s, red.top + inside)),
        steps.some((s) => seen(red.left + s, red.bottom - inside)),
        steps.some((s) => seen(red.left + inside, red.top + s)),
        steps.some((s) => seen(red.right - inside, red.top + s)),
      ];
    };
    expect(along(4.8)).toEqual([true, true, true, true]);
    expect(along(5.3)).toEqual([false, false, false, false]);
    // The lowest black inside the hatching is the number.
    const number = extent(page, ['black'], { from: red.bottom - 40, to: red.bottom - 6 });
    expect(number.height).toBeGreaterThanOrEqual(12);
    expect(number.height).toBeLessThan(15);
  });

  test('the class 9A label has sides of 100 mm, its number and name beside it', async () => {
    const { pages, text } = await drawn(
      [{ kind: 'class 9A', goods: ['UN 3480 LITHIUM ION BATTERIES', 'UN 3090 LITHIUM METAL BATTERIES'] }],
      sheet,
    );
    expect(text).toMatch(/UN 3480 LITHIUM ION BATTERIES\s+UN 3090 LITHIUM METAL BATTERIES/);
    const page = pages[pages.length - 1]!;
    const black = sheet === 'A4' ? extent(page, ['black'], { from: 29, to: 175 }) : extent(page, ['black'], { from: 40 });
    // On its point it is as wide as a square's diagonal; on the roll its sides run along the label.
    const across = sheet === 'A4' ? 100 * Math.SQRT2 : 100;
    expect(Math.abs(black.width - across)).toBeLessThan(0.5);
    expect(Math.abs(black.height - across)).toBeLessThan(0.5);
  });

  test('words are in letters of 12 mm, and all of them are there', async () => {
    const words = 'DAMAGED/DEFECTIVE LITHIUM-ION BATTERIES';
    const { pages, text } = await drawn([{ kind: 'words', words, letterMm: 12 }], sheet);
    if (sheet === 'A4') {
      for (const w of words.split(/[ /]/)) expect(text).toContain(w);
      // The strokes of one line: a row of letters without their round overshoot.
      const first = extent(pages[0]!, ['black'], { from: 27, to: 27 + 17 });
      expect(first.height).toBeGreaterThanOrEqual(11.9);
    }
    // Nothing runs off the page.
    const all = extent(pages[pages.length - 1]!, ['black', 'other']);
    expect(all.left).toBeGreaterThan(2);
    expect(all.right).toBeLessThan((pages[0]!.width * 25.4) / DPI - 2);
  });
});

test('the cargo-aircraft label is 120 x 110 mm; a roll that is narrower says so', async () => {
  const { pages } = await drawn([{ kind: 'cargo aircraft' }], 'A4');
  const label = extent(pages[0]!, ['orange', 'black'], { from: 26, to: 145 });
  expect(label.height).toBeGreaterThanOrEqual(109.5);
  const orange = extent(pages[0]!, ['orange']);
  expect(Math.abs(orange.width - 118)).toBeLessThan(0.5);
  expect(Math.abs(orange.height - 108)).toBeLessThan(0.5);
  expect((await drawn([{ kind: 'cargo aircraft' }], 'roll')).text).toMatch(/PRINT IT ON\s+A\s+SHEET/);
});

test('a sheet has a line of 100 mm to check the printer by', async () => {
  const { pages } = await drawn([], 'A4');
  const line = extent(pages[0]!, ['black'], { from: 288.4, to: 289.4 });
  expect(Math.abs(line.width - 100)).toBeLessThan(0.2);
});

test('whatever a provision asks to be put on a package is drawn', () => {
  for (const provision of PROVISIONS)
    for (const mode of MODES as readonly Mode[])
      for (const placement of PLACEMENTS) {
        const carry = carryOf({ provision, batteryMark: true, rules: ['us.c'], un: 'UN 3480' }, { mode, placement });
        for (const line of carry?.marks ?? [])
          expect(marksOf({ marks: [line] }, ['UN 3480'], 6, false).length).toBeGreaterThan(0);
      }
});
