import type { BoxBody } from '../logbook/entry';
import type { Placement, Provision } from '../shipping/facts';

/** Provisions under which packages are fully regulated: class 9 label and papers. What is not here travels lighter. */
const FULL: ReadonlySet<Provision> = new Set([
  'PI965-IA',
  'PI965-IB',
  'PI966-I',
  'PI967-I',
  'PI968-IA',
  'PI968-IB',
  'PI969-I',
  'PI970-I',
  'P903',
  'SP376-P908',
  'SP377-P909',
  '173.185(b)',
  '173.185(f)',
]);
/** Provisions that ask for packaging with a UN mark, packing group II; machines with their packs in them need none. From memory. */
const UN_MARKED: ReadonlySet<Provision> = new Set([
  'PI965-IA',
  'PI966-I',
  'PI968-IA',
  'PI969-I',
  'P903',
  'SP376-P908',
  '173.185(b)',
  '173.185(f)',
]);

/** Does a package under the provision bear the class 9 label? */
export const isClass9 = (provision: string | null): boolean => provision !== null && FULL.has(provision as Provision);

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
  const asks = provision !== null && UN_MARKED.has(provision) && placement !== 'in-equipment';
  return !asks || box.un !== false;
}
