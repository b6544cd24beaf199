/** Workshop bands of health in %. Common practice, no source. */
export type HealthBand = 'good' | 'normal' | 'worn' | 'replace advised' | 'replace';

export interface Health {
  /** Full-charge over design capacity, %. */
  readonly percent: number;
  readonly band: HealthBand;
  /** False when the gauge's figures contradict themselves or it does not trust itself. */
  readonly trusted: boolean;
}

/**
 * Health from the gauge's figures, both in the same unit. Wear is never damage.
 * @returns null when either figure is missing or not positive.
 */
export function healthOf(fullCharge: number | undefined, design: number | undefined, maxError?: number): Health | null {
  if (!fullCharge || !design || fullCharge <= 0 || design <= 0) return null;
  const percent = (100 * fullCharge) / design;
  const band =
    percent >= 90 ? 'good' : percent >= 80 ? 'normal' : percent >= 70 ? 'worn' : percent >= 60 ? 'replace advised' : 'replace';
  return { percent, band, trusted: percent <= 115 && (maxError ?? 0) <= 10 };
}
