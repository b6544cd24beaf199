import { batteryMark, conflictHold, type Journey, markHold, sizeIn, typeTest } from './common';
import type { Placement, Provision } from './facts';
import { type Leaf, mostSevere, type Reader } from './leaf';
import { mass, net, netAtMost, packs, sets } from './package';
import { both, POSITIVE, type Possible, times, within } from './possible';
import { SHIPPING } from './rulebook';
import { markDuty, moreThan } from './size';
import { provisionWords } from './words';
import { counted } from '../quantity/counted';

const TABLE: Record<'ion' | 'metal', Record<Placement, readonly [Provision, Provision]>> = {
  ion: {
    loose: ['PI965-IA', 'PI965-IB'],
    'with-equipment': ['PI966-I', 'PI966-II'],
    'in-equipment': ['PI967-I', 'PI967-II'],
  },
  metal: {
    loose: ['PI968-IA', 'PI968-IB'],
    'with-equipment': ['PI969-I', 'PI969-II'],
    'in-equipment': ['PI970-I', 'PI970-II'],
  },
};

const ruleOf = (p: Provision) => `air.${p.slice(2)}`;

/** Of the placement: the provision of large ones, and of small ones. */
const full = (q: Journey): Provision => TABLE[q.metal ? 'metal' : 'ion'][q.placement][0];
const light = (q: Journey): Provision => TABLE[q.metal ? 'metal' : 'ion'][q.placement][1];
const onPassenger = (q: Journey): boolean => q.mode === 'air-passenger';

/** The provision as the size says; what cannot be told is treated as large. */
const asSized = (r: Reader, q: Journey): Provision => (sizeIn(r, q) === 'small' ? light(q) : full(q));

/** Charge: over the limit only with the approval of both authorities (A331). Null when nothing stands against it. */
function charge(r: Reader, q: Journey, placement: Placement): Leaf | null {
  if (q.metal) return null;
  if (placement === 'in-equipment') {
    r.cite('air.967-charge');
    return null;
  }
  const id = placement === 'loose' ? 'air.965-charge' : 'air.966-charge';
  const figures = SHIPPING.on(id, r.asked.on)?.figures;
  const percent = figures?.percent;
  if (percent === undefined) return null;
  if (figures!.exemptWh !== undefined && !moreThan(r, figures!.exemptWh)) return null;
  r.cite(id);
  if (r.atMost('stateOfCharge', percent)) return null;
  r.say(
    `bring the charge to ${percent} % of rated capacity or less, or get the approval of the State of Origin and the State of the Operator (A331)`,
  );
  return r.leaf('approval', 'A331', q.un);
}

interface Excess {
  /** More than the equipment needs and two spare sets. */
  readonly over: boolean;
  /** Packs that may stay with the equipment at most. */
  readonly most: Possible;
}

/** Packed with equipment: no more than the equipment needs plus two spare sets, fitted packs counted. */
function excess(r: Reader, q: Journey): Excess {
  const rule = q.metal ? 'air.969-count' : 'air.966-count';
  r.cite(rule);
  const spare = r.figure(rule, 'sets');
  const needed = sets(r);
  const count = packs(r);
  const open = ['package.equipment', 'package.packsPerEquipment'].filter((f) => r.peek(f) === undefined);
  const most: Possible = times(needed, { lo: spare, hi: spare });
  if (open.length === 0) {
    r.say(`at most ${counted(most.hi, 'pack')} in it: what the equipment needs and two spare sets, fitted ones counted`);
    return { over: !r.atMost('package.packs', most.hi, count), most };
  }
  r.say('at most as many packs as the equipment needs and two spare sets, fitted ones counted');
  if (within(count, most.lo) === true) return { over: false, most };
  // Neither count bounds the other: both answers stay possible.
  if (count.hi === Infinity) return { over: r.decide('package.packs#excess', ['package.packs', ...open], [false, true]), most };
  // As many sets as the packs need, or fewer.
  return { over: r.atMost('package.sets', Math.ceil(count.hi / spare) - 1, needed, open), most };
}

/** Air, any region. Of everything that applies the most severe is reported. */
export function airRoute(r: Reader, q: Journey): Leaf {
  if (q.condition === 'damaged') {
    r.cite('air.A154');
    r.say('damaged packs go by road or sea, never by air');
    return r.leaf('forbidden', 'A154', q.un);
  }
  if (onPassenger(q) && q.placement === 'loose') {
    r.cite(q.metal ? 'air.968-passenger' : 'air.965-passenger');
    r.say('send it on a cargo aircraft, by road, or with its equipment');
    return r.leaf('forbidden', asSized(r, q), q.un);
  }
  if (q.recycling || (q.condition === 'spent' && isWaste(r))) {
    r.cite('air.A183');
    r.say('waste flies only with the approval of the State of Origin and the State of the Operator (A183); go by road');
    return r.leaf('approval', 'A183', q.un);
  }
  return forUse(r, q);
}

/** A worn-out pack flies as waste or for use: by air that is two ways, so it is asked. */
function isWaste(r: Reader): boolean {
  r.cite('air.spent');
  return r.decide('purpose#waste', ['purpose'], [false, true]);
}

function forUse(r: Reader, q: Journey): Leaf {
  const beside = q.placement === 'with-equipment' ? excess(r, q) : null;
  if (beside?.over && onPassenger(q)) {
    r.say('take out what is more than the equipment needs plus two spare sets');
    return r.leaf('forbidden', asSized(r, q), q.un);
  }
  const untested = typeTest(r, q);
  if (untested?.outcome === 'forbidden') return untested;
  const leaves = untested ? [untested] : [];
  const charged = charge(r, q, q.placement) ?? (beside?.over ? charge(r, q, 'loose') : null);
  if (charged) leaves.push(charged);
  const size = sizeIn(r, q);
  if (size === 'conflict') leaves.push(conflictHold(r, q, full(q)));
  else if (!q.metal && markDuty(r, size === 'small') !== 'met') leaves.push(markHold(r, q, full(q)));
  else if (leaves.length === 0) leaves.push(beside?.over ? takenOut(r, q, size, beside) : packageLimits(r, q, size));
  return mostSevere(leaves);
}

/** What is too many flies beside it as loose packs; what stays with the equipment is ruled by its own weight. */
function takenOut(r: Reader, q: Journey, size: 'small' | 'over', beside: Excess): Leaf {
  const count = packs(r);
  if (within(count, beside.most.hi) === false)
    r.say(`take out what is over ${counted(beside.most.hi, 'pack')}: it flies beside it, loose`);
  else r.say('take out what is more than the equipment needs plus two spare sets: it flies beside it, loose');
  const all = net(r);
  // In this package a pack weighs its share of the net weight.
  const each = count.lo === count.hi ? { ...all, lo: all.lo / count.lo, hi: all.hi / count.lo } : mass(r);
  const stay = both(times(beside.most, each), { ...POSITIVE, hi: all.hi });
  const fits = size === 'small' && r.atMost('package.netKg#stay', r.figure(ruleOf(light(q)), 'kg'), stay, ['package.netKg']);
  const provision = fits ? light(q) : full(q);
  r.cite(ruleOf(provision));
  return r.leaf('split', provision, q.un, fits);
}

function packageLimits(r: Reader, q: Journey, size: 'small' | 'over'): Leaf {
  const lightKg = r.figures(ruleOf(light(q))).kg ?? r.figure(ruleOf(light(q)), 'cargoKg');
  const fullKg = onPassenger(q) ? r.figure(ruleOf(full(q)), 'passengerKg') : r.figure(ruleOf(full(q)), 'cargoKg');
  if (size === 'small' && (onPassenger(q) || netAtMost(r, lightKg))) {
    r.cite(ruleOf(light(q)));
    r.say(`at most ${lightKg} kg of packs in a package`);
    const fits = netAtMost(r, lightKg);
    return r.leaf(fits ? 'allowed' : 'split', light(q), q.un, batteryMark(r, q));
  }
  r.cite(ruleOf(full(q)));
  if (size === 'small') r.say(`packages up to ${lightKg} kg would travel under ${provisionWords(light(q))}`);
  const label = r.figures(ruleOf(full(q))).cargoLabelKg;
  if (!onPassenger(q) && label !== undefined) r.say(`over ${label} kg of packs the package carries the cargo-aircraft label too`);
  r.say(`at most ${fullKg} kg of packs in a package`);
  return r.leaf(netAtMost(r, fullKg) ? 'allowed' : 'split', full(q), q.un, false);
}
