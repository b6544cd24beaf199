import { factWords } from '../coherence/fact-words';
import { isAfter, isDay, isPartialDay } from '../quantity/day';
import { parseDigits } from '../quantity/figure';
import { MODES, PLACEMENTS, REGIONS } from '../shipping/facts';

/** What a cell of a table says, or what is wrong with it and what to do. */
export type CellRead = { readonly value: unknown; readonly printed?: Printed } | { readonly trouble: string };

/** A figure as it stood in its cell: "5000 mAh" is not "5 Ah", whose last digit is worth a thousand times as much. */
export interface Printed {
  readonly digits: string;
  readonly unit: string;
}

export interface Column {
  readonly name: string;
  /** @param today local day of the reading. */
  readonly read: (text: string, today: string) => CellRead;
  /** Goes into the route instead of the facts. */
  readonly route?: true;
  /** Units that a figure of it may have; the first stands for none. */
  readonly units?: readonly string[];
}

const trouble = (t: string): CellRead => ({ trouble: t });

interface Kind {
  /** Whole numbers only, from this one. */
  readonly whole?: number;
  /** 0 is a value. */
  readonly zero?: true;
}

/** A number with its unit, or without: then it is in the column's own. Nothing is guessed that is far from any notebook pack. */
function number(
  units: Readonly<Record<string, number>>,
  most: number,
  hint: string,
  { whole, zero }: Kind = {},
): Pick<Column, 'read' | 'units'> {
  const own = Object.keys(units)[0]!;
  const read = (text: string): CellRead => {
    const m = /^([-+−–]?[\d.,]+)\s*([a-zA-Z%]*)$/.exec(text);
    const digits = m && parseDigits(m[1]!);
    if (!m || digits === null) return trouble(`"${text}" is not one number: write it as 11.4 or 11,4`);
    const unit = m[2] === '' ? own : Object.keys(units).find((u) => u.toLowerCase() === m[2]!.toLowerCase());
    if (unit === undefined) return trouble(`unit ${m[2]} is not known here: ${Object.keys(units).join(' or ') || 'none'}`);
    // 4,386 mAh may be four thousand or four and a bit: nobody guesses.
    if (units[unit]! < 1 && /[.,]\d{3}$/.test(m[1]!))
      return trouble(`"${text}" may mean thousands: write it without a point or comma, or in ${own}`);
    // Through whole millionths: 4386 mAh is 4.386 Ah, without a tail of its own.
    const value = Math.round(Number(digits) * units[unit]! * 1e6) / 1e6;
    if (value < 0) return trouble(`${text} is negative`);
    if (value === 0 && !zero && whole === undefined)
      return trouble(`${text}: nothing real is 0; leave the cell empty where it is not known`);
    if (value > most) return trouble(`${text}${m[2] === '' ? ` ${own}` : ''}? ${hint}`);
    if (whole !== undefined && (!Number.isInteger(value) || value < whole))
      return trouble(`${text} is not a whole number from ${whole}`);
    return { value, printed: { digits, unit } };
  };
  return { read, units: Object.keys(units) };
}

const one =
  (values: readonly string[]) =>
  (text: string): CellRead => {
    const value = text.toLowerCase().replace(/[ _]/g, '-');
    return values.includes(value) ? { value } : trouble(`"${text}" is none of ${values.join(', ')}`);
  };

const YES = ['true', 'yes', '1'];
const NO = ['false', 'no', '0'];
const yesNo = (text: string): CellRead =>
  YES.includes(text.toLowerCase())
    ? { value: true }
    : NO.includes(text.toLowerCase())
      ? { value: false }
      : trouble(`"${text}": write yes or no`);

/** A list of finding codes, unknown ones too: the rules hold the pack and name them. "none" or "[]" is an explicit "looked, nothing found", an empty cell is nobody looked. */
function codes(text: string): CellRead {
  if (/^(none|\[\])$/i.test(text)) return { value: [] };
  const list = text.split(';').map((c) => c.trim().toLowerCase().replace(/[ _]/g, '-'));
  if (list.includes(''))
    return trouble(`"${text}" has an empty element: write codes with ; between them, or none for "looked, nothing found"`);
  const odd = list.find((c) => !/^[a-z][a-z0-9-]*$/.test(c));
  if (odd !== undefined) return trouble(`"${odd}" is no code: write codes of letters with ; between them, or none`);
  if (list.includes('none')) return trouble(`"${text}": none stands beside a finding; write the one that is true`);
  return { value: list };
}

/** Names of columns whose odd value was looked at again. */
function names(text: string): CellRead {
  const list = text.split(';').map((c) => columnOf(c)?.name);
  return list.includes(undefined) ? trouble(`"${text}": write names of columns with ; between them`) : { value: list };
}

const onDay = (text: string): CellRead =>
  isDay(text) ? { value: text } : trouble(`"${text}" is not a day of the calendar: write 2026-11-24`);

function madeOn(text: string, today: string): CellRead {
  if (!isPartialDay(text)) return trouble(`"${text}" is not a day of the calendar: write 2021, 2021-05 or 2021-05-03`);
  return isAfter(text, today) ? trouble(`made on ${text}, but today is ${today}: read the date again`) : { value: text };
}

const count = number({ '': 1 }, 10_000, 'more packs than a package holds', { whole: 1 });
const kg = (most: number) => number({ kg: 1, g: 0.001 }, most, `over ${most} kg: write grams as "270 g"`);

/** Columns of a table of packs: the fields of the shipping facts and the route, nested names joined with a dot. */
// prettier-ignore
export const COLUMNS: readonly Column[] = [
  { name: 'chemistry', read: one(['li-ion', 'li-metal', 'na-ion', 'ni-mh', 'none']) },
  { name: 'series', ...number({ '': 1, s: 1 }, 30, 'more cells in series than any notebook has', { whole: 1 }) },
  { name: 'parallel', ...number({ '': 1, p: 1 }, 30, 'more cells in parallel than any notebook has', { whole: 1 }) },
  { name: 'nominalVoltage', ...number({ V: 1, mV: 0.001 }, 120, 'write millivolts as "11400 mV"') },
  { name: 'ratedCapacity', ...number({ Ah: 1, mAh: 0.001 }, 200, 'if it is mAh, write "5000 mAh"') },
  { name: 'ratedEnergy', ...number({ Wh: 1, mWh: 0.001 }, 5000, 'if it is mWh, write "57000 mWh"') },
  { name: 'lithiumContent', ...number({ g: 1, mg: 0.001 }, 100, 'write milligrams as "70 mg"') },
  { name: 'buttonCell', read: yesNo },
  { name: 'frozen', read: yesNo },
  { name: 'energyMarked', read: yesNo },
  { name: 'madeOn', read: madeOn },
  { name: 'typeTested', read: one(['yes', 'no', 'unknown']) },
  { name: 'findings', read: codes },
  { name: 'cleared', read: (t) => ([...YES, ...NO].includes(t.toLowerCase()) ? yesNo(t) : codes(t)) },
  { name: 'makerCleared', read: yesNo },
  { name: 'policy.innerCellLimit', read: yesNo },
  { name: 'policy.swelling', read: one(['any', 'allowance']) },
  { name: 'conditionKnown', read: yesNo },
  { name: 'stateOfCharge', ...number({ '%': 1 }, 100, 'charge is 0 to 100 % of rated capacity', { zero: true }) },
  { name: 'placement', read: one(PLACEMENTS) },
  { name: 'purpose', read: one(['use', 'recycling', 'disposal']) },
  { name: 'mass', ...kg(50) },
  { name: 'package.packs', ...count },
  { name: 'package.equipment', ...count },
  { name: 'package.packsPerEquipment', ...count },
  { name: 'package.fittedPacks', ...number({ '': 1 }, 10_000, 'more packs than a package holds', { whole: 0 }) },
  { name: 'package.netKg', ...kg(20_000) },
  { name: 'package.grossKg', ...kg(20_000) },
  { name: 'consignment.packages', ...count },
  { name: 'consignment.collectionScheme', read: yesNo },
  { name: 'consignment.household', read: yesNo },
  { name: 'consignment.mainPower', read: yesNo },
  { name: 'consignment.netKgTransportUnit', ...kg(100_000) },
  { name: 'mode', read: one(MODES), route: true },
  { name: 'region', read: one(REGIONS), route: true },
  { name: 'confirmed', read: names },
  { name: 'on', read: onDay, route: true },
];

const squeezed = (name: string) =>
  name
    .toLowerCase()
    .replace(/^(facts|route)\./, '')
    .replace(/[^a-z]/g, '');
/** By their names, and in the words in which they are told. */
const BY_NAME = new Map(COLUMNS.flatMap((c) => [factWords(c.name), c.name].map((n) => [squeezed(n), c] as const)));

/** A name and the unit behind it: "Rated capacity (mAh)", "mass_g", "ratedEnergy / Wh". */
const WITH_UNIT = /^(.*?)[\s_/([,]+([a-zA-Z%]+)\s*[)\]]?$/;

const asUnit = (said: string, column: Column): string | undefined =>
  column.units?.find((u) => u !== '' && u.toLowerCase() === said.toLowerCase());

/** The column a heading means, by its name or in words, case, punctuation and a unit forgiven; null when it is none of ours. */
export function columnOf(heading: string): Column | null {
  const named = BY_NAME.get(squeezed(heading));
  if (named) return named;
  const [, words = '', said = ''] = WITH_UNIT.exec(heading.trim()) ?? [];
  const column = BY_NAME.get(squeezed(words));
  return column && asUnit(said, column) !== undefined ? column : null;
}

/** The unit at the end of a heading, where figures of the column may have it; null where there is none. */
export const unitIn = (heading: string, column: Column): string | null =>
  asUnit(WITH_UNIT.exec(heading.trim())?.[2] ?? '', column) ?? null;

/** Headings that name a pack. */
export const isTag = (heading: string): boolean => ['id', 'tag'].includes(squeezed(heading));
