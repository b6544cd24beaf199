import { foldedCode } from '../pack/type-code';
import { around, type PixelBox, type ReadLine, spelled } from './text';

export type PlateField = 'maker' | 'model' | 'serial';

/** A text that a plate, or a code on it, carries. Nothing of it is sure: whoever looks decides. */
export interface OfferedText {
  /** What it seems to be; null where the plate does not say. */
  readonly field: PlateField | null;
  readonly said: string;
  /** Where it stands on the picture; null of a code. */
  readonly box: PixelBox | null;
  /** A code on the plate says the same. */
  readonly coded: boolean;
}

/** What stands before a value, in several languages; common practice, no source. */
const NAMES: readonly (readonly [PlateField, RegExp])[] = [
  [
    'serial',
    /(?:^|[\s(])(?:serial(?:\s*(?:no|nr|number|num))?|s\s*[/|]\s*n|sn|ser\.?\s*(?:no|nr)|serien-?\s*(?:nr|nummer)|n[°ºo]\s*de\s*s[ée]rie)(?=[\s.:#])[\s.:#]*/i,
  ],
  ['model', /(?:^|[\s(])(?:mod[eè]l(?:l|le|e|o)?(?:\s*(?:no|nr|number|name))?|machine\s*type|type)(?=[\s.:#])[\s.:#]*/i],
  ['maker', /(?:^|[\s(])(?:maker|manufacturer|manufactured\s+by|made\s+by|hersteller|fabricant|fabricante)(?=[\s.:#])[\s.:#]*/i],
];

/** Least confidence of a line that is offered though nothing says what it is, 0 to 100. */
const LEGIBLE = 60;
/** Texts that are offered. */
const MOST = 14;
/** Characters of a text. */
const LONGEST = 80;

interface Mark {
  readonly field: PlateField;
  readonly from: number;
  readonly to: number;
}

/** Where names of fields stand in a line, left to right. */
function marksIn(text: string): Mark[] {
  // A name at the end of a line stands above its value.
  const whole = `${text} `;
  return NAMES.flatMap(([field, name]): Mark[] => {
    const m = name.exec(whole);
    return m ? [{ field, from: m.index, to: m.index + m[0].length }] : [];
  }).sort((a, b) => a.from - b.from);
}

const trimmed = (text: string): string => text.replace(/^[\s:.#|-]+|[\s|,;]+$/g, '').slice(0, LONGEST);

/** Values with their names, then lines that may be anything. */
function textsIn(lines: readonly ReadLine[]): Omit<OfferedText, 'coded'>[] {
  const named: Omit<OfferedText, 'coded'>[] = [];
  const others: Omit<OfferedText, 'coded'>[] = [];
  lines.forEach((line, n) => {
    const { text, wordAt } = spelled(line);
    const marks = marksIn(text);
    const put = (field: PlateField | null, of: ReadLine, from: number, to: number, at: readonly number[], all: string) => {
      const said = trimmed(all.slice(from, to));
      const words = [...new Set(at.slice(from, to))].map((w) => of[w]!).filter((w) => said.includes(trimmed(w.text)));
      if ((said.match(/[\p{L}\p{N}]/gu) ?? []).length < 2 || words.length === 0) return false;
      (field ? named : others).push({ field, said, box: around(words.map((w) => w.box)) });
      return true;
    };
    marks.forEach((m, k) => {
      const end = marks[k + 1]?.from ?? text.length;
      if (put(m.field, line, m.to, end, wordAt, text)) return;
      const below = lines[n + 1];
      if (!below) return;
      const next = spelled(below);
      if (marksIn(next.text).length === 0) put(m.field, below, 0, next.text.length, next.wordAt, next.text);
    });
    const legible = line.length > 0 && line.reduce((sum, w) => sum + w.confidence, 0) / line.length >= LEGIBLE;
    if (marks.length === 0 && legible) put(null, line, 0, text.length, wordAt, text);
  });
  return [...named, ...others];
}

/**
 * What a machine's plate may say: values beside or below their names first, then codes that no line says, then every other legible line. A
 * code that differs from a line only in look-alike characters has the last word: it carries its own check.
 * @param codes texts of the codes on it.
 */
export function plateTexts(lines: readonly ReadLine[], codes: readonly string[]): OfferedText[] {
  const clean = [...new Set(codes.map((c) => c.trim().slice(0, LONGEST)))].filter((c) => c.length > 1);
  const same = (said: string) => clean.find((c) => foldedCode(c) === foldedCode(said));
  const read = textsIn(lines).map((t): OfferedText => {
    const code = same(t.said);
    return { ...t, said: code ?? t.said, coded: code !== undefined };
  });
  const first = read.filter((t, i) => read.findIndex((x) => x.said === t.said) === i);
  const alone = clean
    .filter((c) => !first.some((t) => t.said === c))
    .map((said): OfferedText => ({ field: null, said, box: null, coded: true }));
  return [...first.filter((t) => t.field !== null), ...alone, ...first.filter((t) => t.field === null)].slice(0, MOST);
}
