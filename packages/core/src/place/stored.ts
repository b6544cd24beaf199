import { condition, type Judgement } from '../condition/condition';
import { latest, seriesOf } from '../condition/series';
import type { Condition } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { declaredEnergies } from '../pack/label';
import { value } from '../quantity/figure';

/** A pack as a place counts it. What nobody knows is null, and never counts as nothing. */
export interface Stored {
  readonly id: string;
  readonly tag: string;
  readonly condition: Condition;
  readonly kind: Judgement['kind'];
  readonly place: string | null;
  /** What it was when it was put there, by everything known today: a look grows old where it lies, the pack does not. */
  readonly placedAs: Condition;
  readonly placedAt: string | null;
  readonly despite: string | null;
  readonly wattHours: number | null;
  readonly kg: number | null;
  readonly litres: number | null;
}

/** Least a pack holds for its weight and its size: a pack not weighed or measured is taken as this heavy and large. Common practice, no source. */
export const BOUND = { whPerKg: 100, whPerLitre: 200 } as const;

const MICRO = 1e6;

/** Mass weighed, else by its bound; size by its outline, else by its bound; energy as declared, the larger figure where two disagree. */
export function storedOf(facts: PackFacts, j: Judgement, policy: PolicyFacts): Stored {
  const energies = declaredEnergies(j.label.all);
  const wattHours = energies.length > 0 ? Math.max(...energies) / MICRO : null;
  const mass = latest(seriesOf(facts.readings, 'mass'));
  const { length, width, thickness } = facts.form?.body ?? {};
  const bound = (per: number) => (wattHours === null ? null : wattHours / per);
  return {
    id: facts.id,
    tag: facts.tag,
    condition: j.condition,
    kind: j.kind,
    place: facts.place,
    placedAs:
      j.condition === 'unproven' && facts.placedAt ? condition(facts, policy, new Date(facts.placedAt)).condition : j.condition,
    placedAt: facts.placedAt,
    despite: facts.despite,
    wattHours,
    kg: mass ? mass.mean : bound(BOUND.whPerKg),
    litres: length && width && thickness ? (value(length) * value(width) * value(thickness)) / 1e6 : bound(BOUND.whPerLitre),
  };
}
