import type { Condition } from '../logbook/entry';
import type { Classified } from '../shipping/classify';
import type { Provision } from '../shipping/facts';
import { factWords } from '../coherence/fact-words';
import type { AskPackage } from './in-package';
import type { PackKind } from './problem';

/** How far a kind may go in one package under one provision. */
export interface Way {
  readonly provision: Provision | null;
  readonly netKg: number;
  readonly grossKg: number;
  readonly packs: number;
}

/** What may share a package: the damaged, the critical and the others are three. */
export type Company = 'damaged' | 'critical' | 'others';
export const companyOf = (c: Condition): Company => (c === 'damaged' || c === 'critical' ? c : 'others');

/** Figures that the rules of our copy turn on, and some between; where two neighbours differ the limit is looked for between them. */
const KILOGRAMS = [0.05, 0.5, 1, 2, 2.5, 3, 5, 8, 10, 12, 15, 20, 25, 30, 35, 50, 75, 100, 150, 250];
const COUNTS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 20, 50, 100, 1000];

/** The last figure up to which it holds, of figures for whose first it does; a limit is asked for by halves. */
function lastOf(figures: readonly number[], holds: (x: number) => boolean): number {
  if (holds(figures[figures.length - 1] ?? NaN)) return figures.length - 1;
  let [lo, hi] = [0, figures.length - 1];
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (holds(figures[mid] ?? NaN)) lo = mid;
    else hi = mid;
  }
  return lo;
}

/** The largest figure of a list at which it still is allowed, and between two of it to a gram. @param figures allowed at the first. */
function largest(figures: readonly number[], allowed: (x: number) => boolean, whole: boolean): number {
  const last = lastOf(figures, allowed);
  if (last === figures.length - 1) return Infinity;
  let [lo = 0, hi = 0] = figures.slice(last, last + 2);
  const least = whole ? 1 : 0.0005;
  // Most limits are figures of the list, of a gross weight but for the wrap.
  if (!allowed(lo + least)) hi = lo;
  else if (allowed(hi - least)) lo = hi - least;
  while (hi - lo > least) {
    const mid = whole ? Math.floor((lo + hi) / 2) : (lo + hi) / 2;
    if (allowed(mid)) lo = mid;
    else hi = mid;
  }
  // Up to the gram: each package is ruled anew, and a limit cut short would be no bound.
  return whole ? lo : Math.ceil(lo * 1000 - 1e-6) / 1000;
}

/**
 * The provisions under which packages of one pack are allowed, each with the lightest figure of the list under it. Where both ends of a part of
 * the list go under one provision, all between them do: a provision for heavier packages begins where another ends, and none begins twice.
 */
function provisionsOf(
  figures: readonly number[],
  ask: (kg: number) => Classified,
): { provision: Provision | null; from: number }[] {
  const first = figures.findIndex((kg) => ask(kg).outcome === 'allowed');
  if (first < 0) return [];
  const open = figures.slice(first);
  const allowed = open.slice(0, lastOf(open, (kg) => ask(kg).outcome === 'allowed') + 1);
  const found: { provision: Provision | null; from: number }[] = [];
  for (let at = 0; at < allowed.length;) {
    const from = allowed[at] ?? NaN;
    const { provision } = ask(from);
    found.push({ provision, from });
    at += lastOf(allowed.slice(at), (kg) => ask(kg).provision === provision) + 1;
  }
  return found;
}

/** The ways that stand open for a kind, found by asking the rules; and why none does. */
export interface KindWays {
  readonly company: Company;
  readonly ways: readonly Way[];
  readonly why: string;
  /** The rules asked how many packages go: with another number the ways may be others. */
  readonly byPackages: boolean;
}

const PACKAGES = 'consignment.packages';
/** Gross weight over net of a package that is asked about, kg: next to nothing, for each of the two has limits of its own. */
const WRAP_KG = 0.0001;

const whyNot = (c: Classified): string =>
  c.missing.length > 0
    ? `${c.outcome}: ${c.missing.map(factWords).join(', ')} not known`
    : `${c.outcome}: ${c.notes[0] ?? c.provision ?? ''}`;

/**
 * Which provisions a kind may travel under, and how far each reaches. The rules themselves are asked, package by package: no limit is
 * written here.
 * @param askPackage of this kind. @param packages in the consignment.
 */
export function waysOf(kind: PackKind, askPackage: AskPackage, packages: number): KindWays {
  const mass = kind.facts.mass ?? 0;
  const one = askPackage({ packs: 1, netKg: mass, grossKg: mass + 0.05, packages, mixed: false });
  let byPackages = one.used.includes(PACKAGES);
  // No package is asked about twice.
  const asked = new Map<string, Classified>();
  const ask = (netKg: number, grossKg: number, packs: number): Classified => {
    const key = `${netKg} ${grossKg} ${packs}`;
    const answer = asked.get(key) ?? askPackage({ packs, netKg, grossKg, packages, mixed: true });
    asked.set(key, answer);
    byPackages ||= answer.used.includes(PACKAGES);
    return answer;
  };
  const alone = (kg: number) => ask(kg, kg + WRAP_KG, 1);
  const company = companyOf(one.condition);
  if (kind.odd !== undefined) return { company, ways: [], why: kind.odd, byPackages };
  const ways = provisionsOf(KILOGRAMS, alone).flatMap(({ provision, from }): Way[] => {
    const same = (c: Classified) => c.outcome === 'allowed' && c.provision === provision;
    const above = KILOGRAMS.filter((kg) => kg >= from);
    const netKg = largest(above, (x) => same(alone(x)), false);
    const grossKg = largest(above, (x) => same(ask(from, Math.max(x, from + WRAP_KG), 1)), false);
    const packs = largest(COUNTS, (n) => same(ask(from, from + WRAP_KG, n)), true);
    return packs < 1 || netKg < mass ? [] : [{ provision, netKg, grossKg, packs }];
  });
  return { company, ways, why: ways.length > 0 ? '' : whyNot(one), byPackages };
}
