import { phi } from './uncertainty';

export type Verdict = 'pass' | 'fail' | 'cannot tell';

/** One decision with a number. The same record feeds the ruling, its nearest flip and the drawing of the scale. */
export interface Limit {
  /** Stable key: "swelling.any", "cell.low". */
  readonly id: string;
  readonly label: string;
  readonly unit: string;
  readonly value: number;
  /** Expanded uncertainty (k = 2), same unit. */
  readonly u: number;
  readonly limit: number;
  /** Which side is allowed: `max` allows values up to the limit, `min` values from the limit on. */
  readonly side: 'max' | 'min';
  readonly verdict: Verdict;
  /** What lies beyond the limit, in one word or finding code. */
  readonly beyond: string;
  /** What holds while it cannot be told. */
  readonly between: string;
  /** How one unit of `value` shows on the instrument that was read: 1 mm of growth is 1 mm on the calliper. */
  readonly perReading: number;
  readonly readingUnit: string;
  readonly decimals: number;
  /** `choice` limits may be approached on purpose, `observation` limits are never a target. */
  readonly nature: 'observation' | 'choice';
  readonly point?: string;
}

/**
 * Guarded decision after JCGM 106 (from memory): accept only when value +- U lies wholly on the allowed side, reject only
 * when it lies wholly beyond; equality with the limit is inside.
 */
export function judge(value: number, u: number, limit: number, side: 'max' | 'min'): Verdict {
  // Guards against the last bits of floating sums, far below any instrument's step.
  const eps = 1e-9 * Math.max(1, Math.abs(limit));
  const over = side === 'max' ? value - limit : limit - value;
  if (over + u <= eps) return 'pass';
  if (over - u > eps) return 'fail';
  return 'cannot tell';
}

/** Probability that the true value lies beyond an upper limit (JCGM 106), u standard. */
export const probabilityAbove = (value: number, u: number, limit: number): number => 1 - phi((limit - value) / u);

/** How far the value may still move towards danger before the verdict leaves `pass`; negative once it has. */
export function margin(l: Limit): number {
  return l.side === 'max' ? l.limit - l.u - l.value : l.value - l.u - l.limit;
}
