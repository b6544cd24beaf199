import Papa from 'papaparse';
import { counted } from '../quantity/counted';

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
    /^(.*?)[\s_/([]+(ms|s|sec|seconds|min|minutes|h|hours|mv|v|ma|a|°?c)\s*[)\]]?$/.exec(text) ?? [];
  const plain = (words.trim() || text).replace(/[_/()[\]]+/g, ' ').trim();
  const found = NAMES.find(([, r]) => r.test(plain))?.[0] ?? (FACTORS[plain] ? FACTORS[plain][0] : undefined);
  if (!found) return null;
  const factor = FACTORS[unit] ?? FACTORS[plain];
  return { field: found, factor: factor && factor[0] === found ? factor[1] : 1 };
}

/** A number with comma or point; NaN for anything else. Most cells are plain numbers: they are not looked at twice. */
const numberOf = (cell: string): number => {
  const x = Number(cell);
  // Nothing is read as 0 and is no number.
  if (!Number.isNaN(x) && (x !== 0 || cell.includes('0'))) return x;
  return Number(cell.trim().replace(',', '.').replace('−', '-') || NaN);
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

/** Figures one after another, growing as they come. */
class Series {
  private figures = new Float64Array(4096);
  push(at: number, x: number): void {
    if (at >= this.figures.length) {
      const larger = new Float64Array(this.figures.length * 2);
      larger.set(this.figures);
      this.figures = larger;
    }
    this.figures[at] = x;
  }
  at = (i: number): number => this.figures[i]!;
  first = (n: number): Float64Array => this.figures.slice(0, n);
}

/** Rows whose digits are looked at for the last one the instrument prints. */
const DIGIT_ROWS = 1000;
/** Characters parsed at once. */
const CHUNK = 1 << 20;
/** Characters in which a heading stands. */
const TOP = 1 << 16;

/** Takes rows one by one. */
class Rows {
  private readonly series = { seconds: new Series(), volts: new Series(), amperes: new Series(), celsius: new Series() };
  private readonly bad: number[] = [];
  private readonly jumps: number[] = [];
  private readonly places = { volts: 0, amperes: 0 };
  private doubled = 0;
  private dated = false;
  count = 0;

  constructor(private readonly columns: Record<Exclude<Field, 'celsius'>, Column> & { readonly celsius?: Column }) {}

  private timeOf(cell: string): number {
    const number = numberOf(cell);
    if (!Number.isNaN(number)) return number * this.columns.time.factor;
    const clock = timeOf(cell);
    this.dated ||= clock?.dated === true;
    return clock?.seconds ?? NaN;
  }

  take(row: readonly string[], line: number): void {
    const { time, volts, amperes, celsius } = this.columns;
    const { series: s, count: n } = this;
    const v = numberOf(row[volts.at] ?? '') * volts.factor;
    const a = numberOf(row[amperes.at] ?? '') * amperes.factor;
    const at = this.timeOf(row[time.at] ?? '');
    if (!Number.isFinite(at) || !Number.isFinite(v) || !Number.isFinite(a)) {
      this.bad.push(line);
      return;
    }
    if (n < DIGIT_ROWS) {
      this.places.volts = Math.max(this.places.volts, decimals(row[volts.at]!));
      this.places.amperes = Math.max(this.places.amperes, decimals(row[amperes.at]!));
    }
    if (n > 0 && at === s.seconds.at(n - 1) && v === s.volts.at(n - 1) && a === s.amperes.at(n - 1)) {
      this.doubled += 1;
      return;
    }
    if (n > 0 && at < s.seconds.at(n - 1)) this.jumps.push(n - 1);
    s.seconds.push(n, at);
    s.volts.push(n, v);
    s.amperes.push(n, a);
    if (celsius) s.celsius.push(n, numberOf(row[celsius.at] ?? ''));
    this.count += 1;
  }

  /** @throws BadLog where too little came. */
  log(remarks: readonly string[]): DischargeLog {
    const { series: s, count: n, bad, jumps, doubled, columns } = this;
    if (n < 2) throw new BadLog('fewer than two rows can be read: nothing follows from them');
    const back = jumps.length === 1 ? 'once' : `${jumps.length} times`;
    return {
      seconds: s.seconds.first(n),
      volts: s.volts.first(n),
      amperes: s.amperes.first(n),
      celsius: columns.celsius ? s.celsius.first(n) : null,
      dated: this.dated,
      steps: {
        volts: columns.volts.factor * 10 ** -this.places.volts,
        amperes: columns.amperes.factor * 10 ** -this.places.amperes,
      },
      jumps,
      remarks: [
        ...remarks,
        ...(bad.length > 0 ? [`${counted(bad.length, 'row is', 'rows are')} not readable: ${lines(bad)}`] : []),
        ...(doubled > 0 ? [`${counted(doubled, 'doubled row')} left out`] : []),
        ...(jumps.length > 0 ? [`the clock went back ${back}: what lies between is not counted`] : []),
      ],
    };
  }
}

/**
 * A discharge log from CSV as any instrument writes it: comma, semicolon or tab, decimal comma, units in the heading, words above the table.
 * Doubled rows are left out, rows that cannot be read are named.
 * @param progress told how many rows were read, now and then. @throws BadLog where nothing can be made of it.
 */
export function readLog(text: string, progress: (rows: number) => void = () => undefined): DischargeLog {
  const plain = text.replace(/^\ufeff/, '');
  const shape = shapeOf(plain.slice(0, TOP));
  if (!shape) throw new BadLog('no heading names time, volts and amperes: write them above the columns');
  const rows = new Rows(shape.columns as ConstructorParameters<typeof Rows>[0]);
  let line = 0;
  // Its types offer pieces for files alone; texts come in pieces as well.
  const inPieces = {
    delimiter: shape.delimiter,
    skipEmptyLines: true,
    chunkSize: CHUNK,
    chunk: ({ data }: { data: string[][] }) => {
      for (const row of data) {
        if (line > shape.head) rows.take(row, line + 1);
        line += 1;
      }
      progress(rows.count);
    },
  };
  Papa.parse(plain, inPieces as Papa.ParseConfig<string[]>);
  return rows.log(shape.head < 0 ? ['no heading: taken as seconds, volts and amperes'] : []);
}
