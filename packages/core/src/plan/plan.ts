import { cheapestPlan } from './cheapest';
import { choicesOf, layInto, listed } from './exact';
import { type AskPackage, packagesOf } from './in-package';
import type { Plan, PlannedPackage, PlanOrder } from './problem';
import { relax, type Relaxation, type Relaxed } from './relax';
import { rulePackage } from './rule-package';
import { liesIn, type Load, type Slot, slotsOf } from './slots';
import { firstPlan, type Whole, wholePlans } from './whole';
import { type KindWays, waysOf } from './ways';

/** Nodes of a knapsack while columns are made, and while packages are filled one by one. */
const NODES = {
  few: { quick: 300, thorough: 20_000 },
  many: { quick: 30, thorough: 400 },
  greedy: 40,
};
/** Up to so many packages each knapsack is solved to the end, or nearly. */
const FEW = 6;
/** All knapsacks of a plan together may miss this part of a package. */
const NEAR = 0.02;
/** Columns made at most: for the whole, and for what is left after rounding. */
const ROUNDS = { all: 1_500, rest: 60, work: 4e6 };
/** A price nearer to its bound than this part of it is near enough. */
const CLOSE = 1e-3;
/** More packages than any plan has: what a rule asks of few packages is not taken for granted. */
const MANY = 1_000;

const sum = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0);

/** What a box costs beside what every package costs. */
const boxCost = (order: PlanOrder, box: number): number => order.boxes[box]!.price + order.price.perKg * order.boxes[box]!.tareKg;

/** Price of a plan with so many packages, of so many kg net, whose boxes cost so much. */
const priceOf = (order: PlanOrder, packages: number, netKg: number, boxes: number): number =>
  boxes + packages * (order.price.perPackage + order.price.perKg * order.fillKgPerBox) + order.price.perKg * netKg;

/** Gives each load the cheapest box in stock that holds it, the loads with the fewest choices first. */
function cheaperBoxes(order: PlanOrder, slots: readonly Slot[], loads: readonly Load[]): Load[] {
  const stock = order.boxes.map((b) => b.stock);
  const choices = loads.map((load, at) => {
    const { company, provision } = slots[load.slot]!;
    const all = slots.flatMap((s, i) =>
      s.company === company && s.provision === provision && liesIn(s, load.counts) ? [i] : [],
    );
    return { at, all: all.sort((a, b) => boxCost(order, slots[a]!.box) - boxCost(order, slots[b]!.box) || a - b) };
  });
  const out = [...loads];
  for (const c of [...choices].sort((a, b) => a.all.length - b.all.length || a.at - b.at)) {
    const slot = c.all.find((i) => stock[slots[i]!.box]! > 0);
    // The stock holds the plan as it was: where the cheap ones are gone for another, it stays.
    if (slot === undefined) return [...loads];
    stock[slots[slot]!.box]! -= 1;
    out[c.at] = { slot, counts: loads[c.at]!.counts };
  }
  return out;
}

interface Best {
  readonly whole: Whole;
  readonly boxes: number;
}

/** Fewer left, then fewer packages, then cheaper boxes. */
const better = (a: Best, b: Best): boolean => {
  const [x, y] = [
    [sum(a.whole.left), a.whole.loads.length, a.boxes],
    [sum(b.whole.left), b.whole.loads.length, b.boxes],
  ] as const;
  const at = x.findIndex((v, i) => Math.abs(v - y[i]!) > 1e-9);
  return at >= 0 && x[at]! < y[at]!;
};

/** Costs are told apart to this part of the currency. */
const MONEY = 1e6;

/**
 * The largest step that all differences of the costs are whole multiples of; 0 where they have none that a currency would have.
 * Every sum of so many boxes lies on these steps above the cheapest.
 */
function stepOf(costs: readonly number[]): number {
  const least = Math.min(...costs);
  const apart = costs.map((c) => (c - least) * MONEY);
  if (apart.some((x) => Math.abs(x - Math.round(x)) > 1e-3)) return 0;
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
  return apart.map(Math.round).reduce(gcd, 0) / MONEY;
}

/** The bound of what the boxes of so many packages cost, raised to the next sum that boxes can cost. */
function boxBound(order: PlanOrder, slots: readonly Slot[], packages: number, fractional: number): number {
  const costs = [...new Set(slots.map((s) => s.box))].map((b) => boxCost(order, b));
  const least = packages * Math.min(...costs);
  const over = Math.max(0, fractional - least);
  const step = stepOf(costs);
  return least + (step === 0 ? over : Math.ceil(over / step - 1e-6) * step);
}

/** Fillings tried and choices of boxes looked at to settle a few packages that the bounds leave open. */
const EXACT = { fillings: 20_000, choices: 2_000 };

/**
 * Settles a plan of a few packages: every choice of fewer or cheaper boxes is tried to the end, the fewest and cheapest first.
 * @param from fewest packages, and what the boxes of so many cost at least.
 * @returns the best plan there is; null where that would take too long to know.
 */
function settled(
  order: PlanOrder,
  slots: readonly Slot[],
  demand: readonly number[],
  best: Best,
  from: { readonly count: number; readonly boxes: number },
): Best | null {
  const serving = new Set(slots.map((s) => s.box));
  const stock = order.boxes.map((b, i) => (serving.has(i) ? b.stock : 0));
  const budget = { left: EXACT.fillings };
  const costOf = (boxes: readonly number[]) => sum(boxes.map((b) => boxCost(order, b)));
  for (let count = from.count; count <= best.whole.loads.length; count++) {
    const choices = choicesOf(stock, count, EXACT.choices);
    if (!choices) return null;
    const least = count === from.count ? from.boxes : 0;
    const most = count === best.whole.loads.length ? best.boxes : Infinity;
    const tried = choices
      .map(listed)
      .map((chosen) => ({ chosen, cost: costOf(chosen) }))
      .filter(({ cost }) => cost >= least - 1e-6 && cost < most - 1e-9)
      .sort((a, b) => a.cost - b.cost);
    for (const { chosen } of tried) {
      const loads = layInto(slots, demand, chosen, budget);
      if (loads === 'unknown') return null;
      if (loads) return { whole: { loads, left: best.whole.left }, boxes: costOf(loads.map((l) => slots[l.slot]!.box)) };
    }
  }
  return best;
}

/** Columns for an order of this size: each asks every slot about every kind. */
const roundsFor = (slots: readonly Slot[], demand: readonly number[]): number =>
  Math.max(ROUNDS.rest, Math.min(ROUNDS.all, Math.floor(ROUNDS.work / (slots.length * demand.length))));

/** Plans what has a way, for so many packages in the consignment. */
function solve(order: PlanOrder, slots: readonly Slot[], demand: readonly number[]) {
  const most = order.maxPackages ?? Math.max(1, sum(demand));
  const stock = order.boxes.map((b) => b.stock);
  const whole = { slots, demand, stock, most, nodes: NODES.greedy };
  const known = cheapestPlan({ slots, demand, stock, most, costs: order.boxes.map((_, b) => boxCost(order, b)) });
  const laid: Best | null = known && { whole: { loads: known.loads, left: demand.map(() => 0) }, boxes: known.boxes };
  if (laid && known?.proved) return { best: laid, least: laid.whole.loads.length, boxes: laid.boxes, short: false };
  const one = () => 1;
  // No better plan has more packages than one that is there already.
  const start = firstPlan({ ...whole, cost: one });
  const small = start.loads.length <= FEW;
  const cost = (w: Whole) => sum(w.loads.map((l) => boxCost(order, slots[l.slot]!.box)));
  const near = small ? 1e-7 : NEAR / start.loads.length;
  const ask =
    (cost: Relaxation['cost'], enough: Relaxation['enough'], rounds: number) =>
    (d: readonly number[], s: readonly number[], m: number): Relaxed =>
      relax({ slots, near, nodes: small ? NODES.few : NODES.many, demand: d, stock: s, most: m, cost, enough, rounds });
  // Packages are whole: the next whole number above both says all.
  const counted: Relaxation['enough'] = (bound, value) => Math.ceil(bound - 1e-6) >= Math.ceil(value - 1e-6);
  const first = ask(one, counted, roundsFor(slots, demand))(demand, stock, sum(start.left) > 0 ? most : start.loads.length);
  const seen = (w: Whole): Best => {
    const cheaper = { ...w, loads: cheaperBoxes(order, slots, w.loads) };
    return [w, cheaper].map((x) => ({ whole: x, boxes: cost(x) })).reduce((a, b) => (better(b, a) ? b : a));
  };
  let best = [start, ...(laid ? [laid.whole] : []), ...wholePlans({ ...whole, cost: one }, first, ask(one, counted, ROUNDS.rest))]
    .map(seen)
    .reduce((a, b) => (better(b, a) ? b : a));
  const count = best.whole.loads.length;
  // One package holds all of it or not: that needs no bound.
  const inOne = slots.some((slot) => liesIn(slot, demand)) ? 1 : 2;
  const least = first.short ? count : Math.max(inOne, Math.ceil(first.bound - 1e-6));
  // As few packages, cheaper boxes: the same again with the price as cost and no package more.
  const dear = (s: Slot) => boxCost(order, s.box) + 1e-3;
  const close: Relaxation['enough'] = (bound, value) => value - bound <= CLOSE * value;
  const kept = demand.map((n, k) => n - best.whole.left[k]!);
  const priced = ask(dear, close, roundsFor(slots, demand))(kept, stock, count);
  const plans = wholePlans({ ...whole, demand: kept, most: count, cost: dear }, priced, ask(dear, close, ROUNDS.rest));
  for (const p of plans) {
    const b = seen({ loads: p.loads, left: p.left.map((n, k) => n + best.whole.left[k]!) });
    if (better(b, best)) best = b;
  }
  // With fewer packages than ours it might be cheaper or dearer: the price is bounded for as many as the bound of the count.
  const boxes = boxBound(order, slots, least, Math.max(0, priced.bound - 1e-3 * count));
  const open = count > least || best.boxes > boxes + 1e-6;
  const few = open && best.whole.loads.length <= FEW && sum(best.whole.left) === 0;
  const final = few ? settled(order, slots, demand, best, { count: least, boxes }) : null;
  if (final) return { best: final, least: final.whole.loads.length, boxes: final.boxes, short: false };
  return { best, least, boxes, short: first.short };
}

/** One load as the package it makes, and whether the rules let it go as planned. */
function packageOf(order: PlanOrder, asks: readonly AskPackage[], slots: readonly Slot[], load: Load, packages: number) {
  const box = slots[load.slot]!.box;
  const { lawful, ...ruled } = rulePackage(order, asks, box, load.counts, packages);
  const contents = Object.fromEntries(order.kinds.flatMap((k, i) => (load.counts[i]! > 0 ? [[k.id, load.counts[i]!]] : [])));
  const made: PlannedPackage = { box: order.boxes[box]!.id, contents, ...ruled };
  return { load, box, made, lawful };
}

/** Kinds that must not lie with others, as slots of their own. */
function apart(slots: readonly Slot[], alone: ReadonlySet<number>): Slot[] {
  return slots.flatMap((slot) => {
    const only = (keep: (k: number) => boolean): Slot => ({ ...slot, shares: slot.shares.map((s, k) => (keep(k) ? s : null)) });
    const together = only((k) => !alone.has(k));
    const own = [...alone].map((k) => only((x) => x === k));
    return [together, ...own].filter((s) => s.shares.some((x) => x !== null));
  });
}

const cents = (x: number): number => Math.round(x * 1e6) / 1e6;

interface Attempt {
  readonly packages: readonly ReturnType<typeof packageOf>[];
  readonly left: Plan['left'];
  readonly bound: Plan['bound'];
  /** A box was missing for some: the bound speaks of the others. */
  readonly short: boolean;
}

/** Plans what has a way. @param alone kinds that lie with no other. */
function attempt(order: PlanOrder, asks: readonly AskPackage[], ways: readonly KindWays[], alone: ReadonlySet<number>): Attempt {
  const slots = apart(slotsOf(order, ways), alone);
  const holds = (k: number) => slots.some((s) => s.shares[k] !== null);
  const demand = order.kinds.map((kind, k) => (holds(k) ? kind.count : 0));
  const without = order.kinds.flatMap((kind, k) =>
    holds(k)
      ? []
      : [{ kind: kind.id, count: kind.count, why: ways[k]!.why || 'it lies in no box here, or is too heavy for each' }],
  );
  if (sum(demand) === 0) return { packages: [], left: without, bound: { count: 0, price: 0 }, short: false };
  const { best, least, boxes, short } = solve(order, slots, demand);
  const { loads, left } = best.whole;
  const packages = loads.map((load) => packageOf(order, asks, slots, load, loads.length));
  const over = order.kinds.flatMap((kind, k) =>
    left[k]! > 0 ? [{ kind: kind.id, count: left[k]!, why: 'no box is left for it' }] : [],
  );
  const netKg = sum(packages.map((p) => p.made.netKg));
  return { packages, left: [...without, ...over], bound: { count: least, price: priceOf(order, least, netKg, boxes) }, short };
}

/** The plan of an attempt: what the rules would not let go as planned stays here, and says so. @param bound that holds for any plan under the rules
 * that were asked; `sure` where the same rules hold for as many packages as there are. */
function planOf(order: PlanOrder, { packages, left, short }: Attempt, bound: Plan['bound'], sure: boolean): Plan {
  const good = packages.filter((p) => p.lawful);
  const kept = packages
    .filter((p) => !p.lawful)
    .flatMap(({ made }) =>
      Object.entries(made.contents).map(([kind, count]) => ({
        kind,
        count,
        why: `${made.outcome === 'allowed' ? 'two provisions' : made.outcome} in a package of ${made.netKg} kg`,
      })),
    );
  const netKg = sum(good.map((p) => p.made.netKg));
  const price = cents(priceOf(order, good.length, netKg, sum(good.map((p) => boxCost(order, p.box)))));
  const least = { count: Math.min(bound.count, good.length), price: Math.min(cents(bound.price), price) };
  return {
    packages: good.map((p) => p.made),
    left: [...left, ...kept],
    count: good.length,
    price,
    bound: least,
    proved: sure && !short && kept.length === 0 && good.length === bound.count && price <= cents(bound.price) + 1e-6,
  };
}

/** Attempts after which what is not lawful yet stays here. */
const ATTEMPTS = 4;

/**
 * Packs into packages: lawful first, then the fewest packages, then the lowest price. Each package is ruled anew with its own figures by the
 * same rules as a single pack; the bound says what no plan can beat. The same order gives the same plan.
 */
export function plan(order: PlanOrder): Plan {
  const asks = order.kinds.map((k) => packagesOf(k.facts, order.route));
  const waysFor = (packages: number) => order.kinds.map((k, i) => waysOf(k, asks[i]!, packages));
  let ways = waysFor(MANY);
  let made = attempt(order, asks, ways, new Set());
  // Kinds kept from each other need more packages, and that is no bound for plans that do not: the first one is.
  const { bound } = made;
  let alone: ReadonlySet<number> = new Set();
  let sure = true;
  for (let i = 1; i < ATTEMPTS; i++) {
    const unlawful = made.packages.filter((p) => !p.lawful);
    // Some rules ask how many packages there are: asked again with as many as there are.
    const asked = ways.some((w) => w.byPackages) ? waysFor(Math.max(1, made.packages.length)) : ways;
    const same = asked === ways || JSON.stringify(asked) === JSON.stringify(ways);
    if (unlawful.length === 0 && same) break;
    sure &&= same;
    ways = asked;
    alone = new Set([...alone, ...unlawful.flatMap((p) => p.load.counts.flatMap((n, k) => (n > 0 ? [k] : [])))]);
    made = attempt(order, asks, ways, alone);
  }
  return planOf(order, made, bound, sure);
}
