import { type Load, ROOMS, SLACK, type Slot } from './slots';

/** Fillings that may still be tried. */
export interface Budget {
  left: number;
}

/** What is known of a search: the slots of each box, and what each kind takes at least of each room. */
interface Search {
  readonly slots: readonly Slot[];
  /** Index of a box for each package. */
  readonly boxes: readonly number[];
  readonly budget: Budget;
  /** Where it was shown that what is left does not lie in the boxes from there on. */
  readonly failed: Set<string>;
}

/** Calls back with each filling of a slot to which nothing of what is left can be added. @returns true as soon as one of them serves. */
function fillings(slot: Slot, left: readonly number[], budget: Budget, serves: (counts: readonly number[]) => boolean): boolean {
  const counts = left.map(() => 0);
  const room = new Array<number>(ROOMS).fill(1);
  const takes = (k: number, n: number) => {
    for (let r = 0; r < ROOMS; r++) room[r]! -= n * slot.shares[k]![r]!;
  };
  const fit = (k: number): number => {
    let most = left[k]! - counts[k]!;
    const shares = slot.shares[k];
    if (!shares) return 0;
    for (let r = 0; r < ROOMS; r++) most = Math.min(most, Math.floor((room[r]! + SLACK) / shares[r]!));
    return most;
  };
  const go = (k: number): boolean => {
    if (budget.left <= 0) return false;
    if (k === left.length) {
      budget.left -= 1;
      return left.every((_, i) => fit(i) <= 0) && serves(counts);
    }
    for (let n = fit(k); n >= 0; n--) {
      if (n > 0) takes(k, n);
      counts[k] = n;
      const done = go(k + 1);
      counts[k] = 0;
      if (n > 0) takes(k, -n);
      if (done) return true;
    }
    return false;
  };
  return go(0);
}

/** Is there room at all for what is left, all boxes from one on made one? */
function hasRoom({ slots, boxes }: Search, from: number, left: readonly number[]): boolean {
  const there = new Set(boxes.slice(from));
  const open = slots.filter((s) => there.has(s.box));
  const used = new Array<number>(ROOMS).fill(0);
  for (const [k, n] of left.entries()) {
    if (n === 0) continue;
    const shares = open.flatMap((s) => (s.shares[k] ? [s.shares[k]] : []));
    if (shares.length === 0) return false;
    for (let r = 0; r < ROOMS; r++) used[r]! += n * Math.min(...shares.map((s) => s[r]!));
  }
  return used.every((u) => u <= boxes.length - from + SLACK);
}

function lay(search: Search, at: number, left: readonly number[], loads: Load[]): boolean {
  if (left.every((n) => n === 0)) return true;
  const key = `${at} ${left.join(' ')}`;
  if (at === search.boxes.length || search.failed.has(key) || !hasRoom(search, at, left)) return false;
  for (const [s, slot] of search.slots.entries()) {
    if (slot.box !== search.boxes[at]) continue;
    const found = fillings(slot, left, search.budget, (counts) => {
      loads.push({ slot: s, counts: [...counts] });
      const rest = left.map((n, k) => n - counts[k]!);
      if (lay(search, at + 1, rest, loads)) return true;
      loads.pop();
      return false;
    });
    if (found) return true;
  }
  if (search.budget.left > 0) search.failed.add(key);
  return false;
}

/**
 * Lays everything into these boxes, each used once: box after box is filled in every way in which nothing more goes in. No other way need be
 * tried, for what lies in a later box may as well lie in an earlier one that has room for it.
 * @returns the loads; null where there are none, `unknown` when the budget ran out before.
 */
export function layInto(
  slots: readonly Slot[],
  demand: readonly number[],
  boxes: readonly number[],
  budget: Budget,
): readonly Load[] | null | 'unknown' {
  const loads: Load[] = [];
  if (lay({ slots, boxes, budget, failed: new Set() }, 0, demand, loads)) return loads;
  return budget.left > 0 ? null : 'unknown';
}

/** Every choice of so many boxes, as how many of each. @param most choices; null where there are more. */
export function choicesOf(stock: readonly number[], count: number, most: number): (readonly number[])[] | null {
  const out: (readonly number[])[] = [];
  // How many there are of the boxes from each on: what they cannot make up is taken of the ones before.
  const from = stock.map((_, box) => stock.slice(box).reduce((a, b) => a + b, 0));
  const go = (box: number, chosen: readonly number[], left: number): boolean => {
    if (box === stock.length) return left > 0 || out.push(chosen) <= most;
    const least = Math.max(0, left - (from[box + 1] ?? 0));
    for (let n = Math.min(stock[box]!, left); n >= least; n--) if (!go(box + 1, [...chosen, n], left - n)) return false;
    return true;
  };
  return go(0, [], count) ? out : null;
}

/** A choice as a list of boxes, in the order of their numbers. */
export const listed = (chosen: readonly number[]): number[] => chosen.flatMap((n, box) => new Array<number>(n).fill(box));
