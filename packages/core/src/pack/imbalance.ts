import { chargeBeyond, type CurveKey } from '../cell/curve';
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

interface Spread {
  /** Points of charge between the two cells, and how far that may be off. */
  readonly charge: number;
  readonly u: number;
}

/**
 * Points of charge between two voltages on one curve, carried on beyond its ends; the ends of the interval are converted too, so that a bend
 * inside it is respected.
 */
function spreadOn(curve: CurveKey, lo: number, hi: number, u: number): Spread {
  const at = (v: number) => chargeBeyond(curve, v);
  const charge = at(hi) - at(lo);
  const most = at(hi + u / 2) - at(lo - u / 2);
  const least = Math.max(0, at(hi - u / 2) - at(lo + u / 2));
  return { charge, u: Math.max(most - charge, charge - least) };
}

/**
 * Judges the spread of cell voltages in charge, on the worst of the curves the family allows: 20 mV on the flat part is more than
 * 100 mV at the bottom.
 * @param volts one reading per cell, same meter, one set, rested; at least two.
 * @param uDifference expanded uncertainty of a difference, V.
 */
export function judgeImbalance(volts: readonly number[], curves: readonly CurveKey[], uDifference: number): Imbalance {
  const hi = Math.max(...volts);
  const lo = Math.min(...volts);
  const millivolts = (hi - lo) * 1000;
  const spreads = curves.map((c) => spreadOn(c, lo, hi, uDifference));
  const worst = spreads.reduce((a, b) => (b.charge > a.charge ? b : a), { charge: 0, u: 0 });
  const { charge, u } = worst;
  const verdict = judge(charge, u, BAD, 'max');
  const above = lo > 3.6;
  const severe = (above ? millivolts > SEVERE_MV : charge - u > SEVERE_CHARGE) || (lo < 2.5 && volts.some((v) => v > 3.3));
  const code = severe ? 'imbalance-severe' : verdict === 'fail' ? 'imbalance' : null;
  const grade = charge > BAD ? 'bad' : charge > 5 ? 'suspect' : charge > 2 ? 'watch' : 'good';
  return {
    millivolts,
    charge,
    grade,
    code,
    // Another curve may leave open what the worst one passes.
    unclear: spreads.some((s) => judge(s.charge, s.u, BAD, 'max') === 'cannot tell'),
    limit: {
      id: 'imbalance',
      label: 'spread of cells',
      unit: '% charge',
      value: charge,
      u,
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
