import { type CurveKey, curvesOf } from '../cell/curve';
import { FAMILIES, familiesOfLimit, type FamilyKey } from '../cell/family';
import { parseDesignation } from './designation';
import type { LabelBody } from './label';
import { seriesFromChargeLimit, seriesFromNominal } from './layout';

/** What the label lets us know about the cells. Undecided things stay lists. */
export interface Nature {
  /** Cells in series; null when the label does not decide it. */
  readonly series: number | null;
  readonly parallel: number | null;
  /** Every series count the label's figures name; more than one is a contradiction. */
  readonly seriesNamed: readonly number[];
  readonly family: FamilyKey | null;
  /** Highest charge limit per cell that cannot be excluded, V; null when the label says nothing. */
  readonly chargeLimit: number | null;
  /** Lowest charge limit per cell that cannot be excluded, V. */
  readonly lowestLimit: number | null;
  readonly curves: readonly CurveKey[];
  readonly notes: readonly string[];
}

/**
 * Series count, family and curves from a label: printed counts first, then the limited charge voltage (it fixes the family), then
 * the nominal voltage (it fixes the series count only). Nickel-metal hydride has no lithium family.
 */
export function natureOf(label: LabelBody): Nature {
  const notes: string[] = [];
  const design = label.designation ? parseDesignation(label.designation) : null;
  if (design && design.forgave.length > 0) notes.push(`designation: ${design.forgave.join(', ')}`);
  const nominal = label.nominalVoltage ? seriesFromNominal(label.nominalVoltage) : [];
  const limits = label.limitedChargeVoltage ? seriesFromChargeLimit(label.limitedChargeVoltage) : [];
  const named = new Set<number>();
  if (label.series !== undefined) named.add(label.series);
  if (design?.series) named.add(design.series);
  const nominalSeries = [...new Set(nominal.map((r) => r.series))];
  const limitSeries = [...new Set(limits.map((r) => r.series))];
  if (nominalSeries.length === 1) named.add(nominalSeries[0] as number);
  if (limitSeries.length === 1) named.add(limitSeries[0] as number);
  if (label.nominalVoltage && nominal.length === 0)
    notes.push('the nominal voltage fits no lithium-ion pack of 1 to 4 cells in series');
  if (named.size > 1) notes.push(`the label names ${[...named].sort().join(' and ')} cells in series: check it`);
  const series = named.size === 1 ? ([...named][0] as number) : null;

  const ofSeries = limits.filter((l) => series === null || l.series === series);
  let limitsPerCell = ofSeries.map((l) => l.perCell);
  let families: FamilyKey[] = [...new Set(ofSeries.flatMap((l) => familiesOfLimit(l.perCell)))];
  const byNominal = nominal.filter((r) => series === null || r.series === series);
  const possible = byNominal.flatMap((r) => [...r.possible]);
  if (families.length === 0) families = [...new Set(possible)];
  else if (possible.some((p) => families.includes(p))) families = families.filter((f) => possible.includes(f));
  if (limitsPerCell.length === 0) {
    // The family is ambiguous: both ends of what it may have are kept.
    limitsPerCell = families.flatMap((k) => FAMILIES.find((f) => f.key === k)!.limits);
  }
  const family = families.length === 1 ? (families[0] as FamilyKey) : null;
  const curves = families.length > 0 ? [...new Set(families.flatMap((f) => curvesOf(f)))] : curvesOf(null);
  return {
    series,
    parallel: label.parallel ?? (design && design.parallel > 1 ? design.parallel : null),
    seriesNamed: [...named].sort(),
    family,
    chargeLimit: limitsPerCell.length > 0 ? Math.max(...limitsPerCell) : null,
    lowestLimit: limitsPerCell.length > 0 ? Math.min(...limitsPerCell) : null,
    curves,
    notes,
  };
}
