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

/** What the lines of a label say. */
export function claimsIn(lines: readonly ReadLine[]): Claim[] {
  const claims: Claim[] = [];
  let [above, ending] = ['', ''];
  for (const line of lines) {
    const { text: printed, wordAt } = spelled(line);
    const text = joined(printed);
    const of = (from: number, to: number) => {
      const words = [...new Set(wordAt.slice(from, Math.max(from + 1, to)))].map((i) => line[i]!);
      return { box: around(words.map((w) => w.box)), confidence: Math.min(...words.map((w) => w.confidence)) };
    };
    const taken: (readonly [number, number])[] = [];
    for (const [patterns, worn] of [[UNITS, false] as const, [WORN, true] as const])
      for (const [unit, pattern] of patterns) {
        for (const m of text.matchAll(pattern)) {
          const from = m.index + m[0].indexOf(m[1]!);
          const to = m.index + m[0].length;
          if (taken.some(([a, b]) => from < b && to > a)) continue;
          // A digit before it belongs to it, and something was lost.
          if (from > 0 && /[\d.,]/.test(text[from - 1]!)) continue;
          if (unit === 'V' && !/[.,]/.test(m[1]!) && /(?<![\d.,])\d{1,2} $/.test(text.slice(0, from))) continue;
          const number = numberIn(m[1]!);
          // One that begins with a zero has lost what stood before it.
          if (!number || /^0\d/.test(number.digits)) continue;
          const last = Math.max(0, ...taken.filter(([, b]) => b <= from).map(([, b]) => b));
          taken.push([from, to]);
          const before = text.slice(last, from);
          // A line that begins with its number is named by the one above.
          const named =
            last > 0
              ? ''
              : GOES_ON.test(before)
                ? ending
                : /[a-z]{2}/i.test(before)
                  ? ''
                  : LEFT_OPEN.test(ending)
                    ? ending
                    : above;
          const field = fieldOf(unit, `${named} ${before}`, text.slice(to), `${named} ${text}`);
          if (!field) continue;
          const small = m[2] !== '';
          const said = unit === 'Ah' ? (small ? 'mAh' : 'Ah') : unit === 'Wh' ? (small ? 'mWh' : 'Wh') : 'V';
          const changed = number.changed || worn;
          claims.push({
            ...field,
            said: number.digits,
            unit: said,
            changed,
            ...of(from, from + m[1]!.length),
            box: of(from, to).box,
          });
        }
      }
    const d = DESIGNATION.exec(text);
    if (d) {
      const cells = numberIn(`${d[1]}0`)!.digits[0]!;
      const said = `${cells}I${d[2]}${d[3]}${[d[4], d[5], d[6]].filter(Boolean).join('/')}${d[7] ? `-${d[7]}` : ''}`;
      claims.push({ field: 'designation', said, changed: said !== d[0], named: true, ...of(d.index, d.index + d[0].length) });
    }
    const t = TYPE.exec(text);
    if (t && /\d/.test(t[1]!) && !QUANTITY.test(t[1]!)) {
      const from = t.index + t[0].length - t[1]!.length;
      claims.push({
        field: 'typeCode',
        said: t[1]!.toUpperCase(),
        changed: /[a-z]/.test(t[1]!),
        named: true,
        ...of(from, from + t[1]!.length),
      });
    }
    const m = MADE.exec(text);
    if (m) {
      const parts = [m[1]!, m[2]!.padStart(2, '0'), ...(m[3] ? [m[3]] : [])].map((p) => numberIn(`${p}`)?.digits ?? '');
      // No year begins with 26 or 28: that is a zero with a stroke.
      const said = [parts[0]!.replace(/^2[68]/, '20'), parts[1]!.replace(/^[68](?=\d)/, '0'), ...parts.slice(2)].join('-');
      claims.push({
        field: 'madeOn',
        said,
        changed: !text.includes(said),
        named: DATE_WORDS.test(text),
        ...of(m.index, m.index + m[0].length),
      });
    }
    for (const [said, words] of CHEMISTRY) {
      const c = words.exec(text);
      if (!c) continue;
      claims.push({ field: 'chemistry', said, changed: false, named: true, ...of(c.index, c.index + c[0].length) });
      break;
    }
    above = heading(text);
    ending = heading(text.slice(Math.max(0, ...taken.map(([, to]) => to))));
  }
  return claims;
}

export const isChemistry = (s: string): s is Chemistry => (CHEMISTRIES as readonly string[]).includes(s);
