import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEFAULT_POLICY, matrix, type PlaceFacts, SHIPPING, type ShippingFacts, type Stored } from '@gavrel/core';
import { yardOf } from '@gavrel/core/place';
import { parse } from 'csv-parse/sync';
import jsQR from 'jsqr';
import QRCode from 'qrcode';
import { blanksPdf, placePdf, reportPdf, tagPdf, type TagPaper, wrapped } from '../../apps/bench/src/paper/draw';
import {
  drumWords,
  manifestCsv,
  type ManifestLine,
  manifestPaper,
  requestPaper,
} from '../../apps/bench/src/features/yard/drum-paper';
import { firePaper } from '../../apps/bench/src/features/yard/fire-paper';
import { stepsPaper } from '../../apps/bench/src/routes/steps-paper';
import { FACES } from './faces';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'gavrel-paper-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** What poppler reads off the pages, and draws of them. */
function opened(pdf: Uint8Array, name: string) {
  const file = join(folder, `${name}.pdf`);
  writeFileSync(file, pdf);
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  execFileSync('pdftoppm', ['-r', '200', file, join(folder, name)]);
  const pages = readdirSync(folder)
    .filter((f) => f.startsWith(`${name}-`) && f.endsWith('.ppm'))
    .sort()
    .map((f) => readFileSync(join(folder, f)));
  return { text, pages };
}

/** A binary PPM as RGBA, or a part of it. Source of the format: Netpbm, P6. */
function rgba(ppm: Buffer, part = { x: 0, y: 0, w: 1, h: 1 }) {
  const head = /^P6\s+(\d+)\s+(\d+)\s+255\s/.exec(ppm.toString('latin1', 0, 40))!;
  const [width, height] = [Number(head[1]), Number(head[2])];
  const [x0, y0] = [Math.floor(part.x * width), Math.floor(part.y * height)];
  const [w, h] = [Math.floor(part.w * width), Math.floor(part.h * height)];
  const data = new Uint8ClampedArray(w * h * 4);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const from = head[0].length + ((y0 + y) * width + x0 + x) * 3;
      const to = (y * w + x) * 4;
      data[to] = ppm[from]!;
      data[to + 1] = ppm[from + 1]!;
      data[to + 2] = ppm[from + 2]!;
      data[to + 3] = 255;
    }
  return { data, w, h };
}
const decoded = (ppm: Buffer, part?: Parameters<typeof rgba>[1]) => {
  const { data, w, h } = rgba(ppm, part);
  return jsQR(data, w, h)?.data;
};

const TAG: TagPaper = {
  tag: 'TH-164',
  condition: 'critical',
  order: 'keep away: a trained person isolates it outdoors',
  date: '2026-11-25',
  finding: 'electrolyte running out',
  nextLook: '2026-11-25',
  place: 'Yard, steel bin',
};

describe('the tag on paper', () => {
  test.each(['sound', 'spent', 'unproven', 'damaged', 'critical'] as const)(
    '%s: read by another program, its QR code by another decoder',
    async (condition) => {
      const { text, pages } = opened(await tagPdf({ ...TAG, condition }, FACES), condition);
      for (const word of [condition, 'TH-164', '2026-11-25', ...TAG.finding.split(' '), 'Yard, steel bin'])
        expect(text).toContain(word);
      expect(pages).toHaveLength(1);
      expect(decoded(pages[0]!)).toBe('TH-164');
    },
  );
  test('the five shapes are five different drawings', async () => {
    const box = { x: 4 / 62, y: 4 / 100, w: 15 / 62, h: 15 / 100 };
    const all = await Promise.all(
      (['sound', 'spent', 'unproven', 'damaged', 'critical'] as const).map(async (condition) => {
        const { pages } = opened(await tagPdf({ ...TAG, condition }, FACES), `shape-${condition}`);
        return Buffer.from(rgba(pages[0]!, box).data).toString('base64');
      }),
    );
    expect(new Set(all).size).toBe(5);
  });
});

test('blank slips: eight a page, each number once as words and as a QR code', async () => {
  const numbers = Array.from({ length: 10 }, (_, i) => `S261125-0805-${String(i + 1).padStart(2, '0')}`);
  const { text, pages } = opened(await blanksPdf(numbers, FACES), 'blanks');
  expect(pages).toHaveLength(2);
  for (const n of numbers) expect(text.split(n)).toHaveLength(2);
  const slips = [0, 1, 2, 3, 4, 5, 6, 7].map((i) =>
    decoded(pages[0]!, { x: (i % 2) / 2, y: Math.floor(i / 2) / 4, w: 0.5, h: 0.25 }),
  );
  expect(slips).toEqual(numbers.slice(0, 8));
});

test('the owner’s page: every line is there, long ones are broken, and it says what it does not say', async () => {
  const long = 'The old pack is damaged and must not be charged or used. '.repeat(4).trim();
  const paper = {
    workshop: 'Tern Harbour Repair',
    title: 'Mereline Gannet 14 N-240',
    owner: 'Bo',
    date: '2026-11-25',
    sections: [
      { title: 'What was found', lines: [long] },
      { title: 'What was done', lines: [] },
    ],
    foot: 'It does not state that a pack is safe.',
  };
  const { text, pages } = opened(await reportPdf(paper, FACES), 'report');
  expect(pages).toHaveLength(1);
  expect(text.replace(/\s+/g, ' ')).toContain(long);
  expect(text).toContain('does not state that a pack is safe');
  expect(text).not.toContain('What was done');
  const lines = Array.from({ length: 70 }, (_, i) => `finding number ${i}`);
  const more = opened(await reportPdf({ ...paper, sections: [{ title: 'What was found', lines }] }, FACES), 'long');
  expect(more.pages).toHaveLength(2);
  for (const line of lines) expect(more.text).toContain(line);
});

test('pictures stand on the paper as they were taken; one that is not to be had, or is none, says so', async () => {
  const image = new Uint8Array(await QRCode.toBuffer('TAKEN-AT-THE-BENCH', { width: 600 }));
  const section = (bytes: Uint8Array | null, words: string) => ({
    ...{ title: 'TH-1', lines: ['a line'] },
    pictures: [{ words, type: 'image/png' as const, bytes }],
  });
  const said = { workshop: 'Tern Harbour Repair', title: 'Evidence', owner: '', date: '2026-11-27', foot: '' };
  const broken = new Uint8Array([1, 2, 3]);
  const sections = [section(image, 'pack'), section(null, 'box'), section(broken, 'seal'), section(image, 'last')];
  const { text, pages } = opened(await reportPdf({ ...said, sections }, FACES), 'evidence');
  expect(decoded(pages[0]!)).toBe('TAKEN-AT-THE-BENCH');
  expect(text).toMatch(/box: not to be had here/);
  expect(text).toMatch(/seal: not to be had here/);
  expect(text.match(/(pack|last)\n/g)).toHaveLength(2);
});

test('the steps of a dispatch are a draft on every page until their rules were compared; then they carry no band', async () => {
  const swollen: ShippingFacts = { chemistry: 'li-ion', findings: ['swollen'], purpose: 'use', mass: 0.3, package: { packs: 1 } };
  const smoking: ShippingFacts = { ...swollen, findings: ['smoke'] };
  const road = (shipping: ShippingFacts) => matrix(shipping, '2026-11-24').find((c) => c.mode === 'road')!;
  const answered = [
    ...Array.from({ length: 300 }, (_, i) => ({ tag: `TH-${i + 1}`, cell: road(swollen) })),
    { tag: 'TH-900', cell: road(smoking) },
  ];
  const on = '2026-11-24';
  const paper = stepsPaper('loose, road', answered, on, DEFAULT_POLICY, 'Tern Harbour Repair');
  const draft = opened(await reportPdf(paper, FACES), 'draft');
  expect(draft.pages.length).toBeGreaterThan(1);
  expect(draft.text.match(/Draft, from memory: check ADR\/RID 2025/g)).toHaveLength(draft.pages.length);
  const words = draft.text.replace(/\s+/g, ' ');
  expect(words).toContain('Stay here TH-900');
  for (const w of ['UN 3480, SP 376, P908', '300 packs', 'Who: people trained under ADR', 'mark DAMAGED/DEFECTIVE'])
    expect(words).toContain(w);
  const rules = [...new Set(answered.flatMap((a) => a.cell.result.rules))];
  const checked = Object.fromEntries(
    rules.map((rule) => [rule, { rule, edition: SHIPPING.shown(rule, on).edition ?? 'printed', on }]),
  );
  const clean = opened(await reportPdf(stepsPaper('loose, road', answered, on, { checked }, ''), FACES), 'compared');
  expect(clean.text).not.toContain('Draft');
  expect(clean.text.replace(/\s+/g, ' ')).toContain('compared with ADR/RID 2025');
});

test('the card of a place: its name, what may lie there, its code', async () => {
  const paper = { name: 'Quarantine box A', kind: 'quarantine', holds: ['damaged', 'unproven'] as const };
  const { text, pages } = opened(await placePdf(paper, FACES), 'place');
  for (const w of ['Quarantine box A', 'damaged', 'unproven', 'leave, alarm, call']) expect(text).toContain(w);
  expect(text).not.toContain('sound');
  expect(decoded(pages[0]!)).toBe('Quarantine box A');
});

test('the sheet for the fire service: who to call, and what lies where, the most dangerous first', async () => {
  const site = { emergencyNumber: '112', assemblyPoint: 'slipway', callFirst: 'inner line 21' };
  const place: PlaceFacts = {
    id: 'q',
    name: 'Quarantine box A',
    kind: 'quarantine',
    holds: ['damaged'],
    room: 'Shed',
    fill: 'sand',
    near: { burns: 3.4 },
    dues: [],
    closed: null,
    looks: [],
    answered: [],
    counted: null,
    collections: [],
    lastAt: '2026-11-25T08:00:00.000Z',
  };
  const pack = (tag: string, condition: Stored['condition'], wattHours: number | null): Stored => ({
    id: tag,
    tag,
    condition,
    kind: condition === 'critical' ? 'unstable' : null,
    place: 'q',
    placedAs: condition,
    placedAt: null,
    despite: null,
    wattHours,
    kg: 0.3,
    litres: 0.2,
  });
  const yard = yardOf([place], [pack('a', 'damaged', 50), pack('b', 'critical', 57), pack('c', 'damaged', null)]);
  const { text } = opened(
    await reportPdf(
      firePaper(yard, ['Smoke in Shed box'], '2 packs, 99 Wh', site, 'Tern Harbour Repair', 'Wed 25 Nov 2026'),
      FACES,
    ),
    'fire',
  );
  const words = text.replace(/\s+/g, ' ');
  for (const w of [
    'Emergency: 112',
    'Smoke in Shed box',
    'Shed: 107 Wh and 1 unknown',
    '1 critical, 2 damaged',
    'in sand, 3.4 m to what burns',
    '3 packs',
    'In machines and in hand 2 packs, 99 Wh',
  ])
    expect(words).toContain(w);
});

test('the manifest of a drum, on paper and as CSV: every pack once, what was not weighed says so', async () => {
  const line = { id: 'x', code: 'MG14-B50', chemistry: 'li-ion', wattHours: '50', condition: 'spent', since: '2026-11-20' };
  const lines: ManifestLine[] = [
    { ...line, tag: 'TH-101', kg: '0.268' },
    { ...line, tag: '=1+1', kg: 'not weighed', chemistry: 'not known' },
  ];
  const paper = manifestPaper(
    'Recycling drum 3',
    'Tern Harbour Repair',
    '2026-11-25',
    'Skerry Metals',
    lines,
    drumWords('us', '2026-11-25', null),
  );
  const words = opened(await reportPdf(paper, FACES), 'manifest').text.replace(/\s+/g, ' ');
  for (const w of [
    'TH-101, MG14-B50, li-ion, 50 Wh, 0.268 kg',
    'not weighed',
    'Universal Waste',
    'Draft, from memory',
    'Skerry Metals',
  ])
    expect(words).toContain(w);
  const asked = requestPaper('Recycling drum 3', 'Tern Harbour Repair', '2026-11-25', '2026-12-17', lines, []);
  const request = opened(await reportPdf(asked, FACES), 'request').text.replace(/\s+/g, ' ');
  for (const w of ['2 battery packs, 0.3 kg of 1 weighed', 'li-ion, not known', 'It must leave by 2026-12-17'])
    expect(request).toContain(w);
  const read = parse(manifestCsv(lines), { columns: true }) as Record<string, string>[];
  expect(read.map((r) => [r.tag, r.kg])).toEqual([
    ['TH-101', '0.268'],
    ["'=1+1", 'not weighed'],
  ]);
});

test('lines break at words, and a word that is too long stands alone', () => {
  const font = { widthOfTextAtSize: (t: string) => t.length };
  expect(wrapped('one two three', font, 1, 7)).toEqual(['one two', 'three']);
  expect(wrapped('a incomprehensible b', font, 1, 5)).toEqual(['a', 'incomprehensible', 'b']);
});
