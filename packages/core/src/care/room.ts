import type { Interval } from '../quantity/interval';

/** Hydrogen fluoride of a whole burn, mg for each Wh: 20 to 200 in published tests (from memory). */
export const HF_PER_WH: Interval = { lo: 20, hi: 200 };
/** Immediately dangerous to life or health, ppm (NIOSH, from memory). */
export const HF_IDLH = 30;
const MOLAR = 20.006;
/** Litres a mole of gas at 25 °C and 1013 hPa. */
const MOLAR_LITRES = 24.45;

const ppm = (mg: number, m3: number) => ((mg / m3) * MOLAR_LITRES) / MOLAR;

export interface RoomBurn {
  /** ppm of hydrogen fluoride if one pack burns whole, mixed evenly, no air change. */
  readonly ppm: Interval;
  /** m3 above which it would stay under the IDLH. */
  readonly cubicMetres: Interval;
}

/** A planning aid only: real rooms mix badly, by a factor of 3 to 10. Whoever sees smoke leaves and does not calculate. */
export function roomBurn(wattHours: number, cubicMetres: number): RoomBurn {
  if (!(wattHours >= 0 && cubicMetres > 0)) throw new RangeError('energy must be 0 or more and the room larger than 0 m3');
  const mg = { lo: HF_PER_WH.lo * wattHours, hi: HF_PER_WH.hi * wattHours };
  const room = (x: number) => ppm(x, 1) / HF_IDLH;
  return {
    ppm: { lo: ppm(mg.lo, cubicMetres), hi: ppm(mg.hi, cubicMetres) },
    cubicMetres: { lo: room(mg.lo), hi: room(mg.hi) },
  };
}

/** Minutes of air changes from one concentration to another: c = c0 exp(-n t). */
export const minutesToAir = (from: number, to: number, changesPerHour: number): number =>
  (60 * Math.log(from / to)) / changesPerHour;
