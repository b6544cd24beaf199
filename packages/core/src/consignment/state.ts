import type { ClosedPackage, ConsignmentFacts } from '../logbook/fold-consignment';
import type { PackFacts } from '../logbook/fold';

export const STAGES = [
  'draft',
  'planned',
  'packed',
  'handed over',
  'arrived',
  'cancelled',
  'refused',
  'returned',
  'lost',
] as const;
export type Stage = (typeof STAGES)[number];

/** A package of a consignment: what should lie in it, and what does. */
export interface PackageState {
  readonly id: string;
  /** From 1, as it is written on it: it stays when another package is emptied, so numbers may be missing between. */
  readonly number: number;
  readonly box: string | null;
  readonly planned: readonly string[];
  readonly packed: readonly string[];
  /** Put into it here, and gone another way since, by the record: nobody said that they are out. */
  readonly strayed: readonly string[];
  /** Null also while one has strayed: what was weighed and sealed is not what belongs in it. */
  readonly closed: ClosedPackage | null;
}

export interface ConsignmentState {
  readonly stage: Stage;
  /** Packs that are in it now, by the last word on each; what left with it, once it left. */
  readonly packs: readonly string[];
  readonly packages: readonly PackageState[];
  /** In it, and in no package of the plan. */
  readonly unplanned: readonly string[];
  /** Planned or packed here, but taken into another consignment, or gone otherwise. */
  readonly elsewhere: readonly string[];
  /** In it, or gone with it, and their own entries are not all here: nothing is known of what they are. */
  readonly unheld: readonly string[];
}

/** The number of each package: the one it was given, otherwise the lowest that no other has. */
function numbersOf(ids: readonly string[], given: (id: string) => number | undefined): ReadonlyMap<string, number> {
  const numbers = new Map<string, number>();
  const taken = new Set<number>();
  const give = (id: string, n: number) => {
    numbers.set(id, n);
    taken.add(n);
  };
  for (const id of ids) {
    const n = given(id);
    if (n !== undefined && !taken.has(n)) give(id, n);
  }
  let next = 1;
  for (const id of ids) {
    if (numbers.has(id)) continue;
    while (taken.has(next)) next += 1;
    give(id, next);
  }
  return numbers;
}

/** Is anything still to be done with it here? */
export const isUnderWay = (c: ConsignmentFacts): boolean => c.ended === null && c.arrived === null;

/**
 * What a consignment is now.
 * @param members packs whose own entries say that they are in it. @param isKnown are a pack's own entries here, all of them? Of one that a
 * device does not hold nobody can say that it went elsewhere: what was put in here is in it.
 */
export function consignmentState(
  c: ConsignmentFacts,
  members: readonly Pick<PackFacts, 'id'>[],
  isKnown: (pack: string) => boolean = () => true,
): ConsignmentState {
  const claimed = new Set([...members.map((m) => m.id), ...c.consigned.filter((p) => !isKnown(p))]);
  const here = new Set(c.sent ? c.sent.packs : claimed);
  const planned = new Map((c.plan?.packages ?? []).map((p) => [p.id, p]));
  const lying = new Map<string, string[]>();
  for (const [pack, into] of Object.entries(c.packed).sort()) lying.set(into, [...(lying.get(into) ?? []), pack]);
  const sent = new Map((c.sent?.packages ?? []).map((p) => [p.id, p]));
  const under = c.sent === null && c.ended === null;
  const ids = [...new Set([...planned.keys(), ...[...lying.keys()].sort(), ...sent.keys()])];
  const packages = [...numbersOf(ids, (id) => sent.get(id)?.number ?? planned.get(id)?.number)]
    .map(([id, number]): PackageState => {
      const strayed = under ? (lying.get(id) ?? []).filter((p) => !here.has(p) && isKnown(p)) : [];
      return {
        id,
        number,
        box: c.closed[id]?.box ?? planned.get(id)?.box ?? sent.get(id)?.box ?? null,
        planned: planned.get(id)?.packs.filter((p) => here.has(p)) ?? [],
        packed: (lying.get(id) ?? []).filter((p) => here.has(p)),
        strayed,
        closed: strayed.length > 0 ? null : (c.closed[id] ?? null),
      };
    })
    .filter((p) => p.planned.length > 0 || p.packed.length > 0 || p.strayed.length > 0 || sent.has(p.id))
    .sort((a, b) => a.number - b.number);
  const inPlan = new Set(packages.flatMap((p) => [...p.planned, ...p.packed]));
  const all = [...here].sort();
  const named = new Set([...[...planned.values()].flatMap((p) => p.packs), ...Object.keys(c.packed), ...(c.sent?.packs ?? [])]);
  const done = packages.length > 0 && all.every((p) => p in c.packed) && packages.every((p) => p.closed !== null);
  const stage: Stage =
    c.ended?.how ?? (c.arrived ? 'arrived' : c.sent ? 'handed over' : done ? 'packed' : planned.size > 0 ? 'planned' : 'draft');
  return {
    stage,
    packs: all,
    packages,
    unplanned: all.filter((p) => !inPlan.has(p)),
    // What came back is free for another one: nobody misses it here.
    elsewhere: c.ended ? [] : [...named].filter((p) => !claimed.has(p) && isKnown(p)).sort(),
    unheld: all.filter((p) => !isKnown(p)),
  };
}
