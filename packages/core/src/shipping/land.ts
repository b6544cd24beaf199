import { batteryMark, conflictHold, type Journey, markHold, sizeIn, typeTest } from './common';
import { type Leaf, mostSevere, type Reader } from './leaf';
import { grossAtMost, mass, netAtMost, packs } from './package';
import { markDuty } from './size';

/** The rule of road and rail, or its twin at sea. */
const here = (q: Journey, id: string) => `${q.mode === 'sea' ? 'sea' : 'road'}.${id}`;

/** How the texts call the cells. */
const kind = (q: Journey) => (q.metal ? 'LITHIUM METAL' : 'LITHIUM-ION');

/** Damaged: SP 376 with P908, more than 30 kg net one pack to an outer packaging. */
function damaged(r: Reader, q: Journey): Leaf {
  r.cite(here(q, '376'));
  r.say('each pack in its own inner packaging, leakproof, non-combustible non-conductive fill round it, venting where sealed');
  r.say(`mark DAMAGED/DEFECTIVE ${kind(q)} BATTERIES, class 9A label, transport document`);
  r.say('the document also says "Transport in accordance with special provision 376"');
  const limit = r.figure(here(q, '376'), 'netKg');
  r.say(`over ${limit} kg net one pack in each outer packaging`);
  const fits = packs(r).hi <= 1 || r.atMost('package.packs', 1, packs(r)) || netAtMost(r, limit);
  return r.leaf(fits ? 'allowed' : 'split', 'SP376-P908', q.un, false);
}

/** A collection scheme whose vehicles keep 333 kg; a heavier load stated is outside it. */
function scheme(r: Reader, rule: string): boolean {
  const unit = r.peek<number>('consignment.netKgTransportUnit');
  const limit = r.figure(rule, 'netKg');
  return r.peek<boolean>('consignment.collectionScheme') === true && (unit === undefined || unit <= limit);
}

/** Household machines: light where the battery is not the main power, or on its way to a scheme. Null: the general way. */
function household(r: Reader, q: Journey): Leaf | null {
  if (r.peek<boolean>('consignment.household') !== true) return null;
  const main = r.peek<boolean>('consignment.mainPower');
  if (main === false) {
    r.cite('road.670a');
    return r.leaf('allowed', 'SP670a', q.un, false);
  }
  if (!scheme(r, 'road.670b')) return null;
  r.cite('road.670b');
  if (main === undefined) r.say('main power not said: packed as if it were');
  return r.leaf('allowed', 'SP670b', q.un, false);
}

/** Packs up to 500 g, small, on their way to a scheme. Null, with the question, where that is not known: the general way is always open. */
function collected(r: Reader, q: Journey): Leaf | null {
  if (!scheme(r, 'road.636')) return null;
  const each = mass(r);
  const limit = r.figure('road.636', 'massKg');
  if (each.lo > limit) return null;
  if (each.hi > limit) {
    r.say(`weigh a pack: up to ${limit * 1000} g each the collection relief (SP 636) is open`);
    return null;
  }
  const size = r.known(() => sizeIn(r, q));
  if (size === null) r.say('read the watt-hours and count the cells: small ones have the collection relief (SP 636)');
  if (size !== 'small') return null;
  r.cite('road.636');
  r.say('contacts covered one by one; at most 333 kg in a vehicle');
  return r.leaf('allowed', 'SP636', q.un, false);
}

/** Recycling and disposal: collection schemes first, then SP 377 with P909, which is always open. */
function recycling(r: Reader, q: Journey): Leaf {
  // Collection schemes are rules of road and rail; at sea there are none.
  const light = q.mode === 'sea' ? null : q.placement === 'in-equipment' ? household(r, q) : collected(r, q);
  if (light) return light;
  r.cite(here(q, '377'));
  r.say('mark LITHIUM BATTERIES FOR RECYCLING or FOR DISPOSAL, class 9A label, transport document');
  r.say(
    q.placement === 'in-equipment'
      ? 'in its equipment (P909 (3)): a strong outer packaging, or equal protection by the equipment; no weight limit'
      : 'contacts covered one by one; small ones in a strong outer packaging up to 30 kg gross, heavier or larger in UN packaging of packing group II',
  );
  return r.leaf('allowed', 'SP377-P909', q.un, false);
}

/** European road and rail, and sea. Of everything that applies the most severe is reported. */
export function landRoute(r: Reader, q: Journey): Leaf {
  if (q.condition === 'damaged') return damaged(r, q);
  if (q.recycling) return recycling(r, q);
  const untested = typeTest(r, q);
  if (untested?.outcome === 'forbidden') return untested;
  const leaves = untested ? [untested] : [];
  const size = sizeIn(r, q);
  const mark = q.metal || size === 'conflict' ? 'met' : markDuty(r, size === 'small');
  if (size === 'conflict') leaves.push(conflictHold(r, q, 'P903'));
  else if (mark !== 'met') leaves.push(markHold(r, q, 'P903', mark === 'hold' ? undefined : 'send it fully regulated (P903)'));
  else if (leaves.length === 0) leaves.push(size === 'over' ? large(r, q) : small(r, q));
  return mostSevere(leaves);
}

function large(r: Reader, q: Journey): Leaf {
  r.cite(here(q, '903'));
  r.say('packing group II packaging, class 9A label, UN number, transport document');
  return r.leaf('allowed', 'P903', q.un, false);
}

function small(r: Reader, q: Journey): Leaf {
  r.cite(here(q, '188'));
  const gross = r.figure(here(q, '188'), 'grossKg');
  const marked = batteryMark(r, q);
  r.say(
    q.placement === 'in-equipment'
      ? 'strong outer packaging, switched off'
      : 'strong outer packaging that stands a 1.2 m drop, contacts covered',
  );
  if (q.placement !== 'loose') return r.leaf('allowed', 'SP188', q.un, marked);
  r.say(`at most ${gross} kg gross in a package`);
  return r.leaf(grossAtMost(r, gross) ? 'allowed' : 'split', 'SP188', q.un, marked);
}
