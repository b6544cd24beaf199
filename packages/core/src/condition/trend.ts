import type { PackFacts } from '../logbook/fold';
import { value } from '../quantity/figure';
import { expanded } from '../quantity/uncertainty';
import { type Series, seriesOf } from './series';

export interface ThicknessTrend {
  /** Where it was measured, `centre` and the like. */
  readonly point: string;
  /** Means of what was measured together, mm, with their expanded uncertainty, oldest first; nothing doubted. */
  readonly measured: readonly { readonly at: string; readonly mm: number; readonly lo: number; readonly hi: number }[];
  /** Thickness when new, mm, and the one at which the workshop's limit of growth is reached; null while the new one is not known. */
  readonly fresh: number | null;
  readonly limit: number | null;
}

/**
 * Thickness over time at the point that was measured most often, the thickest of those.
 * @param percent growth at which it is swollen, in per cent of the new thickness; null where nothing was judged.
 * @returns null before anything was measured twice.
 */
export function thicknessTrend(facts: PackFacts, percent: number | null): ThicknessTrend | null {
  const points = new Map<string, Series[]>();
  for (const s of seriesOf(facts.readings, 'thickness')) if (!s.doubted) points.set(s.point, [...(points.get(s.point) ?? []), s]);
  const thickest = (all: readonly Series[]) => Math.max(...all.map((s) => s.mean));
  const [best] = [...points].sort(([, a], [, b]) => b.length - a.length || thickest(b) - thickest(a));
  if (!best || best[1].length < 2) return null;
  const [point, all] = best;
  const news = facts.readings.filter((r) => r.body.quantity === 'new-thickness').map((r) => value(r.body.figure));
  // The judgement takes the one that makes most of a reading, too.
  const fresh = news.length > 0 ? Math.min(...news) : null;
  return {
    point,
    measured: [...all]
      .sort((a, b) => (a.at < b.at ? -1 : 1))
      .map((s) => ({ at: s.at, mm: s.mean, lo: s.mean - expanded(s.u), hi: s.mean + expanded(s.u) })),
    fresh,
    limit: fresh === null || percent === null ? null : fresh * (1 + percent / 100),
  };
}
