import type { Reader } from './leaf';
import { SHIPPING } from './rulebook';

const MICRO = 1_000_000;
/** A figure that is not printed cannot contradict; within this share of a limit it still might round across it. */
const ROUNDING = 0.03;

const FIGURES: readonly string[] = ['ratedEnergy', 'nominalVoltage', 'ratedCapacity'];

/** Declared energies in micro-watt-hours: the printed one, and volts times capacity (whole mV times whole mAh). */
function energies(r: Reader): { list: number[]; uncertain: boolean } {
  const wh = r.peek<number>('ratedEnergy');
  const v = r.peek<number>('nominalVoltage');
  const ah = r.peek<number>('ratedCapacity');
  const list: number[] = [];
  if (wh !== undefined) list.push(Math.round(wh * MICRO));
  if (v !== undefined && ah !== undefined) list.push(Math.round(Math.round(v * MICRO) * Math.round(ah * MICRO) * 1e-6));
  const uncertain =
    (wh !== undefined && (v === undefined) !== (ah === undefined)) ||
    (wh === undefined && r.peek<boolean>('energyMarked') !== false);
  return { list, uncertain };
}

/** Is any energy stated, printed or as volts and capacity? */
export const energyStated = (r: Reader): boolean => energies(r).list.length > 0;

/** A cell, or a battery? Series and parallel decide; a nominal voltage over 4.5 V is a battery. */
export function isCell(r: Reader): boolean {
  r.cite('size.cell');
  const v = r.peek<number>('nominalVoltage');
  const s = r.peek<number>('series');
  const p = r.peek<number>('parallel');
  if ((s !== undefined && s > 1) || (p !== undefined && p > 1)) return false;
  if (v !== undefined && v > SHIPPING.any('size.cell').figures.batteryAboveV!) return false;
  return r.need<number>('series', [1, 2]) * r.need<number>('parallel', [1, 2]) === 1;
}

/**
 * Which side of a limit the declared energy lies on; equality is inside.
 * `conflict` when the printed watt-hours and volts times capacity fall on different sides of it.
 */
export function sideOf(r: Reader, limitWh: number): 'inside' | 'over' | 'conflict' {
  const { list, uncertain } = energies(r);
  const limit = limitWh * MICRO;
  if (list.length === 0) {
    return r.need<number>('ratedEnergy', [2, 15, 50, 150]) > limitWh ? 'over' : 'inside';
  }
  const over = list.filter((e) => e > limit).length;
  if (over > 0 && over < list.length) {
    // Nothing printed on the case to contradict: the higher figure counts.
    if (r.peek<boolean>('energyMarked') === false) return 'over';
    return 'conflict';
  }
  const near = list.some((e) => Math.abs(e - limit) <= ROUNDING * e);
  if (near && uncertain && r.need<boolean>('ratedEnergy#contradicted', [false, true])) return 'conflict';
  return over > 0 ? 'over' : 'inside';
}

/** Small enough for the light provisions? */
export function sizeOf(r: Reader): 'small' | 'over' | 'conflict' {
  const f = SHIPPING.any('size.small').figures;
  r.cite('size.small');
  if (r.facts.disputed?.some((d) => FIGURES.includes(d))) {
    r.cite('size.conflict');
    return 'conflict';
  }
  const battery = sideOf(r, f.batteryWh!);
  const cell = sideOf(r, f.cellWh!);
  // Only where the two limits differ does it matter which one counts.
  const side = battery === cell ? battery : isCell(r) ? cell : battery;
  if (side !== 'inside') {
    if (side === 'conflict') r.cite('size.conflict');
    return side;
  }
  if (r.facts.policy?.innerCellLimit && battery === 'inside' && cell !== 'inside') {
    r.cite('size.inner');
    const cells = r.need<number>('series', [1, 8]) * r.need<number>('parallel', [1, 8]);
    const worst = Math.max(...energies(r).list, 0) || r.need<number>('ratedEnergy', [2, 15, 50, 150]) * MICRO;
    if (worst / cells > SHIPPING.any('size.inner').figures.cellWh! * MICRO) return 'over';
  }
  return 'small';
}

/** Grams of lithium; null for a button cell without a figure, which counts as small. */
export function metalGrams(r: Reader): number | null {
  if (r.peek<number>('lithiumContent') === undefined && r.peek<boolean>('buttonCell') === true) return null;
  return r.need<number>('lithiumContent', [0.5, 1.5, 3, 30]);
}

/** Small by lithium content, for lithium-metal cells; a button cell without a figure counts as small. */
export function metalSize(r: Reader): 'small' | 'over' {
  const f = SHIPPING.any('size.metal').figures;
  r.cite('size.metal');
  const grams = metalGrams(r);
  if (grams === null) return 'small';
  const limit = grams <= f.cellG! ? f.cellG! : grams > f.batteryG! || isCell(r) ? f.cellG! : f.batteryG!;
  return grams > limit ? 'over' : 'small';
}

/** The latest day a date of manufacture can mean; missing counts as new. */
function latestDay(madeOn: string | undefined): string {
  if (!madeOn) return '9999-12-31';
  return madeOn.length === 4 ? `${madeOn}-12-31` : madeOn.length === 7 ? `${madeOn}-31` : madeOn;
}

/** Does the missing watt-hour mark hold a battery? `188` where it may travel as large, `348` where it may not at all. */
export function markDuty(r: Reader, small: boolean): 'met' | 'not small' | 'hold' {
  const day = latestDay(r.peek<string>('madeOn'));
  const before = (year: number) => day < `${year}-01-01`;
  const since = SHIPPING.any('mark.188').figures.sinceYear!;
  const after = SHIPPING.any('mark.348').figures.afterYear!;
  if (before(small ? since : after + 1)) return 'met';
  if (isCell(r)) return 'met';
  if (r.need<boolean>('energyMarked', [true, false])) return 'met';
  r.cite(before(after + 1) ? 'mark.188' : 'mark.348');
  return small && before(after + 1) ? 'not small' : 'hold';
}
