import type { Interval } from '../quantity/interval';

export const METALS = ['cobalt', 'lithium', 'copper', 'aluminium'] as const;
export type Metal = (typeof METALS)[number];

/**
 * Mass fractions of a notebook pack with lithium cobalt oxide cells, case and electronics included: an order of magnitude, from
 * memory, no source. Cells with nickel hold less cobalt, iron phosphate holds none.
 */
const FRACTIONS: Readonly<Record<Metal, Interval>> = {
  cobalt: { lo: 0.1, hi: 0.17 },
  lithium: { lo: 0.012, hi: 0.02 },
  copper: { lo: 0.08, hi: 0.14 },
  aluminium: { lo: 0.06, hi: 0.14 },
};
export const METALS_ASSUMED = 'all taken for lithium cobalt oxide; an estimate from memory, no assay';

/** What a drum probably contains, kg. @param kg mass of its li-ion packs, 0 or more. @throws RangeError for less. */
export function metalsOf(kg: number): Readonly<Record<Metal, Interval>> {
  if (!(kg >= 0)) throw new RangeError('a mass is 0 kg or more');
  return Object.fromEntries(METALS.map((m) => [m, { lo: FRACTIONS[m].lo * kg, hi: FRACTIONS[m].hi * kg }])) as unknown as Record<
    Metal,
    Interval
  >;
}
