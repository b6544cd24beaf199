import { explosiveRoom, kilojoules, ventGasLitres } from '../pack/electric';
import type { Interval } from '../quantity/interval';

/** Hydrogen fluoride of a whole burn, mg for each Wh: 20 to 200 in published tests (from memory). */
export const HF_PER_WH: Interval = { lo: 20, hi: 200 };
/** Immediately dangerous to life or health, ppm (NIOSH, from memory). */
export const HF_IDLH = 30;
/** Heat of a fire over the electrical energy: cells alone 1.5, with what burns of them up to 21 (Larsson 2014 and others, from memory). */
const HEAT: Interval = { lo: 1.5, hi: 21 };
/** The least nominal volts of a cell with cobalt or nickel: so many watt-hours are at most so many ampere-hours. */
const LEAST_VOLTS = 3.6;
/** Part of the lower explosion limit that a room or cabinet is planned for. Common practice, no source. */
const PLANNED = 0.25;
const MOLAR = 20.006;
/** Litres a mole of gas at 25 °C and 1013 hPa. */
const MOLAR_LITRES = 24.45;

const ppm = (mg: number, m3: number) => ((mg / m3) * MOLAR_LITRES) / MOLAR;

export interface RoomBurn {
  /** ppm of hydrogen fluoride if one pack burns whole, mixed evenly, no air change. */
  readonly ppm: Interval;
  /** m3 above which it would stay under the IDLH. */
  readonly cubicMetres: Interval;
  /** Gas the cells may vent, litres at most. */
  readonly gasLitres: number;
  /** m3 above which that gas, mixed evenly, stays under a quarter of its lower explosion limit. */
  readonly gasCubicMetres: number;
  /** Heat of the fire, kJ. */
  readonly heat: Interval;
}

/** A planning aid only: real rooms mix badly, by a factor of 3 to 10. Whoever sees smoke leaves and does not calculate. */
export function roomBurn(wattHours: number, cubicMetres: number): RoomBurn {
  if (!(wattHours >= 0 && cubicMetres > 0)) throw new RangeError('energy must be 0 or more and the room larger than 0 m3');
  const mg = { lo: HF_PER_WH.lo * wattHours, hi: HF_PER_WH.hi * wattHours };
  const gasLitres = ventGasLitres(wattHours / LEAST_VOLTS, 1);
  const room = (x: number) => ppm(x, 1) / HF_IDLH;
  return {
    ppm: { lo: ppm(mg.lo, cubicMetres), hi: ppm(mg.hi, cubicMetres) },
    cubicMetres: { lo: room(mg.lo), hi: room(mg.hi) },
    gasLitres,
    gasCubicMetres: explosiveRoom(gasLitres, PLANNED),
    heat: { lo: kilojoules(wattHours) * HEAT.lo, hi: kilojoules(wattHours) * HEAT.hi },
  };
}

/** Minutes of air changes from one concentration to another: c = c0 exp(-n t). */
export const minutesToAir = (from: number, to: number, changesPerHour: number): number =>
  (60 * Math.log(from / to)) / changesPerHour;
