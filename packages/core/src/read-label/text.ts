/** Left, upper edge, width, height, px. */
export type PixelBox = readonly [number, number, number, number];

/** A word as a character reader gives it. */
export interface ReadWord {
  readonly text: string;
  /** 0 to 100, as the reader says. */
  readonly confidence: number;
  readonly box: PixelBox;
}

/** A line of words, left to right. */
export type ReadLine = readonly ReadWord[];

/** The smallest box round all of them. */
export function around(boxes: readonly PixelBox[]): PixelBox {
  const left = Math.min(...boxes.map((b) => b[0]));
  const top = Math.min(...boxes.map((b) => b[1]));
  const right = Math.max(...boxes.map((b) => b[0] + b[2]));
  const low = Math.max(...boxes.map((b) => b[1] + b[3]));
  return [left, top, right - left, low - top];
}

/** A line as one text, and from which word each of its characters comes. */
export function spelled(line: ReadLine): { readonly text: string; readonly wordAt: readonly number[] } {
  const wordAt: number[] = [];
  let text = '';
  line.forEach((w, i) => {
    if (text !== '') {
      text += ' ';
      wordAt.push(i);
    }
    text += w.text;
    for (let k = 0; k < w.text.length; k++) wordAt.push(i);
  });
  return { text, wordAt };
}

/** Letters that are read where a digit is printed, and the digit. Common practice, no source. */
const LETTERS: Readonly<Record<string, string>> = {
  O: '0',
  o: '0',
  D: '0',
  I: '1',
  l: '1',
  '|': '1',
  S: '5',
  s: '5',
  B: '8',
  Z: '2',
};

/** Digits that are taken for each other in print, worn or slashed: zero with a stroke above all. Common practice, no source. */
const CONFUSED: readonly string[] = ['068', '569', '38', '17', '14', '27', '89'];

/** A number as printed, letters among its digits read as what they look like; null where there is none. */
export function numberIn(text: string): { readonly digits: string; readonly changed: boolean } | null {
  const read = [...text]
    .map((c) => LETTERS[c] ?? c)
    .join('')
    .replace(',', '.')
    .replace(/\.$/, '');
  if (!/^\d+(\.\d+)?$/.test(read) || !/\d/.test(text)) return null;
  return { digits: read, changed: read !== text.replace(',', '.').replace(/[.,]$/, '') };
}

/** Every number that one taken digit makes of this one. @param digits "11.4". */
export function lookAlikes(digits: string): string[] {
  const out = new Set<string>();
  [...digits].forEach((c, i) => {
    for (const set of CONFUSED) {
      if (!set.includes(c)) continue;
      for (const other of set) if (other !== c) out.add(digits.slice(0, i) + other + digits.slice(i + 1));
    }
  });
  return [...out];
}
