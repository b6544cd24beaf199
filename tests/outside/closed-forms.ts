/**
 * Rest-voltage closed forms of the literature, coefficients from memory. None of them is used by the product; they are what its own
 * tables are compared with.
 */

/** Chen & Rincon-Mora 2006, IEEE Trans. Energy Conv. 21(2):504-511: an 850 mAh polymer cell, s in 0..1. */
export const chenRinconMora = (s: number): number =>
  -1.031 * Math.exp(-35 * s) + 3.685 + 0.2156 * s - 0.1178 * s ** 2 + 0.3201 * s ** 3;

const { tanh, exp } = Math;

/** Chen et al. 2020, J. Electrochem. Soc. 167 080534: NMC811 positive electrode. */
export const chen2020Positive = (x: number): number =>
  -0.809 * x +
  4.4875 -
  0.0428 * tanh(18.5138 * (x - 0.5542)) -
  17.7326 * tanh(15.789 * (x - 0.3117)) +
  17.5842 * tanh(15.9308 * (x - 0.312));

/** The same: graphite-SiOx negative electrode. */
export const chen2020Negative = (x: number): number =>
  1.9793 * exp(-39.3631 * x) +
  0.2482 -
  0.0909 * tanh(29.8538 * (x - 0.1234)) -
  0.04478 * tanh(14.9159 * (x - 0.2769)) -
  0.0205 * tanh(30.4444 * (x - 0.6103));

/** The same: full cell in its 2.5 to 4.2 V window, linear stoichiometry. */
export const chen2020 = (s: number): number =>
  chen2020Positive(0.9084 + (0.2661 - 0.9084) * s) - chen2020Negative(0.0279 + (0.9014 - 0.0279) * s);

/** Ramadass et al. 2004, J. Electrochem. Soc. 151 A196: LCO positive electrode. */
const ramadassPositive = (t: number): number =>
  (-4.656 + 88.669 * t ** 2 - 401.119 * t ** 4 + 342.909 * t ** 6 - 462.471 * t ** 8 + 433.434 * t ** 10) /
  (-1 + 18.933 * t ** 2 - 79.532 * t ** 4 + 37.311 * t ** 6 - 73.083 * t ** 8 + 95.96 * t ** 10);

const ramadassNegative = (t: number): number =>
  0.7222 +
  0.1387 * t +
  0.029 * t ** 0.5 -
  0.0172 / t +
  0.0019 / t ** 1.5 +
  0.2808 * exp(0.9 - 15 * t) -
  0.7984 * exp(0.4465 * t - 0.4108);

/** The same: full LCO / graphite cell. */
export const ramadass = (s: number): number =>
  ramadassPositive(0.99174 + (0.4955 - 0.99174) * s) - ramadassNegative(0.01429 + (0.8551 - 0.01429) * s);

/** Linux devicetree simple-battery / fuel-gauge binding example, 20 C, 100, 95 ... 0 %, from memory. */
export const KERNEL_BINDING = [
  4.185, 4.113, 4.066, 4.022, 3.983, 3.949, 3.917, 3.889, 3.864, 3.835, 3.805, 3.787, 3.777, 3.773, 3.77, 3.765, 3.752, 3.724,
  3.68, 3.605, 3.4,
].reverse();
