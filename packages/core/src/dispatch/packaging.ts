import { type Carry, NINE } from './carry';
import type { BoxBody } from '../logbook/entry';
import type { Placement, Provision } from '../shipping/facts';

/** Provisions that ask for packaging with a UN mark, packing group II; machines with their packs in them need none. From memory. */
const UN_MARKED: ReadonlySet<Provision> = new Set(['PI965-IA', 'PI966-I', 'PI968-IA', 'PI969-I', 'P903', '173.185(b)']);
/** Damaged packs ask for it in their machines too. */
const ALWAYS_UN_MARKED: ReadonlySet<Provision> = new Set(['SP376-P908', '173.185(f)']);

/** Does a package bear the class 9 label? Its steps say so. */
export const bearsClass9 = (carry: Pick<Carry, 'marks'> | null): boolean => carry?.marks.includes(NINE) === true;

/**
 * May a box be the outer packaging under a provision? What nobody said of a box speaks not against it. 49 CFR 173.185(f) takes metal, wood or
 * plastic of packing group I: whether a UN mark is of that group stands on the box. From memory.
 */
export function boxServes(
  box: { readonly un?: boolean | undefined; readonly kind?: BoxBody['kind'] | undefined },
  provision: Provision | null,
  placement: Placement | undefined,
): boolean {
  if (provision === '173.185(f)' && box.kind === 'fibreboard') return false;
  const asks =
    provision !== null && (ALWAYS_UN_MARKED.has(provision) || (UN_MARKED.has(provision) && placement !== 'in-equipment'));
  return !asks || box.un !== false;
}
