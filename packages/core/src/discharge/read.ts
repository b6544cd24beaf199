import Papa from 'papaparse';

/** A log row by row, in one order of time; figures beside each other in typed arrays, so that a million rows stay small. */
export interface DischargeLog {
  /** Seconds: since 1970 where the log has a date, else as counted by the instrument. */
  readonly seconds: Float64Array;
  readonly volts: Float64Array;
  readonly amperes: Float64Array;
  /** °C; null where the log has none. */
  readonly celsius: Float64Array | null;
  /** Does time count from 1970? */
  readonly dated: boolean;
  /** Last digit printed of volts and amperes. */
  readonly steps: { readonly volts: number; readonly amperes: number };
  /** Rows after which the clock went back: what lies between is not known. */
  readonly jumps: readonly number[];
  readonly remarks: readonly string[];
}

/** What is wrong with a file as a whole, and what to do. */
export class BadLog extends Error {}

type Field = 'time' | 'volts' | 'amperes' | 'celsius';
interface Column {
  readonly at: number;
  /** What a figure is multiplied by to be in seconds, volts, amperes. */
  readonly factor: number;
}

const NAMES: readonly (readonly [Field, RegExp])[] = [
  ['time', /^(time|timestamp|date|datetime|date time|elapsed|elapsed time|test time|seconds|t|zeit|sec|s)$/],
  ['volts', /^(volts?|voltage|pack voltage|u|v|spannung|ubat|vbat)$/],
  ['amperes', /^(amperes?|amps?|current|i|a|strom|ibat)$/],
  ['celsius', /^(temperature|temp|celsius|temperatur|t bat)$/],
];
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
  ma: ['amperes', 0.001],
  a: ['amperes', 1],
  c: ['celsius', 1],
  '°c': ['celsius', 1],
};

/** A heading as a column: "Voltage (mV)", "current_mA", "time/s". */
function columnOf(heading: string): { field: Field; factor: number } | null {
  const text = heading.trim().toLowerCase();
  const [, words = text, unit = ''] =
    /^(.*?)[\s_/]*[([/_]?\s*\b(ms|s|sec|seconds|min|minutes|h|hours|mv|v|ma|a|°?c)\s*[)\]]?$/.exec(text) ?? [];
  const plain = (words.trim() || text).replace(/[_/()[\]]+/g, ' ').trim();
  const found = NAMES.find(([, r]) => r.test(plain))?.[0] ?? (FACTORS[plain] ? FACTORS[plain][0] : undefined);
  if (!found) return null;
  const factor = FACTORS[unit] ?? FACTORS[plain];
  return { field: found, factor: factor && factor[0] === found ? factor[1] : 1 };
}

/** A number with comma or point; NaN for anything else. */
const numberOf = (cell: string): number => {
  const t = cell.trim().replace(',', '.').replace('−', '-');
  return t === '' ? NaN : Number(t);
};

/** Seconds of a time: a number, h:mm:ss, or a date with a time; null where it is none. */
function timeOf(cell: string): { seconds: number; dated: boolean } | null {
  const t = cell.trim();
  const clock = /^(\d+):(\d{2}):(\d{2}(?:[.,]\d+)?)$/.exec(t);
  if (clock) return { seconds: Number(clock[1]) * 3600 + Number(clock[2]) * 60 + numberOf(clock[3]!), dated: false };
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/.test(t)) {
    const iso = t.replace(' ', 'T').replace(',', '.');
    const ms = Date.parse(/(Z|[+-]\d{2}:?\d{2})$/.test(iso) ? iso : `${iso}Z`);
    return Number.isNaN(ms) ? null : { seconds: ms / 1000, dated: true };
  }
  return null;
}

/** Digits behind the point, as the instrument writes them. */
const decimals = (cell: string): number => /[.,](\d+)\s*$/.exec(cell)?.[1]?.length ?? 0;

/** Which columns hold what. @returns null where a heading is no heading of a log. */
function columnsOf(row: readonly string[]): Partial<Record<Field, Column>> | null {
  const out: Partial<Record<Field, Column>> = {};
  row.forEach((cell, at) => {
    const c = columnOf(cell);
    if (c && out[c.field] === undefined) out[c.field] = { at, factor: c.factor };
  });
  return out.time && out.volts && out.amperes ? out : null;
}

const NAMED = 5;
const lines = (all: readonly number[]): string =>
  all.length > NAMED ? `${all.slice(0, NAMED).join(', ')} and ${all.length - NAMED} more` : all.join(', ');

/** Rows looked at for a heading: instruments write words above their tables. */
const HEAD_ROWS = 30;

const DELIMITERS = [';', '\t', ',', '|'] as const;
const BARE: Partial<Record<Field, Column>> = {
  time: { at: 0, factor: 1 },
  volts: { at: 1, factor: 1 },
  amperes: { at: 2, factor: 1 },
};

/** What parts the cells, where the heading stands and what it names; head -1 where there is none. Null where nothing fits. */
function shapeOf(text: string) {
  const tops = DELIMITERS.map((delimiter) => {
    const { data } = Papa.parse<string[]>(text, { delimiter, preview: HEAD_ROWS, skipEmptyLines: true });
    return { delimiter, data };
  });
  for (const { delimiter, data } of tops)
    for (const [head, row] of data.entries()) {
      const columns = columnsOf(row);
      if (columns) return { delimiter, head, columns };
    }
  const isBare = (row: readonly string[] | undefined) =>
    row !== undefined && row.length >= 3 && row.slice(1, 3).every((c) => Number.isFinite(numberOf(c)));
  const bare = tops.find(({ data }) => isBare(data[0]));
  return bare ? { delimiter: bare.delimiter, head: -1, columns: BARE } : null;
}

/**
 * A discharge log from CSV as any instrument writes it: comma, semicolon or tab, decimal comma, units in the heading, words above the table.
 * Doubled rows are left out, rows that cannot be read are named.
 * @param progress told how many rows were read, now and then. @throws BadLog where nothing can be made of it.
 */
export function readLog(text: string, progress: (done: number, of: number) => void = () => undefined): DischargeLog {
  const plain = text.replace(/^\ufeff/, '');
  const shape = shapeOf(plain);
  if (!shape) throw new BadLog('no heading names time, volts and amperes: write them above the columns');
  const { head, columns } = shape;
  const { data } = Papa.parse<string[]>(plain, { delimiter: shape.delimiter, skipEmptyLines: true });
  const remarks: string[] = head < 0 ? ['no heading: taken as seconds, volts and amperes'] : [];
  const { time, volts, amperes, celsius } = columns as Record<Field, Column> & { celsius?: Column };
  const n = data.length - head - 1;
  const made = {
    seconds: new Float64Array(n),
    volts: new Float64Array(n),
    amperes: new Float64Array(n),
    celsius: celsius ? new Float64Array(n) : null,
  };
  const bad: number[] = [];
  const jumps: number[] = [];
  let [rows, doubled, dated] = [0, 0, false];
  let places = { volts: 0, amperes: 0 };
  for (let i = head + 1; i < data.length; i++) {
    const row = data[i]!;
    const [v, a] = [numberOf(row[volts.at] ?? '') * volts.factor, numberOf(row[amperes.at] ?? '') * amperes.factor];
    const cell = row[time.at] ?? '';
    const number = numberOf(cell);
    const clock = Number.isFinite(number) ? { seconds: number * time.factor, dated: false } : timeOf(cell);
    if (!clock || !Number.isFinite(v) || !Number.isFinite(a)) {
      bad.push(i + 1);
      continue;
    }
    if (rows < 1000) {
      places = {
        volts: Math.max(places.volts, decimals(row[volts.at]!)),
        amperes: Math.max(places.amperes, decimals(row[amperes.at]!)),
      };
    }
    const before = made.seconds[rows - 1];
    if (rows > 0 && clock.seconds === before && v === made.volts[rows - 1] && a === made.amperes[rows - 1]) {
      doubled += 1;
      continue;
    }
    if (rows > 0 && clock.seconds < before!) jumps.push(rows - 1);
    dated ||= clock.dated;
    made.seconds[rows] = clock.seconds;
    made.volts[rows] = v;
    made.amperes[rows] = a;
    if (made.celsius) made.celsius[rows] = numberOf(row[celsius!.at] ?? '');
    rows += 1;
    if (i % 100_000 === 0) progress(i, data.length);
  }
  if (rows < 2) throw new BadLog('fewer than two rows can be read: nothing follows from them');
  if (bad.length > 0) remarks.push(`${bad.length} ${bad.length === 1 ? 'row is' : 'rows are'} not readable: ${lines(bad)}`);
  if (doubled > 0) remarks.push(`${doubled} doubled ${doubled === 1 ? 'row' : 'rows'} left out`);
  if (jumps.length > 0)
    remarks.push(
      `the clock went back ${jumps.length === 1 ? 'once' : `${jumps.length} times`}: what lies between is not counted`,
    );
  return {
    seconds: made.seconds.subarray(0, rows),
    volts: made.volts.subarray(0, rows),
    amperes: made.amperes.subarray(0, rows),
    celsius: made.celsius ? made.celsius.subarray(0, rows) : null,
    dated,
    steps: { volts: volts.factor * 10 ** -places.volts, amperes: amperes.factor * 10 ** -places.amperes },
    jumps,
    remarks,
  };
}
