import type { Mark } from '@gavrel/core/dispatch';
import fontkit from '@pdf-lib/fontkit';
import { PDFDocument, type PDFFont } from 'pdf-lib';
import { type Faces, wrapped } from './draw';
import {
  batteryMark,
  cargoAircraft,
  classNine,
  fill,
  INK,
  linesOf,
  MM,
  PAPER,
  type Pen,
  SIDE,
  textMark,
  widthOf,
  within,
} from './mark-shapes';

/** Marks of the packages of a consignment. */
export interface MarksPaper {
  /** An A4 page for each package, or a label of 100 x 150 mm for each mark. */
  readonly sheet: 'A4' | 'roll';
  readonly packages: readonly {
    /** "Package 1 of 3". */
    readonly title: string;
    readonly marks: readonly Mark[];
    readonly from: readonly string[];
    readonly to: readonly string[];
  }[];
  readonly band?: string | undefined;
}

/** A line of 100 mm with a tick at each end: whoever prints checks it with a rule. */
function checkLine(pen: Pen, x: number, y: number): void {
  fill(pen, [
    [x, y],
    [x + 100, y],
    [x + 100, y + 0.3],
    [x, y + 0.3],
  ]);
  for (const at of [x, x + 99.7])
    fill(pen, [
      [at, y - 2],
      [at + 0.3, y - 2],
      [at + 0.3, y + 2],
      [at, y + 2],
    ]);
  pen.page.drawText('This line is 100 mm: print at 100 %, not fitted to the page.', {
    x: (x + 4) * MM,
    y: (y + 1.6) * MM,
    size: 8,
    font: pen.words,
    color: INK,
  });
}

interface Made {
  readonly doc: PDFDocument;
  readonly words: PDFFont;
  readonly bold: PDFFont;
  readonly capital: number;
}

function band(pen: Pen, words: string | undefined, width: number, height: number): number {
  if (words === undefined) return 0;
  const lines = wrapped(words, pen.bold, 9, (width - 8) * MM);
  const tall = lines.length * 4.2 + 2;
  fill(pen, [
    [0, height - tall],
    [width, height - tall],
    [width, height],
    [0, height],
  ]);
  lines.forEach((line, i) =>
    pen.page.drawText(line, { x: 4 * MM, y: (height - 4 - i * 4.2) * MM, size: 9, font: pen.bold, color: PAPER }),
  );
  return tall;
}

function address(pen: Pen, p: MarksPaper['packages'][number], x: number, top: number, width: number): number {
  let y = top;
  for (const [head, lines] of [
    ['from', p.from],
    ['to', p.to],
  ] as const) {
    if (lines.length === 0) continue;
    y -= 4;
    pen.page.drawText(head, { x: x * MM, y: y * MM, size: 8, font: pen.words, color: INK });
    for (const line of lines.flatMap((l) => wrapped(l, pen.bold, head === 'to' ? 14 : 9, width * MM))) {
      y -= head === 'to' ? 6 : 4;
      pen.page.drawText(line, { x: x * MM, y: y * MM, size: head === 'to' ? 14 : 9, font: pen.bold, color: INK });
    }
    y -= 2;
  }
  return top - y;
}

const goodsLines = (made: Made, goods: readonly string[]): string[] => goods.flatMap((g) => wrapped(g, made.bold, 11, 180 * MM));

/** What a mark takes of a sheet's height, mm. */
function tallOf(made: Made, m: Mark): number {
  switch (m.kind) {
    case 'battery':
      return 104;
    case 'class 9A':
      return 148 + 5 * goodsLines(made, m.goods).length;
    case 'cargo aircraft':
      return 114;
    case 'words':
      return linesOf(made, m.words, m.letterMm, 182).length * m.letterMm * 1.5 + 6;
  }
}

/** A sheet for each package, as many pages as its marks need. */
function onSheets(made: Made, paper: MarksPaper): void {
  const [w, h] = [210, 297];
  for (const p of paper.packages) {
    const fresh = (): { pen: Pen; y: number } => {
      const pen = { ...made, page: made.doc.addPage([w * MM, h * MM]) };
      const top = h - band(pen, paper.band, w, h) - 8;
      checkLine(pen, 55, 8);
      pen.page.drawText(p.title, { x: 14 * MM, y: (top - 4) * MM, size: 12, font: made.bold, color: INK });
      return { pen, y: top - 10 };
    };
    let { pen, y } = fresh();
    y -= address(pen, p, 14, y, 180) + 4;
    for (const m of p.marks) {
      const needs = tallOf(made, m);
      if (y - needs < 16) ({ pen, y } = fresh());
      switch (m.kind) {
        case 'battery':
          batteryMark(pen, m.un, 55, y - 100);
          break;
        case 'class 9A': {
          const half = SIDE / Math.SQRT2;
          classNine(pen, 105, y - half, 0);
          pen.page.drawText(goodsLines(made, m.goods).join('\n'), {
            x: 14 * MM,
            y: (y - half * 2 - 6) * MM,
            size: 11,
            lineHeight: 13,
            font: made.bold,
            color: INK,
          });
          break;
        }
        case 'cargo aircraft':
          cargoAircraft(pen, 45, y - 110);
          break;
        case 'words':
          textMark(pen, m.words, m.letterMm, 14, y, 182);
      }
      y -= needs;
    }
  }
}

/** A label for each mark and each address. */
function onRoll(made: Made, paper: MarksPaper): void {
  const [w, h] = [100, 150];
  for (const p of paper.packages) {
    const fresh = (): { pen: Pen; top: number } => {
      const pen = { ...made, page: made.doc.addPage([w * MM, h * MM]) };
      const top = h - band(pen, paper.band, w, h) - 4;
      pen.page.drawText(p.title, { x: 4 * MM, y: (top - 3) * MM, size: 9, font: made.bold, color: INK });
      return { pen, top: top - 6 };
    };
    if (p.to.length > 0 || p.from.length > 0) {
      const { pen, top } = fresh();
      address(pen, p, 4, top, 92);
    }
    for (const m of p.marks) {
      const { pen, top } = fresh();
      switch (m.kind) {
        case 'battery':
          batteryMark(pen, m.un, 0, 4);
          break;
        case 'class 9A':
          // Its sides run along the label: cut out, it is put on standing on its point.
          classNine(pen, 50, 54, Math.PI / 4);
          pen.page.drawText(m.goods.flatMap((g) => wrapped(g, made.bold, 9, 92 * MM)).join('\n'), {
            x: 4 * MM,
            y: (top - 6) * MM,
            size: 9,
            lineHeight: 11,
            font: made.bold,
            color: INK,
          });
          break;
        case 'cargo aircraft':
          // 120 x 110 mm is wider than this roll.
          textMark(pen, 'CARGO AIRCRAFT LABEL: PRINT IT ON A SHEET', 6, 4, top, 92);
          break;
        case 'words':
          // The longest word sets how high letters can be; where they are too wide for the roll they run along it.
          if (linesOf(pen, m.words, m.letterMm, 92).every((x) => widthOf(pen, x, m.letterMm) <= 92))
            textMark(pen, m.words, m.letterMm, 4, top, 92);
          else within(pen, 96, 4, Math.PI / 2, () => textMark(pen, m.words, m.letterMm, 0, 92, top - 8));
      }
    }
  }
}

/** Marks, labels and addresses at true size. */
export async function marksPdf(paper: MarksPaper, faces: Faces): Promise<Uint8Array> {
  const doc = await PDFDocument.create();
  doc.registerFontkit(fontkit);
  doc.setTitle('marks');
  doc.setCreator('Gavrel');
  const { capHeight, unitsPerEm } = fontkit.create(faces.bold) as unknown as { capHeight: number; unitsPerEm: number };
  const made: Made = {
    doc,
    words: await doc.embedFont(faces.words, { subset: true }),
    bold: await doc.embedFont(faces.bold, { subset: true }),
    capital: capHeight / unitsPerEm,
  };
  if (paper.sheet === 'A4') onSheets(made, paper);
  else onRoll(made, paper);
  return doc.save();
}
