import { boxServes } from '../dispatch/packaging';
import type { Item } from './knapsack';
import { type Box, capacityOf, type PlanOrder } from './problem';
import { type Company, type KindWays } from './ways';

/** What is shared of a package: space, weight, number. */
export const ROOMS = 3;
/** By how much a package may be over full: sums of shares are rounded. */
export const SLACK = 1e-9;

/** A kind of package: a box under one provision for one company of packs, with what each pack takes of it. */
export interface Slot {
  readonly box: number;
  readonly company: Company;
  readonly provision: string;
  /** Kind by kind: its shares of space, weight and number, each 1 large; null where it may not go in. */
  readonly shares: readonly (readonly number[] | null)[];
}

/** Contents of one package: how many of each kind, and in which slot. */
export interface Load {
  readonly slot: number;
  readonly counts: readonly number[];
}

/** Most net weight of a kind in a box under a way, kg. */
const netRoom = (box: Box, fillKg: number, way: { readonly netKg: number; readonly grossKg: number }): number =>
  Math.min(way.netKg, Math.min(way.grossKg, box.maxGrossKg) - box.tareKg - fillKg);

/** Every kind of package that some pack may lie in. */
export function slotsOf(order: PlanOrder, ways: readonly KindWays[]): Slot[] {
  const groups = new Set(ways.flatMap((w) => w.ways.map((x) => `${w.company}|${x.provision}`)));
  return [...groups].sort().flatMap((group) => {
    const [company, provision] = group.split('|') as [Company, string];
    return order.boxes.flatMap((box, b): Slot[] => {
      const shares = order.kinds.map((kind, k) => {
        const way = ways[k]!.company === company ? ways[k]!.ways.find((x) => String(x.provision) === provision) : undefined;
        const lies = capacityOf(kind.outline, box.inner, order.gapMm);
        if (!way || lies < 1 || !boxServes(box, way.provision, kind.facts.placement)) return null;
        const net = netRoom(box, order.fillKgPerBox, way);
        const mass = kind.facts.mass!;
        return net <= 0 || mass > net + 1e-9 ? null : [1 / lies, mass / net, 1 / way.packs];
      });
      return shares.some((s) => s !== null) ? [{ box: b, company, provision, shares }] : [];
    });
  });
}

/** What a knapsack is asked for a slot. @param worth of one of each kind. @param left how many of each there are. */
export const itemsOf = (slot: Slot, worth: readonly number[], left: readonly number[]): Item[] =>
  slot.shares.map((shares, k) => ({ worth: shares ? worth[k]! : 0, shares: shares ?? [2, 2, 2], most: shares ? left[k]! : 0 }));

/** Does what is given lie in a slot? */
export function liesIn(slot: Slot, counts: readonly number[]): boolean {
  const used = new Array<number>(ROOMS).fill(0);
  for (const [k, n] of counts.entries()) {
    if (n === 0) continue;
    const shares = slot.shares[k];
    if (!shares) return false;
    for (let r = 0; r < ROOMS; r++) used[r]! += n * shares[r]!;
  }
  return used.every((u) => u <= 1 + SLACK);
}
