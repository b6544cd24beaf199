import { storageOrder } from '../storage/order';
import { type Load, MEASURES, notForIt, overLimits, plus, UNKNOWN } from './may';
import type { PlaceState } from './state';
import type { Stored } from './stored';

export interface Assignment {
  /** Place of each pack, by pack id; null: nothing fits. */
  readonly to: ReadonlyMap<string, string | null>;
  readonly placed: number;
  /** Packs that change their place. */
  readonly moves: number;
  /** No assignment places more packs than this. */
  readonly atMost: number;
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

/** The places a pack may go to, as a key. */
const wayOf = (options: readonly Option[]): string =>
  options
    .map((o) => o.index)
    .sort((a, b) => a - b)
    .join();

/** What a pack takes of each measure, what nobody knows with its most. */
const sizeOf = (s: Stored): readonly number[] => MEASURES.map((m) => (m === 'packs' ? 1 : (s[m] ?? UNKNOWN[m])));

/** The packs as they are being put, with what the search asks of each place again and again. */
class Putting {
  readonly to: (number | null)[] = [];
  readonly loads: Load[];
  readonly members: Set<number>[];
  private readonly smallest: Stored | null;
  /** Of each place: could the smallest of the packs still go there? */
  readonly roomy: boolean[];
  /** Of each place: what moving one of its packs to a place with room gains at most; null where not worked out. */
  private readonly gains: (number | null)[];
  /** Packs without a place for which none could be made, by where they may go: no larger one finds one either, until something moves. */
  private readonly failed = new Map<string, (readonly number[])[]>();

  constructor(
    private readonly t: Task,
    start: readonly (number | null)[],
  ) {
    this.loads = [...t.loads];
    this.members = t.yard.map(() => new Set());
    this.gains = t.yard.map(() => null);
    const least = t.packs
      .map(sizeOf)
      .reduce<readonly number[] | null>((a, b) => (a ? a.map((x, m) => Math.min(x, b[m]!)) : b), null);
    const [first] = t.packs;
    this.smallest = first && least ? { ...first, kg: least[1]!, wattHours: least[2]!, litres: least[3]! } : null;
    this.roomy = t.yard.map((_, at) => this.hasRoom(at));
    start.forEach((at, i) => this.put(i, at));
  }

  private hasRoom(at: number): boolean {
    return this.smallest !== null && overLimits(this.t.yard[at]!.place, plus(this.loads[at]!, this.smallest)).length === 0;
  }

  put(i: number, at: number | null): void {
    const before = this.to[i] ?? null;
    this.to[i] = at;
    if (before !== null) this.members[before]!.delete(i);
    if (at !== null) this.members[at]!.add(i);
    for (const [place, sign] of [
      [before, -1],
      [at, 1],
    ] as const) {
      if (place === null) continue;
      this.loads[place] = plus(this.loads[place]!, this.t.packs[i]!, sign);
      const open = this.hasRoom(place);
      if (open !== this.roomy[place]) this.gains.fill(null);
      this.roomy[place] = open;
      this.gains[place] = null;
    }
    this.failed.clear();
  }

  cost(i: number): number {
    const at = this.to[i] ?? null;
    return at === null ? UNPLACED : this.t.options[i]!.find((o) => o.index === at)!.cost;
  }

  /** May one pack of a place go elsewhere at a gain of more than this? */
  worthShifting(at: number, loss: number): boolean {
    let gain = this.gains[at] ?? null;
    if (gain === null) {
      gain = -Infinity;
      for (const k of this.members[at]!) {
        const other = this.t.options[k]!.find((o) => o.index !== at && this.roomy[o.index]);
        if (other) gain = Math.max(gain, this.cost(k) - other.cost);
      }
      this.gains[at] = gain;
    }
    return gain > loss;
  }

  /** @param i a pack without a place. */
  isHopeless(i: number): boolean {
    const size = sizeOf(this.t.packs[i]!);
    return (this.failed.get(wayOf(this.t.options[i]!)) ?? []).some((f) => f.every((x, m) => x <= size[m]!));
  }

  giveUp(i: number): void {
    const way = wayOf(this.t.options[i]!);
    this.failed.set(way, [...(this.failed.get(way) ?? []), sizeOf(this.t.packs[i]!)]);
  }
}

/** Lets single packs go where they cost less, and makes room for those without a place by shifting one other, until nothing gains. */
function improved(t: Task, start: readonly (number | null)[]): (number | null)[] {
  const p = new Putting(t, start);
  const shift = (i: number): boolean => {
    const now = p.cost(i);
    for (const o of t.options[i]!) {
      if (o.cost >= now) return false;
      if (fits(t, i, o.index, p.loads[o.index]!)) {
        p.put(i, o.index);
        return true;
      }
      if (!p.worthShifting(o.index, o.cost - now)) continue;
      // One other goes elsewhere, where both together cost less.
      for (const k of p.members[o.index]!) {
        const most = now + p.cost(k) - o.cost;
        const room = t.options[k]!.find(
          (q) => q.index !== o.index && q.cost < most && p.roomy[q.index] && fits(t, k, q.index, p.loads[q.index]!),
        );
        if (!room || !fits(t, i, o.index, plus(p.loads[o.index]!, t.packs[k]!, -1))) continue;
        p.put(k, room.index);
        p.put(i, o.index);
        return true;
      }
    }
    return false;
  };
  for (let round = 0, gained = true; gained && round < 20; round++) {
    gained = false;
    for (let i = 0; i < t.packs.length; i++) {
      const homeless = p.to[i] === null;
      if (homeless && p.isHopeless(i)) continue;
      if (shift(i)) gained = true;
      else if (homeless) p.giveUp(i);
    }
  }
  return p.to;
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
    atMost: mostPlaced(t),
    best: done,
  };
}

/**
 * How many packs find a place at most: of those that may go nowhere but to certain places, no more than these have room for. Of each
 * measure what is free in them is filled with the smallest packs first, as if they could be cut: a bound, not always reached.
 */
function mostPlaced(t: Task): number {
  const ways = new Map(t.options.map((list) => [wayOf(list), new Set(list.map((o) => o.index))]));
  const left = [...ways.values()].map((within) => {
    const sizes = t.packs.flatMap((s, i) => (t.options[i]!.every((o) => within.has(o.index)) ? [sizeOf(s)] : []));
    const room = MEASURES.map((m, k) => {
      let free = 0;
      for (const at of within) {
        const limit = t.yard[at]!.place.limits?.[m] ?? Infinity;
        free += Math.max(0, limit - t.loads[at]![m] - t.loads[at]!.unknown[m] * UNKNOWN[m]);
      }
      const sorted = sizes.map((w) => w[k]!).sort((a, b) => a - b);
      const full = sorted.findIndex((size) => (free -= size) < -1e-6);
      return full < 0 ? sorted.length : full;
    });
    return sizes.length - Math.min(...room);
  });
  return t.packs.length - Math.max(0, ...left);
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
