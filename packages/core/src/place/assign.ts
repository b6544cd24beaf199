import { storageOrder } from '../storage/order';
import { type Load, notForIt, overLimits, plus } from './may';
import type { PlaceState } from './state';
import type { Stored } from './stored';

export interface Assignment {
  /** Place of each pack, by pack id; null: nothing fits. */
  readonly to: ReadonlyMap<string, string | null>;
  readonly placed: number;
  /** Packs that change their place. */
  readonly moves: number;
  /** True when no other assignment places more packs, or as many with fewer moves. */
  readonly best: boolean;
}

/** A pack without a place weighs more than any number of moves; a move more than any preference of kinds. */
const UNPLACED = 1e6;
const MOVE = 1e2;

interface Option {
  readonly index: number;
  readonly cost: number;
}

interface Task {
  readonly packs: readonly Stored[];
  readonly yard: readonly PlaceState[];
  /** Loads without the packs that are being placed. */
  readonly loads: readonly Load[];
  readonly options: readonly (readonly Option[])[];
}

function taskOf(chosen: readonly Stored[], yard: readonly PlaceState[]): Task {
  const open = yard.filter((y) => y.place.closed === null);
  const ids = new Set(chosen.map((c) => c.id));
  const loads = open.map((y) => y.items.filter((i) => ids.has(i.id)).reduce((l, i) => plus(l, i, -1), y.load));
  const optionsOf = (s: Stored): Option[] => {
    const kinds = storageOrder(s.condition, s.kind).places;
    return open
      .flatMap((y, index) =>
        notForIt(s, y.place).length > 0
          ? []
          : [{ index, cost: (y.place.id === s.place ? 0 : MOVE) + Math.max(0, kinds.indexOf(y.place.kind)) }],
      )
      .sort((a, b) => a.cost - b.cost || a.index - b.index);
  };
  // The hardest first: fewest places to go, then the most energy.
  const packs = chosen
    .map((s) => ({ s, options: optionsOf(s) }))
    .sort(
      (a, b) =>
        a.options.length - b.options.length || (b.s.wattHours ?? 1e9) - (a.s.wattHours ?? 1e9) || (a.s.id < b.s.id ? -1 : 1),
    );
  return { packs: packs.map((p) => p.s), yard: open, loads, options: packs.map((p) => p.options) };
}

/** Is there room? What the pack is was asked when its options were made. */
const fits = (t: Task, i: number, at: number, load: Load) => overLimits(t.yard[at]!.place, plus(load, t.packs[i]!)).length === 0;

/** One pack after another to the first place that takes it: what a careful person does by hand. */
function byHand(t: Task): (number | null)[] {
  const loads = [...t.loads];
  return t.packs.map((s, i) => {
    const o = t.options[i]!.find((x) => fits(t, i, x.index, loads[x.index]!));
    if (!o) return null;
    loads[o.index] = plus(loads[o.index]!, s);
    return o.index;
  });
}

const costOf = (t: Task, to: readonly (number | null)[]) =>
  to.reduce<number>((sum, at, i) => sum + (at === null ? UNPLACED : t.options[i]!.find((o) => o.index === at)!.cost), 0);

/** Lets single packs go where they cost less, and makes room for those without a place by shifting one other, until nothing gains. */
function improved(t: Task, start: readonly (number | null)[]): (number | null)[] {
  const to = [...start];
  const loads = [...t.loads];
  to.forEach((at, i) => at !== null && (loads[at] = plus(loads[at]!, t.packs[i]!)));
  const costAt = (i: number, at: number | null) => (at === null ? UNPLACED : t.options[i]!.find((o) => o.index === at)!.cost);
  const put = (i: number, at: number | null) => {
    const before = to[i]!;
    if (before !== null) loads[before] = plus(loads[before]!, t.packs[i]!, -1);
    if (at !== null) loads[at] = plus(loads[at]!, t.packs[i]!);
    to[i] = at;
  };
  const shift = (i: number): boolean => {
    const now = costAt(i, to[i]!);
    for (const o of t.options[i]!) {
      if (o.cost >= now) return false;
      if (fits(t, i, o.index, loads[o.index]!)) {
        put(i, o.index);
        return true;
      }
      // One other goes elsewhere, where both together cost less.
      for (let k = 0; k < t.packs.length; k++) {
        if (k === i || to[k] !== o.index) continue;
        if (!fits(t, i, o.index, plus(loads[o.index]!, t.packs[k]!, -1))) continue;
        const room = t.options[k]!.find(
          (q) => q.index !== o.index && o.cost + q.cost < now + costAt(k, to[k]!) && fits(t, k, q.index, loads[q.index]!),
        );
        if (!room) continue;
        put(k, room.index);
        put(i, o.index);
        return true;
      }
    }
    return false;
  };
  for (let round = 0, gained = true; gained && round < 20; round++) {
    gained = false;
    for (let i = 0; i < t.packs.length; i++) if (shift(i)) gained = true;
  }
  return to;
}

/** Tries every assignment that could still cost less, up to a number of steps. */
function searched(t: Task, start: readonly (number | null)[], steps: number): { to: (number | null)[]; done: boolean } {
  const floor = t.options.map((o) => o[0]?.cost ?? UNPLACED);
  const rest = new Array<number>(t.packs.length + 1).fill(0);
  for (let i = t.packs.length - 1; i >= 0; i--) rest[i] = rest[i + 1]! + floor[i]!;
  let best = [...start];
  let bestCost = costOf(t, start);
  let left = steps;
  const loads = [...t.loads];
  const to: (number | null)[] = [];
  const go = (i: number, cost: number): void => {
    if (cost + rest[i]! >= bestCost || left <= 0) return;
    if (i === t.packs.length) {
      best = [...to];
      bestCost = cost;
      return;
    }
    left -= 1;
    for (const o of t.options[i]!) {
      const load = loads[o.index]!;
      if (!fits(t, i, o.index, load)) continue;
      loads[o.index] = plus(load, t.packs[i]!);
      to[i] = o.index;
      go(i + 1, cost + o.cost);
      loads[o.index] = load;
    }
    to[i] = null;
    go(i + 1, cost + UNPLACED);
  };
  go(0, 0);
  return { to: best, done: left > 0 };
}

/** Packs up to which every assignment is tried, and the steps that may take. */
export const SEARCH = { packs: 60, steps: 100_000 } as const;

/**
 * Puts many packs at once: no limit of any place is broken, as many as can be are placed, as few as can be are moved. Never worse
 * than putting one after another by hand. What lies in the places besides stays.
 */
export function assign(chosen: readonly Stored[], yard: readonly PlaceState[]): Assignment {
  const t = taskOf(chosen, yard);
  const first = improved(t, byHand(t));
  const { to, done } =
    t.packs.length <= SEARCH.packs ? searched(t, first, SEARCH.steps) : { to: first, done: costOf(t, first) === floorOf(t) };
  return {
    to: new Map(t.packs.map((s, i) => [s.id, to[i] === null ? null : t.yard[to[i]!]!.place.id])),
    placed: to.filter((x) => x !== null).length,
    moves: to.filter((at, i) => at !== null && t.yard[at]!.place.id !== t.packs[i]!.place).length,
    best: done,
  };
}

const floorOf = (t: Task) => t.options.reduce((sum, o) => sum + (o[0]?.cost ?? UNPLACED), 0);

/** The same without any improvement, to compare with. */
export function assignByHand(chosen: readonly Stored[], yard: readonly PlaceState[]): Pick<Assignment, 'placed' | 'moves'> {
  const t = taskOf(chosen, yard);
  const to = byHand(t);
  return {
    placed: to.filter((x) => x !== null).length,
    moves: to.filter((at, i) => at !== null && t.yard[at]!.place.id !== t.packs[i]!.place).length,
  };
}
