import type { InstrumentBody } from '../logbook/entry';
import { isDigits } from '../quantity/figure';

type Measures = InstrumentBody['measures'];
/** What is one figure on a keypad. */
export type FigureMeasured = Exclude<Measures, 'discharge' | 'gauge'>;

/** What is asked of an instrument by SCPI-99 (volume 2, command reference; from memory); others send lines by themselves. */
export const SCPI_ASKS: Readonly<Partial<Record<Measures, string>>> = {
  volts: 'MEAS:VOLT:DC?',
  temperature: 'MEAS:TEMP?',
};

/** Units a line may name, and what they are here. The first is what stands for no unit. */
const UNITS: Readonly<Record<FigureMeasured, readonly (readonly [said: RegExp, unit: string])[]>> = {
  volts: [
    [/^V(?:DC|OLTS?)?$/i, 'V'],
    [/^mV(?:DC)?$/, 'mV'],
  ],
  thickness: [
    [/^mm$/i, 'mm'],
    [/^in(?:ch)?$/i, 'inch'],
  ],
  temperature: [
    [/^(?:°?C|CEL|degC)$/i, '°C'],
    [/^(?:°?F|FAR|degF)$/i, '°F'],
  ],
  mass: [
    [/^g$/i, 'g'],
    [/^kg$/i, 'kg'],
  ],
};

/** SCPI-99 7.2.1.4 and 7.2.1.5: 9.9E37 is infinity, an overload; 9.91E37 is no number at all; from memory. */
const INFINITY = 9.9e37;
const NO_NUMBER = 9.91e37;

export type InstrumentAnswer =
  | { readonly kind: 'reading'; readonly digits: string; readonly unit: string }
  /** In words, with what to do. */
  | { readonly kind: 'fault'; readonly words: string };

/** One line of it; it may say itself that it has not come to rest. */
export type InstrumentLine = InstrumentAnswer | { readonly kind: 'moving' };

const fault = (words: string): InstrumentAnswer => ({ kind: 'fault', words });

/** A number with an exponent as plain digits, with as many of them as were sent, six decimals at most; null where it is none. */
export function plainDigits(sent: string): string | null {
  const m = /^([+-]?)(\d*)[.,]?(\d*)(?:E([+-]?\d{1,3}))?$/i.exec(sent);
  if (!m || (m[2] === '' && m[3] === '')) return null;
  const exponent = Number(m[4] ?? 0);
  const decimals = Math.max(0, Math.min(6, m[3]!.length - exponent));
  const value = Number(`${m[1]}${m[2] || '0'}.${m[3] || '0'}e${exponent}`);
  if (!Number.isFinite(value) || Math.abs(value) >= 1e9) return null;
  const digits = value.toFixed(decimals);
  return isDigits(digits) ? digits.replace(/^-(0(?:\.0+)?)$/, '$1') : null;
}

/** Words that scales set before a figure: how it stands, and whether it is gross or net. A tare is nobody's weight. Common practice, no source. */
const WORDS: Readonly<Record<string, 'still' | 'moving' | 'overload'>> = {
  ST: 'still',
  S: 'still',
  GS: 'still',
  G: 'still',
  GROSS: 'still',
  NT: 'still',
  N: 'still',
  NET: 'still',
  US: 'moving',
  SD: 'moving',
  D: 'moving',
  OL: 'overload',
};

/** What the words before a figure say together; null where one of them is not known. */
function statusOf(words: string): 'still' | 'moving' | 'overload' | null {
  const all = words.split(/[,:\s]+/).filter((w) => w !== '');
  const found = all.map((w) => WORDS[w.toUpperCase()]);
  if (found.includes(undefined)) return null;
  return (['overload', 'moving'] as const).find((x) => found.includes(x)) ?? 'still';
}

const OVERLOAD = 'overload: choose a larger range, and look at the leads';

/**
 * One line of an instrument: "+1.13967E+01", "270.3 g" or "ST,GS,+00270.3 g". What it does not say is never made up: another unit, an overload or anything else is
 * a fault with what to do.
 * @param line without its end, as it was sent.
 */
export function readInstrumentLine(line: string, measures: FigureMeasured): InstrumentLine {
  const text = line.trim();
  if (text === '') return fault('it sent an empty line: look at its display');
  const unread = fault(`it sent "${text.slice(0, 40)}", which is no reading: look at its display`);
  const m = /^((?:[a-z]{1,5}[,:\s]+)*)([+-]?\s*[\d.,]+(?:E[+-]?\d+)?)\s*([^\d\s].*)?$/i.exec(text);
  if (!m) return unread;
  const status = statusOf(m[1] ?? '');
  if (status === null) return unread;
  if (status === 'overload') return fault(measures === 'mass' ? 'overload: take something off the scale' : OVERLOAD);
  const sent = m[2]!.replace(/\s/g, '');
  const size = Math.abs(Number(sent.replace(',', '.')));
  if (size >= NO_NUMBER * 0.9999) return fault('it has no reading: are the leads on?');
  if (size >= INFINITY * 0.9999) return fault(OVERLOAD);
  const digits = plainDigits(sent);
  if (digits === null) return unread;
  if (status === 'moving') return { kind: 'moving' };
  const named = m[3]?.trim();
  const units = UNITS[measures];
  const unit = named === undefined ? units[0] : units.find(([said]) => said.test(named));
  if (!unit) return fault(`it measures in ${named}, not in ${units.map(([, u]) => u).join(' or ')}: set it, then read again`);
  return { kind: 'reading', digits, unit: unit[1] };
}

/** How far readings one after another may lie apart before they stand still, in the unit of the first of each; common practice, no source. */
const STILL: Readonly<Record<string, number>> = {
  V: 0.003,
  mV: 3,
  mm: 0.02,
  inch: 0.0008,
  '°C': 0.3,
  '°F': 0.6,
  g: 0.3,
  kg: 0.0003,
};
/** Readings that must agree. */
export const STILL_READINGS = 3;

/** Do the last three lie together? An instrument that still moves says nothing yet. */
export function standsStill(readings: readonly { readonly digits: string; readonly unit: string }[]): boolean {
  const last = readings.slice(-STILL_READINGS);
  if (last.length < STILL_READINGS || last.some((r) => r.unit !== last[0]!.unit)) return false;
  const values = last.map((r) => Number(r.digits));
  return Math.max(...values) - Math.min(...values) <= (STILL[last[0]!.unit] ?? 0) + 1e-9;
}

/** Most lines a gauge's report has, and silence after which it is at its end, ms. */
const REPORT = { lines: 400, silence: 700 } as const;

/** A line to an instrument, whatever it runs over. */
export interface InstrumentWire {
  readonly send: (text: string) => void | Promise<void>;
  /** The next line it sends; null where none came in time. */
  readonly next: () => Promise<string | null>;
  readonly pause: (ms: number) => Promise<void>;
  /** Milliseconds of a clock that nobody turns. */
  readonly clock: () => number;
}

/** Longest time until a reading stands still, and between two questions, ms. */
const STILL_MS = 8000;
const PAUSE_MS = 120;
export const SILENT = 'it does not answer: is it on, and connected as it says?';

/** Why an instrument gives no reading for a keypad, before anybody connects to it; null where it gives one. */
export function whyNoReading(speaks: 'scpi' | 'lines', measures: Measures): string | null {
  if (measures === 'discharge') return 'a load gives no reading: it runs a test from the discharge log of a pack';
  if (measures === 'gauge') return 'a gauge gives no single figure: read it where its report is asked for';
  return speaks === 'scpi' && SCPI_ASKS[measures] === undefined
    ? `SCPI has no question for ${measures}: let it send lines`
    : null;
}

/**
 * Reads an instrument until it stands still. A fault is told in words with what to do.
 * @param speaks whether it is asked, or sends lines by itself.
 */
export async function readUntilStill(
  wire: InstrumentWire,
  speaks: 'scpi' | 'lines',
  measures: Measures,
): Promise<InstrumentAnswer> {
  const why = whyNoReading(speaks, measures);
  if (why !== null) return fault(why);
  const figure = measures as FigureMeasured;
  const ask = speaks === 'scpi' ? (SCPI_ASKS[measures] ?? null) : null;
  const readings: { digits: string; unit: string }[] = [];
  const until = wire.clock() + STILL_MS;
  while (wire.clock() < until) {
    if (ask !== null) await wire.send(`${ask}\n`);
    const line = await wire.next();
    if (line === null) return fault(readings.length === 0 ? SILENT : 'it fell silent: look at its display');
    const answer = readInstrumentLine(line, figure);
    if (answer.kind === 'fault') return answer;
    if (answer.kind === 'moving') readings.length = 0;
    else readings.push(answer);
    if (answer.kind === 'reading' && standsStill(readings)) return answer;
    if (ask !== null) await wire.pause(PAUSE_MS);
  }
  return fault('it does not stand still: hold the probes still, then read again');
}

/**
 * What a gauge reader sends, as it is: asked once, then every line until it falls silent.
 * @param wire whose `next` waits no longer than it is told.
 */
export async function readReport(
  wire: Omit<InstrumentWire, 'next'> & { readonly next: (ms?: number) => Promise<string | null> },
  speaks: 'scpi' | 'lines',
): Promise<{ readonly kind: 'report'; readonly text: string } | { readonly kind: 'fault'; readonly words: string }> {
  if (speaks === 'scpi') await wire.send('READ?\n');
  const lines: string[] = [];
  for (;;) {
    const line = await wire.next(lines.length === 0 ? undefined : REPORT.silence);
    if (line === null) break;
    if (lines.length === REPORT.lines) return { kind: 'fault', words: 'it sends and sends: look at its display' };
    lines.push(line.replace(/[^\t\x20-\x7e]/g, ''));
  }
  const text = lines.join('\n').trim();
  return text === '' ? { kind: 'fault', words: SILENT } : { kind: 'report', text };
}
