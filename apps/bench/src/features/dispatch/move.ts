import type { PlannedBox, Subject } from '@gavrel/core';
import { packagePrice, rulePacked, type RuledPackage } from '@gavrel/core/consignment';
import { type Draft, draft } from '../../device/write';
import { askedOf, contentsOf, type ConsignmentView, type PackageView } from './view';
import { kgWords, markWords, priceWords } from './words';

/** Packages a pack of this one may be laid into. */
export const targetsOf = (v: ConsignmentView, p: PackageView): readonly PackageView[] =>
  v.packages.filter((x) => x.id !== p.id && x.closed === null && x.sent === null);

/** May packs of it be laid into another one by hand? Not once it is closed or gone. */
export const mayMoveFrom = (v: ConsignmentView, p: PackageView): boolean =>
  p.closed === null && p.sent === null && v.facts.ended === null;

/**
 * The plan with one pack in another package, and, where it lies in a box already, that it lies in the other one now. A package that is left
 * empty is none any more.
 * @param to id of the package it goes into, also of a new one. @param box of a new one.
 */
export function movedTo(v: ConsignmentView, p: PackageView, id: string, to: string, box: string | null): Draft[] {
  const c: Subject = `consignment:${v.facts.id}`;
  const planned: PlannedBox[] = v.packages.map((x) => ({
    id: x.id,
    box: x.box ?? box ?? '',
    number: x.number,
    packs: [...x.planned.filter((y) => y !== id), ...(x.id === to ? [id] : [])],
  }));
  if (!planned.some((x) => x.id === to)) planned.push({ id: to, box: box ?? '', packs: [id] });
  const packages = planned.filter((x) => x.packs.length > 0 && x.box !== '');
  const fewest = v.facts.plan?.bound ?? null;
  return [
    draft('plan-kept', [c], { packages, ...(fewest !== null && { bound: fewest }) }),
    ...(p.packed.includes(id) ? [draft('packed', [c, `pack:${id}`], { package: to })] : []),
  ];
}

export interface AfterMove {
  /** How the package it goes into would be ruled. */
  readonly ruled: RuledPackage;
  /** What all packages would cost more than now; less where it is negative. */
  readonly more: number;
}

/** What laying a pack of one package into another does to law and price. */
export function afterMove(v: ConsignmentView, p: PackageView, id: string, x: PackageView): AfterMove {
  const rest = contentsOf(p).filter((y) => y !== id);
  const packages = v.packages.length - (rest.length === 0 ? 1 : 0);
  const asked = askedOf(v, x, [...contentsOf(x), id], packages);
  const ruled = rulePacked(asked);
  const left = askedOf(v, p, rest, packages);
  const remains = rest.length === 0 ? 0 : packagePrice(left.box, left.carrier, rulePacked(left));
  const now = [p, x].reduce((sum, y) => sum + packagePrice(y.question.box, y.question.carrier, y.ruled), 0);
  return { ruled, more: packagePrice(asked.box, asked.carrier, ruled) + remains - now };
}

export const afterWords = ({ ruled, more }: AfterMove): string =>
  ruled.lawful ? `${markWords(ruled)}, ${kgWords(ruled.netKg.hi)} net, ${priceWords(more)}` : `not like this, ${ruled.why[0]}`;
