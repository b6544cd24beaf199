import { layIntoStock } from './chosen';
import { choicesOf, layInto, listed } from './exact';
import { roomBound, type RoomOrder } from './rooms';
import type { Load } from './slots';

/** Choices of boxes looked at, and of them those that are tried. */
const CHOICES = { all: 20_000, tried: 25 };
/** Fillings tried where it stays open whether everything goes in. */
const FILLINGS = 4_000;
/** Nodes of a knapsack where packages are filled one by one. */
const NODES = 40;

export interface CheapestOrder extends Omit<RoomOrder, 'cost'> {
  /** What each box costs. */
  readonly costs: readonly number[];
}

export interface Cheapest {
  readonly loads: readonly Load[];
  /** What the boxes of it cost. */
  readonly boxes: number;
  /** No plan beats it. */
  readonly proved: boolean;
}

/** Lays everything into so many of each box: null where that cannot be, `unknown` where it is not known. */
function lay({ slots, demand }: CheapestOrder, chosen: readonly number[]): readonly Load[] | null | 'unknown' {
  const laid = layIntoStock(slots, demand, chosen, NODES);
  if (laid !== 'unknown') return laid;
  return layInto(slots, demand, listed(chosen), { left: FILLINGS });
}

/**
 * The fewest packages that any division of the packs leaves possible, and of all choices of so many boxes the cheapest into which everything
 * is laid. No other plan beats it where each cheaper one was shown to be too small.
 * @returns null where none was found.
 */
export function cheapestPlan(o: CheapestOrder): Cheapest | null {
  const { slots, demand, most, costs } = o;
  const serving = new Set(slots.map((s) => s.box));
  const stock = o.stock.map((n, b) => (serving.has(b) ? n : 0));
  const fewest = roomBound({ slots, demand, stock, most, cost: () => 1 });
  if (!fewest || fewest.short) return null;
  const first = Math.max(1, Math.ceil(fewest.value));
  let tried = 0;
  let proved = true;
  for (let count = first; count <= Math.min(most, first + 1); count++) {
    const least = roomBound({ slots, demand, stock, most: count, cost: (s) => costs[s.box]! });
    const choices = choicesOf(stock, count, CHOICES.all);
    if (!least || !choices) return null;
    if (least.short) continue;
    const priced = choices
      .map((chosen) => ({ chosen, cost: chosen.reduce((all, n, b) => all + n * costs[b]!, 0) }))
      .filter(({ cost }) => cost >= least.value)
      .sort((a, b) => a.cost - b.cost);
    for (const { chosen, cost } of priced) {
      if (++tried > CHOICES.tried) return null;
      const loads = lay(o, chosen);
      if (loads === 'unknown') proved = false;
      // A box that stayed empty would be one package less, and that was tried before.
      else if (loads) return loads.length === count ? { loads, boxes: cost, proved } : null;
    }
  }
  return null;
}
