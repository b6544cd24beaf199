import type { Interval } from '../quantity/interval';

/** Cell families by nominal voltage and charge limit. Data sheet classes, from memory; bands are the working edges. */
export type FamilyKey = 'LFP' | 'STD' | 'MID' | 'HV435' | 'HV440' | 'HV445' | 'HV450';

export interface Family {
  readonly key: FamilyKey;
  /** Nominal volts per cell, lower edge inside. */
  readonly nominal: Interval;
  /** Charge limits met, volts per cell. */
  readonly limits: readonly number[];
}

export const FAMILIES: readonly Family[] = [
  { key: 'LFP', nominal: { lo: 3.15, hi: 3.35 }, limits: [3.6, 3.65] },
  { key: 'STD', nominal: { lo: 3.55, hi: 3.725 }, limits: [4.1, 4.2] },
  { key: 'MID', nominal: { lo: 3.725, hi: 3.79 }, limits: [4.3, 4.35] },
  { key: 'HV435', nominal: { lo: 3.79, hi: 3.835 }, limits: [4.35] },
  { key: 'HV440', nominal: { lo: 3.835, hi: 3.865 }, limits: [4.4] },
  { key: 'HV445', nominal: { lo: 3.865, hi: 3.885 }, limits: [4.4, 4.45] },
  { key: 'HV450', nominal: { lo: 3.885, hi: 3.93 }, limits: [4.45, 4.48, 4.5] },
];

/** Charge limits per cell that are looked for first. Data sheet classes, from memory. */
export const CHARGE_LIMITS = [3.6, 3.65, 4.1, 4.2, 4.3, 4.35, 4.4, 4.45, 4.48, 4.5] as const;

/** Families whose usual charge limits include this one. */
export function familiesOfLimit(limit: number): FamilyKey[] {
  return FAMILIES.filter((f) => f.limits.some((l) => Math.abs(l - limit) < 0.0051)).map((f) => f.key);
}
