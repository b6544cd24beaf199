/** A closed interval [lo, hi] in one unit. */
export interface Interval {
  readonly lo: number;
  readonly hi: number;
}

export const interval = (lo: number, hi: number): Interval => ({ lo, hi });

/** Shared points of two intervals, touching included. */
export const overlaps = (a: Interval, b: Interval): boolean => a.lo <= b.hi && b.lo <= a.hi;

/** The smallest interval that holds all of them; null for none. */
export function hull(all: readonly Interval[]): Interval | null {
  if (all.length === 0) return null;
  return { lo: Math.min(...all.map((i) => i.lo)), hi: Math.max(...all.map((i) => i.hi)) };
}

/** Distance between two intervals, 0 when they overlap. */
export const gap = (a: Interval, b: Interval): number => Math.max(0, a.lo - b.hi, b.lo - a.hi);
