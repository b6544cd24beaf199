import type { Mark } from '@gavrel/core/dispatch';
import fontkit from '@pdf-lib/fontkit';
import {
  clipEvenOdd,
  closePath,
  concatTransformationMatrix,
  endPath,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFFont,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rgb,
} from 'pdf-lib';
import { type Faces, wrapped } from './draw';

const MM = 72 / 25.4;
const INK = rgb(0, 0, 0);
const PAPER = rgb(1, 1, 1);
const RED = rgb(0.86, 0.05, 0.09);
const ORANGE = rgb(1, 0.55, 0.1);

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

interface Pen {
  readonly page: PDFPage;
  readonly words: PDFFont;
  readonly bold: PDFFont;
  /** Height of a capital letter of the bold face, as a part of its size. */
  readonly capital: number;
}

type Point = readonly [number, number];

/** A filled shape in mm, y upwards. */
function fill({ page }: Pen, points: readonly Point[], color = INK): void {
  const path = points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x * MM} ${-y * MM}`).join(' ');
  page.drawSvgPath(`${path} Z`, { x: 0, y: 0, color });
}

/** Words in capitals of a height in mm, their left edge and foot at x, y in mm. */
function letters(pen: Pen, words: string, x: number, y: number, height: number, font = pen.bold): void {
  pen.page.drawText(words, { x: x * MM, y: y * MM, size: (height * MM) / pen.capital, font, color: INK });
}
const widthOf = (pen: Pen, words: string, height: number): number =>
  pen.bold.widthOfTextAtSize(words, (height * MM) / pen.capital) / MM;

/** Draws in a frame of its own: moved by mm and turned. */
function within({ page }: Pen, x: number, y: number, turn: number, draw: () => void): void {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  page.pushOperators(pushGraphicsState(), concatTransformationMatrix(c, s, -s, c, x * MM, y * MM));
  draw();
  page.pushOperators(popGraphicsState());
}

/** Four cells side by side, one of them broken, with a flame on it: our own drawing of what the mark asks for. Width 44, height 26 mm. */
function cells(pen: Pen, x: number, y: number): void {
  const cell = (at: number, height = 16) => {
    fill(pen, [
      [at, y],
      [at + 8, y],
      [at + 8, y + height],
      [at, y + height],
    ]);
    fill(pen, [
      [at + 2.6, y + height],
      [at + 5.4, y + height],
      [at + 5.4, y + height + 2],
      [at + 2.6, y + height + 2],
    ]);
  };
  cell(x);
  cell(x + 10);
  cell(x + 36);
  // The broken one: its top is torn open.
  fill(pen, [
    [x + 23, y],
    [x + 33, y],
    [x + 33, y + 11],
    [x + 30.5, y + 8],
    [x + 28.5, y + 12],
    [x + 26, y + 8.5],
    [x + 23, y + 12],
  ]);
  fill(pen, [
    [x + 24.5, y + 14],
    [x + 23.5, y + 18],
    [x + 25.6, y + 21.5],
    [x + 26.2, y + 19],
    [x + 28, y + 26],
    [x + 30, y + 21],
    [x + 31, y + 22.5],
    [x + 32.4, y + 17.5],
    [x + 31.4, y + 14],
    [x + 29.6, y + 17],
    [x + 28, y + 13.6],
    [x + 26.4, y + 16.4],
  ]);
}

const SIDE = 100;
/** Width of the hatching, mm. */
const HATCH = 5;

/** The battery mark, 100 x 100 mm, lower left corner at x, y. */
function batteryMark(pen: Pen, un: string, x: number, y: number): void {
  const { page } = pen;
  const [a, b] = [HATCH * MM, (SIDE - HATCH) * MM];
  within(pen, x, y, 0, () => {
    fill(
      pen,
      [
        [0, 0],
        [SIDE, 0],
        [SIDE, SIDE],
        [0, SIDE],
      ],
      PAPER,
    );
    // Only the frame between two squares is hatched.
    page.pushOperators(
      pushGraphicsState(),
      moveTo(0, 0),
      lineTo(SIDE * MM, 0),
      lineTo(SIDE * MM, SIDE * MM),
      lineTo(0, SIDE * MM),
      closePath(),
      moveTo(a, a),
      lineTo(b, a),
      lineTo(b, b),
      lineTo(a, b),
      closePath(),
      clipEvenOdd(),
      endPath(),
    );
    const stripe = 4;
    for (let at = -SIDE; at < SIDE * 2; at += stripe * 2)
      fill(
        pen,
        [
          [at, 0],
          [at + stripe, 0],
          [at + stripe + SIDE, SIDE],
          [at + SIDE, SIDE],
        ],
        RED,
      );
    page.pushOperators(popGraphicsState());
    cells(pen, (SIDE - 44) / 2, 46);
    letters(pen, un, (SIDE - widthOf(pen, un, 13)) / 2, 20, 13);
  });
}

/** Class 9A: a square that stands on its point, here with that point down at x, y and turned by `turn` about its middle. Side 100 mm. */
function classNine(pen: Pen, x: number, y: number, turn: number): void {
  const half = SIDE / Math.SQRT2;
  const diamond = (r: number): Point[] => [
    [0, -r],
    [r, 0],
    [0, r],
    [-r, 0],
  ];
  within(pen, x, y, turn, () => {
    fill(pen, diamond(half));
    fill(pen, diamond(half - 0.8), PAPER);
    // A line 5 mm inside the edge.
    const inner = half - HATCH * Math.SQRT2;
    fill(pen, diamond(inner));
    fill(pen, diamond(inner - 1), PAPER);
    const edge = inner - 1.5;
    // Seven stripes in the upper half.
    for (let i = -3; i <= 3; i++) {
      const [x1, x2] = [i * 14 - 3.4, i * 14 + 3.4];
      const top = (at: number) => Math.max(0, edge - Math.abs(at));
      const points: Point[] = [
        [x1, 1],
        [x2, 1],
        [x2, Math.max(1, top(x2))],
      ];
      if (x1 < 0 && x2 > 0) points.push([0, edge]);
      points.push([x1, Math.max(1, top(x1))]);
      fill(pen, points);
    }
    cells(pen, -22, -33);
    letters(pen, '9', -widthOf(pen, '9', 9) / 2, -54, 9);
    fill(pen, [
      [-4, -56.4],
      [4, -56.4],
      [4, -55.4],
      [-4, -55.4],
    ]);
  });
}

/** Cargo aircraft only, 120 x 110 mm, lower left corner at x, y. */
function cargoAircraft(pen: Pen, x: number, y: number): void {
  const [w, h] = [120, 110];
  within(pen, x, y, 0, () => {
    fill(pen, [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ]);
    fill(
      pen,
      [
        [1, 1],
        [w - 1, 1],
        [w - 1, h - 1],
        [1, h - 1],
      ],
      ORANGE,
    );
    // An aircraft from the side, above a crate that is lifted: drawn by us.
    fill(pen, [
      [22, 66],
      [84, 66],
      [98, 72],
      [102, 84],
      [95, 84],
      [90, 76],
      [34, 78],
      [24, 74],
    ]);
    fill(pen, [
      [48, 66],
      [62, 66],
      [50, 56],
      [42, 56],
    ]);
    const line = (words: string, at: number, height: number) =>
      letters(pen, words, (w - widthOf(pen, words, height)) / 2, at, height);
    line('CARGO AIRCRAFT ONLY', 36, 6.3);
    line('FORBIDDEN IN', 22, 6.3);
    line('PASSENGER AIRCRAFT', 9, 6.3);
  });
}

/** Words on lines of a width in mm; a word that is wider is broken behind its stroke. */
function linesOf(made: Pick<Pen, 'bold' | 'capital'>, words: string, letterMm: number, width: number): string[] {
  const size = (letterMm * MM) / made.capital;
  const broken = words
    .split(' ')
    .flatMap((w) => (made.bold.widthOfTextAtSize(w, size) > width * MM ? w.split(/(?<=\/)/) : [w]))
    .join(' ');
  return wrapped(broken, made.bold, size, width * MM);
}

/** Words in capitals of a height, on as many lines as they need. @returns the height used, mm. */
function textMark(pen: Pen, words: string, letterMm: number, x: number, top: number, width: number): number {
  const lines = linesOf(pen, words, letterMm, width);
  lines.forEach((line, i) => letters(pen, line, x, top - letterMm - i * letterMm * 1.5, letterMm));
  return lines.length * letterMm * 1.5;
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

/** A sheet for each package, as many pages as its marks need. */
function onSheets(made: Made, paper: MarksPaper): void {
  const [w, h] = [210, 297];
  for (const p of paper.packages) {
    let pen: Pen;
    let y = 0;
    const fresh = () => {
      pen = { ...made, page: made.doc.addPage([w * MM, h * MM]) };
      y = h - band(pen, paper.band, w, h) - 8;
      checkLine(pen, 55, 8);
      pen.page.drawText(p.title, { x: 14 * MM, y: (y - 4) * MM, size: 12, font: made.bold, color: INK });
      y -= 10;
    };
    fresh();
    y -= address(pen!, p, 14, y, 180) + 4;
    for (const m of p.marks) {
      const tall = { battery: 104, 'class 9A': 158, 'cargo aircraft': 114, words: 0 }[m.kind];
      const needs = m.kind === 'words' ? linesOf(made, m.words, m.letterMm, 182).length * m.letterMm * 1.5 + 6 : tall;
      if (y - needs < 16) fresh();
      switch (m.kind) {
        case 'battery':
          batteryMark(pen!, m.un, 55, y - 100);
          break;
        case 'class 9A': {
          const half = SIDE / Math.SQRT2;
          classNine(pen!, 105, y - half, 0);
          pen!.page.drawText(wrapped(`${m.un} ${m.name}`, made.bold, 11, 180 * MM).join('\n'), {
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
          cargoAircraft(pen!, 45, y - 110);
          break;
        case 'words':
          textMark(pen!, m.words, m.letterMm, 14, y, 182);
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
          pen.page.drawText(wrapped(`${m.un} ${m.name}`, made.bold, 9, 92 * MM).join('\n'), {
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
