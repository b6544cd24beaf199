import { type Column, Master } from './simplex';
import { ROOMS, SLACK, type Slot } from './slots';

/** What a pack costs that is not packed: more than any package. */
const LEFT_BEHIND = 1e4;

/** A column is taken in where it saves more than this a unit; what smaller ones would save is taken off the bound. */
const SAVES = 1e-7;
/** More rows are left to a bound by whole loads: each step costs their square. */
const MOST_ROWS = 200;

/** Kinds, packages of each box, and the most packages in all, with what one package in a slot costs. */
export interface RoomOrder {
  readonly slots: readonly Slot[];
  readonly demand: readonly number[];
  readonly stock: readonly number[];
  readonly most: number;
  readonly cost: (slot: Slot) => number;
}

export interface RoomBound {
  /** No plan of whole packs costs less. */
  readonly value: number;
  /** Not everything goes in, however it is divided. */
  readonly short: boolean;
  /** How much of each kind lies in each slot, whole or not. */
  readonly amounts: readonly (readonly number[])[];
}

/** A column with what of it is not zero. */
interface RoomColumn extends Column {
  readonly at: readonly (readonly [row: number, value: number])[];
}

const sum = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0);

/**
 * The plan whose packs and packages need not be whole, by linear programming: in each room of a slot there is as much as packages of it have.
 * Weaker than a bound by whole loads (`relax`), and of a few dozen rows only.
 * @returns null where it did not come to an end, or is too large.
 */
export function roomBound(o: RoomOrder): RoomBound | null {
  const [kinds, rooms] = [o.demand.length, o.slots.length * ROOMS];
  const [boxRow, mostRow] = [kinds + rooms, kinds + rooms + o.stock.length];
  const rows = mostRow + 1;
  if (rows > MOST_ROWS) return null;
  const column = (cost: number, at: readonly (readonly [number, number])[]): RoomColumn => {
    const entries = new Array<number>(rows).fill(0);
    for (const [row, value] of at) entries[row] = value;
    return { cost, entries, at };
  };
  const dearest = Math.max(1, ...o.slots.map(o.cost));
  const start = Array.from({ length: rows }, (_, i) => column(i < kinds ? LEFT_BEHIND * dearest : 0, [[i, 1]]));
  // As full as a package may be over: what lies in it all the same is never called impossible.
  const packages = o.slots.map((slot, s) =>
    column(o.cost(slot), [
      ...Array.from({ length: ROOMS }, (_, r) => [kinds + s * ROOMS + r, -1 - SLACK] as const),
      [boxRow + slot.box, 1],
      [mostRow, 1],
    ]),
  );
  const packs = o.slots.flatMap((slot, s) =>
    slot.shares.flatMap((shares, k) =>
      shares === null || o.demand[k] === 0
        ? []
        : [{ s, k, column: column(0, [[k, 1], ...shares.map((x, r) => [kinds + s * ROOMS + r, x] as const)]) }],
    ),
  );
  const all = [...packages, ...packs.map((p) => p.column), ...start.slice(kinds)];
  // No plan has more of anything than this.
  const units = sum(o.demand) + (2 * ROOMS + 1) * o.most + sum(o.stock);
  const master = new Master([...o.demand, ...new Array<number>(rooms).fill(0), ...o.stock, o.most], start);
  for (let step = 0; step < 20 * rows; step++) {
    const duals = master.duals();
    let [best, enters]: [number, Column | null] = [-SAVES, null];
    for (const c of all) {
      let reduced = c.cost;
      for (const [row, value] of c.at) reduced -= duals[row]! * value;
      if (reduced < best) [best, enters] = [reduced, c];
    }
    if (enters === null) {
      const of = new Map(master.columns.map((c, i) => [c, master.x[i]!]));
      const left = start.slice(0, kinds).reduce((sum, c) => sum + (of.get(c) ?? 0), 0);
      const amounts = o.slots.map(() => new Array<number>(kinds).fill(0));
      for (const p of packs) amounts[p.s]![p.k] = of.get(p.column) ?? 0;
      return { value: master.value - SAVES * units, short: left > 1e-6, amounts };
    }
    if (!master.enter(enters)) return null;
  }
  return null;
}
