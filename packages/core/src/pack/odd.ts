import { counted } from '../quantity/counted';
/** What asks for a second look before it is kept. Nothing here refuses a value; common practice, no source. */

/** Usual ranges, base units. */
const USUAL: Record<string, readonly [number, number]> = {
  'pack-voltage': [0.5, 26],
  'cell-voltage': [2.0, 4.6],
  thickness: [2, 30],
  'new-thickness': [2, 30],
  'surface-temperature': [-10, 60],
  'room-temperature': [-5, 40],
  mass: [0.03, 1.5],
};

/** Hard limits of any instrument in the trade: beyond them a reading is refused. */
export const RANGE: Record<string, readonly [lo: number, hi: number, unit: string]> = {
  'pack-voltage': [-60, 600, 'V'],
  'cell-voltage': [-20, 20, 'V'],
  thickness: [0.1, 150, 'mm'],
  'new-thickness': [0.1, 150, 'mm'],
  'surface-temperature': [-40, 1200, '°C'],
  'room-temperature': [-40, 80, '°C'],
  mass: [0.001, 30, 'kg'],
};

/**
 * Why a reading is odd, as a question; null when it is not.
 * @param value base unit; @param series cells in series when known.
 */
export function oddReading(quantity: string, value: number, series: number | null): string | null {
  if (quantity === 'pack-voltage' && series !== null && value > series * 4.7) {
    return `${value} V on ${counted(series, 'cell')} in series? That is ${(value / series).toFixed(1)} V a cell. Check leads and range.`;
  }
  const range = USUAL[quantity];
  if (!range || (value >= range[0] && value <= range[1])) return null;
  return `${value} is unusual here (mostly ${range[0]} to ${range[1]}). Keep it?`;
}

/** Why a date of manufacture is odd; null when it is not. One in the future is refused, not asked about. */
export function oddDate(madeOn: string): string | null {
  return madeOn < '1991' ? `${madeOn} is before lithium-ion packs were sold. Keep it?` : null;
}
