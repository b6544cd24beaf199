import { fill } from './knapsack';
import { type Column, Master } from './simplex';
import { itemsOf, type Load, type Slot } from './slots';

export interface Relaxed {
  /** No whole plan costs less. */
  readonly bound: number;
  /** What one more pack of each kind would cost. */
  readonly worth: readonly number[];
  /** Loads of the fractional plan, with how many of each. */
  readonly loads: readonly { readonly load: Load; readonly times: number }[];
  /** Packs that cannot be packed at all: no box is left. */
  readonly short: boolean;
}

export interface Relaxation {
  readonly slots: readonly Slot[];
  /** How many of each kind. */
  readonly demand: readonly number[];
  /** How many of each box. */
  readonly stock: readonly number[];
  /** Packages at most. */
  readonly most: number;
  /** Cost of one package in a slot. */
  readonly cost: (slot: Slot) => number;
  /** Nodes of each knapsack: while any better load will do, and where it must be shown that there is none. */
  readonly nodes: { readonly quick: number; readonly thorough: number };
  /** How much a knapsack may miss, in the unit of the cost: few of them together are less than a package. */
  readonly near: number;
  /** Columns made at most. */
  readonly rounds: number;
  /** Is the bound near enough to the fractional plan? More columns would tell nothing. */
  readonly enough: (bound: number, value: number) => boolean;
}

interface LoadColumn extends Column {
  readonly load?: Load;
}

/** The load that is cheapest for the prices of the moment, and by how much at most a cheaper one may have been missed. */
function bestLoad(r: Relaxation, duals: readonly number[], nodes: number): { column: LoadColumn | null; missed: number } {
  const kinds = r.demand.length;
  const boxes = r.stock.length;
  let column: LoadColumn | null = null;
  // Columns that save next to nothing only lengthen the way; what they would save is taken off the bound.
  let least = -WORTH_IT * r.near;
  let missed = 0;
  for (const [s, slot] of r.slots.entries()) {
    const fixed = r.cost(slot) - duals[kinds + slot.box]! - duals[kinds + boxes]!;
    const filled = fill(itemsOf(slot, duals, r.demand), nodes, r.near);
    missed = Math.min(missed, fixed - filled.most);
    if (fixed - filled.worth >= least) continue;
    least = fixed - filled.worth;
    const entries = new Array<number>(kinds + boxes + 1).fill(0);
    filled.counts.forEach((n, k) => (entries[k] = n));
    entries[kinds + slot.box] = 1;
    entries[kinds + boxes] = 1;
    column = { cost: r.cost(slot), entries, load: { slot: s, counts: filled.counts } };
  }
  return { column, missed };
}

const EPS = 1e-7;
/** How many times what a knapsack may miss a new load must save. */
const WORTH_IT = 0.5;
/** Cost of leaving a pack behind: more than any package it could have. */
const LEFT_BEHIND = 1e4;

/**
 * The fractional plan by column generation (Gilmore and Gomory 1961): loads are columns, made by a knapsack for the prices of the moment.
 * Its value bounds every whole plan from below; where a knapsack was not solved to the end, what it may have missed is taken off.
 */
export function relax(r: Relaxation): Relaxed {
  const kinds = r.demand.length;
  const boxes = r.stock.length;
  const rows = kinds + boxes + 1;
  const unit = (at: number, value: number, cost: number): LoadColumn => ({
    cost,
    entries: Array.from({ length: rows }, (_, i) => (i === at ? value : 0)),
  });
  const dearest = Math.max(1, ...r.slots.map(r.cost));
  const start = Array.from({ length: rows }, (_, i) => unit(i, 1, i < kinds ? LEFT_BEHIND * dearest : 0));
  const master = new Master([...r.demand, ...r.stock, r.most], start);
  let best = 0;
  for (let round = 0; round < r.rounds; round++) {
    const duals = master.duals();
    // Too many of a kind are no harm, and a box that stays is none either.
    const negative = duals.findIndex((d, i) => (i < kinds ? d < -EPS : d > EPS));
    if (negative >= 0) {
      if (!master.enter(negative < kinds ? unit(negative, -1, 0) : unit(negative, 1, 0))) break;
      continue;
    }
    let { column, missed } = bestLoad(r, duals, r.nodes.quick);
    best = Math.max(best, master.value + missed * r.most);
    if (column === null && missed < -EPS) {
      ({ column, missed } = bestLoad(r, duals, r.nodes.thorough));
      best = Math.max(best, master.value + missed * r.most);
    }
    if (column === null || r.enough(best, master.value) || !master.enter(column)) break;
  }
  const loads = (master.columns as readonly LoadColumn[]).flatMap((c, i) =>
    c.load && master.x[i]! > EPS ? [{ load: c.load, times: master.x[i]! }] : [],
  );
  const short = master.columns.some((c, i) => c.cost >= LEFT_BEHIND * dearest && master.x[i]! > EPS);
  return { bound: best, worth: master.duals().slice(0, kinds), loads, short };
}
