import { FAMILIES } from '../cell/family';
import { type Stated, statedFigure } from '../quantity/stated';
import { parseDesignation } from './designation';
import type { Chemistry, LabelBody } from './label';
import { MOST_SERIES } from './layout';

/** What a label says of the cells, with the digits it is printed with. */
export interface StatedLabel {
  readonly chemistry?: Chemistry;
  readonly series?: number;
  readonly parallel?: number;
  readonly nominalVoltage?: Stated;
  readonly ratedCapacity?: Stated;
  readonly ratedEnergy?: Stated;
  readonly limitedChargeVoltage?: Stated;
  readonly designation?: string;
}

/** A label as relations are asked of it. */
export const statedLabel = (l: LabelBody): StatedLabel => ({
  ...(l.chemistry && { chemistry: l.chemistry }),
  ...(l.series !== undefined && { series: l.series }),
  ...(l.parallel !== undefined && { parallel: l.parallel }),
  ...(l.nominalVoltage && { nominalVoltage: statedFigure(l.nominalVoltage) }),
  ...(l.ratedCapacity && { ratedCapacity: statedFigure(l.ratedCapacity) }),
  ...(l.ratedEnergy && { ratedEnergy: statedFigure(l.ratedEnergy) }),
  ...(l.limitedChargeVoltage && { limitedChargeVoltage: statedFigure(l.limitedChargeVoltage) }),
  ...(l.designation && { designation: l.designation }),
});

/** Nominal volts of one cell where a chemistry has only one. Data sheet classes, from memory. */
export const NI_MH_VOLTS = 1.2;
export const METAL_VOLTS = 3.0;
/** Charge limits of a lithium-ion cell, V. Data sheet classes, from memory. */
const LIMITS = [
  [3.6, 3.65],
  [4.1, 4.5],
] as const;
const EPS = 1e-9;

const upTo = (n: number): readonly number[] => Array.from({ length: n }, (_, i) => i + 1);
/** Counts that are tried. */
const SERIES = upTo(MOST_SERIES);
const NI_MH_SERIES = upTo(20);

/** Series counts whose share of a nominal voltage is a cell of the chemistry, within half a unit of the last printed digit. */
export function seriesOfNominal(v: Stated, chemistry: Chemistry | undefined): number[] {
  const single = chemistry === 'ni-mh' ? NI_MH_VOLTS : chemistry === 'li-metal' ? METAL_VOLTS : null;
  if (single !== null) return NI_MH_SERIES.filter((n) => Math.abs(v.value - n * single) <= v.half + EPS);
  return SERIES.filter((n) => {
    const [c, h] = [v.value / n, v.half / n];
    return FAMILIES.some((f) => f.nominal.lo < c + h + EPS && f.nominal.hi > c - h - EPS);
  });
}

/** Series counts that a printed charge limit allows; a maker may have cut digits off instead of rounding. */
export function seriesOfLimit(v: Stated): number[] {
  return SERIES.filter((n) =>
    LIMITS.some(([lo, hi]) => (v.value + 2 * v.half) / n >= lo - EPS && (v.value - v.half) / n <= hi + EPS),
  );
}

/** One fact that names a number of cells in series, and which it allows. */
export interface SeriesSource {
  readonly field: 'series' | 'nominalVoltage' | 'designation' | 'limitedChargeVoltage';
  readonly allows: readonly number[];
  /** What it says, for a sentence. */
  readonly words: () => string;
}

const counted = (n: readonly number[]): string => `${n.join(' or ')} in series`;

/** Every stated fact that says something of the cells in series. */
export function seriesSources(f: StatedLabel): SeriesSource[] {
  const out: SeriesSource[] = [];
  const { series, nominalVoltage: v, designation, limitedChargeVoltage: limit } = f;
  if (series !== undefined) out.push({ field: 'series', allows: [series], words: () => counted([series]) });
  if (v) {
    const allows = seriesOfNominal(v, f.chemistry);
    out.push({ field: 'nominalVoltage', allows, words: () => `${v.words} is ${counted(allows)}` });
  }
  const design = designation === undefined ? null : parseDesignation(designation);
  if (design?.series) {
    const allows = [design.series];
    out.push({ field: 'designation', allows, words: () => `${designation} is ${counted(allows)}` });
  }
  if (limit && f.chemistry !== 'ni-mh') {
    const allows = seriesOfLimit(limit);
    out.push({ field: 'limitedChargeVoltage', allows, words: () => `a limit of ${limit.words} is ${counted(allows)}` });
  }
  return out;
}

/**
 * Series counts that may be the true one: those every fact allows, and where facts contradict each other, those any of them allows.
 * Empty when no fact says anything.
 */
export function seriesCandidates(f: StatedLabel): number[] {
  const named = seriesSources(f).filter((s) => s.allows.length > 0);
  if (named.length === 0) return [];
  const common = named[0]!.allows.filter((n) => named.every((s) => s.allows.includes(n)));
  return common.length > 0 ? common : [...new Set(named.flatMap((s) => s.allows))].sort((a, b) => a - b);
}
