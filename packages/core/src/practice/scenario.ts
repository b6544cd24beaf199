import type { Action } from './actions';
import { randomOf } from './random';
import { type Fault, packWith, type TruePack } from './world';

/** What is practised, easiest first. */
export const GRADES = [
  'label and sums',
  'measuring',
  'swelling',
  'opening',
  'signs',
  'judging',
  'yard and watch',
  'dispatch',
  'the bad day',
] as const;
export type Grade = (typeof GRADES)[number];
/** Grades whose scenarios are packs on the bench. */
export const PACK_GRADES = GRADES.filter((g) => !['opening', 'yard and watch', 'dispatch'].includes(g));

/** A pack with its story. Data: whoever adds one writes how an expert and how a careless hand would go, and the tests try both. */
export interface Scenario {
  readonly id: string;
  readonly grade: Grade;
  /** What stands on the ticket; it must not give the answer away. */
  readonly title: string;
  readonly story: string;
  readonly seed: number;
  readonly faults: readonly Fault[];
  /** Figures of the pack that the story needs. */
  readonly set?: Partial<Omit<TruePack, 'faults'>>;
  /** It hisses, smokes or burns as it is brought in. */
  readonly reacting?: true;
}

/** The pack of a scenario as it truly is. */
export const packOf = ({ seed, faults, set }: Scenario): TruePack => ({ ...packWith(faults, randomOf(seed)), ...set });

const STORIES = [
  'From a box of packs that somebody left at the counter.',
  'It came out of a machine that would not start.',
  'The owner bought it by post and never used it.',
  'Out of a heap for recycling: is any of it still good?',
  'The machine ran hot, says the owner, and that is all.',
] as const;

/** How hard an endless pack is: what is wrong is seen, or measured, or hides near a limit, behind another fault or in time. */
export const DIFFICULTIES = ['plain', 'measured', 'subtle'] as const;
export type Difficulty = (typeof DIFFICULTIES)[number];

const HIDDEN: Readonly<Record<Difficulty, readonly (readonly Fault[])[]>> = {
  plain: [['dent'], ['puncture'], ['liquid'], ['smell'], ['swollen']],
  measured: [
    ['dead cell'],
    ['deep discharge'],
    ['over-charge'],
    ['imbalance'],
    ['hot'],
    ['counterfeit'],
    ['re-celled'],
    ['gauge failed'],
    ['swollen'],
  ],
  subtle: [
    ['swollen'],
    ['leaking at rest'],
    ['imbalance', 'counterfeit'],
    ['swollen', 're-celled'],
    ['gauge failed', 'leaking at rest'],
  ],
};
/** Growth of a swollen pack by difficulty, %: felt by hand, by calliper, by calliper just beyond what it can tell. */
const GROWTH: Readonly<Record<Difficulty, readonly [number, number]>> = {
  plain: [14, 35],
  measured: [9, 11.5],
  subtle: [8.2, 8.8],
};
/** Of the endless packs so many have something wrong. */
const WRONG = 0.6;

/** A pack nobody wrote a story for; the same seed is the same pack. One in fifteen reacts as it comes in. @param seed a whole number from 0. */
export function endless(seed: number, difficulty: Difficulty): Scenario {
  const r = randomOf(seed);
  const reacting = r.chance(1 / 15);
  const story = reacting ? 'Somebody puts it on the bench. It hisses.' : r.pick(STORIES);
  const faults = !reacting && r.chance(WRONG) ? r.pick(HIDDEN[difficulty]) : [];
  const growth = r.between(...GROWTH[difficulty]);
  return {
    id: `endless-${difficulty}-${seed}`,
    grade: reacting ? 'the bad day' : 'judging',
    title: `Pack ${seed % 10_000}`,
    story,
    seed,
    faults,
    ...(faults.includes('swollen') && { set: { growth } }),
    ...(reacting && { reacting: true as const }),
  };
}

/** A scenario with the two ways through it that are tried. */
export interface Written extends Scenario {
  readonly expert: readonly Action[];
  readonly careless: readonly Action[];
}
