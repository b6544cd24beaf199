import { canonical, type LabelBody, type PackFacts, typeKey } from '@gavrel/core';

/** What a label of a type says, as it was read on another pack. */
export interface KnownLabel {
  /** Tag of that pack. */
  readonly from: string;
  readonly label: LabelBody;
}

/** What two packs of one type have in common; serial and date are each pack's own. */
const OF_TYPE = [
  'typeCode',
  'chemistry',
  'nominalVoltage',
  'ratedCapacity',
  'ratedEnergy',
  'limitedChargeVoltage',
  'designation',
  'energyMarked',
] as const satisfies readonly (keyof LabelBody)[];
const FIGURES = ['nominalVoltage', 'ratedCapacity', 'ratedEnergy'] as const;

/** The label of a pack where nothing on it is questioned and it says enough to be offered. */
function labelOf(p: PackFacts): LabelBody | null {
  if (p.labels.length === 0 || p.labels.some((l) => l.doubted)) return null;
  const all = Object.assign({}, ...p.labels.map((l) => l.body)) as LabelBody;
  const label = Object.fromEntries(OF_TYPE.flatMap((k) => (all[k] === undefined ? [] : [[k, all[k]]]))) as LabelBody;
  return label.typeCode && label.nominalVoltage && (label.ratedEnergy ?? label.ratedCapacity) ? label : null;
}

/**
 * Labels to offer for a pack whose figures nobody has read: of its own type code where that is known, else of the machine it belongs to, then of
 * what came last. A type whose packs were read differently is not offered: somebody misread one of them.
 */
export function knownLabels(packs: readonly PackFacts[], about: PackFacts, most: number): KnownLabel[] {
  const own = Object.assign({}, ...about.labels.map((l) => l.body)) as LabelBody;
  if (FIGURES.some((f) => own[f] !== undefined)) return [];
  const near = (p: PackFacts) => Number(p.notebook !== null && p.notebook === about.notebook);
  const others = packs
    .filter((p) => p.id !== about.id)
    .sort((a, b) => near(b) - near(a) || (a.lastAt < b.lastAt ? 1 : a.lastAt > b.lastAt ? -1 : a.id < b.id ? -1 : 1));
  const types = new Map<string, { readonly known: KnownLabel; same: boolean }>();
  for (const p of others) {
    const label = labelOf(p);
    if (!label || (own.typeCode !== undefined && typeKey(own.typeCode) !== typeKey(label.typeCode!))) continue;
    const type = types.get(typeKey(label.typeCode!));
    if (!type) types.set(typeKey(label.typeCode!), { known: { from: p.tag, label }, same: true });
    else if (FIGURES.some((f) => label[f] && type.known.label[f] && canonical(label[f]) !== canonical(type.known.label[f])))
      type.same = false;
  }
  return [...types.values()]
    .filter((t) => t.same)
    .slice(0, most)
    .map((t) => t.known);
}
