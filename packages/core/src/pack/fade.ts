import type { Interval } from '../quantity/interval';

/** Health at an age: fraction of design capacity after so many years and so many full cycles. */
export interface FadePoint {
  readonly years: number;
  readonly cycles: number;
  readonly health: number;
}

/**
 * 1 − health = a √t + b n, t in years, n in full cycles: growth of the film on the graphite by the root of time (Broussely 2001, Ploehn 2004, from
 * memory), and wear by use. What notebook packs usually lose is a judgement, no source.
 */
export const USUAL_FADE = { a: { value: 0.035, u: 0.02 }, b: { value: 1.5e-4, u: 1e-4 } } as const;
/** Standard uncertainty of one gauge's health: its errors hang together, so a smooth row of points says less than it seems. */
export const GAUGE_SIGMA = 0.01;

export interface FadeFit {
  readonly a: number;
  readonly b: number;
  /** Covariance of both. */
  readonly aa: number;
  readonly bb: number;
  readonly ab: number;
  /** Standard uncertainty of one point. */
  readonly sigma: number;
}

/**
 * Least squares of the fade, drawn towards what is usual where `usual` is given (X'X/σ² + P)θ = X'y/σ² + P m; without it plain, with σ from
 * the residuals.
 * @throws RangeError with fewer than three points, or where they lie all at one age.
 */
export function fitFade(
  points: readonly FadePoint[],
  usual: typeof USUAL_FADE | null = USUAL_FADE,
  sigma = GAUGE_SIGMA,
): FadeFit {
  if (points.length < 3) throw new RangeError('three points are needed for two figures and their uncertainty');
  let [xx, xy, yy, xz, yz] = [0, 0, 0, 0, 0];
  for (const { years, cycles, health } of points) {
    const [x, y, z] = [Math.sqrt(years), cycles, 1 - health];
    xx += x * x;
    xy += x * y;
    yy += y * y;
    xz += x * z;
    yz += y * z;
  }
  const w = usual === null ? 1 : 1 / sigma ** 2;
  const [pa, pb] = usual === null ? [0, 0] : [1 / usual.a.u ** 2, 1 / usual.b.u ** 2];
  const [m11, m12, m22] = [w * xx + pa, w * xy, w * yy + pb];
  const [v1, v2] = [w * xz + pa * (usual?.a.value ?? 0), w * yz + pb * (usual?.b.value ?? 0)];
  const det = m11 * m22 - m12 * m12;
  if (!(det > 1e-12 * m11 * m22)) throw new RangeError('all points lie at one age: no course follows');
  const a = (m22 * v1 - m12 * v2) / det;
  const b = (m11 * v2 - m12 * v1) / det;
  const rss = points.reduce((sum, p) => sum + (1 - p.health - a * Math.sqrt(p.years) - b * p.cycles) ** 2, 0);
  const s = usual === null ? Math.sqrt(rss / (points.length - 2)) : sigma;
  const k = usual === null ? s * s : 1;
  return { a, b, aa: (k * m22) / det, bb: (k * m11) / det, ab: (-k * m12) / det, sigma: s };
}

/** Health that a fit tells for an age, with its standard uncertainty. */
export function healthAt(
  { a, b, aa, bb, ab }: FadeFit,
  years: number,
  cycles: number,
): { readonly health: number; readonly u: number } {
  const x = Math.sqrt(years);
  return { health: 1 - a * x - b * cycles, u: Math.sqrt(Math.max(0, x * x * aa + cycles * cycles * bb + 2 * x * cycles * ab)) };
}

/**
 * Age at which a level is reached at so many full cycles a year, years, with its standard uncertainty; null where it never is.
 * @param level fraction of design capacity.
 */
export function yearsUntil(
  fit: FadeFit,
  level: number,
  cyclesPerYear: number,
): { readonly years: number; readonly u: number } | null {
  const [a, c] = [fit.a, fit.b * cyclesPerYear];
  const lost = 1 - level;
  // c x² + a x = lost, x the root of time.
  const x = Math.abs(c) < 1e-12 ? lost / a : (-a + Math.sqrt(a * a + 4 * c * lost)) / (2 * c);
  if (!(x > 0)) return null;
  const years = x * x;
  const slope = a / (2 * x) + c;
  return slope > 0 ? { years, u: healthAt(fit, years, cyclesPerYear * years).u / slope } : null;
}

/** Least that says something: points, years between the first and the last, health lost between them, and years ahead. Common practice, no source. */
const LEAST = { points: 4, years: 0.5, lost: 0.03, ahead: 0.25 } as const;
/** Health below which no course is told: packs fall off a knee there that no fit sees coming. */
const LOWEST = 0.7;
/** Standard uncertainties to either side for eight of ten. */
const EIGHT_OF_TEN = 1.2816;

/** What may be told of a pack's further course, or why nothing may. */
export type FadeOutlook =
  | { readonly kind: 'refused'; readonly words: string }
  | {
      readonly kind: 'told';
      /** Level that is looked ahead to, fraction. */
      readonly level: number;
      /** Years from the last point until it, eight of ten; null: not within the years that may be told. */
      readonly years: Interval | null;
      /** Years from the last point that may be told: as many as were seen, fewer where it may lie below 70 % before. */
      readonly ahead: number;
      /** Health at the end of those years, eight of ten. */
      readonly then: Interval;
    };

/** Looks ahead as far as was looked back at most, and only while it lies above 70 %; cycles go on as in the last year. @param points in any order. */
export function fadeOutlook(points: readonly FadePoint[]): FadeOutlook {
  const refused = (words: string): FadeOutlook => ({ kind: 'refused', words });
  const all = [...points].sort((p, q) => p.years - q.years);
  const [first, last] = [all[0], all[all.length - 1]];
  if (all.length < LEAST.points || !first || !last)
    return refused(`${LEAST.points} gauge readings with cycles and date are needed`);
  const span = last.years - first.years;
  if (span < LEAST.years) return refused('half a year between the first and the last reading is needed');
  if (first.health - last.health < LEAST.lost) return refused('it changed less than a gauge can tell');
  const level = last.health > 0.8 ? 0.8 : LOWEST;
  if (last.health <= LOWEST) return refused('below 70 % nothing is told: packs may fall off at once');
  const fit = fitFade(all);
  // The first of the last year; where all of that were taken at one moment, the first of all.
  const since = all.find((p) => p.years >= last.years - 1 && p.years < last.years) ?? first;
  const rate = Math.max(0, (last.cycles - since.cycles) / (last.years - since.years));
  const after = (years: number): Interval => {
    const { health, u } = healthAt(fit, last.years + years, last.cycles + rate * years);
    return { lo: health - EIGHT_OF_TEN * u, hi: Math.min(1, health + EIGHT_OF_TEN * u) };
  };
  // Not into the years in which it may lie below: halved to within hours.
  let [known, open] = [0, span];
  if (after(span).lo >= LOWEST) known = span;
  else
    for (let i = 0; i < 20; i++) {
      const half = (known + open) / 2;
      if (after(half).lo >= LOWEST) known = half;
      else open = half;
    }
  if (known < LEAST.ahead) return refused('it may lie below 70 % within months, where packs may fall off at once');
  const reached = yearsUntil(fit, level, (last.cycles + rate * known) / (last.years + known));
  const ahead = reached && {
    lo: Math.max(0, reached.years - EIGHT_OF_TEN * reached.u - last.years),
    hi: reached.years + EIGHT_OF_TEN * reached.u - last.years,
  };
  return {
    kind: 'told',
    level,
    years: ahead && ahead.hi <= known ? ahead : null,
    ahead: known,
    then: after(known),
  };
}
