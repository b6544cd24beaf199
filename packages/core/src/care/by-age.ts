import { isEnergy } from '../condition/gauge';
import { mergeLabels } from '../condition/label';
import { type Series, seriesOf } from '../condition/series';
import type { GaugeBody } from '../logbook/entry';
import type { PackFacts, Statement } from '../logbook/fold';
import type { FadePoint } from '../pack/fade';
import { healthOf } from '../pack/health';
import { growth, NEW_THICKNESS_HALF, SOFT_BODY } from '../pack/swelling';
import { DAY_MS } from '../quantity/day';
import { value } from '../quantity/figure';
import { hull, type Interval } from '../quantity/interval';
import { combine } from '../quantity/uncertainty';

/** One value with how far the truth may lie from it, at a moment. */
export interface Trended extends Interval {
  readonly at: string;
  readonly value: number;
}

/** Health by one gauge reading, % of design; null where it does not say, or is not to be trusted. */
function healthAt({ at, body, doubted }: Statement<GaugeBody>): Trended | null {
  const { fullChargeCapacity: full, designCapacity: design } = body;
  if (doubted || !full || !design || isEnergy(full) !== isEnergy(design)) return null;
  const h = healthOf(value(full), value(design), body.maxError);
  return h?.trusted ? { at, value: h.percent, lo: 100 * h.range.lo, hi: 100 * h.range.hi } : null;
}

/** Health over time by every gauge reading that can be trusted, % of the design capacity, oldest first. */
export const healthTrend = (facts: PackFacts): Trended[] =>
  facts.gauges.flatMap((g) => healthAt(g) ?? []).sort((a, b) => (a.at < b.at ? -1 : 1));

/** The growth that was measured last, %, at the point where it is largest; null without both thicknesses. */
function lastGrowth(facts: PackFacts): Interval | null {
  const news = facts.readings.filter((r) => r.body.quantity === 'new-thickness' && !r.doubted);
  const newest = new Map<string, Series>();
  for (const s of seriesOf(facts.readings, 'thickness'))
    if (!s.doubted && s.at >= (newest.get(s.point)?.at ?? '')) newest.set(s.point, s);
  const all = [...newest.values()].flatMap((s) =>
    news.map((n) =>
      growth(s.mean, combine(s.u, SOFT_BODY), value(n.body.figure), NEW_THICKNESS_HALF[n.body.source ?? 'trade-code']),
    ),
  );
  if (all.length === 0) return null;
  const worst = all.reduce((a, b) => (b.percent > a.percent ? b : a));
  return { lo: worst.percent - worst.u, hi: worst.percent + worst.u };
}

/** The middle of what a date of manufacture may mean, ms. */
const middleOf = (madeOn: string): number =>
  Date.parse(madeOn.length === 4 ? `${madeOn}-07-01` : madeOn.length === 7 ? `${madeOn}-15` : madeOn);

/**
 * Health by age and cycles of every gauge reading that can be trusted; one without a count of cycles, or of none on an old pack, does not say
 * how much it was used.
 * @param madeOn day, month or year of manufacture.
 */
export function fadePoints(facts: PackFacts, madeOn: string | undefined): FadePoint[] {
  if (madeOn === undefined) return [];
  const made = middleOf(madeOn);
  return facts.gauges.flatMap((g) => {
    const h = healthAt(g);
    const cycles = g.body.cycleCount ?? 0;
    const years = (Date.parse(g.at) - made) / (365.25 * DAY_MS);
    return h && cycles > 0 && years > 0 ? [{ years, cycles, health: h.value / 100 }] : [];
  });
}

/** Packs of one age. */
export interface AgeGroup {
  /** Whole years since they were made; null where that is not known. */
  readonly years: number | null;
  readonly packs: number;
  /** From the lowest to the highest that any of them may have, %; null where none was measured. */
  readonly health: Interval | null;
  readonly growth: Interval | null;
}

const YEAR_MS = 365.25 * DAY_MS;

/** What became of packs of one type as they grew older, the youngest first, those of unknown age last. @param now the moment it is asked. */
export function byAge(packs: readonly PackFacts[], now: Date): AgeGroup[] {
  const groups = new Map<number | null, PackFacts[]>();
  for (const p of packs) {
    const { madeOn } = mergeLabels(p.labels).sure;
    // Made tomorrow, says a clock that is wrong: that is as good as today.
    const years = madeOn === undefined ? null : Math.max(0, Math.floor((now.getTime() - middleOf(madeOn)) / YEAR_MS));
    groups.set(years, [...(groups.get(years) ?? []), p]);
  }
  return [...groups]
    .sort(([a], [b]) => (a ?? Infinity) - (b ?? Infinity))
    .map(([years, all]) => ({
      years,
      packs: all.length,
      health: hull(all.flatMap((p) => healthTrend(p).pop() ?? []).map(({ lo, hi }) => ({ lo, hi }))),
      growth: hull(all.flatMap((p) => lastGrowth(p) ?? [])),
    }));
}
