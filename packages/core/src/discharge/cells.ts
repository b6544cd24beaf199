import { type Column, type Field, factorOf } from './columns';

/** A plain number; nothing is read as 0 and is no number. */
const isNumber = (x: number, cell: string): boolean => !Number.isNaN(x) && (x !== 0 || cell.includes('0'));

/** A number with comma or point; NaN for anything else. Most cells are plain numbers: they are not looked at twice. */
export function numberOf(cell: string): number {
  const x = Number(cell);
  if (isNumber(x, cell)) return x;
  const point = Number(cell.replace(',', '.'));
  if (isNumber(point, cell)) return point;
  return Number(cell.trim().replace(',', '.').replace('−', '-') || NaN);
}

const MILLI = 0.001;
const GROUPED = /^[-+−]?[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?$/;
const UNGROUPED = /^[-+−]?\d{4}/;

/**
 * Do commas stand between thousands in the columns of thousandths? Only where no cell of the log speaks for a decimal comma: 2,125 mA beside
 * 12450 mV is two and a bit. @param rows below the heading.
 */
export function isGrouped(rows: readonly (readonly string[])[], columns: readonly Column[]): boolean {
  const cells = (milli: boolean) =>
    columns.filter((c) => (c.factor === MILLI) === milli).flatMap((c) => rows.map((r) => (r[c.at] ?? '').trim()));
  const [thousandths, others] = [cells(true), cells(false)];
  return (
    thousandths.some((x) => x.includes(',')) &&
    thousandths.every((x) => (x.includes(',') ? GROUPED.test(x) : !UNGROUPED.test(x))) &&
    !others.some((x) => x.includes(','))
  );
}

const together = (cell: string, { grouped }: Column): string => (grouped ? cell.replaceAll(',', '') : cell);

const WITH_UNIT = /^([-+−]?[\d.,]+)\s*(°?[a-z]{1,3})$/i;

/** A figure in seconds, volts, amperes or degrees; its own unit stands over its heading's. NaN where it is none. */
export function figureOf(given: string, field: Field, column: Column): number {
  const cell = together(given, column);
  const x = numberOf(cell);
  if (!Number.isNaN(x)) return x * column.factor;
  const [, digits = '', unit = ''] = WITH_UNIT.exec(cell.trim()) ?? [];
  const own = factorOf(unit, field);
  return own === null ? NaN : numberOf(digits) * own;
}

/** The last digit that an instrument writes in a cell, in seconds, volts, amperes or degrees. */
export function stepOf(given: string, field: Field, column: Column): number {
  const [, , digits = '', exponent = '0', unit = ''] =
    /^[-+−]?\d*(?:([.,])(\d*))?(?:e([-+]?\d+))?\s*(°?[a-z]{1,3})?$/i.exec(together(given, column).trim()) ?? [];
  return (factorOf(unit, field) ?? column.factor) * 10 ** (Number(exponent) - digits.length);
}

/** A moment as a log writes it. */
export interface Moment {
  readonly seconds: number;
  /** How far it is told: by the instrument's own count, a time of day, or a date with it. */
  readonly of: 'count' | 'day' | 'date';
  /** A day whose order of day and month is anybody's guess: days are told apart and no more. */
  readonly day?: string;
}

const CLOCK = /^(\d+):(\d{2}):(\d{2}(?:[.,]\d+)?)\s*([ap]m)?$/i;

function clockOf(text: string): number | null {
  const m = CLOCK.exec(text);
  if (!m) return null;
  const half = m[4]?.toLowerCase();
  const hours = half === undefined ? Number(m[1]) : (Number(m[1]) % 12) + (half === 'pm' ? 12 : 0);
  return hours * 3600 + Number(m[2]) * 60 + numberOf(m[3]!);
}

/** Days before a time: "0d 01:02:03", "1 day, 1:02:03", "0.01:02:03". */
const DAYS = /^(\d+)(?:\s*d(?:ays?)?[\s,.:]*|\.(?=\d{1,2}:))(\d.*)$/i;
/** "1h 2m 3s", each part but one left out at will. */
const SPELT = /^(?:(\d+)\s*h)?\s*(?:(\d+)\s*m(?:in)?)?\s*(?:(\d+(?:[.,]\d+)?)\s*s(?:ec)?)?$/i;

/** Seconds counted from a start, with days or spelt out; null where it is no such time. */
function countOf(text: string): number | null {
  const [, days, time = ''] = DAYS.exec(text) ?? [];
  if (days !== undefined) {
    const within = clockOf(time);
    return within === null ? null : Number(days) * 86_400 + within;
  }
  const m = SPELT.exec(text);
  if (text === '' || !m) return null;
  const [h, min, s] = m.slice(1).map((x: string | undefined) => Number((x ?? '0').replace(',', '.')));
  return (h ?? 0) * 3600 + (min ?? 0) * 60 + (s ?? 0);
}

/** Seconds of a time that is no number: h:mm:ss, with days before it, spelt out, or a date with a time; null where it is none. */
export function momentOf(cell: string): Moment | null {
  const t = cell.trim();
  const count = countOf(t);
  if (count !== null) return { seconds: count, of: 'count' };
  const clock = clockOf(t);
  if (clock !== null) return { seconds: clock, of: clock < 86_400 ? 'day' : 'count' };
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(t)) {
    const iso = t.replace(' ', 'T').replace(',', '.');
    const ms = Date.parse(/(Z|[+-]\d{2}:?\d{2})$/.test(iso) ? iso : `${iso}Z`);
    return Number.isNaN(ms) ? null : { seconds: ms / 1000, of: 'date' };
  }
  const [, date = '', time = ''] = /^(\d{1,4}[./-]\d{1,2}[./-]\d{1,4})[ ,T]+(.+)$/.exec(t) ?? [];
  const within = clockOf(time);
  if (within === null) return null;
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(date);
  const slashed = /^(\d{4})[/.-](\d{1,2})[/.-](\d{1,2})$/.exec(date);
  const [y, m, d] = dotted ? [dotted[3], dotted[2], dotted[1]] : slashed ? slashed.slice(1) : [];
  if (y === undefined) return { seconds: within, of: 'day', day: date };
  return { seconds: Date.UTC(Number(y), Number(m) - 1, Number(d)) / 1000 + within, of: 'date' };
}
