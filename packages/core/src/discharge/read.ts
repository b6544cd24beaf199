import Papa from 'papaparse';
import { decodeText } from '../batch/text';
import { counted } from '../quantity/counted';
import { figureOf, isGrouped, numberOf, stepOf } from './cells';
import { Clock } from './clock';
import { type Columns, columnsOf, missingIn, namedTwice, unitsBelow } from './columns';

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

const NAMED = 5;
const lines = (all: readonly number[]): string =>
  all.length > NAMED ? `${all.slice(0, NAMED).join(', ')} and ${all.length - NAMED} more` : all.join(', ');

/** Rows looked at for a heading: instruments write words above their tables. */
const HEAD_ROWS = 30;

const DELIMITERS = [';', '\t', ',', '|'] as const;
const BARE: Columns = {
  time: { at: 0, factor: 1, named: true },
  volts: { at: 1, factor: 1 },
  amperes: { at: 2, factor: 1 },
};

/** The same columns, with thousands set apart where the first rows say so. */
function withGroups(columns: Columns, rows: readonly (readonly string[])[]): Columns {
  const { time, volts, amperes } = columns;
  if (!isGrouped(rows, [time, volts, amperes])) return columns;
  const grouped = { grouped: true } as const;
  return { ...columns, time: { ...time, ...grouped }, volts: { ...volts, ...grouped }, amperes: { ...amperes, ...grouped } };
}

/** What the heading and a row of units below it name. @throws BadLog where they contradict each other. */
function namedBy(columns: Columns, below: readonly (readonly string[])[]): { columns: Columns; units: number } {
  const first = below[0];
  const units = first ? unitsBelow(columns, first) : null;
  if (units === 'contradicted')
    throw new BadLog('the heading names one unit and the row below it another: which of them is right? Take the other one out');
  return units ? { columns: withGroups(units, below.slice(1)), units: 1 } : { columns: withGroups(columns, below), units: 0 };
}

/** What parts the cells, the last row of the heading and what it names; head -1 where there is none. Null where nothing fits. */
function shapeOf(text: string) {
  const tops = DELIMITERS.map((delimiter) => {
    const { data } = Papa.parse<string[]>(text, { delimiter, preview: HEAD_ROWS, skipEmptyLines: true });
    return { delimiter, data };
  });
  for (const { delimiter, data } of tops)
    for (const [head, row] of data.entries()) {
      const columns = columnsOf(row);
      if (!columns) continue;
      const named = namedBy(columns, data.slice(head + 1));
      const remarks = namedTwice(row).map((f) => `more than one column of ${f}: the first is taken`);
      return { delimiter, head: head + named.units, columns: named.columns, remarks };
    }
  const isBare = (row: readonly string[] | undefined) =>
    row !== undefined && row.length >= 3 && row.slice(1, 3).every((c) => Number.isFinite(numberOf(c)));
  const bare = tops.find(({ data }) => isBare(data[0]));
  const remarks = ['no heading: taken as seconds, volts and amperes'];
  return bare ? { delimiter: bare.delimiter, head: -1, columns: BARE, remarks } : null;
}

/** Rows that must have as many cells as the heading, where nothing but blanks parts them. */
const EVEN_ROWS = 5;
/** Blanks between columns: two and more, so that a day and its time stay together; else each. */
const GAPS = [/ {2,}/g, / +/g] as const;

/** A log whose columns blanks part, with tabs instead, and its shape; null where that makes no table. */
function partedByBlanks(plain: string) {
  for (const gap of GAPS) {
    const parted = (text: string) => text.replace(/^ +| +(?=\r?$)/gm, '').replace(gap, '\t');
    const top = parted(plain.slice(0, TOP));
    const shape = shapeOf(top);
    if (shape?.delimiter !== '\t') continue;
    const { data } = Papa.parse<string[]>(top, { delimiter: '\t', preview: HEAD_ROWS + EVEN_ROWS, skipEmptyLines: true });
    const rows = data.slice(Math.max(0, shape.head), Math.max(0, shape.head) + EVEN_ROWS);
    if (rows.every((r) => r.length === rows[0]?.length)) return { plain: parted(plain), shape };
  }
  return null;
}

/** What to say where no heading names everything: of the row that names most what it lacks. */
function noHeading(text: string): string {
  const rows = DELIMITERS.flatMap((delimiter) => Papa.parse<string[]>(text, { delimiter, preview: HEAD_ROWS }).data);
  const lacks = rows.map(missingIn).reduce((a, b) => (b.length < a.length ? b : a), missingIn([]));
  if (lacks.join() === 'amperes')
    return 'the heading names no amperes: write it above its column; where the pack rested, add one with 0 in each row';
  return lacks.length === missingIn([]).length
    ? 'no heading names time, volts and amperes: write them above the columns, parted by tabs or commas'
    : `the heading names no ${lacks.join(' and no ')}: write it above its column`;
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

/** Where nearly every row is older than the one above it, they stand the other way round. */
const MOSTLY = 0.9;
type Four = [Float64Array, Float64Array, Float64Array, Float64Array];

/** Rows after which time goes back. */
function backwards(seconds: Float64Array): number[] {
  const out: number[] = [];
  for (let i = 1; i < seconds.length; i++) if (seconds[i]! < seconds[i - 1]!) out.push(i - 1);
  return out;
}

/** Volts below this are no noise about zero: the leads were the other way round. */
const REVERSED = -0.1;
/** What instruments write for an overload is larger than this, and no pack's figure is. */
const OVERLOAD = 1e9;
const measured = (x: number, least: number): number => (x < least || Math.abs(x) >= OVERLOAD ? NaN : x);

/** What of a row cannot be read, and what to write instead. */
function unreadIn(
  row: readonly string[],
  columns: Columns,
  read: Readonly<Record<'time' | 'volts' | 'amperes', number>>,
): string {
  const field = (['time', 'volts', 'amperes'] as const).find((f) => !Number.isFinite(read[f])) ?? 'time';
  const cell = (row[columns[field].at] ?? '').trim();
  const said = `"${cell.slice(0, 40)}" is no ${field === 'time' ? 'time' : `figure in ${field}`}`;
  if (field === 'volts' && /^[-−]\s*\d/.test(cell)) return `"${cell.slice(0, 40)}" V: were the leads the other way round?`;
  if (field !== 'time') return said;
  if (/^\d+:\d{2}$/.test(cell)) return `${said} that is sure: write "mm:ss" or "hh:mm" beside the heading's name`;
  return /^\d+(?::\d+){3}$/.test(cell)
    ? `${said} that is sure: write "d:hh:mm:ss" or "hh:mm:ss:ms" beside the heading's name`
    : said;
}

/** More than any pack of a notebook has or gives, V and A: such figures are thousandths whose unit nobody wrote. Common practice, no source. */
const MOST = 60;
const largest = (xs: Float64Array): number => xs.reduce((most, x) => Math.max(most, Math.abs(x)), 0);

/**
 * What is to be said of units that nobody wrote, and of figures that no notebook's pack has.
 * @throws BadLog where a figure without a unit is too large to be what it would be taken for.
 */
function unitRemarks(
  columns: Columns,
  log: Readonly<Record<'seconds' | 'volts' | 'amperes', Float64Array>>,
  { isCounted, dated }: Clock,
): string[] {
  const remarks: string[] = [];
  for (const field of ['volts', 'amperes'] as const) {
    const most = largest(log[field]);
    if (most <= MOST) continue;
    const found = `${field} up to ${Number(most.toPrecision(4))}`;
    if (!columns[field].named)
      throw new BadLog(
        `${found} and no unit: write it beside the heading's name, as in "${field === 'volts' ? 'Voltage (mV)' : 'Current (mA)'}"`,
      );
    remarks.push(`${found}: more than a pack of a notebook has; is the unit in the heading right?`);
  }
  if (isCounted && !dated && !columns.time.named) remarks.push('the time has no unit: taken as seconds');
  return remarks;
}

/** Takes rows one by one. */
class Rows {
  private readonly series = { seconds: new Series(), volts: new Series(), amperes: new Series(), celsius: new Series() };
  private readonly bad: number[] = [];
  /** What of the first of them cannot be read. */
  private unread = '';
  private readonly jumps: number[] = [];
  private readonly steps = { volts: Infinity, amperes: Infinity };
  private readonly clock: Clock;
  private doubled = 0;
  count = 0;

  constructor(private readonly columns: Columns) {
    this.clock = new Clock(columns.time);
  }

  take(row: readonly string[], line: number): void {
    const { time, volts, amperes, celsius } = this.columns;
    const { series: s, count: n } = this;
    const v = measured(figureOf(row[volts.at] ?? '', 'volts', volts), REVERSED);
    const a = measured(figureOf(row[amperes.at] ?? '', 'amperes', amperes), -Infinity);
    const at = this.clock.at(row[time.at] ?? '', time.dayAt === undefined ? undefined : (row[time.dayAt] ?? ''));
    if (!Number.isFinite(at) || !Number.isFinite(v) || !Number.isFinite(a)) {
      if (this.bad.length === 0) this.unread = unreadIn(row, this.columns, { time: at, volts: v, amperes: a });
      this.bad.push(line);
      return;
    }
    if (n < DIGIT_ROWS) {
      this.steps.volts = Math.min(this.steps.volts, stepOf(row[volts.at]!, 'volts', volts));
      this.steps.amperes = Math.min(this.steps.amperes, stepOf(row[amperes.at]!, 'amperes', amperes));
    }
    if (n > 0 && at === s.seconds.at(n - 1) && v === s.volts.at(n - 1) && a === s.amperes.at(n - 1)) {
      this.doubled += 1;
      return;
    }
    if (n > 0 && at < s.seconds.at(n - 1)) this.jumps.push(n - 1);
    s.seconds.push(n, at);
    s.volts.push(n, v);
    s.amperes.push(n, a);
    if (celsius) s.celsius.push(n, figureOf(row[celsius.at] ?? '', 'celsius', celsius));
    this.count += 1;
  }

  /** @throws BadLog where too little came. */
  log(remarks: readonly string[]): DischargeLog {
    const { series: s, count: n, bad, doubled, columns } = this;
    if (n < 2) {
      const first = bad[0];
      const why = first === undefined ? 'nothing follows from them' : `row ${first}: ${this.unread}`;
      throw new BadLog(`fewer than two rows can be read: ${why}`);
    }
    const [seconds, volts, amperes, celsius] = [s.seconds, s.volts, s.amperes, s.celsius].map((x) => x.first(n)) as Four;
    if (seconds.every((x) => x === seconds[0]))
      throw new BadLog('its clock stands still: nothing follows from rows of one moment');
    const newestFirst = this.jumps.length > (n - 1) * MOSTLY;
    if (newestFirst) for (const x of [seconds, volts, amperes, celsius]) x.reverse();
    const jumps = newestFirst ? backwards(seconds) : this.jumps;
    const units = unitRemarks(columns, { seconds, volts, amperes }, this.clock);
    const back = jumps.length === 1 ? 'once' : `${jumps.length} times`;
    return {
      seconds,
      volts,
      amperes,
      celsius: columns.celsius ? celsius : null,
      dated: this.clock.dated,
      steps: { ...this.steps },
      jumps,
      remarks: [
        ...remarks,
        ...units,
        ...(newestFirst ? ['its newest row stands first: taken from the end'] : []),
        ...(this.clock.guessed ? ['day or month first, nobody knows: each new day is taken as the next'] : []),
        ...(bad.length > 0 ? [`${counted(bad.length, 'row is', 'rows are')} not readable: ${lines(bad)}`] : []),
        ...(doubled > 0 ? [`${counted(doubled, 'doubled row')} left out`] : []),
        ...(jumps.length > 0 ? [`the clock went back ${back}: what lies between is not counted`] : []),
      ],
    };
  }
}

/**
 * Bytes of a log as text. Instruments write degree signs in whatever their makers used: what is no Unicode is taken as Windows-1252, in which
 * every figure is the same.
 */
export function decodeLog(bytes: Uint8Array): string {
  try {
    return decodeText(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/**
 * A discharge log from CSV as any instrument writes it: comma, semicolon, tab or blanks, decimal comma, units in the heading or beside each figure,
 * words above the table, a clock that passes midnight, the newest row first. Doubled rows are left out, rows that cannot be read are named.
 * @param progress told how many rows were read, now and then. @throws BadLog where nothing can be made of it.
 */
export function readLog(text: string, progress: (rows: number) => void = () => undefined): DischargeLog {
  const given = text.replace(/^\ufeff/, '');
  const found = shapeOf(given.slice(0, TOP));
  const table = found ? { plain: given, shape: found } : partedByBlanks(given);
  if (!table) throw new BadLog(noHeading(given.slice(0, TOP)));
  const { plain, shape } = table;
  const rows = new Rows(shape.columns);
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
  return rows.log(shape.remarks);
}
