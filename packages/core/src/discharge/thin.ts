/** A point of a curve. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/**
 * Fewer points that keep the look of a curve, its peaks too: of each bucket the point that makes the largest triangle with the one kept before and the
 * middle of the next bucket (largest-triangle-three-buckets, Steinarsson 2013, from memory). First and last stay.
 * @param most points wanted, at least 3.
 */
export function thinned(xs: ArrayLike<number>, ys: ArrayLike<number>, most: number): Point[] {
  const n = Math.min(xs.length, ys.length);
  const at = (i: number): Point => ({ x: xs[i]!, y: ys[i]! });
  if (n <= most || most < 3) return Array.from({ length: n }, (_, i) => at(i));
  const size = (n - 2) / (most - 2);
  const out: Point[] = [at(0)];
  let kept = 0;
  for (let b = 0; b < most - 2; b++) {
    const [from, to] = [Math.floor(b * size) + 1, Math.floor((b + 1) * size) + 1];
    const end = Math.min(Math.floor((b + 2) * size) + 1, n);
    let [mx, my] = [0, 0];
    for (let i = to; i < end; i++) {
      mx += xs[i]!;
      my += ys[i]!;
    }
    const next = { x: mx / (end - to), y: my / (end - to) };
    const last = at(kept);
    let [best, area] = [from, -1];
    for (let i = from; i < to; i++) {
      const a = Math.abs((last.x - next.x) * (ys[i]! - last.y) - (last.x - xs[i]!) * (next.y - last.y));
      if (a > area) [best, area] = [i, a];
    }
    out.push(at(best));
    kept = best;
  }
  return [...out, at(n - 1)];
}

/**
 * A curve at even steps of x from 0, in straight lines between its points, up to its own end: so that two are drawn over the same axis.
 * @param points at least two, x growing. @param most values at most.
 */
export function atSteps(points: readonly Point[], step: number, most: number): number[] {
  const out: number[] = [];
  const last = points[points.length - 1]!;
  let i = 1;
  // The last step may miss the end by what adding up loses.
  for (let k = 0; k < most && k * step <= last.x * (1 + 1e-9); k++) {
    while (i < points.length - 1 && points[i]!.x < k * step) i++;
    const [a, b] = [points[i - 1]!, points[i]!];
    const part = b.x > a.x ? (k * step - a.x) / (b.x - a.x) : 1;
    out.push(a.y + (b.y - a.y) * Math.min(1, Math.max(0, part)));
  }
  return out;
}
