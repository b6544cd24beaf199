import { type CurveKey, curvesOf } from '../cell/curve';
import { FAMILIES, familiesOfLimit, type FamilyKey } from '../cell/family';
import { parseDesignation } from './designation';
import type { LabelBody } from './label';
import { seriesFromChargeLimit, seriesFromNominal } from './layout';
import { seriesCandidates, statedLabel } from './series';

/** What the label lets us know about the cells. Undecided things stay lists. */
export interface Nature {
  /** Cells in series; null when the label does not decide it. */
  readonly series: number | null;
  /** Every series count that may be the true one by the label; empty: the label says nothing of it. */
  readonly candidates: readonly number[];
  readonly parallel: number | null;
  readonly family: FamilyKey | null;
  /** Every family that is not excluded. */
  readonly families: readonly FamilyKey[];
  /** Highest charge limit per cell that cannot be excluded, V; null when the label says nothing. */
  readonly chargeLimit: number | null;
  /** Lowest charge limit per cell that cannot be excluded, V. */
  readonly lowestLimit: number | null;
  readonly curves: readonly CurveKey[];
  /** Do the limits and curves of rechargeable lithium cells hold for it? */
  readonly lithium: boolean;
  readonly notes: readonly string[];
}

/**
 * Series count, family and curves from a label: the count that every stated fact allows; the limited charge voltage fixes the family, the
 * nominal voltage narrows it. Nickel-metal hydride and lithium metal have no lithium-ion family.
 * @param assume a series count to take for the true one, where several may be.
 */
export function natureOf(label: LabelBody, assume?: number): Nature {
  const key = natureKey(label, assume);
  const known = natures.get(key);
  if (known) return known;
  if (natures.size >= MOST_KEPT) natures.clear();
  const made = readNature(label, assume);
  natures.set(key, made);
  return made;
}

/** Natures of the labels met so far: a workshop has few kinds of cells and asks for them at every ruling. */
const natures = new Map<string, Nature>();
const MOST_KEPT = 2_000;

/** All of a label that says something of its cells. */
function natureKey(
  { chemistry, series, parallel, designation, nominalVoltage: v, limitedChargeVoltage: l }: LabelBody,
  n?: number,
) {
  const figure = (f: LabelBody['nominalVoltage' | 'limitedChargeVoltage']) => (f ? `${f.digits} ${f.unit}` : '');
  return `${chemistry}|${series}|${parallel}|${figure(v)}|${figure(l)}|${n}|${designation}`;
}

function readNature(label: LabelBody, assume?: number): Nature {
  const design = label.designation ? parseDesignation(label.designation) : null;
  const candidates = seriesCandidates(statedLabel(label));
  const series = assume ?? (candidates.length === 1 ? candidates[0]! : null);
  const lithium = label.chemistry === undefined || label.chemistry === 'li-ion';
  const fits = (r: { readonly series: number }) => series === null || r.series === series;
  const limits = lithium && label.limitedChargeVoltage ? seriesFromChargeLimit(label.limitedChargeVoltage).filter(fits) : [];
  const nominal = lithium && label.nominalVoltage ? seriesFromNominal(label.nominalVoltage).filter(fits) : [];
  const possible = nominal.flatMap((r) => [...r.possible]);
  let families: FamilyKey[] = [...new Set(limits.flatMap((l) => familiesOfLimit(l.perCell)))];
  if (families.length === 0) families = [...new Set(possible)];
  else if (possible.some((p) => families.includes(p))) families = families.filter((f) => possible.includes(f));
  let perCell = limits.map((l) => l.perCell);
  // The family is ambiguous: both ends of what it may have are kept.
  if (perCell.length === 0) perCell = families.flatMap((k) => FAMILIES.find((f) => f.key === k)!.limits);
  const curves = families.length > 0 ? families.flatMap((f) => curvesOf(f)) : lithium ? curvesOf(null) : [];
  return {
    series,
    candidates,
    parallel: label.parallel ?? (design && design.parallel > 1 ? design.parallel : null),
    family: families.length === 1 ? families[0]! : null,
    families,
    chargeLimit: perCell.length > 0 ? Math.max(...perCell) : null,
    lowestLimit: perCell.length > 0 ? Math.min(...perCell) : null,
    curves: [...new Set(curves)],
    lithium,
    notes: design && design.forgave.length > 0 ? [`designation: ${design.forgave.join(', ')}`] : [],
  };
}

/** One nature for each series count that may be the true one; one alone where the label decides it or says nothing. */
export function naturesOf(label: LabelBody): Nature[] {
  const nature = natureOf(label);
  return nature.candidates.length > 1 ? nature.candidates.map((n) => natureOf(label, n)) : [nature];
}
