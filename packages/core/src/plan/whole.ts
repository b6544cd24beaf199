import { fill } from './knapsack';
import type { Relaxed } from './relax';
import { itemsOf, type Load, type Slot } from './slots';

/** A whole plan: its loads, and how many of each kind are left. */
export interface Whole {
  readonly loads: readonly Load[];
  readonly left: readonly number[];
}

interface Stores {
  readonly left: number[];
  readonly stock: number[];
  most: number;
}

const place = (stores: Stores, slots: readonly Slot[], load: Load): void => {
  load.counts.forEach((n, k) => (stores.left[k]! -= n));
  stores.stock[slots[load.slot]!.box]! -= 1;
  stores.most -= 1;
};

/** Fills one package after another with what is worth most for its cost, until nothing is left or nothing goes in. */
export function greedily(
  slots: readonly Slot[],
  stores: Stores,
  worth: readonly number[],
  cost: (slot: Slot) => number,
  nodes: number,
): Load[] {
  const out: Load[] = [];
  while (stores.most > 0 && stores.left.some((n) => n > 0)) {
    let best: Load | null = null;
    let rate = 0;
    for (const [s, slot] of slots.entries()) {
      if (stores.stock[slot.box]! <= 0) continue;
      const filled = fill(itemsOf(slot, worth, stores.left), nodes);
      if (filled.worth / cost(slot) <= rate + 1e-12) continue;
      rate = filled.worth / cost(slot);
      best = { slot: s, counts: filled.counts };
    }
    if (!best) break;
    place(stores, slots, best);
    out.push(best);
  }
  return out;
}

/** What each kind takes at least, by the way its shares are looked at. */
function sizes(o: Pick<WholeOrder, 'slots' | 'demand'>, pick: (shares: readonly number[]) => number): number[] {
  return o.demand.map((_, k) => {
    const all = o.slots.flatMap((s) => (s.shares[k] ? [pick(s.shares[k])] : []));
    return all.length > 0 ? Math.min(...all) : 0;
  });
}

/** A first whole plan, made without prices: large packs count for more than they take. */
export function firstPlan(o: WholeOrder): Whole {
  const stores: Stores = { left: [...o.demand], stock: [...o.stock], most: o.most };
  const loads = greedily(
    o.slots,
    stores,
    sizes(o, (s) => Math.max(...s)),
    o.cost,
    o.nodes,
  );
  return { loads, left: stores.left };
}

export interface WholeOrder {
  readonly slots: readonly Slot[];
  readonly demand: readonly number[];
  readonly stock: readonly number[];
  readonly most: number;
  readonly cost: (slot: Slot) => number;
  readonly nodes: number;
}

/** Whole loads of a fractional plan, rounded down; no more of a kind than there are. */
function rounded(o: WholeOrder, relaxed: Relaxed, stores: Stores): Load[] {
  const out: Load[] = [];
  for (const { load, times } of [...relaxed.loads].sort((a, b) => b.times - a.times)) {
    for (let i = 0; i < Math.floor(times + 1e-6); i++) {
      const counts = load.counts.map((n, k) => Math.min(n, stores.left[k]!));
      if (stores.most <= 0 || stores.stock[o.slots[load.slot]!.box]! <= 0 || counts.every((n) => n === 0)) break;
      const whole = { slot: load.slot, counts };
      place(stores, o.slots, whole);
      out.push(whole);
    }
  }
  return out;
}

/**
 * Whole plans from a fractional one: its whole loads first, then what is worth most; and the same from nothing, with several worths. The
 * fractional plan of what is left after rounding is asked again, as long as it has whole loads.
 */
export function wholePlans(
  o: WholeOrder,
  relaxed: Relaxed,
  again: (demand: readonly number[], stock: readonly number[], most: number) => Relaxed,
): Whole[] {
  const fresh = (): Stores => ({ left: [...o.demand], stock: [...o.stock], most: o.most });
  const worths = [relaxed.worth, sizes(o, (s) => s[0]!), sizes(o, (s) => s[1]!), sizes(o, (s) => s[0]! + s[1]!)];
  const out = worths.map((worth): Whole => {
    const stores = fresh();
    const loads = greedily(o.slots, stores, worth, o.cost, o.nodes);
    return { loads, left: stores.left };
  });
  const stores = fresh();
  const loads = rounded(o, relaxed, stores);
  let worth = relaxed.worth;
  for (let i = 0; i < 4 && stores.left.some((n) => n > 0) && stores.most > 0; i++) {
    const rest = again(stores.left, stores.stock, stores.most);
    worth = rest.worth;
    const more = rounded(o, rest, stores);
    if (more.length === 0) {
      // Nothing is whole: the load that is nearest to one is taken, and the rest is asked again.
      const [near] = [...rest.loads].sort((a, b) => b.times - a.times);
      if (!near || o.slots[near.load.slot] === undefined || stores.stock[o.slots[near.load.slot]!.box]! <= 0) break;
      const counts = near.load.counts.map((n, k) => Math.min(n, stores.left[k]!));
      if (counts.every((n) => n === 0)) break;
      const taken = { slot: near.load.slot, counts };
      place(stores, o.slots, taken);
      loads.push(taken);
    } else loads.push(...more);
  }
  loads.push(...greedily(o.slots, stores, worth, o.cost, o.nodes));
  out.push({ loads, left: stores.left });
  return out;
}
