import { type ClockForm, clockFormOf } from './clock-form';

/** What a log has of each moment. */
export type Field = 'time' | 'volts' | 'amperes' | 'celsius';

export interface Column {
  readonly at: number;
  /** What a figure is multiplied by to be in seconds, volts, amperes, degrees Celsius. */
  readonly factor: number;
  /** Is its unit written, in the heading or in the row below? */
  readonly named?: true;
  /** How a time is written, where the heading says so. */
  readonly form?: ClockForm;
  /** Thousands are set apart by commas here. */
  readonly grouped?: true;
  /** Where the day stands, where it has a column of its own. */
  readonly dayAt?: number;
}

export interface Columns {
  readonly time: Column;
  readonly volts: Column;
  readonly amperes: Column;
  readonly celsius?: Column;
}

/** Words before a name that leave it the pack's: "pack voltage", "measured current"; never "cell 1" or "set". */
const OF_PACK = String.raw`(?:(?:pack|total|battery|bat|terminal|measured|actual|load|discharge|input|mean|average|avg)\s)?`;
/** Words before a time that leave it one that runs on: never "step". */
const OF_RUN = String.raw`(?:(?:test|total|elapsed|run|running|relative|log|sample|sampling|record|recording)\s)?`;
const NAMES: readonly (readonly [Field, RegExp])[] = [
  [
    'time',
    new RegExp(
      `^(${OF_RUN}time|time ?stamp|date|date ?time|day|datum|tag|uhrzeit|clock|elapsed|duration|seconds|t|zeit|sec|s|epoch|unix|unix time)$`,
    ),
  ],
  ['volts', new RegExp(`^${OF_PACK}(volts?|voltage|u|v|spannung|ubat|vbat)$`)],
  ['amperes', new RegExp(`^${OF_PACK}(amperes?|amps?|current|i|a|strom|ibat)$`)],
  ['celsius', new RegExp(`^${OF_PACK}(temperature|temp|celsius|temperatur|t bat)$`)],
];
/** Named by its unit alone: "Pack (V)". */
const WHOLE = /^(pack|total|battery|bat)$/;
const DAY = /^(date|day|datum|tag)$/;
/** Names of a time that say what it counts. */
const COUNTED = /^(epoch|unix|unix time)$/;
const FACTORS: Readonly<Record<string, readonly [Field, number]>> = {
  ms: ['time', 0.001],
  s: ['time', 1],
  sec: ['time', 1],
  seconds: ['time', 1],
  min: ['time', 60],
  minutes: ['time', 60],
  h: ['time', 3600],
  hours: ['time', 3600],
  mv: ['volts', 0.001],
  v: ['volts', 1],
  volt: ['volts', 1],
  volts: ['volts', 1],
  ma: ['amperes', 0.001],
  a: ['amperes', 1],
  amp: ['amperes', 1],
  amps: ['amperes', 1],
  ampere: ['amperes', 1],
  amperes: ['amperes', 1],
  c: ['celsius', 1],
  '°c': ['celsius', 1],
  celsius: ['celsius', 1],
};

/** What a figure in this unit is multiplied by; null where it is no unit of this field. */
export function factorOf(unit: string, field: Field): number | null {
  const found = FACTORS[unit.toLowerCase()];
  return found && found[0] === field ? found[1] : null;
}

interface Heading {
  readonly field: Field;
  readonly factor: number;
  readonly named: boolean;
  readonly form?: ClockForm;
  readonly day: boolean;
}

/** The unit behind a name: after " in ", a comma, a slash, an underscore, or in brackets. */
const UNIT =
  /^(.*?)(?:\s+in\s+|[\s_/([,]+)(ms|s|sec|seconds|min|minutes|h|hours|mv|v|ma|a|°?c|[dhms:.f0 ]*:[dhms:.f0 ]*)\s*[)\]]?$/;

/** A heading as a column: "Voltage (mV)", "current_mA", "time/s", "Current, A", "Elapsed [mm:ss]". */
function headingOf(heading: string): Heading | null {
  const text = heading.trim().toLowerCase();
  const [, words = text, unit = ''] = UNIT.exec(text) ?? [];
  const plain = (words.trim() || text).replace(/[_/()[\],]+/g, ' ').trim();
  const form = clockFormOf(unit);
  const named = NAMES.find(([, r]) => r.test(plain))?.[0];
  const field = named ?? FACTORS[WHOLE.test(plain) ? unit : plain]?.[0];
  if (!field) return null;
  const factor = factorOf(unit, field) ?? factorOf(plain, field);
  const isForm = field === 'time' && form !== null;
  return {
    field,
    factor: factor ?? 1,
    named: factor !== null || isForm || COUNTED.test(plain),
    ...(isForm && { form }),
    day: DAY.test(plain),
  };
}

/** What a log must have. */
const NEEDED = ['time', 'volts', 'amperes'] as const;

/** What a log must have and a row does not name. */
export function missingIn(row: readonly string[]): Field[] {
  const fields = new Set(row.map((cell) => headingOf(cell)?.field));
  return NEEDED.filter((f) => !fields.has(f));
}

/** Which columns hold what. @returns null where a row is no heading of a log. */
export function columnsOf(row: readonly string[]): Columns | null {
  const found = row.map(headingOf);
  const first = (fits: (c: Heading) => boolean): Column | undefined => {
    for (const [at, c] of found.entries())
      if (c !== null && fits(c))
        return { at, factor: c.factor, ...(c.named && { named: true }), ...(c.form && { form: c.form }) };
    return undefined;
  };
  const [day, clock] = [first((c) => c.day), first((c) => c.field === 'time' && !c.day)];
  const time = clock && day ? { ...clock, dayAt: day.at } : (clock ?? day);
  const [volts, amperes, celsius] = (['volts', 'amperes', 'celsius'] as const).map((f) => first((c) => c.field === f));
  return time && volts && amperes ? { time, volts, amperes, ...(celsius && { celsius }) } : null;
}

/** Fields of a pack that a heading names more than once: it may speak of several packs. */
export function namedTwice(row: readonly string[]): Field[] {
  const fields = row.map((cell) => headingOf(cell)?.field);
  return (['volts', 'amperes'] as const).filter((f) => fields.filter((x) => x === f).length > 1);
}

const bare = (cell: string): string => cell.trim().replace(/^[([]\s*|\s*[)\]]$/g, '');

/** A column with the unit that stands below its name; null where that is none. */
function withUnit(column: Column, cell: string, field: Field): Column | null {
  const unit = bare(cell);
  const form = field === 'time' ? clockFormOf(unit.toLowerCase()) : null;
  if (form) return { ...column, named: true, form };
  const factor = factorOf(unit, field);
  return factor === null ? null : { ...column, named: true, factor };
}

/**
 * The columns with the units of a row below the headings: "[s];[mV];[mA]".
 * @returns null where the row holds no units; `contradicted` where the heading names another.
 */
export function unitsBelow(columns: Columns, row: readonly string[]): Columns | 'contradicted' | null {
  const below = (field: Field, column: Column) => withUnit(column, row[column.at] ?? '', field);
  const [volts, amperes] = [below('volts', columns.volts), below('amperes', columns.amperes)];
  if (!volts || !amperes) return null;
  const time = below('time', columns.time) ?? columns.time;
  const other = (a: Column, b: Column) => a.named !== undefined && a.factor !== b.factor;
  if (other(columns.volts, volts) || other(columns.amperes, amperes) || other(columns.time, time)) return 'contradicted';
  return { ...columns, time, volts, amperes };
}
