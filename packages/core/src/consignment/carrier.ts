import { carryOf } from '../dispatch/carry';
import { bearsClass9 } from '../dispatch/packaging';
import type { CarrierFacts } from '../logbook/fold-consignment';
import type { Mode } from '../logbook/entry';
import type { Classified } from '../shipping/classify';
import type { Route, ShippingFacts } from '../shipping/facts';

/** What a carrier would not take of what the rules allow; empty where it takes it. It is asked only after the rules: it opens nothing. */
export function carrierRefuses(
  carrier: CarrierFacts,
  facts: Pick<ShippingFacts, 'placement' | 'purpose'>,
  result: Classified,
  mode: Mode,
): string {
  const { takes } = carrier;
  const { condition } = result;
  if (condition === 'damaged' && !takes.damaged) return `${carrier.name} takes no damaged packs`;
  if (facts.purpose !== undefined && facts.purpose !== 'use' && !takes.recycling) return `${carrier.name} takes no waste`;
  if (facts.placement === 'loose' && !takes.loose) return `${carrier.name} takes no loose packs`;
  if (facts.placement === 'with-equipment' && !takes.withEquipment) return `${carrier.name} takes no packs beside machines`;
  if (facts.placement === 'in-equipment' && !takes.inEquipment) return `${carrier.name} takes no packs in machines`;
  const carry = carryOf(result, { placement: facts.placement ?? 'loose', mode });
  if (!takes.class9 && bearsClass9(carry)) return `${carrier.name} takes no class 9`;
  return '';
}

/** Does the carrier come on this day? @param day YYYY-MM-DD */
export function comesOn(carrier: CarrierFacts, day: string): boolean {
  const weekday = ((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7) + 1;
  return carrier.days === undefined || carrier.days.includes(weekday);
}

/** Every route whose rules must let a package go: where a road network flies on some legs, those of the air too. */
export function routesOf(mode: Mode, region: Route['region'], on: string, carrier: CarrierFacts | null): readonly Route[] {
  const ground: Route = { mode, region: mode === 'road' || mode === 'rail' ? (region ?? 'international') : 'international', on };
  return carrier?.groundFlies && (mode === 'road' || mode === 'rail')
    ? [{ mode: 'air-cargo', region: 'international', on }, ground]
    : [ground];
}
