/** A figure as it stands on a label or a display: its digits carry its precision. */
export interface Figure<U extends string = string> {
  /** Digits as printed, decimal point only: "11.40". */
  readonly digits: string;
  readonly unit: U;
}

export type VoltUnit = 'V' | 'mV';
export type CapacityUnit = 'Ah' | 'mAh';
export type EnergyUnit = 'Wh' | 'mWh';
export type TemperatureUnit = '°C' | '°F';

/** Millions of the base unit per printed unit: what one unit is worth in the integers below. */
const MICRO: Record<string, number> = {
  V: 1_000_000,
  mV: 1_000,
  Ah: 1_000_000,
  mAh: 1_000,
  Wh: 1_000_000,
  mWh: 1_000,
  mm: 1_000_000,
  inch: 25_400_000,
  kg: 1_000_000,
  g: 1_000,
  '°C': 1_000_000,
  // The size of a degree; its zero is another one.
  '°F': 5_000_000 / 9,
  '%': 1_000_000,
  Ω: 1_000_000,
  mΩ: 1_000,
};

const DIGITS = /^-?\d{1,9}(\.\d{1,6})?$/;

/** True when the digits can be read as a number by every part of the program. */
export function isDigits(digits: string): boolean {
  return DIGITS.test(digits);
}

/**
 * Reads what a person typed. Comma and point both mean the decimal mark, so "11,4" is 11.4 and never 114.
 * @returns the digits with a decimal point, or null when the text is not one number: a lone decimal mark is none.
 */
export function parseDigits(typed: string): string | null {
  let t = typed.trim().replace(',', '.').replace(/^[−–]/, '-');
  if (!/\d/.test(t)) return null;
  if (t.startsWith('.')) t = '0' + t;
  if (t.endsWith('.')) t = t.slice(0, -1);
  return isDigits(t) ? t : null;
}

/**
 * The figure as a whole number of millionths of its base unit (V, Ah, Wh, mm, kg, °C, %, ohm), without floating point.
 * @throws RangeError when the digits or the unit are unknown.
 */
export function micro(figure: Figure): number {
  const factor = MICRO[figure.unit];
  if (factor === undefined) throw new RangeError(`unknown unit ${figure.unit}`);
  if (!isDigits(figure.digits)) throw new RangeError(`not a number: ${figure.digits}`);
  // At most 15 digits: their millionths are a whole number that a double holds exactly, so both roundings are exact.
  const x = Number(figure.digits);
  // 32 °F is 0 °C (NIST SP 811, appendix B.8).
  if (figure.unit === '°F') return Math.round(((x - 32) * 5_000_000) / 9) + 0;
  const value = Math.round(Math.round(Math.abs(x) * 1_000_000) / (1_000_000 / factor));
  return x < 0 ? -value : value;
}

/** The figure in its base unit as a floating number. */
export function value(figure: Figure): number {
  return micro(figure) / 1_000_000;
}

/** Size of one step of the last printed digit, in the base unit: "11.4 V" is 0.1 V, "3685 mAh" is 0.001 Ah. */
export function step(figure: Figure): number {
  const decimals = figure.digits.split('.')[1]?.length ?? 0;
  return ((MICRO[figure.unit] ?? Number.NaN) / 1_000_000) * 10 ** -decimals;
}

/** A figure from a number, with the given decimals. */
export function figure<U extends string>(x: number, unit: U, decimals: number): Figure<U> {
  return { digits: x.toFixed(decimals), unit };
}

/** As people read it: digits, a space, the unit. */
export function show(f: Figure): string {
  return `${f.digits} ${f.unit}`;
}
