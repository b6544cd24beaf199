import { type Figure, isDigits } from './figure';

/** Spelled out as on the key of a calliper: "in" is a word of every other sentence. */
export const LENGTH_UNITS = ['mm', 'inch'] as const;
export const TEMPERATURE_UNITS = ['°C', '°F'] as const;
export const DECIMAL_MARKS = ['point', 'comma'] as const;
export const DAY_FORMS = ['day-first', 'month-first', 'iso'] as const;

/** How a workshop reads figures and days. The log keeps each figure as it was printed or read; only what is shown changes. */
export interface Display {
  readonly lengths: (typeof LENGTH_UNITS)[number];
  readonly temperatures: (typeof TEMPERATURE_UNITS)[number];
  readonly decimalMark: (typeof DECIMAL_MARKS)[number];
  /** "Mon 26 Oct 2026", "Mon Oct 26, 2026" or "Mon 2026-10-26". */
  readonly days: (typeof DAY_FORMS)[number];
}

export const METRIC: Display = { lengths: 'mm', temperatures: '°C', decimalMark: 'point', days: 'day-first' };

const SWITCHES = Object.keys(METRIC) as (keyof Display)[];
/** Is everything shown as the program words it? */
const isMetric = (d: Display): boolean => SWITCHES.every((k) => d[k] === METRIC[k]);

/**
 * Units shown in another one. `decimals` is how many more the other unit needs so that nothing of the figure is lost: half a unit of its last
 * digit stays below half a unit of the last digit of what was measured. Factors: the inch of 25.4 mm and the degree Fahrenheit of
 * 5/9 K (NIST SP 811, appendix B.8).
 */
const OTHER: Readonly<
  Record<string, { readonly to: string; readonly per: number; readonly zero: number; readonly decimals: number }>
> = {
  mm: { to: 'inch', per: 1 / 25.4, zero: 0, decimals: 2 },
  inch: { to: 'mm', per: 25.4, zero: 0, decimals: -1 },
  '°C': { to: '°F', per: 1.8, zero: 32, decimals: 0 },
  '°F': { to: '°C', per: 1 / 1.8, zero: -32 / 1.8, decimals: 1 },
  // A difference of two temperatures.
  K: { to: '°F', per: 1.8, zero: 0, decimals: 0 },
};

/** The unit in which the workshop reads what is given in this one. */
export function displayUnit(unit: string, d: Display): string {
  const other = OTHER[unit];
  if (other === undefined) return unit;
  if (unit === 'K') return d.temperatures === '°F' ? '°F' : 'K';
  return other.to === d.lengths || other.to === d.temperatures ? other.to : unit;
}

/** A number in the unit in which the workshop reads it. @param unit of the number. @param difference of two, which knows no zero. */
export function displayValue(x: number, unit: string, d: Display, difference = false): number {
  if (displayUnit(unit, d) === unit) return x;
  const { per, zero } = OTHER[unit]!;
  return x * per + (difference ? 0 : zero);
}

/** Decimals that a number with so many has in the unit in which the workshop reads it. */
export const displayDecimals = (decimals: number, unit: string, d: Display): number =>
  displayUnit(unit, d) === unit ? decimals : Math.max(0, decimals + OTHER[unit]!.decimals);

const marked = (digits: string, d: Display): string => (d.decimalMark === 'comma' ? digits.replace('.', ',') : digits);

/**
 * A figure in the unit in which the workshop reads it: 6.31 mm as 0.2484 inch. @param difference of two temperatures.
 * @throws RangeError where it is no figure.
 */
export function inDisplayUnit(f: Figure, d: Display, difference = false): Figure {
  if (!isDigits(f.digits)) throw new RangeError(`not a number: ${f.digits}`);
  const unit = displayUnit(f.unit, d);
  if (unit === f.unit) return f;
  const decimals = displayDecimals(f.digits.split('.')[1]?.length ?? 0, f.unit, d);
  const digits = displayValue(Number(f.digits), f.unit, d, difference).toFixed(Math.min(6, decimals));
  return { digits: /^-0(\.0+)?$/.test(digits) ? digits.slice(1) : digits, unit };
}

/** Digits that stand alone, with the workshop's decimal mark. @param digits with a point or a comma. */
export const displayDigits = (digits: string, d: Display): string => marked(digits.replace(',', '.'), d);

// A number that is not part of a tag, a clause or a thread: "TH-171", "5;2.4.10" and "M2.5" hold none.
const NUMBER = String.raw`-?\d+(?:\.\d+)?`;
const UNIT = String.raw`mm|inch|°C|°F|K|mV|V|mAh|Ah|mWh|kWh|Wh|kg|g|mΩ|Ω|%|A|W|kJ|J|N|MPa|m²|m³|m|l|h|min|s|Hz|MB`;
const MEASURED = new RegExp(
  String.raw`(?<![\w.;,/-]|M\d(?:\.\d)? [×x] )((?:plus or minus |± ?)?${NUMBER}(?:(?:,? plus or minus | ?± ?| to | and | × | x | \/ ?|–)${NUMBER})*)( ?)(${UNIT})(?![\w²³])`,
  'g',
);
const EACH = new RegExp(`(plus or minus |± ?)?(${NUMBER})`, 'g');

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const DAY = new RegExp(String.raw`\b(\d{1,2}) (${MONTHS.join('|')})\b(?: (\d{4})\b)?`, 'g');
const ISO_DAY = /\b(\d{4})-(\d\d)-(\d\d)\b/g;

function dayIn(day: number, month: number, year: string | undefined, form: Display['days']): string {
  if (form === 'month-first') return `${MONTHS[month - 1]} ${day}${year === undefined ? '' : `, ${year}`}`;
  const two = (n: number) => String(n).padStart(2, '0');
  return `${year === undefined ? '' : `${year}-`}${two(month)}-${two(day)}`;
}

/**
 * A sentence with its figures and days as the workshop reads them. Numbers without a unit, tags, clauses of a rule and threads of screws stay
 * as they are.
 * @param text as the program words it: decimal points, metric units, days as "26 Oct 2026" or "2026-10-26".
 */
export function displayText(text: string, d: Display): string {
  if (isMetric(d) || !/\d/.test(text)) return text;
  const figures = text.replace(MEASURED, (_, numbers: string, space: string, unit: string) => {
    const shown = numbers.replace(EACH, (whole, off: string | undefined, digits: string) =>
      isDigits(digits) ? `${off ?? ''}${marked(inDisplayUnit({ digits, unit }, d, off !== undefined).digits, d)}` : whole,
    );
    return `${shown}${space}${displayUnit(unit, d)}`;
  });
  if (d.days === 'day-first') return figures;
  return figures
    .replace(DAY, (_, day: string, month: string, year?: string) => dayIn(Number(day), MONTHS.indexOf(month) + 1, year, d.days))
    .replace(ISO_DAY, (whole, year: string, month: string, day: string) =>
      d.days === 'iso' || Number(month) < 1 || Number(month) > 12 ? whole : dayIn(Number(day), Number(month), year, d.days),
    );
}
