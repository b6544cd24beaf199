import { type Asked, batteryMark, CONFLICT, netKg, typeTest } from './common';
import type { Leaf, Reader } from './leaf';
import { SHIPPING } from './rulebook';
import { markDuty, metalSize, sizeOf } from './size';

/** The rule of road and rail, or its twin at sea. */
const here = (q: Asked, id: string) => `${q.mode === 'sea' ? 'sea' : 'road'}.${id}`;

const sizeIn = (r: Reader, q: Asked) => (q.metal ? metalSize(r) : sizeOf(r));

/** Damaged: SP 376 with P908, more than 30 kg net one pack to an outer packaging. */
function damaged(r: Reader, q: Asked): Leaf {
  r.cite(here(q, '376'));
  r.say('each pack in its own inner packaging, leakproof, non-combustible non-conductive fill round it, venting where sealed');
  r.say('mark DAMAGED/DEFECTIVE LITHIUM-ION BATTERIES, class 9A label, transport document');
  const limit = SHIPPING.any(here(q, '376')).figures.netKg!;
  r.say(`over ${limit} kg net one pack in each outer packaging`);
  const packs = r.peek<number>('package.packs');
  const net = packs === 1 ? 0 : netKg(r, [1, 40]);
  return r.leaf(net <= limit ? 'allowed' : 'split', 'SP376-P908', q.un, false);
}

/** Recycling and disposal: collection schemes first, then SP 377 with P909, which is always open. */
function recycling(r: Reader, q: Asked): Leaf {
  // Collection schemes are rules of road and rail; at sea there are none.
  if (q.mode === 'sea') return waste(r, q);
  if (q.placement === 'in-equipment') {
    if (r.peek<boolean>('consignment.household') === true) {
      if (r.peek<boolean>('consignment.mainPower') === false) {
        r.cite('road.670a');
        return r.leaf('allowed', 'SP670a', q.un, false);
      }
      if (r.peek<boolean>('consignment.mainPower') === true && scheme(r, 'road.670b')) {
        r.cite('road.670b');
        return r.leaf('allowed', 'SP670b', q.un, false);
      }
    }
  } else if (scheme(r, 'road.636')) {
    const mass = r.peek<number>('mass');
    if (mass === undefined) r.say('weigh a pack: up to 500 g each the collection relief (SP 636) is open');
    else if (mass <= SHIPPING.any('road.636').figures.massKg! && sizeIn(r, q) === 'small') {
      r.cite('road.636');
      r.say('contacts covered one by one; at most 333 kg in a vehicle');
      return r.leaf('allowed', 'SP636', q.un, false);
    }
  }
  return waste(r, q);
}

/** SP 377 with P909. */
function waste(r: Reader, q: Asked): Leaf {
  r.cite(here(q, '377'));
  r.say('contacts covered one by one; mark LITHIUM BATTERIES FOR RECYCLING or FOR DISPOSAL, class 9A label, transport document');
  r.say('small ones in a strong outer packaging up to 30 kg gross; heavier or larger: packing group II packaging');
  return r.leaf('allowed', 'SP377-P909', q.un, false);
}

/** A collection scheme whose vehicles keep 333 kg; a heavier load stated is outside it. */
function scheme(r: Reader, rule: string): boolean {
  const unit = r.peek<number>('consignment.netKgTransportUnit');
  const limit = SHIPPING.any(rule).figures.netKg!;
  return r.peek<boolean>('consignment.collectionScheme') === true && (unit === undefined || unit <= limit);
}

/** European road and rail, and sea. */
export function landRoute(r: Reader, q: Asked): Leaf {
  if (q.damaged) return damaged(r, q);
  if (q.recycling) return recycling(r, q);
  const untested = typeTest(r, q);
  if (untested) return untested;
  const size = sizeIn(r, q);
  if (size === 'conflict') {
    r.say(CONFLICT);
    return r.leaf('hold', 'P903', q.un, null, ['ratedEnergy']);
  }
  const mark = q.metal ? 'met' : markDuty(r, size === 'small');
  if (mark !== 'met') {
    r.say(
      mark === 'not small'
        ? 'no watt-hours on the case: ask the maker, or send it fully regulated (P903)'
        : 'no watt-hours on the case: ask the maker',
    );
    return r.leaf('hold', 'P903', q.un, null, ['energyMarked']);
  }
  if (size === 'over') {
    r.cite(here(q, '903'));
    r.say('packing group II packaging, class 9A label, UN number, transport document');
    return r.leaf('allowed', 'P903', q.un, false);
  }
  r.cite(here(q, '188'));
  const gross = SHIPPING.any(here(q, '188')).figures.grossKg!;
  const marked = batteryMark(r, q);
  r.say(
    q.placement === 'in-equipment'
      ? 'strong outer packaging, switched off'
      : 'strong outer packaging that stands a 1.2 m drop, contacts covered',
  );
  if (q.placement !== 'loose') return r.leaf('allowed', 'SP188', q.un, marked);
  r.say(`at most ${gross} kg gross in a package`);
  return r.leaf(r.need<number>('package.grossKg', [1, 40]) <= gross ? 'allowed' : 'split', 'SP188', q.un, marked);
}
