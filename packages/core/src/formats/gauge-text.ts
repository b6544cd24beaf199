import type { Figure, VoltUnit } from '../quantity/figure';
import { parseBatteryReport } from './battery-report';
import { parseRegisterDump } from './register-dump';
import { type Amount, doubtChemistry, judged, type ReportedBattery } from './reported';
import { parseSystemText, supplyFiles } from './system-text';

type Values = ReadonlyMap<string, string>;

/** Whole number of an attribute; null when it is absent, an error name, or the unknown mark of all ones. */
function whole(values: Values, key: string): number | null {
  const raw = values.get(key)?.trim();
  if (raw === undefined || !/^-?\d+$/.test(raw)) return null;
  const x = Number(raw);
  return Math.abs(x) === 0xffffffff || Math.abs(x) === 0x7fffffff ? null : x;
}

/** Thousandths as digits without floating point: 50160000 is "50160". */
function thousandths(x: number): string {
  const whole = Math.trunc(x / 1000);
  const part = String(Math.abs(x % 1000))
    .padStart(3, '0')
    .replace(/0+$/, '');
  return part === '' ? String(whole) : `${whole}.${part}`;
}

const volts = (microvolts: number | null): Figure<VoltUnit> | null =>
  microvolts !== null && microvolts > 0 ? { digits: thousandths(microvolts), unit: 'mV' } : null;

/** One block of `uevent` lines (kernel ABI, sysfs-class-power: uV, uAh, uWh; from memory). */
function fromUevent(v: Values): ReportedBattery {
  const doubts: string[] = [];
  const at = (key: string) => whole(v, `POWER_SUPPLY_${key}`);
  const text = (key: string) => (v.get(`POWER_SUPPLY_${key}`) ?? '').trim();
  const energy = at('ENERGY_FULL_DESIGN') !== null || at('ENERGY_FULL') !== null || at('ENERGY_NOW') !== null;
  const family = energy ? 'ENERGY' : 'CHARGE';
  const amount = (key: string): Amount | null => {
    const x = at(`${family}_${key}`);
    return x === null ? null : { digits: thousandths(x), unit: energy ? 'mWh' : 'mAh' };
  };
  if (text('PRESENT') === '0') doubts.push('reported as not there');
  doubtChemistry(text('TECHNOLOGY'), doubts);
  return {
    name: text('NAME') || 'battery',
    maker: text('MANUFACTURER'),
    model: text('MODEL_NAME'),
    serial: text('SERIAL_NUMBER'),
    gauge: judged({ design: amount('FULL_DESIGN'), full: amount('FULL'), now: amount('NOW') }, at('CYCLE_COUNT'), doubts),
    shown: at('CAPACITY'),
    volts: volts(at('VOLTAGE_NOW')),
    // The driver files the design (nominal) voltage under this name.
    nominal: volts(at('VOLTAGE_MIN_DESIGN')),
    doubts,
  };
}

/** One block of `key: value unit` lines, as older ACPI tools print information and state. */
function fromAcpi(v: Values): ReportedBattery {
  const doubts: string[] = [];
  const read = (...keys: string[]): { x: number; unit: string } | null => {
    for (const key of keys) {
      const m = /^(-?\d+)\s*(mAh|mWh|mV|mA|mW)?$/i.exec(v.get(key)?.trim() ?? '');
      if (m && Number(m[1]) !== 0xffffffff) return { x: Number(m[1]) * 1000, unit: (m[2] ?? '').toLowerCase() };
    }
    return null;
  };
  const design = read('design capacity');
  const full = read('last full capacity', 'last full charge capacity');
  const now = read('remaining capacity');
  const units = new Set([design, full, now].flatMap((r) => (r ? [r.unit] : [])));
  if (units.size > 1) doubts.push('capacities in different units: left out');
  const mixed = units.size > 1;
  const amount = (r: typeof design): Amount | null =>
    mixed || r === null ? null : { digits: thousandths(r.x), unit: units.has('mwh') ? 'mWh' : 'mAh' };
  return {
    name: v.get('name') ?? 'battery',
    maker: v.get('oem info') ?? '',
    model: v.get('model number') ?? v.get('model') ?? '',
    serial: v.get('serial number') ?? '',
    gauge: judged({ design: amount(design), full: amount(full), now: amount(now) }, Number(v.get('cycle count')) || null, doubts),
    shown: null,
    volts: volts(read('present voltage')?.x ?? null),
    nominal: volts(read('design voltage')?.x ?? null),
    doubts,
  };
}

/**
 * Reads what an operating system reports about its batteries: `uevent` text of power_supply, one block or several, the `key: value` lines of
 * ACPI battery information, registers of a smart battery, a battery report, or what else people copy. Chargers are passed over. Energies of two batteries are never averaged here.
 * @throws Error saying what is wrong when no battery is in the text.
 */
export function parseGaugeText(text: string): ReportedBattery[] {
  const given = text.split(/\r?\n/).map((l) => l.trim());
  const lines = supplyFiles(given) ?? given;
  if (lines.some((l) => l.startsWith('POWER_SUPPLY_'))) {
    const blocks: Map<string, string>[] = [];
    for (const line of lines) {
      const at = line.indexOf('=');
      if (at < 0 || !line.startsWith('POWER_SUPPLY_')) continue;
      const key = line.slice(0, at);
      const open = blocks[blocks.length - 1];
      if (!open || open.has(key)) blocks.push(new Map([[key, line.slice(at + 1)]]));
      else open.set(key, line.slice(at + 1));
    }
    const batteries = blocks.filter((b) => {
      const type = b.get('POWER_SUPPLY_TYPE');
      return type === undefined ? b.has('POWER_SUPPLY_CAPACITY') || b.has('POWER_SUPPLY_TECHNOLOGY') : type === 'Battery';
    });
    if (batteries.length === 0) throw new Error('this is a charger, not a battery: paste the text of the battery, BAT0 or BAT1');
    return batteries.map(fromUevent);
  }
  const dump = parseRegisterDump(text);
  if (dump) return [dump];
  const report = parseBatteryReport(text);
  const listed = () =>
    blocksOf(lines)
      .filter((b) => b.has('design capacity') || b.has('remaining capacity'))
      .map(fromAcpi);
  const told = report ?? parseSystemText(lines);
  const batteries = told.length > 0 ? told : listed();
  if (batteries.length === 0)
    throw new Error(
      'no battery found in this text: paste the whole uevent, ACPI or upower text, battery report, registry listing or register dump',
    );
  return batteries;
}

/** Keys that a battery says once: information and state of one battery share only the others. */
const ONCE: ReadonlySet<string> = new Set([
  'design capacity',
  'last full capacity',
  'last full charge capacity',
  'remaining capacity',
  'serial number',
]);

/**
 * Blocks of `key: value` lines, one a battery: a heading like `BAT1:` begins one, and so does a figure that was said already or a key that
 * now says something else. Two batteries are never put together.
 */
function blocksOf(lines: readonly string[]): Map<string, string>[] {
  const blocks: Map<string, string>[] = [new Map()];
  for (const line of lines) {
    const at = line.indexOf(':');
    if (at <= 0) continue;
    const [key, value] = [line.slice(0, at).trim().toLowerCase(), line.slice(at + 1).trim()];
    const open = blocks[blocks.length - 1]!;
    const heading = value === '' && /^(bat|battery|cmb)\w*\d/.test(key);
    const again = open.has(key) && (ONCE.has(key) || open.get(key) !== value);
    if (open.size > 0 && (heading || again)) blocks.push(new Map());
    blocks[blocks.length - 1]!.set(key, value);
  }
  return blocks;
}
