import { FAMILIES } from '../cell/family';
import { parseDesignation } from '../pack/designation';
import type { Chemistry } from '../pack/label';
import type { Stated, StatedFacts } from './stated';

/** Most cells in series that are looked for in a notebook's pack. */
export const MOST_SERIES = 6;
const NI_MH_SERIES = 20;
/** Nominal volts of one cell where a chemistry has only one. Data sheet classes, from memory. */
export const NI_MH_VOLTS = 1.2;
export const METAL_VOLTS = 3.0;
/** Charge limits of a lithium-ion cell, V. Data sheet classes, from memory. */
const LIMITS = [
  [3.6, 3.65],
  [4.1, 4.5],
] as const;
const EPS = 1e-9;

const upTo = (n: number): number[] => Array.from({ length: n }, (_, i) => i + 1);

/** Series counts whose share of a nominal voltage is a cell of the chemistry, within half a unit of the last printed digit. */
export function seriesOfNominal(v: Stated, chemistry: Chemistry | undefined): number[] {
  const single = chemistry === 'ni-mh' ? NI_MH_VOLTS : chemistry === 'li-metal' ? METAL_VOLTS : null;
  if (single !== null) return upTo(NI_MH_SERIES).filter((n) => Math.abs(v.value - n * single) <= v.half + EPS);
  return upTo(MOST_SERIES).filter((n) => {
    const [c, h] = [v.value / n, v.half / n];
    return FAMILIES.some((f) => f.nominal.lo < c + h + EPS && f.nominal.hi > c - h - EPS);
  });
}

/** Series counts that a printed charge limit allows; a maker may have cut digits off instead of rounding. */
export function seriesOfLimit(v: Stated): number[] {
  return upTo(MOST_SERIES).filter((n) =>
    LIMITS.some(([lo, hi]) => (v.value + 2 * v.half) / n >= lo - EPS && (v.value - v.half) / n <= hi + EPS),
  );
}

/** One fact that names a number of cells in series, and which it allows. */
export interface SeriesSource {
  readonly field: 'series' | 'nominalVoltage' | 'designation' | 'limitedChargeVoltage';
  readonly words: string;
  readonly allows: readonly number[];
}

const counted = (n: readonly number[]): string => n.join(' or ');

/** Every stated fact that says something of the cells in series. */
export function seriesSources(f: StatedFacts): SeriesSource[] {
  const out: SeriesSource[] = [];
  const add = (field: SeriesSource['field'], says: string, allows: readonly number[]) => out.push({ field, words: says, allows });
  if (f.series !== undefined) add('series', `${f.series} in series`, [f.series]);
  if (f.nominalVoltage) {
    const n = seriesOfNominal(f.nominalVoltage, f.chemistry);
    add('nominalVoltage', n.length > 0 ? `${f.nominalVoltage.words} is ${counted(n)} in series` : f.nominalVoltage.words, n);
  }
  const design = f.designation === undefined ? null : parseDesignation(f.designation);
  if (design?.series) add('designation', `${f.designation} is ${design.series} in series`, [design.series]);
  if (f.limitedChargeVoltage && f.chemistry !== 'ni-mh') {
    const n = seriesOfLimit(f.limitedChargeVoltage);
    const says = `a limit of ${f.limitedChargeVoltage.words}`;
    add('limitedChargeVoltage', n.length > 0 ? `${says} is ${counted(n)} in series` : says, n);
  }
  return out;
}

/**
 * Series counts that may be the true one: those every fact allows, and where facts contradict each other, those any of them allows.
 * Empty when no fact says anything.
 */
export function seriesCandidates(f: StatedFacts): number[] {
  const named = seriesSources(f).filter((s) => s.allows.length > 0);
  if (named.length === 0) return [];
  const common = named[0]!.allows.filter((n) => named.every((s) => s.allows.includes(n)));
  return common.length > 0 ? common : [...new Set(named.flatMap((s) => s.allows))].sort((a, b) => a - b);
}
