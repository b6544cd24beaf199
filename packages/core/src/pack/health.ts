import type { Interval } from '../quantity/interval';
import { gaugeError } from './charge';

/** Workshop bands of health in %. Common practice, no source. */
export type HealthBand = 'good' | 'normal' | 'worn' | 'replace advised' | 'replace';

export interface Health {
  /** Full-charge over design capacity, %. */
  readonly percent: number;
  /** The same with the gauge's own error, fractions. */
  readonly range: Interval;
  readonly band: HealthBand;
  /** False when the gauge's figures contradict themselves or it does not trust itself. */
  readonly trusted: boolean;
  /** May it lower a charge of rated capacity? Not from what is nearly nothing: that is rather a gauge that lost count. */
  readonly lowers: boolean;
}

/** Below it a full-charge capacity is rather a gauge that lost count than a pack in use, % of design. Common practice, no source. */
export const LOST_COUNT = 40;
/** Most that a gauge may say of its own error and still be trusted, points. */
const TRUSTED_ERROR = 10;

/**
 * Health from the gauge's figures, both in the same unit. Wear is never damage.
 * @returns null when either figure is missing or not positive.
 */
export function healthOf(fullCharge: number | undefined, design: number | undefined, maxError?: number): Health | null {
  if (!fullCharge || !design || fullCharge <= 0 || design <= 0) return null;
  const percent = (100 * fullCharge) / design;
  const band =
    percent >= 90 ? 'good' : percent >= 80 ? 'normal' : percent >= 70 ? 'worn' : percent >= 60 ? 'replace advised' : 'replace';
  const U = gaugeError(maxError);
  const trusted = percent <= 115 && (maxError ?? 0) <= TRUSTED_ERROR;
  return {
    percent,
    range: { lo: Math.max(0, percent - U) / 100, hi: Math.min(103, percent + U) / 100 },
    band,
    trusted,
    lowers: trusted && percent >= LOST_COUNT,
  };
}
