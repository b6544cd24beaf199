import { CHEMISTRIES, type Chemistry } from '../pack/label';
import { around, numberIn, type PixelBox, type ReadLine, spelled } from './text';

export const READ_FIELDS = [
  'nominalVoltage',
  'ratedCapacity',
  'typicalCapacity',
  'ratedEnergy',
  'limitedChargeVoltage',
  'designation',
  'typeCode',
  'madeOn',
  'chemistry',
] as const;
export type ReadField = (typeof READ_FIELDS)[number];

/** Something a line says of a field, as it was read. */
export interface Claim {
  readonly field: ReadField;
  /** Digits with a decimal point, or words. */
  readonly said: string;
  readonly unit?: 'V' | 'mAh' | 'Ah' | 'Wh' | 'mWh';
  /** A letter was read as the digit it looks like. */
  readonly changed: boolean;
  /** Lowest of its words, 0 to 100. */
  readonly confidence: number;
  readonly box: PixelBox;
  /** The line names the field; else it follows from the unit alone. */
  readonly named: boolean;
}

/** Words on labels in several languages, forgiving what is lost at a letter or two. */
const CHARGE = /(?<!re)char[gq]e(?!able)|charging|lade|limit|max|carga|carica|grenz|充/i;
const RATED = /rated|nominal|nenn|nomin|min|额|標/i;
const TYPICAL = /[tl1][yv]p[il1|!]c[aoe][l1i|!]|typisch|typique|\btyp\.?(?=\s*[\d):]|\s*$)|典型/i;
/** Behind its number, where nothing follows that it could name instead. */
const TYPICAL_AFTER = /^[\s,(/]*(?:[\d.,]+\s*m?wh)?[\s,(/]*typ(?:ical|isch|ique)?\b\.?\s*(?:[),;/]|$)/i;
const FOREIGN = /input|output|adapter|adaptor|charger|netzteil|eingang|ausgang|entr[ée]e|sortie|discharg|cut.?off|entlade/i;
const FOREIGN_AFTER = /^\s*(?:dc\s*)?(?:adapt[eo]r|charger|input|output|netzteil)/i;
const TYPE =
  /(?:^|[\s(])(?:mode(?:[lt1I]?[leo]?)|mod\.?|type|typ|p\/n|pn|part(?: no)?|art(?:\.|ikel)?(?:-?nr)?|ref)\s*[:.]?\s*(?:no\.?)?\s*[:#.]?\s+?([A-Z0-9][A-Za-z0-9-]{3,})/i;
/** "Typ. 3665mAh" names no type. */
const QUANTITY = /^\d+m?(?:ah|wh|v)$/i;
const DATE_WORDS = /date|mfg|mfd|made|manufact|datum|herst|fabric|prod|datée|fecha/i;
const NUMBER = String.raw`([0-9OoIlSBZ|][0-9OoIlSBZ|.,]*)`;
/** Thousands set apart, as mAh and mWh are printed now and then: "4 400", "4,400", "4.400". In these units nobody prints thousandths. */
const THOUSANDS = /(?<![\d.,])(\d{1,2})[ .,'’](\d{3})(?=\s*m\s?(?:Ah|Wh)(?![a-z]))/gi;
/** Room for what was set apart is kept, so that each character stays where it was. */
const joined = (text: string): string => text.replace(THOUSANDS, (_, a: string, b: string) => `${a}${b} `);
/** A number and its unit; a direct-current sign after V is read as brackets, zero or a dash. */
const UNITS: readonly (readonly ['Wh' | 'Ah' | 'V', RegExp])[] = [
  ['Wh', new RegExp(`${NUMBER}\\s*(m?)(?:[Ww][WVvw]*\\s?|[Vv]{1,2})[hHn](?![a-z])`, 'g')],
  ['Ah', new RegExp(`${NUMBER}\\s*([mM]?)\\s?A\\s?[hHn](?![a-z])`, 'g')],
  ['V', new RegExp(`${NUMBER}\\s*()[VvY]{1,2}(?![a-zA-Z]*h)(?:[^\\s\\d]{0,3}[1lI0O]?(?=$|[\\s,;])|[=~—-]{1,3}(?=\\d))`, 'g')],
];
/** The same with letters of the unit lost or taken for others: what is found so is never sure. */
const WORN: readonly (readonly ['Wh' | 'Ah' | 'V', RegExp])[] = [
  ['Wh', new RegExp(`${NUMBER}\\s*(m?)[Ww][a-zA-Z]{0,2}(?![a-zA-Z])`, 'g')],
  ['Ah', new RegExp(`${NUMBER}\\s*([mM])\\s?[Aa4]?[a-zA-Z]?(?![a-zA-Z])`, 'g')],
  ['Ah', new RegExp(`(\\d[.,]\\d{2,3})\\s*()[Aap4]?[hn](?![a-zA-Z])`, 'g')],
  ['V', new RegExp(`(?:volt|spann|tens)\\S*\\s+(\\d{1,2}[.,]\\d{1,2})()(?=\\s*$)`, 'gi')],
  ['V', new RegExp(`(?:volt|spann|tens)\\S*\\s+(\\d{1,2}[.,]?\\d{1,2})()\\s*[VvYy]?(?=\\s*$)`, 'gi')],
];
const DESIGNATION =
  /([1-9IlS|])\s?[I1l|]{1,2}\s?([CNMFVT])\s?([PR])\s?(\d{1,3})\s?\/\s?(\d{1,3})(?:\s?\/\s?(\d{1,3}))?(?:\s?-\s?(\d))?/;
const MADE =
  /(?:^|[^\d])((?:19|20|26|28)[0-9OoSIl]{2})\s?[-./年]\s?([01OoI8]?[0-9OoSIl])(?:\s?[-./月]\s?([0-3OoI][0-9OoSIl]))?(?![\d/])/;
const CHEMISTRY: readonly (readonly [Chemistry, RegExp])[] = [
  ['ni-mh', /ni.?mh|nickel.?metal/i],
  ['li-metal', /lithium.?metal|li.?metal/i],
  ['na-ion', /sodium.?ion|na.?ion/i],
  ['li-ion', /li.?[i1l][o0]n\b|lithium.{0,2}[il1]on|li.?po(?:ly)?/i],
];

/** A field of a number by what its line says. */
function fieldOf(
  unit: string,
  before: string,
  after: string,
  line: string,
): { readonly field: ReadField; readonly named: boolean } | null {
  if (unit === 'Wh') return { field: 'ratedEnergy', named: /energ|rated|nenn/i.test(line) };
  if (unit === 'Ah') {
    const typical = TYPICAL_AFTER.test(after) || (TYPICAL.test(before) && !RATED.test(before));
    return { field: typical ? 'typicalCapacity' : 'ratedCapacity', named: typical || /capac|kapaz|rated|nenn/i.test(line) };
  }
  if (FOREIGN.test(before) || FOREIGN_AFTER.test(after)) return null;
  return CHARGE.test(before)
    ? { field: 'limitedChargeVoltage', named: true }
    : { field: 'nominalVoltage', named: RATED.test(before) || /volt|spann|tens/i.test(before) };
}

/** Words that name a field and stand on a line of their own name what the next line begins with. */
const heading = (line: string): string => (/\d/.test(line) ? '' : line);
/** A line that begins in small letters goes on with what the one above ended in; so does a number where that was left open. */
const GOES_ON = /^\s*\p{Ll}/u;
const LEFT_OPEN = /(?:voltage|spannung|tension|capacity|kapazität|capacité|energy|energie|énergie)\s*:?\s*$/i;

/** From one character of a line to before another. */
type Span = readonly [from: number, to: number];

/** A line with what the one above leaves for it. */
interface Line {
  readonly text: string;
  /** Where a part of it stands in the picture, and how well it was read. */
  readonly at: (span: Span) => Pick<Claim, 'box' | 'confidence'>;
  /** Words of the line above where it names something, and those after its last number. */
  readonly above: string;
  readonly ending: string;
}

function lineOf(line: ReadLine, above: string, ending: string): Line {
  const { text, wordAt } = spelled(line);
  const at = ([from, to]: Span) => {
    const seen = new Set(wordAt.slice(from, Math.max(from + 1, to)));
    const words = line.filter((_, i) => seen.has(i));
    return { box: around(words.map((w) => w.box)), confidence: Math.min(...words.map((w) => w.confidence)) };
  };
  return { text: joined(text), at, above, ending };
}

/** What of the lines before names a number. @param before what stands before it in its own, since the number before it. */
function namedAbove({ above, ending }: Line, before: string): string {
  if (GOES_ON.test(before)) return ending;
  if (/[a-z]{2}/i.test(before)) return '';
  return LEFT_OPEN.test(ending) ? ending : above;
}

/** A number of a line with its unit: where both stand, where the number ends, what it is. Null where it is none, or part of another. */
function numberOf(text: string, unit: 'Wh' | 'Ah' | 'V', m: RegExpExecArray, taken: readonly Span[]) {
  const [whole, printed = ''] = m;
  const [from, to] = [m.index + whole.indexOf(printed), m.index + whole.length];
  if (taken.some(([a, b]) => from < b && to > a)) return null;
  // A digit before it belongs to it, and something was lost.
  if (/[\d.,]/.test(text.charAt(from - 1))) return null;
  if (unit === 'V' && !/[.,]/.test(printed) && /(?<![\d.,])\d{1,2} $/.test(text.slice(0, from))) return null;
  const number = numberIn(printed);
  // One that begins with a zero has lost what stood before it.
  if (!number || /^0\d/.test(number.digits)) return null;
  return { span: [from, to] as Span, end: from + printed.length, ...number };
}

/** Numbers with their units, and where they stand. */
function figuresIn(line: Line): { readonly claims: Claim[]; readonly taken: readonly Span[] } {
  const { text } = line;
  const claims: Claim[] = [];
  const taken: Span[] = [];
  const take = (unit: 'Wh' | 'Ah' | 'V', m: RegExpExecArray, worn: boolean): void => {
    const n = numberOf(text, unit, m, taken);
    if (!n) return;
    const [from, to] = n.span;
    const last = Math.max(0, ...taken.filter(([, b]) => b <= from).map(([, b]) => b));
    taken.push(n.span);
    const before = text.slice(last, from);
    const named = last > 0 ? '' : namedAbove(line, before);
    const field = fieldOf(unit, `${named} ${before}`, text.slice(to), `${named} ${text}`);
    if (!field) return;
    claims.push({
      ...field,
      said: n.digits,
      unit: m[2] === '' || unit === 'V' ? unit : `m${unit}`,
      changed: n.changed || worn,
      confidence: line.at([from, n.end]).confidence,
      box: line.at(n.span).box,
    });
  };
  for (const [unit, pattern] of UNITS) for (const m of text.matchAll(pattern)) take(unit, m, false);
  for (const [unit, pattern] of WORN) for (const m of text.matchAll(pattern)) take(unit, m, true);
  return { claims, taken };
}

function designationIn({ text, at }: Line): Claim[] {
  const d = DESIGNATION.exec(text);
  const cells = d && numberIn(`${d[1]}0`)?.digits.charAt(0);
  if (!d || !cells) return [];
  const said = `${cells}I${d[2]}${d[3]}${[d[4], d[5], d[6]].filter(Boolean).join('/')}${d[7] ? `-${d[7]}` : ''}`;
  return [{ field: 'designation', said, changed: said !== d[0], named: true, ...at([d.index, d.index + d[0].length]) }];
}

function typeCodeIn({ text, at }: Line): Claim[] {
  const t = TYPE.exec(text);
  const code = t?.[1];
  if (!t || code === undefined || !/\d/.test(code) || QUANTITY.test(code)) return [];
  const to = t.index + t[0].length;
  const changed = /[a-z]/.test(code);
  return [{ field: 'typeCode', said: code.toUpperCase(), changed, named: true, ...at([to - code.length, to]) }];
}

function dateIn({ text, at }: Line): Claim[] {
  const m = MADE.exec(text);
  if (!m) return [];
  const digits = (printed = '') => numberIn(printed.padStart(2, '0'))?.digits ?? '';
  // No year begins with 26 or 28: that is a zero with a stroke.
  const [year, month] = [digits(m[1]).replace(/^2[68]/, '20'), digits(m[2]).replace(/^[68](?=\d)/, '0')];
  const said = [year, month, ...(m[3] ? [digits(m[3])] : [])].join('-');
  const span: Span = [m.index, m.index + m[0].length];
  return [{ field: 'madeOn', said, changed: !text.includes(said), named: DATE_WORDS.test(text), ...at(span) }];
}

function chemistryIn({ text, at }: Line): Claim[] {
  for (const [said, words] of CHEMISTRY) {
    const c = words.exec(text);
    if (c) return [{ field: 'chemistry', said, changed: false, named: true, ...at([c.index, c.index + c[0].length]) }];
  }
  return [];
}

/** What the lines of a label say. */
export function claimsIn(lines: readonly ReadLine[]): Claim[] {
  let [above, ending] = ['', ''];
  return lines.flatMap((read) => {
    const line = lineOf(read, above, ending);
    const { claims, taken } = figuresIn(line);
    above = heading(line.text);
    ending = heading(line.text.slice(Math.max(0, ...taken.map(([, to]) => to))));
    return [...claims, ...designationIn(line), ...typeCodeIn(line), ...dateIn(line), ...chemistryIn(line)];
  });
}

export const isChemistry = (s: string): s is Chemistry => (CHEMISTRIES as readonly string[]).includes(s);
