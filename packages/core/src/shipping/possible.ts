/** Values a number may still have: above `lo` (or from it, unless `above`), up to `hi`. */
export interface Possible {
  readonly lo: number;
  readonly hi: number;
  /** `lo` itself is excluded. */
  readonly above?: boolean;
}

export const exactly = (x: number): Possible => ({ lo: x, hi: x });
/** Anything that is more than 0. */
export const POSITIVE: Possible = { lo: 0, hi: Infinity, above: true };
/** Any count. */
export const COUNT: Possible = { lo: 1, hi: Infinity };

/** Floating sums and products of kilograms must not cross a limit by their last bits. */
const EPS = 1e-9;

/** Is the number at most the limit? Equality is inside; null when both are still possible. */
export function within(p: Possible, limit: number): boolean | null {
  const slack = EPS * Math.max(1, Math.abs(limit));
  if (p.hi <= limit + slack) return true;
  if (p.lo > limit + slack || (p.above === true && p.lo >= limit - slack)) return false;
  return null;
}

/** The two parts a limit cuts the possible values into: at most it, and more. @param whole the values are whole numbers. */
export function cut(p: Possible, limit: number, whole: boolean): readonly [Possible, Possible] {
  const at = whole ? Math.floor(limit + EPS) : limit;
  return [{ ...p, hi: at }, whole ? { lo: Math.max(p.lo, at + 1), hi: p.hi } : { lo: Math.max(p.lo, at), hi: p.hi, above: true }];
}

/** Product of two positive ranges. */
export const times = (a: Possible, b: Possible): Possible => ({
  lo: a.lo * b.lo,
  hi: a.hi * b.hi,
  ...((a.above || b.above) && { above: true }),
});

/** What both allow. */
export function both(a: Possible, b: Possible): Possible {
  const lower = a.lo > b.lo || (a.lo === b.lo && a.above) ? a : b;
  return { lo: lower.lo, hi: Math.min(a.hi, b.hi), ...(lower.above && { above: true }) };
}
