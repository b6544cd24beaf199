/** One kind as a knapsack sees it: its worth, its shares of each room (0 to 1), and how many there are. */
export interface Item {
  readonly worth: number;
  readonly shares: readonly number[];
  readonly most: number;
}

export interface Filled {
  readonly worth: number;
  readonly counts: number[];
  /** No filling is worth more. */
  readonly most: number;
}

const SLACK = 1e-9;
const TINY = 1e-12;
/** Steps towards the tightest joint room. */
const STEPS = 14;

interface Candidate extends Item {
  readonly at: number;
  /** What it takes of all rooms together. */
  readonly joint: number;
}

/**
 * Rooms made one, each with a weight; the weights sum to 1, so that whatever lies in all rooms lies in this one too. Few steps towards the
 * weights whose fractional filling is worth least: the tightest bound (surrogate relaxation, Glover 1968, from memory).
 */
function joined(items: readonly Item[], rooms: number): { order: Candidate[]; weights: readonly number[] } {
  const usable: (Item & { readonly at: number })[] = [];
  for (const [at, item] of items.entries()) {
    const fits = item.shares.every((s) => s <= 1 + SLACK);
    if (item.worth > SLACK && item.most > 0 && fits) usable.push({ worth: item.worth, shares: item.shares, most: item.most, at });
  }
  const n = usable.length;
  const joint = new Float64Array(n);
  const rate = new Float64Array(n);
  const order = usable.map((_, k) => k);
  const used = new Float64Array(rooms);
  let weights = new Array<number>(rooms).fill(1 / rooms);
  let best = weights;
  let least = Infinity;
  const weigh = (w: readonly number[]) => {
    for (let k = 0; k < n; k++) {
      let sum = TINY;
      for (let r = 0; r < rooms; r++) sum += usable[k]!.shares[r]! * w[r]!;
      joint[k] = sum;
      rate[k] = usable[k]!.worth / sum;
    }
    order.sort((a, b) => rate[b]! - rate[a]! || a - b);
  };
  for (let step = 0; step < STEPS; step++) {
    weigh(weights);
    let free = 1;
    let worth = 0;
    used.fill(0);
    for (const k of order) {
      const { most, shares, worth: each } = usable[k]!;
      const take = Math.min(most, free / joint[k]!);
      worth += take * each;
      free -= take * joint[k]!;
      for (let r = 0; r < rooms; r++) used[r]! += take * shares[r]!;
      if (free <= SLACK) break;
    }
    if (worth < least - SLACK) {
      least = worth;
      best = weights;
    }
    // More weight for the room that is too full; where none is, the bound is as tight as it gets.
    const pull = Array.from(used, (u) => (4 * (u - 1)) / (1 + step));
    if (pull.every((x) => x <= 0.004)) break;
    const pulled = weights.map((w, r) => w * Math.exp(pull[r]!));
    const all = pulled.reduce((a, b) => a + b, 0);
    if (!(all > 0 && Number.isFinite(all))) break;
    weights = pulled.map((w) => w / all);
  }
  weigh(best);
  return { order: order.map((k) => ({ ...usable[k]!, joint: joint[k]! })), weights: best };
}

/** A good filling to begin with: one pack after another, each the one that is worth most for what it takes of what is scarce by then. */
function evenly(order: readonly Candidate[], rooms: number): { counts: number[]; worth: number } {
  const counts = order.map(() => 0);
  const room = new Array<number>(rooms).fill(1);
  let worth = 0;
  for (;;) {
    let next = -1;
    let rate = 0;
    for (const [k, c] of order.entries()) {
      if (counts[k]! >= c.most) continue;
      let takes = TINY;
      let fits = true;
      for (let r = 0; r < rooms; r++) {
        if (c.shares[r]! > room[r]! + SLACK) fits = false;
        takes += c.shares[r]! / Math.max(room[r]!, 1e-3);
      }
      if (fits && c.worth / takes > rate) {
        rate = c.worth / takes;
        next = k;
      }
    }
    if (next < 0) return { counts, worth };
    counts[next]! += 1;
    worth += order[next]!.worth;
    for (let r = 0; r < rooms; r++) room[r]! -= order[next]!.shares[r]!;
  }
}

/**
 * Fills one package with what is worth most, in several rooms at once (space, weight, number), each 1 large. Branch and bound; the bound is
 * the fractional filling of all rooms made one.
 * @param nodes after which it stops with what it has; `most` is right all the same. @param near a better one is not looked for when it can be
 * better by no more than this, absolute.
 */
export function fill(items: readonly Item[], nodes: number, near = SLACK): Filled {
  const rooms = items[0]?.shares.length ?? 0;
  const { order, weights } = joined(items, rooms);
  const n = order.length;
  const counts = new Array<number>(n).fill(0);
  const room = new Array<number>(rooms).fill(1);
  let { worth: best, counts: bestCounts } = evenly(order, rooms);
  let left = nodes;
  let open = 0;
  /** Upper bound of what the kinds from k on add to what is in. */
  const rest = (k: number): number => {
    let free = SLACK;
    for (let r = 0; r < rooms; r++) free += room[r]! * weights[r]!;
    let sum = 0;
    for (let i = k; i < n; i++) {
      const { worth, joint, most } = order[i]!;
      if (most * joint >= free) return sum + (free / joint) * worth;
      sum += most * worth;
      free -= most * joint;
    }
    return sum;
  };
  const go = (k: number, worth: number): void => {
    if (worth > best + SLACK) {
      best = worth;
      bestCounts = [...counts];
    }
    if (k === n) return;
    const { shares, most, worth: each } = order[k]!;
    let fit = most;
    for (let r = 0; r < rooms; r++) if (shares[r]! > 0) fit = Math.min(fit, Math.floor((room[r]! + SLACK) / shares[r]!));
    for (let c = fit; c >= 0; c--) {
      for (let r = 0; r < rooms; r++) room[r]! -= c * shares[r]!;
      const bound = worth + c * each + rest(k + 1);
      // Kinds come by worth for what they take: with fewer of this one the bound only falls.
      const enough = bound <= best + near;
      if (!enough && left <= 0) open = Math.max(open, bound);
      else if (!enough) {
        left--;
        counts[k] = c;
        go(k + 1, worth + c * each);
        counts[k] = 0;
      }
      for (let r = 0; r < rooms; r++) room[r]! += c * shares[r]!;
      if (enough || left <= 0) {
        // What was not tried is bounded by the next one that would have been.
        if (!enough) open = Math.max(open, bound);
        break;
      }
    }
  };
  go(0, 0);
  const out = new Array<number>(items.length).fill(0);
  order.forEach((o, k) => (out[o.at] = bestCounts[k]!));
  return { worth: best, counts: out, most: Math.max(n > 0 ? best + near : 0, open) };
}
