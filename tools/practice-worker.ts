import { type Act, judgePacks, type Tally } from '@gavrel/core/practice';

/** Some packs, and what was left out with them. */
export interface Share {
  readonly seed: number;
  readonly count: number;
  readonly without: readonly Act[];
}

/** Judges a share of the packs in a thread of its own. */
export default function judgeShare({ seed, count, without }: Share): Tally {
  return judgePacks(seed, count, new Set(without));
}
