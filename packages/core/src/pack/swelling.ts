import { judge, type Limit } from '../quantity/limit';
import { combine, expanded, rectangular } from '../quantity/uncertainty';

/** Two schools on how much growth is allowed. Trade convention, no source; `any` is the default. */
export type SwellingSchool = 'any' | 'allowance';

export const SWELLING_LIMIT: Record<SwellingSchool, number> = { any: 5, allowance: 10 };

/** From here on the *allowance* school calls a pack spent. */
export const ALLOWANCE_SPENT = 8;

/** A pouch gives way under the jaws: standard uncertainty in mm, common practice, no source. */
export const SOFT_BODY = 0.02;

/** How well the new thickness is known, half-width in mm. A designation rounds up to whole mm, so it does not appear here. */
export const NEW_THICKNESS_HALF: Record<'measured-new' | 'data-sheet' | 'trade-code', number> = {
  'measured-new': 0.03,
  'data-sheet': 0.05,
  'trade-code': 0.2,
};

export interface Growth {
  /** Growth over the new thickness, %. */
  readonly percent: number;
  /** Expanded uncertainty incl. that of the new thickness, points. */
  readonly u: number;
}

/**
 * Growth S = (t - t0) / t0 with its expanded uncertainty.
 * @param uT standard uncertainty of the thickness, mm; @param t0Half half-width of the new thickness, mm.
 */
export function growth(t: number, uT: number, t0: number, t0Half: number): Growth {
  const u = combine(uT / t0, (rectangular(t0Half) * t) / (t0 * t0));
  return { percent: (100 * (t - t0)) / t0, u: 100 * expanded(u) };
}

export interface SwellingJudgement {
  readonly code: 'swollen' | 'swelling-spent' | null;
  readonly unclear: boolean;
  readonly limit: Limit;
}

/** Judges the growth at one point under a school. Signs seen by eye are findings and decide on their own. */
export function judgeSwelling(g: Growth, school: SwellingSchool, t0: number, point: string): SwellingJudgement {
  const limit = SWELLING_LIMIT[school];
  const verdict = judge(g.percent, g.u, limit, 'max');
  const spent = school === 'allowance' && verdict !== 'fail' && g.percent - g.u > ALLOWANCE_SPENT;
  return {
    code: verdict === 'fail' ? 'swollen' : spent ? 'swelling-spent' : null,
    unclear: verdict === 'cannot tell',
    limit: {
      id: `swelling.${school}`,
      label: `growth at ${point}`,
      unit: '%',
      value: g.percent,
      u: g.u,
      limit,
      side: 'max',
      verdict,
      beyond: 'swollen',
      between: 'unproven',
      perReading: t0 / 100,
      readingUnit: 'mm',
      decimals: 2,
      nature: 'observation',
      point,
    },
  };
}
