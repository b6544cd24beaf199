import {
  clipEvenOdd,
  closePath,
  concatTransformationMatrix,
  endPath,
  lineTo,
  moveTo,
  type PDFFont,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rgb,
} from 'pdf-lib';
import { wrapped } from './draw';

export const MM = 72 / 25.4;
export const INK = rgb(0, 0, 0);
export const PAPER = rgb(1, 1, 1);
const RED = rgb(0.86, 0.05, 0.09);
const ORANGE = rgb(1, 0.55, 0.1);

export interface Pen {
  readonly page: PDFPage;
  readonly words: PDFFont;
  readonly bold: PDFFont;
  /** Height of a capital letter of the bold face, as a part of its size. */
  readonly capital: number;
}

type Point = readonly [number, number];

/** A filled shape in mm, y upwards. */
export function fill({ page }: Pen, points: readonly Point[], color = INK): void {
  const path = points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x * MM} ${-y * MM}`).join(' ');
  page.drawSvgPath(`${path} Z`, { x: 0, y: 0, color });
}

/** Words in capitals of a height in mm, their left edge and foot at x, y in mm. */
export function letters(pen: Pen, words: string, x: number, y: number, height: number, font = pen.bold): void {
  pen.page.drawText(words, { x: x * MM, y: y * MM, size: (height * MM) / pen.capital, font, color: INK });
}
export const widthOf = (pen: Pen, words: string, height: number): number =>
  pen.bold.widthOfTextAtSize(words, (height * MM) / pen.capital) / MM;

/** Draws in a frame of its own: moved by mm and turned. */
export function within({ page }: Pen, x: number, y: number, turn: number, draw: () => void): void {
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

export const SIDE = 100;
/** Width of the hatching, mm. */
const HATCH = 5;

/** The battery mark, 100 x 100 mm, lower left corner at x, y. */
export function batteryMark(pen: Pen, un: string, x: number, y: number): void {
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
export function classNine(pen: Pen, x: number, y: number, turn: number): void {
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
export function cargoAircraft(pen: Pen, x: number, y: number): void {
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
export function linesOf(made: Pick<Pen, 'bold' | 'capital'>, words: string, letterMm: number, width: number): string[] {
  const size = (letterMm * MM) / made.capital;
  const broken = words
    .split(' ')
    .flatMap((w) => (made.bold.widthOfTextAtSize(w, size) > width * MM ? w.split(/(?<=\/)/) : [w]))
    .join(' ');
  return wrapped(broken, made.bold, size, width * MM);
}

/** Words in capitals of a height, on as many lines as they need. @returns the height used, mm. */
export function textMark(pen: Pen, words: string, letterMm: number, x: number, top: number, width: number): number {
  const lines = linesOf(pen, words, letterMm, width);
  lines.forEach((line, i) => letters(pen, line, x, top - letterMm - i * letterMm * 1.5, letterMm));
  return lines.length * letterMm * 1.5;
}
