import type { Provision } from '../shipping/facts';
import type { Carry } from './carry';

/** Provisions that may share an outer packaging, the lighter before the heavier, under which the whole then goes. From memory: ICAO TI, ADR, 49 CFR. */
const FAMILIES: readonly (readonly Provision[])[] = [
  ['PI965-IB', 'PI965-IA'],
  ['PI966-II', 'PI966-I'],
  ['PI967-II', 'PI967-I'],
  ['PI968-IB', 'PI968-IA'],
  ['PI969-II', 'PI969-I'],
  ['PI970-II', 'PI970-I'],
  ['SP188', 'P903'],
  ['173.185(c)', '173.185(c)(1)(iv)', '173.185(b)'],
];

/** The provision under which packs of several go in one package: the heaviest of them; null where they may not lie together. */
export function heaviestOf(provisions: readonly Provision[]): Provision | null {
  const [first] = provisions;
  if (first === undefined || provisions.every((p) => p === first)) return first ?? null;
  const family = FAMILIES.find((f) => provisions.every((p) => f.includes(p)));
  return family?.filter((p) => provisions.includes(p)).pop() ?? null;
}

const once = (lists: readonly (readonly string[])[]): string[] => [...new Set(lists.flat())];

/**
 * What a package with several kinds of packs carries: the marks and papers of all of them; packed and signed for as the heaviest asks, whose
 * packaging serves the others too.
 * @param heaviest of them. @param others under their own provisions.
 */
export function carryTogether(heaviest: Carry, others: readonly Carry[]): Carry {
  const all = [heaviest, ...others];
  return {
    packaging: heaviest.packaging,
    marks: once(all.map((c) => c.marks)),
    papers: once(all.map((c) => c.papers)),
    trained: heaviest.trained,
  };
}
