import { type RoomBound, roomBound } from './rooms';
import { liesIn, type Load, ROOMS, SLACK, type Slot } from './slots';
import { greedily } from './whole';

/** One package of a plan in the making. */
interface Open {
  readonly slot: number;
  readonly shares: Slot['shares'];
  readonly counts: number[];
  readonly used: number[];
}

const fits = (p: Open, k: number): boolean => {
  const shares = p.shares[k];
  return !!shares && shares.every((s, r) => p.used[r]! + s <= 1 + SLACK);
};

function add(p: Open, k: number, n: number): void {
  p.counts[k]! += n;
  for (let r = 0; r < ROOMS; r++) p.used[r]! += n * p.shares[k]![r]!;
}

const fullest = (p: Open, k: number): number => Math.max(...p.shares[k]!.map((s, r) => p.used[r]! + s));

/** Which of its slots each box is used in: as the parts of the fractional plan are shared out, the largest rest first. */
function slotsFor(slots: readonly Slot[], stock: readonly number[], amounts: RoomBound['amounts']): number[] | null {
  const out: number[] = [];
  for (const [box, n] of stock.entries()) {
    const of = slots.flatMap((slot, s) => {
      if (slot.box !== box) return [];
      const used = Array.from({ length: ROOMS }, (_, r) =>
        amounts[s]!.reduce((sum, x, k) => sum + (x > 0 ? x * slot.shares[k]![r]! : 0), 0),
      );
      return [{ s, boxes: Math.max(...used) }];
    });
    if (n > 0 && of.length === 0) return null;
    const whole = of.map(({ s, boxes }) => ({ s, n: Math.floor(boxes + 1e-6), rest: boxes - Math.floor(boxes + 1e-6) }));
    let over = n - whole.reduce((sum, w) => sum + w.n, 0);
    for (const w of [...whole].sort((a, b) => b.rest - a.rest || a.s - b.s))
      if (over > 0 && w.rest > 1e-6) [w.n, over] = [w.n + 1, over - 1];
    if (over < 0) return null;
    if (whole[0]) whole[0].n += over;
    for (const w of whole) out.push(...new Array<number>(w.n).fill(w.s));
  }
  return out;
}

/** Moves one pack to another package, so that a pack of another kind goes in where it was. */
function makesRoom(open: readonly Open[], k: number): boolean {
  for (const p of open) {
    if (!p.shares[k]) continue;
    for (const [j, n] of p.counts.entries()) {
      if (n === 0 || j === k) continue;
      add(p, j, -1);
      const to = fits(p, k) ? open.find((q) => q !== p && fits(q, j)) : undefined;
      if (to) {
        add(to, j, 1);
        add(p, k, 1);
        return true;
      }
      add(p, j, 1);
    }
  }
  return false;
}

/** What a pack is ordered by, from what it takes of space, weight and number. */
type Pick = (shares: readonly number[]) => number;
const PICKS: readonly Pick[] = [(s) => Math.max(...s), (s) => s[0]!, (s) => s[1]!, (s) => s[0]! + s[1]!];

/**
 * Whole packs from a fractional plan: what is whole of it, then pack after pack, the large ones first, where most or least room is left.
 * @param of the slot of each package.
 */
function roundedInto(
  slots: readonly Slot[],
  demand: readonly number[],
  of: readonly number[],
  amounts: RoomBound['amounts'],
  pick: Pick,
  roomiest: boolean,
): Load[] | null {
  const times = (s: number) => of.filter((x) => x === s).length;
  const left = [...demand];
  const open = of.map((slot): Open => {
    const { shares } = slots[slot]!;
    const p: Open = { slot, shares, counts: demand.map(() => 0), used: new Array<number>(ROOMS).fill(0) };
    amounts[slot]!.forEach((x, k) => {
      const n = Math.min(left[k]!, Math.floor(x / times(slot) + 1e-6));
      if (n === 0) return;
      add(p, k, n);
      left[k]! -= n;
    });
    return p;
  });
  const largest = (k: number) => Math.max(0, ...slots.flatMap((s) => (s.shares[k] ? [pick(s.shares[k])] : [])));
  const rest = left.flatMap((n, k) => new Array<number>(n).fill(k)).sort((a, b) => largest(b) - largest(a) || a - b);
  for (const k of rest) {
    const side = roomiest ? 1 : -1;
    const best = open.filter((p) => fits(p, k)).sort((a, b) => side * (fullest(a, k) - fullest(b, k)))[0];
    if (best) add(best, k, 1);
    else if (!makesRoom(open, k)) return null;
  }
  return open.map((p) => ({ slot: p.slot, counts: p.counts })).filter((l) => l.counts.some((n) => n > 0));
}

/**
 * Lays everything into so many of each box.
 * @returns the loads; null where no plan does, however packs are divided; `unknown` where none was found.
 */
export function layIntoStock(
  slots: readonly Slot[],
  demand: readonly number[],
  stock: readonly number[],
  nodes: number,
): readonly Load[] | null | 'unknown' {
  const there = slots.map((s) => (stock[s.box]! > 0 ? s : { ...s, shares: s.shares.map(() => null) }));
  const most = stock.reduce((a, b) => a + b, 0);
  const bound = roomBound({ slots: there, demand, stock, most, cost: () => 0 });
  if (!bound) return 'unknown';
  if (bound.short) return null;
  const of = slotsFor(there, stock, bound.amounts);
  for (const pick of of ? PICKS : [])
    for (const roomiest of [true, false]) {
      const loads = roundedInto(there, demand, of!, bound.amounts, pick, roomiest);
      if (loads?.every((l) => liesIn(slots[l.slot]!, l.counts))) return loads;
    }
  for (const pick of PICKS) {
    const worth = demand.map((_, k) => Math.min(...there.flatMap((s) => (s.shares[k] ? [pick(s.shares[k])] : []))));
    const stores = { left: [...demand], stock: [...stock], most };
    const loads = greedily(there, stores, worth, () => 1, nodes);
    if (stores.left.every((n) => n === 0)) return loads;
  }
  return 'unknown';
}
