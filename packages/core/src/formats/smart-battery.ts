/**
 * Words of a smart battery as the Smart Battery Data Specification 1.1 (SBS Implementers Forum, 1998) lays them out. From memory. Nothing here writes to
 * a battery: only what was read is decoded.
 */

/** SMBus packet error code: CRC-8, polynomial 0x07, from 0, no reflection, over every byte on the wire with both addresses. */
export function packetErrorCode(bytes: readonly number[]): number {
  let crc = 0;
  for (const b of bytes) {
    if (!Number.isInteger(b) || b < 0 || b > 0xff) throw new RangeError(`${b} is no byte`);
    crc ^= b;
    for (let i = 0; i < 8; i++) crc = crc & 0x80 ? ((crc << 1) ^ 0x07) & 0xff : (crc << 1) & 0xff;
  }
  return crc;
}

/** The word as a number with its sign, two's complement of 16 bits. */
export const signedWord = (word: number): number => (word & 0x8000 ? (word & 0xffff) - 0x10000 : word & 0xffff);

/** ManufactureDate: day + month × 32 + (year − 1980) × 512. @returns YYYY-MM-DD; null where it is no day of the calendar. */
export function manufactureDate(word: number): string | null {
  const [day, month, year] = [word & 0x1f, (word >> 5) & 0x0f, 1980 + ((word >> 9) & 0x7f)];
  const at = new Date(Date.UTC(year, month - 1, day));
  const real = month >= 1 && month <= 12 && day >= 1 && at.getUTCMonth() === month - 1 && at.getUTCDate() === day;
  return real ? at.toISOString().slice(0, 10) : null;
}

/** The word of a day from 1980 to 2107, YYYY-MM-DD. @throws RangeError for any other. */
export function manufactureWord(day: string): number {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  const word = date + month * 32 + (year - 1980) * 512;
  if (!(year >= 1980 && year <= 2107) || manufactureDate(word) !== day) throw new RangeError(`${day} has no ManufactureDate`);
  return word;
}

const ERRORS = [
  'OK',
  'Busy',
  'ReservedCommand',
  'UnsupportedCommand',
  'AccessDenied',
  'Over/Underflow',
  'BadSize',
  'UnknownError',
] as const;
const STATUS_BITS = [
  [0x0010, 'FULLY_DISCHARGED'],
  [0x0020, 'FULLY_CHARGED'],
  [0x0040, 'DISCHARGING'],
  [0x0080, 'INITIALIZED'],
  [0x0100, 'REMAINING_TIME_ALARM'],
  [0x0200, 'REMAINING_CAPACITY_ALARM'],
  [0x0800, 'TERMINATE_DISCHARGE_ALARM'],
  [0x1000, 'OVER_TEMP_ALARM'],
  [0x4000, 'TERMINATE_CHARGE_ALARM'],
  [0x8000, 'OVER_CHARGED_ALARM'],
] as const;

export type StatusFlag = (typeof STATUS_BITS)[number][1];

export interface BatteryStatus {
  readonly flags: readonly StatusFlag[];
  /** Bits 0 to 3; codes above 7 are not defined. */
  readonly error: { readonly code: number; readonly words: string };
}

/** BatteryStatus, 0x16. DISCHARGING also stands at rest. */
export function batteryStatus(word: number): BatteryStatus {
  const code = word & 0x0f;
  return {
    flags: STATUS_BITS.filter(([bit]) => word & bit).map(([, name]) => name),
    error: { code, words: ERRORS[code] ?? 'not defined' },
  };
}

export interface BatteryMode {
  /** Capacities are in 10 mWh, not in mAh. */
  readonly tenMilliwattHours: boolean;
  readonly chargerBroadcasts: boolean;
  readonly alarmBroadcasts: boolean;
  readonly primary: boolean;
  readonly chargeControllerOn: boolean;
  readonly conditioningAsked: boolean;
  readonly primarySupport: boolean;
  readonly chargeController: boolean;
}

/** BatteryMode, 0x03. */
export const batteryMode = (word: number): BatteryMode => ({
  tenMilliwattHours: (word & 0x8000) !== 0,
  chargerBroadcasts: (word & 0x4000) === 0,
  alarmBroadcasts: (word & 0x2000) === 0,
  primary: (word & 0x0200) !== 0,
  chargeControllerOn: (word & 0x0100) !== 0,
  conditioningAsked: (word & 0x0080) !== 0,
  primarySupport: (word & 0x0002) !== 0,
  chargeController: (word & 0x0001) !== 0,
});

const VERSIONS: Readonly<Record<number, string>> = { 1: '1.0', 2: '1.1', 3: '1.1 with optional PEC' };

export interface SpecificationInfo {
  readonly revision: number;
  /** In words; "not defined" for codes of no edition held. */
  readonly version: string;
  /** Powers of ten for volts, and for currents, powers and capacities; 0 to 3, null where the field says more. */
  readonly voltsScale: number | null;
  readonly currentScale: number | null;
}

/** SpecificationInfo, 0x1A. */
export function specificationInfo(word: number): SpecificationInfo {
  const scale = (nibble: number) => (nibble <= 3 ? nibble : null);
  return {
    revision: word & 0x0f,
    version: VERSIONS[(word >> 4) & 0x0f] ?? 'not defined',
    voltsScale: scale((word >> 8) & 0x0f),
    currentScale: scale((word >> 12) & 0x0f),
  };
}

/** Temperature, 0x08: tenths of a kelvin. @returns °C */
export const celsiusOf = (word: number): number => word / 10 - 273.15;

/** How capacities are to be read. */
export interface CapacityBasis {
  readonly tenMilliwattHours: boolean;
  /** Power of ten of capacities. */
  readonly currentScale: number;
  /** DesignVoltage, mV as read and its own power of ten. */
  readonly designMillivolts?: number;
  readonly voltsScale?: number;
}

/** A capacity word in ampere-hours and watt-hours; null for the one that takes a design voltage nobody read. */
export function capacityOf(
  word: number,
  b: CapacityBasis,
): { readonly ampereHours: number | null; readonly wattHours: number | null } {
  const raw = word * 10 ** b.currentScale;
  const volts = b.designMillivolts ? (b.designMillivolts * 10 ** (b.voltsScale ?? 0)) / 1000 : null;
  if (b.tenMilliwattHours) {
    const wattHours = raw / 100;
    return { wattHours, ampereHours: volts === null ? null : wattHours / volts };
  }
  const ampereHours = raw / 1000;
  return { ampereHours, wattHours: volts === null ? null : ampereHours * volts };
}

/** Minutes to fill or empty so much at a rate in the same unit an hour; null at no rate. A word of 65535 says the same of a battery. */
export const minutesAtRate = (capacity: number, rate: number): number | null =>
  rate === 0 ? null : (60 * capacity) / Math.abs(rate);

/** 65535: not available, or no limit asked for. */
export const isUnavailable = (word: number): boolean => word === 0xffff;
