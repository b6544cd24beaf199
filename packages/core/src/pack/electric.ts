/** Sums of the trade about resistance, charge and time. Each says its source; all figures in base units. */

/** Gas constant, J/(mol K) (CODATA 2018). */
const GAS = 8.314462618;
const KELVIN = 273.15;

/**
 * Factor between two temperatures of something that follows Arrhenius: exp(Ea/R (1/T1 − 1/T2)).
 * @param activation kJ/mol. @param from °C. @param to °C; a rate grows with it.
 */
export const arrhenius = (activation: number, from: number, to: number): number =>
  Math.exp(((activation * 1000) / GAS) * (1 / (from + KELVIN) - 1 / (to + KELVIN)));

/** Resistance of a step of the load, Ω: (U1 − U2)/(I2 − I1) (IEC 61960-3: 0.2 It for 10 s, then 1.0 It for 1 s). @throws RangeError without a step. */
export function stepResistance(
  a: { readonly volts: number; readonly amperes: number },
  b: { readonly volts: number; readonly amperes: number },
): number {
  if (a.amperes === b.amperes) throw new RangeError('the current did not change: no resistance follows');
  return (a.volts - b.volts) / (b.amperes - a.amperes);
}

/** Activation of a cell's resistance, kJ/mol: 15 to 35 in use, 25 with u = 8. From memory, common practice. */
export const RESISTANCE_ACTIVATION: { readonly value: number; readonly u: number } = { value: 25, u: 8 };

/** What a resistance at one temperature is at another, Ω; it falls with warmth. @param celsius measured at. @param at wanted at, °C. */
export const resistanceAt = (ohm: number, celsius: number, at: number, activation = RESISTANCE_ACTIVATION.value): number =>
  ohm * arrhenius(activation, at, celsius);

/** Least part of full charge that must lie between two rests. Common practice, no source. */
const LEAST_SPAN = 0.4;

/**
 * Capacity from the charge that flowed between two rests, Ah: dQ/(z1 − z2), with its relative uncertainty
 * sqrt(u_dQ² + 2 u_z²/dz²).
 * @param z1 charge before, 0 to 1. @param z2 charge after. @param u of each charge, and relative of the flow.
 * @returns null where the rests lie too near to each other.
 */
export function capacityFromRests(
  ampereHours: number,
  z1: number,
  z2: number,
  u: { readonly charge: number; readonly flow: number },
): { readonly ampereHours: number; readonly relative: number } | null {
  const dz = z1 - z2;
  if (!(Math.abs(dz) >= LEAST_SPAN)) return null;
  return { ampereHours: ampereHours / dz, relative: Math.sqrt(u.flow ** 2 + (2 * u.charge ** 2) / dz ** 2) };
}

/** Equivalent full cycles: charge drawn over rated capacity, same unit. @throws RangeError without a capacity. */
export function fullCycles(drawn: number, rated: number): number {
  if (!(rated > 0)) throw new RangeError('no rated capacity: no cycles follow');
  return drawn / rated;
}

/** Kilojoules of watt-hours. */
export const kilojoules = (wattHours: number): number => wattHours * 3.6;

/** Hours a machine runs: energy × health × usable part / draw. @param usable 0.93 to 0.97, common practice. @throws RangeError without a draw. */
export function runtimeHours(wattHours: number, health: number, watts: number, usable = 0.95): number {
  if (!(watts > 0)) throw new RangeError('no draw: no time follows');
  return (wattHours * health * usable) / watts;
}

/** Mean draw, W, of so many watt-hours in so many hours. @throws RangeError without a time. */
export function meanWatts(wattHours: number, hours: number): number {
  if (!(hours > 0)) throw new RangeError('no time: no draw follows');
  return wattHours / hours;
}

/**
 * Time to charge at a constant current and then at a constant voltage, h: t1 = k Q/I0; the taper falls as exp(−t/τ) with
 * τ = (1 − k) Q/(I0 − It), so t2 = τ ln(I0/It).
 * @param ampereHours to fill. @param current I0, A. @param part k reached at constant current, 0 to 1. @param taper It at which it ends, A.
 * @throws RangeError where the taper is not below the current, or the part lies outside.
 */
export function chargeHours(
  ampereHours: number,
  current: number,
  part: number,
  taper: number,
): { readonly constantCurrent: number; readonly constantVoltage: number; readonly tau: number } {
  if (!(taper > 0 && current > taper)) throw new RangeError('charging ends at less than it begins with, and above 0 A');
  if (!(part >= 0 && part <= 1)) throw new RangeError('the part at constant current lies between 0 and 1');
  const tau = ((1 - part) * ampereHours) / (current - taper);
  return { constantCurrent: (part * ampereHours) / current, constantVoltage: tau * Math.log(current / taper), tau };
}

/** Litres of gas that cells may vent: 1 to 2.5 l for each ampere-hour of each cell (Golubkov 2014, RSC Adv. 4:3633, from memory). */
export const ventGasLitres = (packAmpereHours: number, series: number, litresPerAh = 2.5): number =>
  packAmpereHours * series * litresPerAh;

/**
 * Room, m³, that vented gas makes explosive when it is mixed evenly, or to a part of that limit. Lower limit 6 to 11 % (Baird 2020, from memory).
 * @param part of the lower limit to stay below; a quarter is usual.
 */
export const explosiveRoom = (litres: number, part = 1, lowerLimit = 0.08): number => litres / 1000 / (lowerLimit * part);

/** Days a stored pack lasts: (z0 − z1) Q / (s Q/730.5 + I), in days. @param perMonth self-discharge, part of full. @param amperes the electronics draw. */
export const storedDays = (ampereHours: number, from: number, to: number, perMonth: number, amperes: number): number =>
  ((from - to) * ampereHours) / ((perMonth * ampereHours) / 730.5 + amperes) / 24;

/** Part of capacity lost in storage and use (Schmalstieg 2014, J. Power Sources 257:325, a 2.05 Ah NMC cell; from memory). */
export const schmalstieg = {
  /** α t^0.75. @param volts at rest. @param kelvin temperature. @param days. */
  calendar: (volts: number, kelvin: number, days: number): number =>
    (7.543 * volts - 23.75) * 1e6 * Math.exp(-6976 / kelvin) * days ** 0.75,
  /** β √Q. @param meanVolts of the cycle. @param depth 0 to 1. @param ampereHours put through one cell. */
  cycles: (meanVolts: number, depth: number, ampereHours: number): number =>
    (7.348e-3 * (meanVolts - 3.667) ** 2 + 7.6e-4 + 4.081e-3 * depth) * Math.sqrt(ampereHours),
} as const;
