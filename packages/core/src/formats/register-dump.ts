import { type Figure, figure, type VoltUnit } from '../quantity/figure';
import { type Amount, doubtChemistry, judged, type ReportedBattery } from './reported';
import {
  batteryMode,
  batteryStatus,
  celsiusOf,
  isUnavailable,
  manufactureDate,
  packetErrorCode,
  specificationInfo,
} from './smart-battery';

/** Address of a smart battery on the bus, for writing and for reading (Smart Battery Data Specification 1.1, from memory). */
const ADDRESS = { write: 0x16, read: 0x17 } as const;
const MODE = 0x03;
const TEMPERATURE = 0x08;
const VOLTAGE = 0x09;
const MAX_ERROR = 0x0c;
const RELATIVE = 0x0d;
const REMAINING = 0x0f;
const FULL = 0x10;
const STATUS = 0x16;
const CYCLES = 0x17;
const DESIGN = 0x18;
const DESIGN_VOLTAGE = 0x19;
const INFO = 0x1a;
const DATE = 0x1b;
const SERIAL = 0x1c;
const MAKER = 0x20;
const NAME = 0x21;
const CHEMISTRY = 0x22;
/** Blocks: a count and so many bytes. */
const BLOCKS: ReadonlySet<number> = new Set([MAKER, NAME, CHEMISTRY, 0x23]);
/** Cells 1 to 4 where a maker lends its own registers to them; common practice, no source. */
const CELLS = [0x3f, 0x3e, 0x3d, 0x3c] as const;

interface Register {
  readonly at: number;
  readonly bytes: readonly number[];
  /** null where no check byte came with it. */
  readonly right: boolean | null;
}

const PART = /^(?:0x)?([0-9a-f]{2}|[0-9a-f]{4})h?$/i;

/**
 * One line: `09 2C88`, `0x09: 0x2C88 0xB1`, or the bytes of the wire, low one first, `09 88 2C B1`; the last byte, where there is one more
 * than the register holds, is its packet error code. A block: `22 04 4C 49 4F 4E 31`. Null where it is no register.
 */
function registerOf(line: string): Register | null {
  const parts = line.trim().split(/\s*[:=]\s*|[\s,]+/);
  const digits = parts.map((p) => PART.exec(p)?.[1] ?? '');
  const [register, ...sent] = digits;
  if (!register || register.length !== 2 || sent.length === 0 || sent.includes('')) return null;
  // A word stands first, and only its check byte behind it.
  if (sent.slice(1).some((d) => d.length === 4)) return null;
  const at = Number.parseInt(register, 16);
  const bytes = sent.flatMap((d) => {
    const x = Number.parseInt(d, 16);
    return d.length === 4 ? [x & 0xff, x >> 8] : [x];
  });
  const holds = BLOCKS.has(at) ? 1 + (bytes[0] ?? 0) : 2;
  if (bytes.length !== holds && bytes.length !== holds + 1) return null;
  const data = bytes.slice(0, holds);
  const check = bytes[holds];
  const right = check === undefined ? null : packetErrorCode([ADDRESS.write, at, ADDRESS.read, ...data]) === check;
  return { at, bytes: data, right };
}

const named = (all: readonly number[]): string => all.map((r) => `0x${r.toString(16).padStart(2, '0').toUpperCase()}`).join(', ');

/** Where cells and the whole may lie apart, mV: the gauge reads them one after another. */
const SUM_MV = 50;
/** Temperatures that a pack at a bench has, tenths of a kelvin: -20 to 80 °C. */
const KELVIN = { lo: 2532, hi: 3532 } as const;
/** From which surface or inside a pack is to be looked at, °C. */
const WARM = 45;

/** Cells from the makers' own registers, where they add up to the whole; null where they are something else. */
function cellsOf(word: (at: number) => number | null, scale: number): Figure<VoltUnit>[] | null {
  const cells = CELLS.map(word).filter((x): x is number => x !== null && x > 0);
  const whole = word(VOLTAGE);
  if (whole === null || cells.length < 2) return null;
  const sum = cells.reduce((a, b) => a + b, 0);
  if (cells.some((x) => x > 5000) || Math.abs(sum - whole * 10 ** scale) > SUM_MV) return null;
  return cells.map((x) => figure(x, 'mV', 0));
}

/** What the flags and figures of a gauge cast doubt on, in words. */
function statusDoubts(word: (at: number) => number | null, doubts: string[]): void {
  const status = word(STATUS);
  if (status !== null) {
    const { flags, error } = batteryStatus(status);
    const alarms = flags.filter((f) => f.endsWith('_ALARM') && !f.startsWith('REMAINING'));
    if (alarms.length > 0) doubts.push(`it raises ${alarms.join(', ').replace(/_/g, ' ').toLowerCase()}: look at the pack`);
    if (error.code !== 0) doubts.push(`its last answer was an error, ${error.words}: read it again`);
    if (!flags.includes('INITIALIZED')) doubts.push('it was never initialized: its capacities may be anything');
  }
  const kelvin = word(TEMPERATURE);
  if (kelvin !== null && (kelvin < KELVIN.lo || kelvin > KELVIN.hi)) doubts.push('its temperature cannot be: its sensor is off');
  else if (kelvin !== null && celsiusOf(kelvin) >= WARM)
    doubts.push(`it is ${celsiusOf(kelvin).toFixed(0)} °C inside: keep away until it has cooled, and look at it`);
}

/**
 * Registers of a smart battery as any reader prints them, a line each (Smart Battery Data Specification 1.1, from memory). A register whose
 * packet error code is wrong is left out and named; capacities are left out where it is not known what they are counted in.
 * @returns null where the text is no such dump.
 */
export function parseRegisterDump(text: string): ReportedBattery | null {
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== '');
  const read = lines.flatMap((l) => registerOf(l) ?? []);
  // A few lines of something else may stand around it; a table of hours is no dump.
  if (read.length < 3 || read.length < lines.length / 2) return null;
  const doubts: string[] = [];
  const wrong = read.filter((r) => r.right === false);
  if (wrong.length > 0) doubts.push(`check byte wrong, left out: ${named(wrong.map((r) => r.at))}`);
  if (read.every((r) => r.right === null)) doubts.push('no check bytes came with it: a disturbed line would not be seen');
  const good = new Map<number, Register>();
  const twice = new Set<number>();
  for (const r of read) {
    if (r.right === false) continue;
    const before = good.get(r.at);
    if (before && before.bytes.join() !== r.bytes.join()) twice.add(r.at);
    good.set(r.at, r);
  }
  if (twice.size > 0) doubts.push(`read twice, with different answers: ${named([...twice])}; the last one is taken`);
  const word = (at: number): number | null => {
    const r = good.get(at);
    return r ? r.bytes[0]! + 256 * r.bytes[1]! : null;
  };
  const known = (at: number): number | null => {
    const x = word(at);
    return x === null || isUnavailable(x) ? null : x;
  };
  const block = (at: number): string => String.fromCharCode(...(good.get(at)?.bytes.slice(1) ?? [])).replace(/[^\x20-\x7e]/g, '');
  statusDoubts(word, doubts);
  const info = word(INFO);
  const scales = info === null ? null : specificationInfo(info);
  if (scales === null) doubts.push('its scale (0x1A) was not read: taken as one');
  const [volts, amperes] = [scales ? scales.voltsScale : 0, scales ? scales.currentScale : 0];
  if (volts === null || amperes === null) doubts.push('its scale (0x1A) is none that is defined: volts and capacities left out');
  const mode = word(MODE);
  if (mode === null) doubts.push('its mode (0x03) was not read: mAh or 10 mWh is not known, capacities left out');
  const amount = (at: number): Amount | null => {
    const x = known(at);
    if (x === null || mode === null || amperes === null) return null;
    return batteryMode(mode).tenMilliwattHours ? figure(x * 10 * 10 ** amperes, 'mWh', 0) : figure(x * 10 ** amperes, 'mAh', 0);
  };
  const millivolts = (at: number): Figure<VoltUnit> | null => {
    const x = known(at);
    return x === null || volts === null ? null : figure(x * 10 ** volts, 'mV', 0);
  };
  const chemistry = block(CHEMISTRY);
  doubtChemistry(chemistry, doubts);
  const made = word(DATE);
  const day = made === null ? null : manufactureDate(made);
  if (made !== null && day === null) doubts.push('its day of manufacture is no day of the calendar');
  const amounts = { design: amount(DESIGN), full: amount(FULL), now: amount(REMAINING) };
  const gauge = judged(amounts, known(CYCLES), doubts);
  const [full, now, shown] = [known(FULL), known(REMAINING), known(RELATIVE)];
  if (full && now !== null && shown !== null && Math.abs((100 * now) / full - shown) > 2)
    doubts.push(`it shows ${shown} %, and ${Math.round((100 * now) / full)} % by its own figures`);
  const error = known(MAX_ERROR);
  const cells = volts === null ? null : cellsOf(known, volts);
  const serial = word(SERIAL);
  return {
    name: block(NAME) || 'battery',
    maker: block(MAKER),
    model: day === null ? '' : `made ${day}`,
    serial: serial === null ? '' : String(serial),
    gauge: {
      ...gauge,
      ...(error !== null && error <= 100 && { maxError: error }),
      ...(cells && { cellVoltages: cells }),
    },
    shown,
    volts: millivolts(VOLTAGE),
    nominal: millivolts(DESIGN_VOLTAGE),
    doubts,
  };
}
