import { bearsClass9 } from '../dispatch/packaging';
import type { Carry } from '../dispatch/carry';
import type { CarrierFacts } from '../logbook/fold-consignment';
import type { Means } from './send';

/** Amounts in the workshop's own currency, to the hundredth. */
export const cents = (x: number): number => Math.round(x * 100) / 100;

/**
 * What one package costs by the carrier's table: its box, the package, its gross kilograms, and what class 9 costs more. Without a carrier of ours
 * only the box costs what we know of.
 * @param grossKg null where no weight is known: the kilograms are left out then.
 */
export function packagePrice(
  box: Pick<Means['boxes'][number], 'price'> | null,
  carrier: Pick<CarrierFacts, 'price'> | null,
  { grossKg, carry }: { readonly grossKg: number | null; readonly carry: Carry | null },
): number {
  const { perPackage, perKg, class9 } = carrier?.price ?? { perPackage: 0, perKg: 0 };
  return (box?.price ?? 0) + perPackage + perKg * (grossKg ?? 0) + (bearsClass9(carry) ? (class9 ?? 0) : 0);
}
