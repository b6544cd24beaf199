import { chargeAt, type CurveKey, slopeAt } from '../cell/curve';
import { judge, type Limit } from '../quantity/limit';

export type ImbalanceGrade = 'good' | 'watch' | 'suspect' | 'bad';

export interface Imbalance {
  /** Highest minus lowest cell, mV. */
  readonly millivolts: number;
  /** The same in points of charge on the curve that makes most of it. */
  readonly charge: number;
  readonly grade: ImbalanceGrade;
  readonly code: 'imbalance' | 'imbalance-severe' | null;
  readonly unclear: boolean;
  readonly limit: Limit;
}

/** Points of charge. Trade convention, no source. */
const BAD = 10;
const SEVERE_CHARGE = 15;
const SEVERE_MV = 300;

/**
 * Judges the spread of cell voltages in charge, on the worst of the curves the family allows: 20 mV on the flat part is more than
 * 100 mV at the bottom.
 * @param volts one reading per cell, same meter, same minute, rested; at least two.
 * @param uDifference expanded uncertainty of a difference, V.
 */
export function judgeImbalance(volts: readonly number[], curves: readonly CurveKey[], uDifference: number): Imbalance {
  const hi = Math.max(...volts);
  const lo = Math.min(...volts);
  const millivolts = (hi - lo) * 1000;
  let charge = 0;
  let uCharge = 0;
  for (const curve of curves) {
    const spread = chargeAt(curve, hi) - chargeAt(curve, lo);
    if (spread >= charge) {
      charge = spread;
      const slope = Math.max(slopeAt(curve, (chargeAt(curve, hi) + chargeAt(curve, lo)) / 2), 1e-4);
      uCharge = uDifference / slope;
    }
  }
  const verdict = judge(charge, uCharge, BAD, 'max');
  const above = lo > 3.6;
  const severe = (above ? millivolts > SEVERE_MV : charge - uCharge > SEVERE_CHARGE) || (lo < 2.5 && volts.some((v) => v > 3.3));
  const code = severe ? 'imbalance-severe' : verdict === 'fail' ? 'imbalance' : null;
  const grade = charge > BAD ? 'bad' : charge > 5 ? 'suspect' : charge > 2 ? 'watch' : 'good';
  return {
    millivolts,
    charge,
    grade,
    code,
    unclear: verdict === 'cannot tell',
    limit: {
      id: 'imbalance',
      label: 'spread of cells',
      unit: '% charge',
      value: charge,
      u: uCharge,
      limit: BAD,
      side: 'max',
      verdict,
      beyond: 'imbalance',
      between: 'unproven',
      perReading: 1,
      readingUnit: '% charge',
      decimals: 1,
      nature: 'observation',
    },
  };
}
