import { type CurveKey, voltsAt } from '../cell/curve';
import { SWELLING_LIMIT } from '../pack/swelling';
import type { Random } from './random';

/** What is wrong with a simulated pack. */
export const FAULTS = [
  'swollen',
  'dead cell',
  'deep discharge',
  'over-charge',
  'imbalance',
  'leaking at rest',
  'dent',
  'puncture',
  'liquid',
  'smell',
  'hot',
  'counterfeit',
  're-celled',
  'gauge failed',
] as const;
export type Fault = (typeof FAULTS)[number];

/** A pack as it truly is. Magnitudes are common practice, no source. */
export interface TruePack {
  readonly series: number;
  readonly curve: CurveKey;
  /** Nominal and highest volts of a cell. */
  readonly nominal: number;
  readonly limit: number;
  readonly ratedMah: number;
  /** Of the rated capacity, 0 to 1. */
  readonly health: number;
  /** Volts of each cell at rest. */
  readonly cells: readonly number[];
  /** Charge left, % of the rated capacity. */
  readonly chargeOfRated: number;
  /** mV a day that the worst cell loses at rest. */
  readonly drift: number;
  readonly newMm: number;
  /** Growth, %, where it is thickest. */
  readonly growth: number;
  readonly roomC: number;
  readonly surfaceC: number;
  readonly grams: number;
  readonly faults: readonly Fault[];
  /** Watt-hours that the label claims, and cells in series. */
  readonly claims: { readonly wattHours: number; readonly series: number };
}

const FAMILIES = [
  ['LCO_4.20', 3.7, 4.2],
  ['HV_4.35', 3.8, 4.35],
  ['HV_4.40', 3.85, 4.4],
] as const satisfies readonly (readonly [CurveKey, number, number])[];

/** Wh a kilogram of notebook packs with case, wires and board; from memory, 150 to 230. */
const DENSITY = [160, 220] as const;
/** A healthy pack grows a little, %. */
const HEALTHY_GROWTH = 2;

/** A random pack; two of five have something wrong, some of them more than one thing. */
export function simulate(r: Random): TruePack {
  const faults = new Set<Fault>();
  if (r.chance(0.4)) faults.add(r.pick(FAULTS));
  if (faults.size > 0 && r.chance(0.2)) faults.add(r.pick(FAULTS));
  return packWith([...faults], r);
}

/** A pack with these faults and no others, everything else at random. */
export function packWith(faults: readonly Fault[], r: Random): TruePack {
  const has = (f: Fault) => faults.includes(f);
  const series = r.pick([2, 3, 3, 4]);
  const [curve, nominal, limit] = r.pick(FAMILIES);
  const ratedMah = Math.round(r.between(3000, 6500));
  const health = r.between(0.55, 1);
  const full = r.between(8, 97);
  const cells = Array.from({ length: series }, () => voltsAt(curve, Math.min(100, Math.max(0, full + r.normal(0.5)))));
  const worst = Math.floor(r.unit() * series);
  if (has('imbalance')) cells[worst] = voltsAt(curve, full > 50 ? full - r.between(30, 45) : full + r.between(30, 45));
  if (has('over-charge')) cells[worst] = limit + r.between(0.06, 0.4);
  if (has('deep discharge')) cells.forEach((_v, i) => (cells[i] = r.between(1, 2.4)));
  if (has('dead cell')) cells[worst] = r.between(0, 1.4);
  const wattHours = (series * nominal * ratedMah) / 1000;
  const roomC = r.between(18, 26);
  return {
    series,
    curve,
    nominal,
    limit,
    ratedMah,
    health,
    cells,
    chargeOfRated: full * health,
    drift: has('leaking at rest') ? r.between(5, 25) : r.between(0, 0.2),
    newMm: r.between(4, 9),
    growth: has('swollen') ? r.between(1, 40) : r.between(0, HEALTHY_GROWTH),
    roomC,
    surfaceC: roomC + (has('hot') ? r.between(15, 40) : r.between(0, 1)),
    grams: (1000 * wattHours) / r.between(...DENSITY),
    faults,
    claims: {
      wattHours: has('counterfeit') ? wattHours * r.between(2, 3.5) : wattHours,
      series: has('re-celled') ? (series === 4 ? 3 : series + 1) : series,
    },
  };
}

/** The same pack, full. */
export const fullyCharged = (p: TruePack): TruePack => ({
  ...p,
  cells: p.cells.map(() => voltsAt(p.curve, 100)),
  chargeOfRated: 100 * p.health,
});

/** Growth from which a pack is dangerous, %: the limit of the stricter school, which is the usual one. */
export const DANGEROUS_GROWTH = SWELLING_LIMIT.any;

/** Is it dangerous, whatever anybody measured? A pack that grew by a hair is not. */
export const dangerous = (p: TruePack): boolean => p.faults.some((f) => (f === 'swollen' ? p.growth >= DANGEROUS_GROWTH : true));
