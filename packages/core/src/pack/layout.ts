import { CHARGE_LIMITS, FAMILIES, type FamilyKey } from '../cell/family';
import type { Figure, VoltUnit } from '../quantity/figure';
import { step, value } from '../quantity/figure';

export interface SeriesReading {
  readonly series: number;
  readonly perCell: number;
  /** The family whose band holds the volts per cell; null between bands. */
  readonly best: FamilyKey | null;
  readonly possible: readonly FamilyKey[];
}

/** Most cells in series that are looked for in a notebook's pack. */
export const MOST_SERIES = 6;

/**
 * Series count and cell family from a printed nominal voltage, 1S to 6S (band rule: arithmetic on data sheet classes, from
 * memory). Empty when no lithium-ion layout fits; one entry up to 4S, since those bands do not overlap; from 5S on they do (19.2 V).
 */
export function seriesFromNominal(nominal: Figure<VoltUnit>): SeriesReading[] {
  const v = value(nominal);
  const out: SeriesReading[] = [];
  for (let n = 1; n <= MOST_SERIES; n++) {
    const c = v / n;
    const h = step(nominal) / (2 * n);
    const possible = FAMILIES.filter((f) => f.nominal.lo < c + h && f.nominal.hi > c - h).map((f) => f.key);
    if (possible.length === 0) continue;
    const best = FAMILIES.find((f) => c >= f.nominal.lo - 1e-9 && c < f.nominal.hi - 1e-9)?.key ?? null;
    out.push({ series: n, perCell: c, best, possible });
  }
  return out;
}

export interface LimitReading {
  readonly series: number;
  readonly perCell: number;
  /** False when the printed figure fits no charge limit in common use. */
  readonly listed: boolean;
}

/**
 * Series count and charge limit per cell from a printed charge limit, as an interval: every listed limit that the printed
 * digits allow, rounded or cut off, nearest first; unlisted limits between 3.55 and 4.55 V per cell are allowed when no listed one fits.
 */
export function seriesFromChargeLimit(limit: Figure<VoltUnit>): LimitReading[] {
  const v = value(limit);
  const h = step(limit) / 2;
  const listed: LimitReading[] = [];
  for (let n = 1; n <= MOST_SERIES; n++) {
    for (const l of CHARGE_LIMITS) {
      if (n * l >= v - h - 1e-9 && n * l < v + 2 * h - 1e-9) listed.push({ series: n, perCell: l, listed: true });
    }
  }
  if (listed.length > 0) {
    return listed.sort((a, b) => Math.abs(a.series * a.perCell - v) - Math.abs(b.series * b.perCell - v));
  }
  const loose: LimitReading[] = [];
  for (let n = 1; n <= MOST_SERIES; n++) {
    const c = v / n;
    if (c >= 3.55 && c <= 4.55) loose.push({ series: n, perCell: c, listed: false });
  }
  return loose;
}

/** Cells in series that a measured pack voltage cannot exclude: a cell in service lies in 2.5 to 4.5 V. */
export function seriesFromMeasured(volts: number): number[] {
  const out: number[] = [];
  for (let n = 1; n <= MOST_SERIES; n++) if (volts / n >= 2.5 && volts / n <= 4.5) out.push(n);
  return out;
}

export type CellForm = '18650' | '21700' | 'pouch';

/** Ah per cell met in practice. Data sheet classes, from memory. */
const WINDOWS: Record<CellForm, readonly [number, number]> = { '18650': [2.0, 3.6], '21700': [4.0, 5.0], pouch: [2, 8] };

/** Parallel counts 1..4 whose share of the capacity fits the form's window. */
export function parallelCandidates(capacityAh: number, form: CellForm): number[] {
  const [lo, hi] = WINDOWS[form];
  return [1, 2, 3, 4].filter((p) => capacityAh / p >= lo - 1e-9 && capacityAh / p <= hi + 1e-9);
}
