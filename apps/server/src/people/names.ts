import { problem, ProblemError } from '../problem';

/** Letters of other alphabets that look like a Latin one; from memory of the Unicode confusables (UTS 39), small letters. */
const LOOKS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries({
    a: 'аɑα',
    b: 'ьЬв',
    c: 'сϲ',
    d: 'ԁ',
    e: 'еҽ',
    g: 'ɡ',
    h: 'һн',
    i: 'іıιӏ',
    j: 'јϳ',
    k: 'кκ',
    l: 'ⅼ',
    m: 'м',
    n: 'пη',
    o: 'оοσօ0',
    p: 'рρ',
    q: 'ԛ',
    r: 'гᴦ',
    s: 'ѕ',
    t: 'тτ',
    u: 'υս',
    v: 'ѵν',
    w: 'ԝω',
    x: 'хχ',
    y: 'уүγ',
    z: 'ᴢ',
  }).flatMap(([latin, others]) => [...others].map((o) => [o, latin])),
);

/** A name as it is kept: composed, with single spaces. */
export const nameOf = (typed: string): string => typed.normalize('NFC').replace(/\s+/gu, ' ').trim();

/** What the eye sees of a name: letters that look alike are the same, accents stay. */
export const looksLike = (name: string): string =>
  [...nameOf(name).normalize('NFKC').toLowerCase()].map((c) => LOOKS[c] ?? (c === '1' || c === '|' ? 'l' : c)).join('');

const INVISIBLE = /[\p{Cf}\p{Cc}\p{Co}\p{Cn}\p{Zl}\p{Zp}\u115f\u1160\u3164\uffa0]/u;
const ALPHABETS = ['Latin', 'Cyrillic', 'Greek'].map((s) => new RegExp(`\\p{Script=${s}}`, 'u'));

/** @throws ProblemError 422 for a name that hides something, or mixes alphabets within a word. */
export function checkName(typed: string): string {
  const name = nameOf(typed);
  const refuse = (detail: string) =>
    new ProblemError(
      problem(422, 'name', 'This name cannot be kept', 'Type it with visible letters of one alphabet.', [
        { field: 'name', detail },
      ]),
    );
  if (name === '' || INVISIBLE.test(name)) throw refuse('has letters nobody sees');
  if (name.split(' ').some((word) => ALPHABETS.filter((a) => a.test(word)).length > 1))
    throw refuse('mixes alphabets within a word');
  return name;
}
