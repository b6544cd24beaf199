/** What the parts of a time stand for, in their order: "h:m:s", "m:s", "d:h:m:s", "h:m:s:ms". */
export type ClockForm = readonly Part[];
type Part = 'd' | 'h' | 'm' | 's' | 'ms' | 'f';

const SECONDS: Readonly<Record<Part, number>> = { d: 86_400, h: 3600, m: 60, s: 1, ms: 0.001, f: 0 };
/** Parts as a heading writes them; fractions of a second may be written as f or 0. */
const WRITTEN: readonly (readonly [RegExp, Part])[] = [
  [/^d{1,3}$/, 'd'],
  [/^h{1,3}$/, 'h'],
  [/^m{1,2}$/, 'm'],
  [/^s{1,2}$/, 's'],
];
const FRACTION: readonly (readonly [RegExp, Part])[] = [
  [/^ms$/, 'ms'],
  [/^(?:f{1,6}|0{1,6}|s{3,6})$/, 'f'],
];
const ORDER: readonly Part[] = ['d', 'h', 'm', 's'];

/** A form as a heading writes it, lower case: "hh:mm:ss", "h:m:s.ms", "d hh:mm:ss", "mm:ss". Null where it is none. */
export function clockFormOf(written: string): ClockForm | null {
  const words = written.trim().split(/[:. ]+/);
  const parts: Part[] = [];
  for (const [i, word] of words.entries()) {
    const after = parts[i - 1] === 's' ? FRACTION : WRITTEN;
    const part = after.find(([r]) => r.test(word))?.[1];
    if (part === undefined) return null;
    parts.push(part);
  }
  const whole = parts.filter((p) => ORDER.includes(p));
  const from = ORDER.findIndex((p) => p === whole[0]);
  const inOrder = whole.length >= 2 && whole.every((p, i) => p === ORDER[from + i]);
  return inOrder ? parts : null;
}

/** Below these a part stands behind another one. */
const BELOW: Readonly<Record<Part, number>> = { d: Infinity, h: 24, m: 60, s: 60, ms: 1000, f: Infinity };

/** Seconds of a time written in a form; NaN where it is not. A fraction may stand behind a point as well, or be left out. */
export function secondsIn(form: ClockForm, cell: string): number {
  const texts = cell.trim().split(/[: ]+/);
  const parts = texts.length === form.length ? form : form.filter((p) => ORDER.includes(p));
  if (texts.length !== parts.length) return NaN;
  let sum = 0;
  for (const [i, part] of parts.entries()) {
    const text = texts[i] ?? '';
    const isWritten = part === 's' ? /^\d+(?:[.,]\d+)?$/ : /^\d+$/;
    const x = Number(text.replace(',', '.'));
    if (!isWritten.test(text) || (i > 0 && x >= BELOW[part])) return NaN;
    sum += part === 'f' ? Number(`0.${text}`) : x * SECONDS[part];
  }
  return sum;
}
